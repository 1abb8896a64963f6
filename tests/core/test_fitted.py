"""What is fitted to the pan and round it: rules of the trade, gaps, shapes that hold a volume."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.deepen import deepen
from bilge_core.acts.figures import Figure, SetFigures
from bilge_core.acts.flange import with_flange
from bilge_core.acts.reshape import depth_for_capacity, sump_preset
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.crank import crank_gap
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.inspection import Inspected
from bilge_core.document.pump import GaugeReading
from bilge_core.document.read import build_from
from bilge_core.document.records import NO_RECORDS, Records
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.pan import assemble_pan
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules.inspection import ITEMS
from bilge_core.settled import settle_lap

Make = Callable[..., dict[str, Any]]
RPM = math.pi / 30.0


def boss(kind: str, x: float, y: float, depth: float, **more: Any) -> dict[str, Any]:
    return {
        "kind": kind, "name": "b", "x_mm": x, "y_mm": y, "depth_mm": depth, "bore_mm": 12, **more,
    }  # fmt: skip


def about(
    build: Build, field: str, lap: Log | None = None, records: Records = NO_RECORDS
) -> list[tuple[str, str]]:
    pan = assemble_pan(build)
    settled = settle_lap(pan, build, lap) if lap is not None else None
    return [
        (c.state, c.words)
        for c in check_pan(build, pan, 6000 * RPM, settled, records)
        if c.field.startswith(field)
    ]


# the box of 400 x 240 mm holds 5 L 52.1 mm deep: its surface is 87.9 mm below the rail


@pytest.mark.parametrize(
    ("row", "state", "words"),
    [
        (boss("turbo_drain", 200, 120, 100), "bad", "enters 18 mm under the standing oil"),
        (boss("turbo_drain", 200, 120, 60), "good", "enters 22 mm above the oil"),
        (boss("return", 200, 120, 80), "good", "above the oil"),
        (boss("drain_plug", 200, 0, 140), "good", "drains to the lowest point"),
        (boss("drain_plug", 200, 120, 110), "caution", "24 mm above the lowest point"),
        (boss("dipstick", 200, 130, 0), "bad", "not over the pan any more"),
        (boss("level_sensor", 200, 120, 90, fixing="tapped"), "bad", "too thin for a thread"),
    ],
)
def test_rules_of_bosses(box_document: Make, row: dict[str, Any], state: str, words: str) -> None:
    """JOB.md's rules: common practice, no published source."""
    build = build_from(box_document(pan__bosses=[row]))
    found = about(build, "pan.bosses")
    assert found[0][0] == state, found
    assert words in found[0][1]
    blocked = build_from(box_document(pan__bosses=[{**row, "blocked": True}]))
    assert about(blocked, "pan.bosses") == []


def test_a_drain_that_goes_under_on_the_lap(box_document: Make) -> None:
    """At 1 g of side load the surface stands at 45°: 120 mm from the middle it is 120 mm higher."""
    time = np.arange(0.0, 10.0, 0.02)
    side = np.where((time > 4.0) & (time < 6.0), -9.80665, 0.0)  # a right turn: oil to the left
    lap = Log(time, 30 + 0 * time, 0 * time, side, 600 + 0 * time)
    row = boss("turbo_drain", 200, 119, 40)
    state, words = about(build_from(box_document(pan__bosses=[row])), "pan.bosses", lap)[0]
    assert state == "caution"
    assert "under it for 2.0 s of the lap" in words


def test_a_boss_beside_a_bolt(box_document: Make) -> None:
    flange = {
        "outline_mm": [[-20, -140], [420, -140], [420, 140], [-20, 140]],
        "thickness_mm": 6,
        "bolts": [{"x_mm": 200, "y_mm": 130, "diameter_mm": 7}],
    }
    near = box_document(pan__flange=flange, pan__bosses=[boss("other", 210, 125, 20)])
    assert "11 mm from a pan bolt" in about(build_from(near), "pan.bosses")[0][1]
    far = box_document(pan__flange=flange, pan__bosses=[boss("other", 240, 125, 20)])
    assert about(build_from(far), "pan.bosses") == []


