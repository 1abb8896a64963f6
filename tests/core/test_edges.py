"""Edges of limits and signs that a small slip would move unseen: each on both sides."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bilge_core.clearance.crank import crank_gap
from bilge_core.cli.check import check
from bilge_core.document.circuit.calibration import bearings_told
from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.document.plates import Gate, VerticalPlate
from bilge_core.document.pump import GaugeReading
from bilge_core.document.read import build_from
from bilge_core.document.records import Records
from bilge_core.forecast.dips import find_dips
from bilge_core.loads.corners import find_corners, place_on_lap
from bilge_core.loads.envelope import held_loads
from bilge_core.loads.log import Log
from bilge_core.moving.simulation import LEAVES
from bilge_core.pan import assemble_pan
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules.gauge import ON_RELIEF

from tests.conftest import DEMO
from tests.core.test_fitted import RPM, about, boss
from tests.oil_boxes import REST, G, box_of_oil, lines_with, run

Make = Callable[..., dict[str, Any]]
PUMP = PressureStage(kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0)


def reading(rpm: float, bar: float, warm: float = 100.0) -> GaugeReading:
    return GaugeReading(engine_rpm=rpm, pressure_bar=bar, oil_temperature_c=warm)


def test_the_crank_over_oil_thrown_forward(box_document: Make) -> None:
    """Leaning fore and aft the circle's reach is r cos a below its lower end: closed form."""
    crank = {"height_mm": 60, "swept_radius_mm": 80, "from_x_mm": 20, "to_x_mm": 380}
    build = build_from(box_document(car__crank=crank))
    angle = math.radians(30.0)
    for way, lower_x in ((1.0, 0.020), (-1.0, 0.380)):
        up = np.array([[way * math.sin(angle), 0.0, math.cos(angle)]])
        gap = crank_gap(build.car.crank, up, np.array([-0.05]))
        expected = way * math.sin(angle) * lower_x + math.cos(angle) * (0.06 - 0.08) + 0.05
        assert gap == pytest.approx([expected])


def test_side_g_of_a_dip_is_positive_in_a_left_turn(capsys: pytest.CaptureFixture[str]) -> None:
    check([str(DEMO / "dunlin.json"), str(DEMO / "saltmarsh.csv"), "--json"])
    dips = json.loads(capsys.readouterr().out)["settled"]["dips"]
    assert {dip["hand"] for dip in dips} == {"left", "right"}
    for dip in dips:
        assert (dip["side_g"] > 0.0) == (dip["hand"] == "left")
        assert math.hypot(dip["side_g"], dip["fore_g"]) == pytest.approx(dip["load_g"], abs=2e-3)


def dry_log(share: np.ndarray) -> Any:
    time = np.arange(len(share)) * 0.01
    log = Log(time, *np.zeros((4, len(share))))
    return find_dips(log, -share, share, ())


@pytest.mark.parametrize(("gap", "dips"), [(3, 1), (8, 2)])
def test_gaps_under_a_twentieth_of_a_second_are_joined(gap: int, dips: int) -> None:
    share = np.concatenate([np.zeros(20), np.ones(20), np.zeros(gap), np.ones(20), np.zeros(20)])
    assert len(dry_log(share).dips) == dips


@pytest.mark.parametrize(("share", "draws"), [(0.04, 0.0), (0.06, 0.2)])
def test_air_is_drawn_from_a_twentieth_on(share: float, draws: float) -> None:
    level = np.concatenate([np.zeros(20), np.full(20, share), np.zeros(20)])
    assert dry_log(level).draws_air == pytest.approx(draws, abs=0.02)


@pytest.mark.parametrize(
    ("gap", "state"),
    [(6.2, "caution"), (6.35, "good"), (9.5, "good"), (9.55, "good"), (9.7, "caution")],
)
def test_the_mouths_gap_to_the_floor(box_document: Make, gap: float, state: str) -> None:
    """1/4 to 3/8 in, common practice, no published source."""
    found = about(build_from(box_document(pickup__gap_mm=gap)), "pickup.gap_mm")
    assert found[0][0] == state


@pytest.mark.parametrize(("depth", "state"), [(127.0, "good"), (125.0, "caution")])
def test_a_plugs_height_over_the_lowest_point(box_document: Make, depth: float, state: str) -> None:
    """Ours: up to 8 mm of oil may stay behind; the box is 140 deep, the plug's hole 12 wide."""
    document = box_document(pan__bosses=[boss("drain_plug", 200, 120, depth)])
    assert about(build_from(document), "pan.bosses.0")[0][0] == state


