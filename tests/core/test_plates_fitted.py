"""Plates, gates, trays, side boxes and a moved pickup as acts: they stand, swing and open right."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.pan_widened import refill
from bilge_core.acts.registry import read_act
from bilge_core.acts.round_mouth import opening_for, room_at_mouth
from bilge_core.checks.pan import check_pan
from bilge_core.document.build import Build
from bilge_core.document.plates import HorizontalPlate, VerticalPlate
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.physics.axes import standing_up
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules import Check
from bilge_core.rules.plates import HEAD, check_openings

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())
SANDPIPER = read_build((DEMO / "sandpiper.json").read_text())
GATED = read_build((DEMO / "dunlin-gated.json").read_text())

ONE_OF_EACH: list[tuple[dict[str, Any], str]] = [
    ({"kind": "fit_gates"}, "plates, 3 gates of rubber and a lid round the pickup"),
    ({"kind": "fit_gates", "gates": 2, "lid": False, "leaf": "metal"},
     "plates, 2 gates of metal round the pickup"),
    ({"kind": "fit_level_plate"}, "level plate 86 mm under the rail, open 64 mm over the pickup"),
    ({"kind": "fit_side_plates"}, "upright plates both sides of the pickup with a gate of rubber"),
    ({"kind": "fit_side_plates", "gated": False}, "upright plates both sides of the pickup"),
]  # fmt: skip


FAST = speed_of_rpm(6500.0)


def checked(build: Build) -> list[Check]:
    pan = assemble_pan(build)
    return [*check_pan(build, pan, FAST)]


def done(build: Build, **raw: Any) -> Build:
    return read_act(raw).done(build).build


@pytest.mark.parametrize(("raw", "words"), ONE_OF_EACH, ids=lambda each: str(each)[:40])
def test_each_says_what_it_did(raw: dict[str, Any], words: str) -> None:
    assert read_act(raw).done(DUNLIN).words.startswith(words)


@pytest.mark.parametrize("build", [DUNLIN, SANDPIPER], ids=["dunlin", "sandpiper"])
@pytest.mark.parametrize("gates", [2, 3, 4])
def test_gates_swing_toward_the_mouth_and_their_box_is_shut(build: Build, gates: int) -> None:
    """A gate fitted backwards is worse than none: by the check's own word, not by its side."""
    made = done(build, kind="fit_gates", gates=gates)
    walls = [each for each in made.pan.plates if isinstance(each, VerticalPlate)]
    hung = [opening.gate for wall in walls for opening in wall.openings if opening.gate]
    assert len(walls) == 4 and len(hung) == gates
    ends = [each.to_mm for each in walls] + [each.from_mm for each in walls]
    assert all(ends.count(corner) == 2 for corner in set(ends))  # each corner joins two walls
    found = [c for c in checked(made) if c.rule.key in ("gate_swing", "plate_end")]
    assert {each.state for each in found} == {"good"}


def test_a_box_hangs_its_third_gate_toward_the_long_part_of_the_pan() -> None:
    made = done(DUNLIN, kind="fit_gates")
    gated = {p.name for p in made.pan.plates if p.openings and isinstance(p, VerticalPlate)}
    room = room_at_mouth(DUNLIN)
    assert DUNLIN.pickup.x_mm - room.rear < room.front - DUNLIN.pickup.x_mm
    assert gated == {"front wall", "right wall", "left wall"}


def test_no_room_for_a_box_is_said_and_nothing_is_done() -> None:
    near = done(DUNLIN, kind="move_pickup", left_mm=-70)
    for beside in (86.0, 60.0):  # whatever is asked: the pan's wall is too near
        with pytest.raises(InvalidInput, match="has no room"):
            read_act({"kind": "fit_gates", "beside_mm": beside}).done(near)
    for kind in ("fit_gates", "fit_side_plates"):
        with pytest.raises(InvalidInput, match="upright plates"):
            read_act({"kind": kind}).done(GATED)
    with pytest.raises(InvalidInput, match="lid; there is one already"):
        read_act({"kind": "fit_level_plate"}).done(GATED)


@pytest.mark.parametrize("depth", [4.0, 129.0])
def test_a_level_plate_stays_between_rail_and_floor(depth: float) -> None:
    with pytest.raises(InvalidInput, match="depth_mm: must be 5 to 128 mm"):
        done(DUNLIN, kind="fit_level_plate", depth_mm=depth)
    done(DUNLIN, kind="fit_level_plate", depth_mm=5.0)
    done(DUNLIN, kind="fit_level_plate", depth_mm=128.0)


def test_an_opening_passes_what_the_pump_asks_by_the_rule_of_plates() -> None:
    flow = float(demanded_flow(DUNLIN.circuit.pump, speed_of_rpm(6500.0)))
    side = opening_for(DUNLIN) * 1e-3
    assert check_openings(side * side, flow, 6500.0).state == "good"
    wide = build_from(
        {**DUNLIN.model_dump(), "pickup": {**DUNLIN.pickup.model_dump(),
         "mouth": {"kind": "round", "diameter_mm": 20.0}}}
    )  # fmt: skip
    least = opening_for(wide) * 1e-3
    assert check_openings((least - 2e-3) ** 2, flow, 6500.0).state == "bad"
    assert HEAD.most == 10e-3


