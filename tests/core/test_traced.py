"""A flange traced on a picture: against a pinhole camera whose figures are known."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.pan import assemble_pan
from bilge_core.scan.traced import Plane, homography, traced
from bilge_core.tell.flat_drawing import traced_asked, traced_out

DUNLIN = read_build(Path("demo/dunlin.json").read_text())
PAN = assemble_pan(DUNLIN)

FLANGE = [(-0.2, -0.12), (0.2, -0.12), (0.2, 0.12), (-0.2, 0.12)]
OPENING = [(-0.18, -0.1), (0.18, -0.1), (0.18, 0.1), (-0.18, 0.1)]
HOLES = [(-0.19, -0.11), (0.19, -0.11), (0.19, 0.11), (-0.19, 0.11), (0.0, 0.11)]
SHEET = [(-0.05, 0.1), (0.16, 0.1), (0.16, -0.048), (-0.05, -0.048)]  # half an A4, on the flange


def camera(tilt_deg: float, turn_deg: float, far: float = 0.9, focal: float = 3000.0) -> Any:
    """A pinhole over the plane: x right, y up on it; pixels from the picture's upper left."""
    tilt, turn = math.radians(tilt_deg), math.radians(turn_deg)
    about_z = np.array([[math.cos(turn), -math.sin(turn), 0], [math.sin(turn), math.cos(turn), 0],
                        [0, 0, 1]])  # fmt: skip
    about_x = np.array([[1, 0, 0], [0, math.cos(tilt), -math.sin(tilt)],
                        [0, math.sin(tilt), math.cos(tilt)]])  # fmt: skip

    def seen(places: list[tuple[float, float]]) -> list[tuple[float, float]]:
        full = np.column_stack([np.asarray(places), np.zeros(len(places))])
        there = full @ (about_x @ about_z).T
        depth = far - there[:, 2]
        u, v = focal * there[:, 0] / depth + 2000, 1500 - focal * there[:, 1] / depth
        return [(float(x), float(y)) for x, y in zip(u, v, strict=True)]

    return seen


def plane_of(seen: Any) -> Plane:
    return Plane(seen(SHEET), 0.21, 0.148)


@pytest.mark.parametrize(("tilt", "turn"), [(0, 0), (25, 0), (-30, 20), (40, -35)])
def test_what_a_tilted_camera_saw_is_flat_again(tilt: float, turn: float) -> None:
    """Every place comes back to a micrometre, whatever the camera's own lens and distance were."""
    seen = camera(tilt, turn)
    plane = plane_of(seen)
    own = np.asarray(SHEET[3])  # what the rectangle's lower left is
    there = plane.places(seen(FLANGE), "outline")
    assert there == pytest.approx(np.asarray(FLANGE) - own, abs=1e-6)
    holes = [(spot, 7e-3) for spot in seen(HOLES)]
    flat = traced(plane, seen(FLANGE), seen(OPENING), holes)
    assert [ring.area for ring in flat.rings] == pytest.approx([0.4 * 0.24, 0.36 * 0.2])
    places = np.array([each[:2] for each in flat.holes])
    assert places == pytest.approx(np.asarray(HOLES) - own, abs=1e-6)


def test_four_places_are_carried_where_they_lie() -> None:
    lies = [(0.0, 0.2), (0.3, 0.2), (0.3, 0.0), (0.0, 0.0)]
    seen = camera(30, 10)(lies)
    there = homography(seen, lies)
    for (x, y), at in zip(seen, lies, strict=True):
        u, v, w = there @ [x, y, 1.0]
        assert (u / w, v / w) == pytest.approx(at, abs=1e-9)


def test_how_far_a_pixel_moves_a_place() -> None:
    """Against moving the corners about by hand: the root of the squares of what is drawn."""
    seen = camera(25, 15)
    corners = np.asarray(seen(SHEET))
    told = plane_of(seen).spread(seen(HOLES))
    random = np.random.default_rng(4)
    own = plane_of(seen).places(seen(HOLES), "holes")
    off = []
    for _ in range(400):
        moved = corners + random.normal(0.0, 1.0, corners.shape)
        plane = Plane([(float(x), float(y)) for x, y in moved], 0.21, 0.148)
        off.append(((plane.places(seen(HOLES), "holes") - own) ** 2).sum(axis=1))
    assert told == pytest.approx(math.sqrt(np.mean(off, axis=0).max()), rel=0.1)
    near = Plane(seen([(-0.01, 0.01), (0.01, 0.01), (0.01, -0.01), (-0.01, -0.01)]), 0.02, 0.02)
    assert near.spread(seen(HOLES)) > 5 * told  # a small square says little of what is far off
    assert near.spread([]) == 0.0


