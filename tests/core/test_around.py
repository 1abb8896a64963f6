"""What is round the pan: drawn to size, nearest places; boxes, bolts and hairlines."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.acts.deepen import deepen
from bilge_core.acts.registry import read_act
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.keep_outs import clearances, distance_to
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan
from bilge_core.tell.drawing import drawing_out

from tests.core.test_fitted import keep_out

Make = Callable[..., dict[str, Any]]


@pytest.mark.parametrize(
    ("row", "sizes"),
    [
        # length, width, height as they are seen from above, from the side, from the front [mm]
        (keep_out("box", from_mm=[100, -60, -300], to_mm=[300, 40, -180]), (200, 100, 120)),
        (keep_out("cylinder", from_mm=[50, 0, -250], to_mm=[450, 0, -250], diameter_mm=80),
         (400, 80, 80)),
        (keep_out("cylinder", from_mm=[50, 20, -250], to_mm=[50, 20, -150], diameter_mm=60),
         (60, 60, 100)),
        (keep_out("cylinder", from_mm=[50, -90, -250], to_mm=[50, 110, -250], diameter_mm=40),
         (40, 200, 40)),
    ],
)  # fmt: skip
def test_what_is_round_the_pan_is_drawn_to_size(
    box_document: Make, row: dict[str, Any], sizes: tuple[float, float, float]
) -> None:
    build = build_from(box_document(car__keep_outs=[row]))
    (drawn,) = drawing_out(assemble_pan(build), build).around
    middle = (np.array(row["from_mm"]) + np.array(row["to_mm"])) / 2.0
    for outline, axes in (
        (drawn.plan_mm, (0, 1)),
        (drawn.side_mm, (0, 2)),
        (drawn.front_mm, (1, 2)),
    ):
        points = np.array(outline)
        wanted = [sizes[axis] for axis in axes]
        assert np.ptp(points, axis=0) == pytest.approx(wanted, rel=0.01)
        assert points.max(axis=0) + points.min(axis=0) == pytest.approx(
            2.0 * middle[list(axes)], abs=1.0
        )


def test_what_nobody_measured_is_drawn_and_not_judged_until_its_place_is_typed(
    box_document: Make,
) -> None:
    rack = keep_out("plane", at_mm=-150, free="above", assumed=True, id="k1", name="rack")
    exhaust = keep_out("plane", at_mm=430, free="behind", id="k2", name="exhaust")
    build = build_from(box_document(car__keep_outs=[rack, exhaust]))

    def told(build: Build) -> tuple[list[str], list[tuple[str, str]]]:
        pan = assemble_pan(build)
        checks = [c for c in check_pan(build, pan, 600.0) if "keep_outs" in c.field]
        return [c.name for c in clearances(build, pan)], [(c.state, c.words) for c in checks]

    names, checks = told(build)
    assert names == ["exhaust"] and len(drawing_out(assemble_pan(build), build).around) == 2
    assert checks == [
        ("caution", "Nobody measured where the rack is: no gap to it is told"),
        ("good", "Clear of the one keep-out"),
    ]
    for field, value, is_known in (("wanted_mm", 9.0, False), ("at_mm", -150.0, True)):
        figure = {"field": f"car.keep_outs.k1.{field}", "value": value}
        act = read_act({"kind": "figures", "figures": [figure]})
        assert ("rack" in told(act.done(build).build)[0]) == is_known


def test_a_crank_that_nobody_measured_is_said_to_be_a_guess_before_all_else(
    box_document: Make,
) -> None:
    crank = {"height_mm": 60, "swept_radius_mm": 70, "from_x_mm": 40, "to_x_mm": 360}

    def told(build: Build) -> list[str]:
        found = check_pan(build, assemble_pan(build), 600.0)
        return [c.words for c in found if c.field == "car.crank"]

    build = build_from(box_document(car__crank={**crank, "assumed": True}))
    first, second = told(build)
    assert first.startswith("Nobody measured the crank") and second.startswith("Standing oil")
    figure = {"field": "car.crank.swept_radius_mm", "value": 72.0}
    known = read_act({"kind": "figures", "figures": [figure]}).done(build).build
    assert len(told(known)) == 1


def test_bolts_are_checked_where_flange_and_length_are_known(box_document: Make) -> None:
    flange: dict[str, Any] = {
        "outline_mm": [[-20, -140], [420, -140], [420, 140], [-20, 140]], "thickness_mm": 6,
        "bolts": [{"x_mm": 200, "y_mm": 135, "diameter_mm": 7}],
    }  # fmt: skip

    def found(**changes: Any) -> list[str]:
        build = build_from(box_document(**changes))
        return [c.words for c in check_pan(build, assemble_pan(build), 600.0) if "bolt" in c.field]

    (said,) = found(pan__bolt_length_mm=20, pan__flange=flange)
    thin = {"x_mm": 100, "y_mm": 135, "diameter_mm": 5.5}
    (less,) = found(pan__bolt_length_mm=20, pan__flange={**flange, "bolts": [
        *flange["bolts"], thin]})  # fmt: skip
    assert less != said  # the thinnest bolt counts
    assert less == found(pan__bolt_length_mm=20, pan__flange={**flange, "bolts": [thin]})[0]
    assert found(pan__bolt_length_mm=20) == []
    assert found(pan__flange=flange) == []
    assert found(pan__bolt_length_mm=20, pan__flange={**flange, "bolts": []}) == []


BODIES = [
    keep_out("box", from_mm=[10, -40, -90], to_mm=[120, 30, -20]),
    keep_out("cylinder", from_mm=[0, 0, 0], to_mm=[90, 40, -60], diameter_mm=50),
    keep_out("plane", at_mm=-70, free="above"),
    keep_out("plane", at_mm=35, free="right"),
]


@pytest.mark.parametrize("row", BODIES, ids=lambda row: row["kind"])
def test_the_nearest_place_is_as_far_away_as_the_gap_and_on_the_body(
    box_document: Make, row: dict[str, Any]
) -> None:
    (body,) = build_from(box_document(car__keep_outs=[row])).car.keep_outs
    places = np.random.default_rng(5).uniform(-0.2, 0.2, (400, 3))
    distance, nearest = distance_to(places, body)
    outside = distance > 0.0
    assert outside.sum() > 50
    away = np.linalg.norm(places - nearest, axis=1)
    assert away[outside] == pytest.approx(distance[outside], abs=1e-12)
    assert np.abs(distance_to(nearest[outside], body)[0]).max() < 1e-9


def test_a_deeper_side_box_keeps_its_ceiling_a_spacer_takes_it_down(dunlin: Build) -> None:
    box = next(at for at, zone in enumerate(dunlin.pan.zones) if zone.ceiling_depth_mm is not None)
    ceiling = dunlin.pan.zones[box].ceiling_depth_mm
    assert ceiling is not None
    assert deepen(dunlin, 0.01, [box]).build.pan.zones[box].ceiling_depth_mm == ceiling
    assert deepen(dunlin, 0.01).build.pan.zones[box].ceiling_depth_mm == ceiling + 10.0


@pytest.mark.parametrize(("gap_mm", "parts"), [(0.05, 1), (0.3, 2)])
def test_a_hairline_between_outlines_is_none(box_document: Make, gap_mm: float, parts: int) -> None:
    """0.1 mm round each outline: gaps under 0.2 mm are slips of the tape."""
    document = box_document(pan__zones__0__outline_mm=[[0, -120], [400, -120], [400, 0], [0, 0]])
    left = {**document["pan"]["zones"][0], "name": "left"}
    left["outline_mm"] = [[0, gap_mm], [400, gap_mm], [400, 120], [0, 120]]
    left["ceiling_depth_mm"] = 20
    document["pan"]["zones"].append(left)
    document["pickup"]["y_mm"] = -60
    try:
        plan = assemble_pan(build_from(document)).plan
    except InvalidInput:
        assert parts == 2
        return
    assert len(shapely.get_parts(plan)) == parts