@pytest.mark.parametrize(
    ("part", "value", "state", "words"),
    [
        ("joint", {"seal": "o_ring", "age": "new"}, "good", "new seal"),
        ("joint", {"seal": "gasket", "age": "reused"}, "caution", "renew it before any remedy"),
        ("joint", {"seal": "none", "age": "new"}, "bad", "draws air at any g"),
        ("braces", {"at_bell": True, "at_tube": False}, "caution", "at its bell only"),
        ("tube", {"bore_mm": 19.05, "length_mm": 200}, "good", "2.1 m/s at 6000 rpm"),
        ("tube", {"bore_mm": 12, "length_mm": 200}, "caution", "quick for a suction line"),
    ],
)
def test_the_pickup(box_document: Make, part: str, value: Any, state: str, words: str) -> None:
    """36 L/min through 3/4 in: Q/A = 2.1 m/s (elementary)."""
    document = box_document(**{f"pickup__{part}": value})
    field = {"joint": "circuit.runs.1.end", "tube": "circuit.runs.1.line.bore_mm"}.get(part)
    found = about(build_from(document), field or f"pickup.{part}")
    assert found[0][0] == state
    assert words in found[0][1]


def test_the_crank_over_the_oil(box_document: Make) -> None:
    crank = {"height_mm": 60, "swept_radius_mm": 80, "from_x_mm": 20, "to_x_mm": 380}
    build = build_from(box_document(car__crank=crank))
    assert about(build, "car.crank") == [
        ("good", "Standing oil is 68 mm below the crank's swept circle")
    ]
    # tilted by 45° the circle's lowest point is r beside the axis: h cos 45° - r
    up = np.array([[0.0, math.sqrt(0.5), math.sqrt(0.5)]])
    gap = crank_gap(build.car.crank, up, np.array([0.0]))
    assert gap == pytest.approx([0.06 * math.sqrt(0.5) - 0.08])
    full = build_from(box_document(car__crank=crank, oil__volume_l=12.5, pan__skirt_height_mm=90))
    assert about(full, "car.crank")[0][0] == "bad"


def test_a_windage_tray_in_the_crank(box_document: Make) -> None:
    crank = {"height_mm": 60, "swept_radius_mm": 80, "from_x_mm": 20, "to_x_mm": 380}
    tray = {
        "kind": "horizontal", "name": "tray",
        "outline_mm": [[0, -60], [400, -60], [400, 60], [0, 60]],
        "depth_mm": 28, "role": "windage_tray", "open_pct": 35,
    }  # fmt: skip
    good = build_from(box_document(car__crank=crank, pan__plates=[tray]))
    assert ("good", "tray clears the crank's swept circle by 8 mm") in about(good, "pan.plates.0")
    bad = build_from(box_document(car__crank=crank, pan__plates=[{**tray, "depth_mm": 15}]))
    assert about(bad, "pan.plates.0.depth")[0][0] == "bad"


def test_gauge_readings_on_the_relief_say_nothing(box_document: Make) -> None:
    def read(*rows: tuple[float, float]) -> Records:
        return Records(
            gauge_readings=tuple(
                GaugeReading(engine_rpm=rpm, pressure_bar=bar, oil_temperature_c=100)
                for rpm, bar in rows
            )
        )

    build = build_from(box_document(pump__relief_bar=5.0))
    on = read((5000, 5.1), (6000, 4.9))
    assert about(build, "records.gauge", None, on)[0][0] == "caution"
    below = read((5000, 5.1), (6000, 4.9), (2500, 3.0))
    assert about(build, "records.gauge", None, below)[0][0] == "good"
    assert about(build, "records.gauge") == []