@pytest.mark.parametrize(
    ("corners", "words"),
    [
        ([(0, 0), (100, 100), (100, 0), (0, 100)], "crossed or bent in"),
        ([(0, 0), (100, 0), (40, 40), (0, 100)], "crossed or bent in"),
        ([(0, 0), (0, 100), (100, 100), (100, 0)], "the other way round"),
        ([(0, 0), (100, 0), (200, 0), (100, 50)], "three in line"),
        ([(0, 0), (19, 0), (19, 20), (0, 20)], "pixels in all"),
    ],
)
def test_corners_that_are_no_rectangles(corners: list[Any], words: str) -> None:
    with pytest.raises(InvalidQuantity, match=words):
        Plane(corners, 0.1, 0.1)


def test_the_least_rectangle_is_taken() -> None:
    assert Plane([(0, 0), (20, 0), (20, 20), (0, 20)], 0.1, 0.1)


def test_what_lies_beyond_the_horizon_is_named() -> None:
    """A place over the line where the plane ends in the picture is none on it."""
    seen = camera(-60, 0, far=0.4)
    plane = plane_of(seen)
    _, top = seen([(0.0, 50.0)])[0]  # nearly at the horizon
    assert plane.places([(2000.0, top + 30.0)], "outline").shape == (1, 2)
    with pytest.raises(InvalidQuantity) as error:
        plane.places([(2000.0, top - 30.0)], "outline")
    assert error.value.name == "outline"


@pytest.mark.parametrize(
    ("outline", "opening", "field"),
    [
        ([0, 1], [], "outline"), ([0, 2, 1, 3], [], "outline"),
        ([0, 1, 2, 3], [0, 1], "opening"), ([0, 1, 2, 3], [0, 2, 1, 3], "opening"),
    ],
)  # fmt: skip
def test_rings_that_are_none(outline: list[int], opening: list[int], field: str) -> None:
    seen = camera(20, 0)
    plane = plane_of(seen)
    rings = [seen([FLANGE[at] for at in outline]), seen([OPENING[at] for at in opening] or FLANGE)]
    with pytest.raises(InvalidQuantity) as error:
        traced(plane, rings[0], rings[1] if opening else [], [])
    assert error.value.name == field


def test_an_opening_outside_the_flange_is_refused() -> None:
    seen = camera(20, 0)
    with pytest.raises(InvalidQuantity, match="opening is outside"):
        traced(plane_of(seen), seen(OPENING), seen(FLANGE), [])


class TestTold:
    def asked(self, **more: Any) -> dict[str, Any]:
        seen = camera(30, 12)
        holes = [{"at": list(each), "diameter_mm": "9/32 in"} for each in seen(HOLES)]
        return {
            "corners": seen(SHEET), "wide_mm": 210, "high_mm": "14.8 cm", "outline": seen(FLANGE),
            "opening": seen(OPENING), "holes": holes, "ahead": "right", **more,
        }  # fmt: skip

    def test_it_lies_over_the_pan_like_a_drawing(self) -> None:
        told = traced_out(traced_asked(self.asked(), "metric"), PAN)
        assert (told.long_mm, told.wide_mm) == pytest.approx((400.0, 240.0), abs=0.05)
        left, low, right, high = PAN.rail.bounds
        xs, ys = np.array(told.rings_mm[0]).T
        assert (xs.min() + xs.max()) / 2 == pytest.approx(500 * (left + right), abs=0.05)
        assert (ys.min() + ys.max()) / 2 == pytest.approx(500 * (low + high), abs=0.05)
        assert {each.diameter_mm for each in told.holes} == {7.14}
        assert told.farthest is not None
        assert told.farthest.apart_mm == pytest.approx(math.hypot(380, 220), abs=0.1)
        assert told.off_mm is not None and 0.1 < told.off_mm < 2.0

    @pytest.mark.parametrize(
        ("more", "field"),
        [
            ({"wide_mm": "broad"}, "wide_mm"), ({"wide_mm": 5}, "wide_mm"),
            ({"high_mm": 3001}, "high_mm"), ({"corners": [[0, 0]] * 3}, "corners"),
            ({"outline": [[0, 0], [1, 1]]}, "outline"), ({"corners": [[0, 0]] * 4}, "corners"),
            ({"outline": [[0, 0]] * 401}, "outline"), ({"outline": [[20_001, 0]] * 3}, "outline"),
        ],
    )  # fmt: skip
    def test_what_cannot_be_is_named(self, more: dict[str, Any], field: str) -> None:
        with pytest.raises(InvalidInput) as error:
            traced_out(traced_asked(self.asked(**more), "metric"), PAN)
        assert all(field in each.field for each in error.value.problems)