@pytest.mark.parametrize(("depth", "state"), [(23.5, "good"), (22.5, "bad")])
def test_a_trays_room_under_the_crank(box_document: Make, depth: float, state: str) -> None:
    """Ours: 3 mm; the circle's lowest point is 20 mm below the rail."""
    crank = {"height_mm": 60, "swept_radius_mm": 80, "from_x_mm": 20, "to_x_mm": 380}
    tray = {
        "kind": "horizontal", "name": "tray", "depth_mm": depth, "role": "windage_tray",
        "outline_mm": [[0, -60], [400, -60], [400, 60], [0, 60]], "open_pct": 35,
    }  # fmt: skip
    build = build_from(box_document(car__crank=crank, pan__plates=[tray]))
    assert about(build, "pan.plates.0.depth")[0][0] == state


@pytest.mark.parametrize(("speed", "state"), [(2.9, "good"), (3.1, "caution")])
def test_a_quick_pickup_tube(box_document: Make, speed: float, state: str) -> None:
    build = build_from(box_document())
    flow = float(demanded_flow(build.circuit.pump, 6000 * RPM))
    bore = math.sqrt(4.0 * flow / (math.pi * speed)) * 1e3
    document = box_document(pickup__tube={"bore_mm": bore, "length_mm": 200})
    assert about(build_from(document), "circuit.runs.1.line")[0][0] == state


@pytest.mark.parametrize(
    ("share", "telling"), [(ON_RELIEF.most - 0.01, True), (ON_RELIEF.most + 0.01, False)]
)
def test_a_reading_on_the_relief_tells_nothing_anywhere(
    box_document: Make, share: float, telling: bool
) -> None:
    """One edge for the check on the pan and for what the mouth is asked for: 0.85."""
    assert pytest.approx(0.85) == ON_RELIEF.most
    row = reading(3000, 5.0 * share)
    told = bearings_told(PUMP, 5.0, [row], 100.0)
    assert (told is not None) == telling
    build = build_from(box_document(pump__relief_bar=5.0))
    records = Records(gauge_readings=(row,))
    assert (about(build, "records.gauge", None, records)[0][0] == "good") == telling


def test_which_reading_tells_of_the_relief() -> None:
    """The highest below it, with oil within 20 K of the running one."""
    low, high, cold = reading(1000, 1.0), reading(2000, 4.0), reading(500, 4.1, warm=79.0)

    def flow(*rows: GaugeReading) -> float | None:
        told = bearings_told(PUMP, 5.0, rows, 100.0)
        return None if told is None else told.flow_l_min / 60e3 * 5.0 / told.at_bar

    def expected(rpm: float, bar: float) -> Any:
        return pytest.approx(float(demanded_flow(PUMP, rpm * RPM)) * 5.0 / bar)

    assert flow(low, high, cold) == expected(2000, 4.0)
    assert flow(high, low) == expected(2000, 4.0)
    assert flow(low, high, reading(500, 4.1, warm=81.0)) == expected(500, 4.1)
    assert flow(reading(2000, 4.0, warm=121.0)) is None
    assert flow(reading(2000, 4.0, warm=119.0)) is not None


def test_how_sure_the_bearings_are() -> None:
    """Readings that part by more than a trial's 16 % say so: 10 and 20 L/min a bar."""
    rows = [reading(1000, 2.0), reading(3000, 3.0)]
    told = bearings_told(PUMP, 5.0, rows, 100.0)
    assert told is not None
    assert told.uncertainty_pct == pytest.approx(100 * 5 / 15, abs=0.1)
    assert told.source == "2 gauge readings, the highest 3 bar at 3000 rpm"
    one = bearings_told(PUMP, 5.0, rows[:1], 100.0)
    assert one is not None and one.uncertainty_pct == 16.0


def test_braking_holds_its_load_forward() -> None:
    """Oil is thrown the other way than the car accelerates: forward is 0, left 90 degrees."""
    time = np.arange(0.0, 10.0, 0.1)
    pull = np.where((time >= 3.0) & (time < 6.0), STANDARD_GRAVITY, 0.0)
    one = np.ones_like(time)
    braking = held_loads(Log(time, 30 * one, -pull, 0 * one, 600 * one), (1.0,), 4)
    right_turn = held_loads(Log(time, 30 * one, 0 * one, -pull, 600 * one), (1.0,), 4)
    assert braking.load[0].round(2).tolist() == [1.0, 0.0, 0.0, 0.0]
    assert right_turn.load[0].round(2).tolist() == [0.0, 1.0, 0.0, 0.0]