def test_what_the_inspection_found(box_document: Make) -> None:
    build = build_from(box_document())

    def looked(**found: str) -> list[tuple[str, str]]:
        rows = [{"item": item, "found": "sound"} for item in ITEMS]
        for place, how in found.items():
            rows[int(place[1:])]["found"] = how
        seen = tuple(Inspected.model_validate(row) for row in rows)
        return about(build, "records.inspection", None, Records(inspection=seen))

    assert looked() == []
    found = looked(_0="replace", _1="watch", _2="not_looked")
    assert [state for state, _ in found] == ["bad", "caution", "caution"]
    # before anything is looked at nothing is asked; what has no record is not looked at
    assert about(build, "records.inspection") == []
    one = Records(inspection=(Inspected(item=ITEMS[0], found="sound"),))
    (words,) = about(build, "records.inspection", None, one)
    assert words[1] == f"{len(ITEMS) - 1} of {len(ITEMS)} things not yet looked at"


def keep_out(kind: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "name": kind, "frame": "engine", "wanted_mm": 10, **more}


@pytest.mark.parametrize(
    ("row", "gap_mm"),
    [
        (keep_out("plane", at_mm=-150, free="above"), 8.0),
        (keep_out("plane", at_mm=430, free="behind"), 28.0),
        (keep_out("plane", at_mm=-30, free="ahead"), 28.0),
        (keep_out("plane", at_mm=150, free="right"), 28.0),
        (keep_out("plane", at_mm=-140, free="left"), 18.0),
        (keep_out("plane", at_mm=100, free="below"), 98.0),
        (keep_out("plane", at_mm=-100, free="above"), -42.0),
        (keep_out("box", from_mm=[430, -50, -90], to_mm=[500, 50, -50]), 28.0),
        (keep_out("box", from_mm=[100, 140, -300], to_mm=[200, 180, -160]), math.hypot(20, 20) - 2),
        (keep_out("box", from_mm=[390, -30, -90], to_mm=[500, 30, -60]), -12.0),
        (keep_out("cylinder", from_mm=[0, 150, -70], to_mm=[400, 150, -70], diameter_mm=40), 8.0),
        (keep_out("cylinder", from_mm=[440, 0, -90], to_mm=[540, 0, -90], diameter_mm=50), 38.0),
    ],
)  # fmt: skip
def test_gaps_of_a_box_by_hand(box_document: Make, row: dict[str, Any], gap_mm: float) -> None:
    """Closed forms: planes, edges and round bars beside a box of 400 x 240 x 140 mm, 2 mm sheet."""
    build = build_from(box_document(car__keep_outs=[row], pan__sheet_mm=2))
    found = clearances(build, assemble_pan(build))[0]
    assert found.gap * 1e3 == pytest.approx(gap_mm, abs=0.1)
    state = {True: "bad", False: "caution"}[gap_mm < 0] if gap_mm < 10 else "good"
    assert about(build, "car.keep_outs")[0][0] == state


def test_car_axes_and_engine_axes(box_document: Make) -> None:
    """Leaned by 30° the box's lowest corner is 140 cos 30° + 120 sin 30° below the rail."""
    row = {**keep_out("plane", at_mm=-200, free="above"), "frame": "car"}
    build = build_from(box_document(car__keep_outs=[row], car__lean_right_deg=30))
    gap = clearances(build, assemble_pan(build))[0].gap
    lowest = 140 * math.cos(math.pi / 6) + 120 * math.sin(math.pi / 6)
    assert gap * 1e3 == pytest.approx(200 - lowest, abs=0.05)


@pytest.mark.parametrize(
    "row",
    [
        keep_out("box", from_mm=[10, 0, 0], to_mm=[0, 10, 10]),
        keep_out("cylinder", from_mm=[0, 0, 0], to_mm=[0, 0, 0], diameter_mm=4),
        keep_out("plane", at_mm=0, free="sideways"),
    ],
)
def test_keep_outs_that_are_none(box_document: Make, row: dict[str, Any]) -> None:
    with pytest.raises(InvalidInput, match=r"car\.keep_outs\.0"):
        build_from(box_document(car__keep_outs=[row]))