def test_what_is_open_over_the_mouth_goes_with_it() -> None:
    made = done(done(DUNLIN, kind="fit_level_plate"), kind="move_pickup", left_mm=-20, ahead_mm=5)
    (plate,) = made.pan.plates
    assert isinstance(plate, HorizontalPlate)
    (hatch,) = plate.openings
    assert (hatch.x_mm, hatch.y_mm) == (made.pickup.x_mm, made.pickup.y_mm)
    assert made.pickup.y_mm == DUNLIN.pickup.y_mm - 20


def test_a_tray_clears_the_crank_by_the_rule() -> None:
    made = done(DUNLIN, kind="fit_tray")
    trays = [c for c in checked(made) if c.rule.key == "tray_room"]
    assert [each.state for each in trays] == ["good"]
    bare = build_from({**DUNLIN.model_dump(), "car": {**DUNLIN.car.model_dump(), "crank": None}})
    with pytest.raises(InvalidInput, match="needs the crank's sweep"):
        done(bare, kind="fit_tray")
    with pytest.raises(InvalidInput, match="fitted already"):
        done(made, kind="fit_tray")


def test_a_side_box_is_new_on_one_side_and_wider_on_the_other() -> None:
    left, right = (done(DUNLIN, kind="kick_out", side=s, width_mm=40) for s in ("left", "right"))
    assert len(left.pan.zones) == len(DUNLIN.pan.zones) + 1
    assert len(right.pan.zones) == len(DUNLIN.pan.zones)
    gained = [
        assemble_pan(b).solid.volume - assemble_pan(DUNLIN).solid.volume for b in (left, right)
    ]
    # the box's own length and height: 202 by 69 mm, and the kick-out's 160 by 68, 40 mm wide
    assert gained[0] == pytest.approx(0.2016 * 0.069 * 0.04, rel=1e-3)
    assert gained[1] == pytest.approx(0.160 * 0.068 * 0.04, rel=1e-3)


@pytest.mark.parametrize("by", [6.35, 19.0])
def test_a_refill_keeps_the_oil_as_high_under_the_rail(by: float) -> None:
    deeper = done(DUNLIN, kind="deepen", by_mm=by, zones=["z4", "z7"])
    full = done(deeper, kind="refill", to_l=refill(DUNLIN, deeper))
    up = standing_up(DUNLIN.car)
    levels = [
        level_of_volume(pan.solid, up, pan.oil_volume) for pan in map(assemble_pan, (DUNLIN, full))
    ]
    assert levels[1] == pytest.approx(levels[0], abs=0.2e-3)
    assert full.oil.mark_l is not None and DUNLIN.oil.mark_l is not None
    assert full.oil.mark_l - DUNLIN.oil.mark_l == pytest.approx(
        full.oil.volume_l - DUNLIN.oil.volume_l
    )


def test_an_opening_of_a_side_plate_lies_beside_the_mouth() -> None:
    """Its middle is where the mouth is, walked from either end; both plates stand where asked."""
    build = done(DUNLIN, kind="fit_side_plates", beside_mm=60)
    known = {plate.name for plate in DUNLIN.pan.plates}
    plates = [p for p in build.pan.plates if p.name not in known and isinstance(p, VerticalPlate)]
    assert sorted(plate.from_mm[1] for plate in plates) == pytest.approx(
        [DUNLIN.pickup.y_mm - 60, DUNLIN.pickup.y_mm + 60]
    )
    for plate in plates:
        (opening,) = plate.openings
        along = 1.0 if plate.to_mm[0] > plate.from_mm[0] else -1.0
        middle = plate.from_mm[0] + along * (opening.from_start_mm + 0.5 * opening.width_mm)
        assert middle == pytest.approx(DUNLIN.pickup.x_mm, abs=0.1)


@pytest.mark.parametrize(
    ("kind", "field", "within", "beyond"),
    [
        ("fit_side_plates", "top_depth_mm", 98.0, 98.5),  # 138 deep, 30 of opening, 10 over it
        ("fit_side_plates", "top_depth_mm", 0.5, -0.5),
        ("fit_gates", "beside_mm", 29.0, 28.9),  # a mouth of 46, 6 clear of it
    ],
)
def test_upright_plates_stand_where_they_are_asked_to_or_it_is_refused(
    kind: str, field: str, within: float, beyond: float
) -> None:
    done(DUNLIN, kind=kind, **{field: within})
    with pytest.raises(InvalidInput, match=field):
        done(DUNLIN, kind=kind, **{field: beyond})


def test_a_box_is_as_wide_and_as_high_as_asked_where_there_is_room() -> None:
    build = done(DUNLIN, kind="fit_gates", beside_mm=60.0, top_depth_mm=70.0)
    walls = [p for p in build.pan.plates if isinstance(p, VerticalPlate)]
    assert {wall.top_depth_mm for wall in walls} == {70.0}
    x, y = DUNLIN.pickup.x_mm, DUNLIN.pickup.y_mm
    corners = {point for wall in walls for point in (wall.from_mm, wall.to_mm)}
    assert corners == {(x + i * 60.0, y + j * 60.0) for i in (-1, 1) for j in (-1, 1)}
    sides = done(DUNLIN, kind="fit_side_plates", top_depth_mm=40.0)
    assert {p.top_depth_mm for p in sides.pan.plates if isinstance(p, VerticalPlate)} == {40.0}