@pytest.mark.parametrize(
    ("leaf", "tilt_g", "opens"),
    [("metal", 0.018, True), ("rubber", 0.018, False), ("rubber", 0.06, True)],
)
def test_a_leaf_opens_from_its_own_stiffness_on(leaf: Any, tilt_g: float, opens: bool) -> None:
    """Two rooms of 0.2 m: at the wall between them levels differ by 0.2 m times the tilt of g.

    At 0.018 g that is 3.6 mm of oil or 30 Pa, between what a metal leaf takes and a rubber one; at
    0.06 g it is 100 Pa.
    """
    assert LEAVES["metal"] < 30.0 < LEAVES["rubber"] < 100.0
    gate = {
        "name": "G", "from_start_mm": 40, "width_mm": 40, "lower_depth_mm": 0, "height_mm": 20,
        "gate": Gate(swings="left", leaf=leaf, leak_pct=0.0).model_dump(),
    }  # fmt: skip
    wall = VerticalPlate.model_validate({
        "kind": "vertical", "name": "W", "from_mm": (200, 0), "to_mm": (200, 120),
        "top_depth_mm": -100, "openings": [gate],
    })  # fmt: skip
    wanted = ([0.2], [0.04, 0.08], [0.02])
    size = (0.4, 0.12, 0.1)
    oil = box_of_oil(
        size, 0.01, 0.4 * 0.12 * 0.06, plates=[wall], lines=lines_with(size, 0.01, wanted)
    )
    ways = []
    for sign in (1.0, -1.0):  # whichever way this leaf swings
        oil = box_of_oil(
            size, 0.01, 0.4 * 0.12 * 0.06, plates=[wall], lines=lines_with(size, 0.01, wanted)
        )

        def ramped(time: float, sign: float = sign) -> np.ndarray:
            return REST + np.array([sign * tilt_g * G * min(1.0, time / 1.5), 0.0, 0.0])

        run(oil, 3.0, ramped)
        ways.append(abs(float(oil.flow[0])) * 1e6)  # mL
    assert (max(ways) > 20.0) == opens, ways
    assert min(ways) < 5.0  # never the other way


def turns(*spans: tuple[float, float]) -> Log:
    """A log at 1 g to the left over some stretches [s]."""
    time = np.arange(0.0, 30.0, 0.02)
    side = np.zeros_like(time)
    for start, end in spans:
        side[(time > start) & (time < end)] = 9.8
    return Log(time, *np.zeros((2, len(time))), side, time)


@pytest.mark.parametrize(("apart", "corners"), [(0.9, 1), (1.1, 2)])
def test_stretches_of_one_hand_close_together_are_one_corner(apart: float, corners: int) -> None:
    """Ours: 0.8 s between them, once smoothed over 0.5 s, which takes 0.2 s off a gap at 0.3 g."""
    assert len(find_corners(turns((5.0, 8.0), (8.0 + apart, 11.0 + apart)))) == corners


@pytest.mark.parametrize(("lasts", "corners"), [(0.3, 0), (0.45, 1)])
def test_a_flick_is_no_corner(lasts: float, corners: int) -> None:
    """Ours: 0.6 s, once smoothed over 0.5 s, which adds 0.2 s to a stretch at 0.3 g."""
    assert len(find_corners(turns((5.0, 5.0 + lasts)))) == corners


@pytest.mark.parametrize(
    ("time", "said"), [(11.2, "on a straight"), (10.8, "out of corner 1"), (2.2, "into corner 1")]
)
def test_three_seconds_round_a_corner_are_its_own(time: float, said: str) -> None:
    (corner,) = find_corners(turns((5.0, 8.0)))
    assert corner.end == pytest.approx(8.1, abs=0.2)
    assert place_on_lap((corner,), time)[1] == said


def test_where_zones_meet_the_deeper_floor_counts(box_document: Make) -> None:
    """On the line between a sump and a shelf, whichever of them comes first."""
    sump = {
        "name": "sump", "outline_mm": [[0, -120], [200, -120], [200, 120], [0, 120]],
        "floor": {"kind": "flat", "depth_mm": 140},
    }  # fmt: skip
    shelf = {
        "name": "shelf", "outline_mm": [[200, -120], [400, -120], [400, 120], [200, 120]],
        "floor": {"kind": "flat", "depth_mm": 60},
    }  # fmt: skip
    for zones in ([sump, shelf], [shelf, sump]):
        document = box_document(pan__zones=zones, pickup__x_mm=100)
        pan = assemble_pan(build_from(document))
        deep = pan.zone_at(0.2, 0.0)
        assert deep is not None and pan.zones[deep].name == "sump"
        assert pan.floor_at(0.2, 0.0) == pytest.approx(-0.14)
        beside = pan.zone_at(0.3, 0.0)
        assert beside is not None and pan.zones[beside].name == "shelf"
        assert pan.zone_at(0.5, 0.0) is None


@pytest.mark.parametrize(("hold", "held"), [(1.0, 1.0), (1.02, 0.0)])
def test_a_load_is_held_from_its_first_sample_to_its_last(hold: float, held: float) -> None:
    """51 samples at 50 Hz span one second, and no more."""
    time = np.arange(0.0, 6.0, 0.02)
    side = np.zeros_like(time)
    side[100:151] = -9.80665  # a right turn throws the oil to the left
    log = Log(time, 30 + 0 * time, 0 * time, side, 600 + 0 * time)
    assert held_loads(log, (hold,), 4).load[0].tolist() == pytest.approx([0.0, held, 0.0, 0.0])