def test_the_depth_that_holds_a_volume(box_document: Make) -> None:
    """A box of 400 x 240 mm: a litre more is 10.4 mm (V = A h)."""
    build = build_from(box_document())
    by = depth_for_capacity(build, assemble_pan(build).capacity_to_rail + 1e-3, [0])
    assert by == pytest.approx(1e-3 / (0.4 * 0.24), rel=1e-4)
    up = depth_for_capacity(build, 0.010, [0])
    assert assemble_pan(deepen(build, up, [0]).build).capacity_to_rail == pytest.approx(0.010)
    for volume, zones, wanted in (
        (0.0, [0], "positive"), (-1e-3, [0], "positive"), (math.nan, [0], "positive"),
        (math.inf, [0], "positive"), (1e-3, [7], "some of 0 to 0"), (1e-3, [], "some of 0 to 0"),
        (1.0, [0], "at most"),
    ):  # fmt: skip
        with pytest.raises(InvalidQuantity, match=wanted):
            depth_for_capacity(build, volume, zones)


def test_a_short_front_and_a_deep_rear_hold_the_same(dunlin: Build) -> None:
    """The front of the sump cut short by 40 mm; its rear goes down until the litres are back."""
    raw = dunlin.model_dump(mode="json")
    for corner in raw["pan"]["zones"][0]["outline_mm"]:
        corner[0] = min(corner[0], 412)
    short = build_from(raw)
    before = assemble_pan(dunlin).capacity_to_rail
    assert assemble_pan(short).capacity_to_rail < before
    by = depth_for_capacity(short, before, [0, 3])
    held = deepen(short, by, [0, 3]).build
    assert assemble_pan(held).capacity_to_rail == pytest.approx(before, rel=1e-5)


def test_the_nearest_place_on_a_ramp_is_found_to_a_hundredth(box_document: Make) -> None:
    """A box's corner below an even floor: the distance of a point to a plane, in closed form."""
    floor = {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 120, "to_depth_mm": 60}
    corner = keep_out("box", from_mm=[231, 13, -300], to_mm=[900, 500, -130])
    build = build_from(
        box_document(pan__zones__0__floor=floor, car__keep_outs=[corner], pickup__x_mm=60,
                     pan__sheet_mm=None)
    )  # fmt: skip
    length = build.pan.zones[0].polygon.bounds[2]
    slope = 60.0 / length
    above = (-120.0 + slope * 231.0) - -130.0
    gap = above / math.hypot(1.0, slope)
    found = clearances(build, assemble_pan(build))[0]
    assert found.gap * 1e3 == pytest.approx(gap, abs=0.01)


@pytest.mark.parametrize("place", ["front", "middle", "rear"])
def test_presets_keep_the_rail_and_hold_together(dunlin: Build, place: Any) -> None:
    made = sump_preset(dunlin, place, 0.15, 0.05)
    pan = assemble_pan(made)
    assert pan.rail.bounds == pytest.approx(assemble_pan(dunlin).rail.bounds)
    names = [zone.name for zone in made.pan.zones]
    both = ["deep sump", "rear ramp", "rear shelf", "front ramp", "front shelf"]
    assert names == (both if place == "middle" else ["deep sump", "ramp", "shelf"])
    middle = {"front": 0.35, "middle": 0.226, "rear": 0.10}[place]
    assert made.pickup.x_mm * 1e-3 == pytest.approx(middle, abs=0.01)
    with pytest.raises(InvalidQuantity, match="shelf"):
        sump_preset(dunlin, place, 0.05, 0.15)


