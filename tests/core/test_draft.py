"""Walls that lean: closed forms of frusta, and the same solid as a convex hull in trimesh."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import trimesh
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan, column_volumes, columns_of, inside_faces
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.settled import settle
from bilge_core.tell.drawing import drawing_out

Make = Callable[..., dict[str, Any]]
L, W, D = 0.4, 0.24, 0.14


def drafted(make: Make, degrees: float, **more: Any) -> Build:
    return build_from(make(pan__zones__0__draft_deg=degrees, **more))


@pytest.mark.parametrize("degrees", [1.0, 3.0, 12.0, 30.0])
def test_a_tapered_box_is_a_prismatoid(box_document: Make, degrees: float) -> None:
    """V = h/6 (A_top + 4 A_middle + A_floor) (prismatoid formula)."""
    pan = assemble_pan(drafted(box_document, degrees))
    lean = math.tan(math.radians(degrees))

    def area(down: float) -> float:
        return (L - 2 * down * lean) * (W - 2 * down * lean)

    wanted = D / 6 * (area(0) + 4 * area(D / 2) + area(D))
    assert pan.capacity_to_rail == pytest.approx(wanted, rel=1e-9)
    assert columns_of(pan).solid.volume == pytest.approx(wanted, rel=1e-6)


def test_no_draft_is_what_it_was(box_document: Make) -> None:
    assert assemble_pan(drafted(box_document, 0.0)).capacity_to_rail == pytest.approx(L * W * D)


@pytest.mark.parametrize("lean", [0.0, 25.0])
def test_a_tapered_ramp_is_the_hull_of_its_corners(box_document: Make, lean: float) -> None:
    """Volume, and oil below a tilted surface, against trimesh's convex hull cut by a plane."""
    ramp = {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 60, "to_depth_mm": 140}
    build = drafted(
        box_document, 8.0, pan__zones__0__floor=ramp, car__lean_right_deg=lean, oil__volume_l=3
    )
    pan = assemble_pan(build)
    hull = trimesh.PointCloud(pan.solid.vertices).convex_hull
    assert pan.solid.volume == pytest.approx(hull.volume, rel=1e-7)
    # each wall leans by the draft
    steep = [f for f in hull.facets_normal if 0.0 < abs(f[2]) < 0.5]
    assert len(steep) == 4
    for normal in steep:
        assert abs(normal[2]) == pytest.approx(math.sin(math.radians(8.0)), abs=1e-6)
    surface = settle(pan, apparent_gravity(build.car, 3.0, -6.0))
    wet = hull.slice_plane(
        surface.normal * surface.level, -surface.normal, cap=True, engine="manifold"
    )
    assert wet.volume == pytest.approx(3e-3, rel=1e-6)


def test_shared_walls_stay_upright(dunlin: Build) -> None:
    raw = dunlin.model_dump(mode="json")
    for zone in raw["pan"]["zones"][:3]:
        zone["draft_deg"] = 4.0
    build = build_from(raw)
    pan = assemble_pan(build)
    # sump: front and left lean (the kick-out shares its right); ramp and shelf: both sides
    assert [len(zone.wedges) for zone in pan.zones] == [2, 2, 3, 0]
    assert pan.capacity_to_rail < assemble_pan(dunlin).capacity_to_rail
    full = column_volumes(columns_of(pan), np.array([[0.0, 0.0, 1.0]]), np.array([0.0]))
    assert full.sum() == pytest.approx(pan.capacity_to_rail, rel=1e-6)
    assert pan.rail.area == pytest.approx(assemble_pan(dunlin).rail.area)


def test_drawings_of_a_tapered_box(box_document: Make) -> None:
    """Drawn right to 0.1 mm: the floor's edge stands in by depth times tan of the draft."""
    build = drafted(box_document, 10.0)
    pan = assemble_pan(build)
    section = cut_pan(pan, "y", 0.0)
    assert len(section.inside) == 1
    ring = section.inside[0]
    foot = ring[ring[:, 1] < -D + 1e-6, 0]
    assert foot.min() == pytest.approx(D * math.tan(math.radians(10.0)), abs=1e-5)
    assert (ring[:, 0].min(), ring[:, 0].max()) == pytest.approx((0.0, L))
    faces = inside_faces(pan)
    low = [f for f in faces if f.kind == "floor"]
    assert len(low) == 5  # the floor itself and four leaning walls
    assert all(f.corners[:, 2].max() <= 1e-9 for f in faces)


def test_gaps_are_to_the_leaning_wall(box_document: Make) -> None:
    """A point beside the floor is nearer to an upright wall than to one that leans away."""
    ball = {
        "kind": "box", "name": "post", "frame": "engine", "wanted_mm": 5,
        "from_mm": [430, -10, -140], "to_mm": [440, 10, -130],
    }  # fmt: skip
    build = drafted(box_document, 15.0, car__keep_outs=[ball])
    gap = clearances(build, assemble_pan(build))[0].gap
    # from the post's nearest edge (430, -130) to the line that leans 15° from (400, 0)
    away = 0.030 * math.cos(math.radians(15)) + 0.130 * math.sin(math.radians(15))
    assert gap == pytest.approx(away, abs=1e-4)


def test_walls_that_meet_above_the_floor_are_refused(box_document: Make) -> None:
    with pytest.raises(InvalidInput, match=r"pan\.zones\.0\.draft_deg: must be less"):
        assemble_pan(drafted(box_document, 44.0))


def test_a_mouth_over_a_leaning_wall_is_told(box_document: Make) -> None:
    build = drafted(box_document, 20.0, pickup__y_mm=90)
    with pytest.raises(InvalidInput, match="below the floor"):
        assemble_pan(build)


def test_a_leaning_box_closed_above_can_be_drawn_and_cut(box_document: Make) -> None:
    """Where a wedge runs out under a ceiling its floor and top differ by the last digit."""
    document = box_document(
        pan__zones__0__draft_deg=3,
        pan__zones__0__outline_mm=[[0, -120], [300, -120], [300, 120], [0, 120]],
    )
    document["pan"]["zones"][0]["ceiling_depth_mm"] = 1
    open_zone = {
        "name": "ramp", "outline_mm": [[300, -120], [400, -120], [400, 120], [300, 120]],
        "floor": {"kind": "flat", "depth_mm": 100},
    }  # fmt: skip
    document["pan"]["zones"].append(open_zone)
    pan = assemble_pan(build_from(document))
    for across, at in itertools.product(("x", "y"), (-0.06, 0.0, 0.15, 0.2, 0.35)):
        inside = cut_pan(pan, across, at).inside
        assert all(np.isfinite(ring).all() for ring in inside)
    assert {face.kind for face in inside_faces(pan)} == {"floor", "ceiling", "wall"}


def test_the_wedge_under_a_leaning_wall_is_told_by_its_zone(box_document: Make) -> None:
    build = build_from(box_document(pan__zones__0__draft_deg=8))
    names = [zone.name for zone in drawing_out(assemble_pan(build), build).zones]
    name = build.pan.zones[0].name
    assert names == [name, *(f"{name}, wall {number}" for number in range(1, len(names)))]
    assert len(names) > 1