def test_a_flange_round_the_rail(box_document: Make) -> None:
    build = build_from(box_document())
    laid = with_flange(build, assemble_pan(build), 0.020, 0.080, 0.007, 0.006).pan.flange
    assert laid is not None
    xs, ys = zip(*laid.outline_mm, strict=True)
    assert (min(xs), max(xs), min(ys), max(ys)) == (-20.0, 420.0, -140.0, 140.0)
    # the line of holes is 420 x 260 mm round: 1360 mm, so that 17 holes lie 80 mm apart
    assert len(laid.bolts) == 17
    for width, spacing, hole in ((0.0, 0.08, 0.007), (0.02, -1.0, 0.007), (0.008, 0.08, 0.007)):
        with pytest.raises(InvalidQuantity):
            with_flange(build, assemble_pan(build), width, spacing, hole, 0.006)


def test_held_volumes_add_up_to_what_is_away(box_document: Make) -> None:
    rows = [{"name": "head", "volume_l": 0.7}, {"name": "cooler", "volume_l": 0.55}]
    build = build_from(box_document(oil__held=rows, oil__away_l=3))
    assert build.oil.away_l == pytest.approx(1.25)
    rows[1]["volume_l"] = "much"
    with pytest.raises(InvalidInput, match=r"oil\.held\.1\.volume_l"):
        build_from(box_document(oil__held=rows))


def test_displacement_from_a_flow_point(box_document: Make) -> None:
    """36 L/min at 6000 rpm, driven 1:2 and filled to 90 %: 36000/(3000 x 0.9) = 13.33 cm3."""
    point = {"flow_l_min": 36, "engine_rpm": 6000, "filling_pct": 90}
    build = build_from(box_document(pump__flow_point=point))
    assert build.circuit.pump.displacement_cm3 == pytest.approx(40 / 3, rel=1e-4)
    path = f"circuit.components.{build.circuit.pump.id}.flow_point"
    typed = [("flow_l_min", 24.0), ("engine_rpm", 6000.0)]  # filled to 90 %: nobody knows better
    figures = [Figure(field=f"{path}.{key}", value=value) for key, value in typed]
    begun = SetFigures(kind="figures", figures=figures).done(build_from(box_document())).build
    assert begun.circuit.pump.displacement_cm3 == pytest.approx(80 / 9, rel=1e-4)


def test_a_two_stage_pump(box_document: Make) -> None:
    """Low mode below about 2000 rpm; unplugged it stays in high (common practice)."""
    stage = {"displacement_cm3": 6, "up_to_rpm": 2000, "unplugged": False}
    pump = build_from(box_document(pump__low_stage=stage)).circuit.pump
    speeds = np.array([1500.0, 2500.0]) * RPM
    assert demanded_flow(pump, speeds) * 6e4 == pytest.approx([4.5, 15.0])
    stage["unplugged"] = True
    pump = build_from(box_document(pump__low_stage=stage)).circuit.pump
    assert demanded_flow(pump, speeds) * 6e4 == pytest.approx([9.0, 15.0])


def test_a_spacer_takes_bosses_down_and_leaves_the_dipstick(box_document: Make) -> None:
    rows = [boss("drain_plug", 200, 0, 140), boss("turbo_drain", 200, 120, 40)]
    marks = [{"name": "full", "level_mm": 60}]
    build = build_from(box_document(pan__bosses=rows, pan__dip_marks=marks))
    spaced = deepen(build, 6.35e-3).build.pan
    assert [b.depth_mm for b in spaced.bosses] == pytest.approx([146.35, 46.35])
    assert spaced.dip_marks[0].level_mm == pytest.approx(66.35)
    deeper = deepen(build, 20e-3, [0]).build.pan
    assert [b.depth_mm for b in deeper.bosses] == pytest.approx([160.0, 40.0])


def test_what_zones_can_hold_at_most_is_said_in_litres(box_document: Make) -> None:
    build = build_from(box_document())
    with pytest.raises(InvalidQuantity, match="at most") as refused:
        depth_for_capacity(build, 1.0, [0])
    found = re.search(r"at most ([\d.]+) L", str(refused.value))
    assert found is not None
    most = float(found[1]) * 1e-3
    assert depth_for_capacity(build, most - 1e-4, [0]) > 0.0
    with pytest.raises(InvalidQuantity):
        depth_for_capacity(build, most + 1e-3, [0])
