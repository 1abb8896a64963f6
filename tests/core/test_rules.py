"""Every limit of `rules/` on both sides of its edge, and what each rule must say of itself."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import numpy as np
import pytest
from bilge_core.drains.over_lap import DrainOverLap
from bilge_core.forecast.back_ups import find_back_ups
from bilge_core.forecast.dips import find_dips
from bilge_core.forecast.on_record import Apart
from bilge_core.forecast.pressure import PressureOverLap, find_pressure_dips
from bilge_core.forecast.verdict import give_verdict
from bilge_core.loads.log import Log
from bilge_core.rules import (
    RULES,
    Check,
    Rule,
    around,
    bolts,
    bosses,
    circuit,
    crank,
    drains,
    dry,
    gauge,
    lines,
    making,
    pickup,
    plates,
)
from bilge_core.rules.inspection import check_item, check_unseen
from bilge_core.rules.mouth import GAP, check_gap, gap_words

from tests.core.book_edges import BOOK_EDGES

State = str | None


class Said(str):
    """A check's state, with its words."""

    words = ""


def of(check: Check | None) -> Said | None:
    if check is None:
        return None
    said = Said(check.state)
    said.words = check.words
    return said


def lap(share: list[float], step: float = 0.01) -> tuple[Log, np.ndarray]:
    time = np.arange(len(share)) * step
    return Log(time, *np.zeros((4, len(share)))), np.array(share)


def dips_of(share: list[float], shortest: float = 0.0) -> int:
    log, gas = lap(share)
    return len(find_dips(log, -gas, gas, (), shortest).dips)


def verdict_of(share: float) -> str:
    log, gas = lap([share] * 50)
    return give_verdict(find_dips(log, -gas, gas, ()), 0.01).state


def gallery_over(share: float, seconds: float = 1.0, rpm: float = 6000.0) -> PressureOverLap:
    """A second of usual pressure, so long at a share of it, and a second of it again."""
    time = np.arange(0.0, 2.0 + seconds, 0.001)
    log = Log(time, *np.zeros((3, len(time))), np.full(len(time), rpm * math.pi / 30.0))
    usual = np.full(len(time), 5e5)
    low = (time >= 1.0) & (time <= 1.0 + seconds)
    return find_pressure_dips(log, np.where(low, share * usual, usual), usual, ())


def backs_up_for(seconds: float) -> tuple[object, ...]:
    """Oil a millimetre over the seals for so long."""
    time = np.arange(0.0, 2.0, 0.01)
    room = np.where((time >= 0.995) & (time <= 0.995 + seconds), -1e-3, 1e-3)
    over = DrainOverLap(time, room, *(0.0 * time for _ in range(4)), room, *(0 * time,) * 3)
    return find_back_ups(Log(time, *np.zeros((4, len(time)))), over, ())


def openings_at(head: float) -> Check:
    area = 20e-4
    return plates.check_openings(area, plates.DISCHARGE * area * math.sqrt(2 * 9.80665 * head), 6e3)


# rule's key, a figure to what is said of it, just inside and just outside, and what is said there
EDGES: list[tuple[str, Callable[[float], object], float, float, object, object]] = [
    *(
        (
            rule.key, partial(lambda service, v: of(lines.check_speed(service, v, "f")), service),
            rule.most - 0.01, rule.most + 0.01, "good", "caution",
        )
        for service, rule in lines.SPEEDS.items()
    ),
    *BOOK_EDGES,
    (
        "belt_line", lambda degrees: of(dry.check_belt_line(math.radians(degrees), 1e-3)), 0.249,
        0.251, "good", "bad",
    ),
    ("belt_mesh", lambda teeth: of(dry.check_mesh(teeth, "crank")), 6.01, 5.99, "good", "bad"),
    ("drive_ratio", lambda ratio: of(dry.check_drive_ratio(ratio, 0.5)), 0.5099, 0.5101, "good",
     "bad"),
    ("line_loss", lambda p: of(lines.check_loss(p, "f")), 49e3, 51e3, "good", "caution"),
    (
        "heat_sleeve", lambda gap: of(lines.check_heat("exhaust", gap, False, "f")),
        0.061, 0.059, None, "caution",
    ),
    ("clips", lambda s: of(lines.check_clips(s, 1.0, "f")), 0.299, 0.301, "good", "caution"),
    (
        "parallel_bend", lambda d: of(lines.check_parallel("t", 0.02, 0.02 + d, 0.01, 0.06, "f")),
        1.9e-3, 2.1e-3, "good", "caution",
    ),
    ("slack", lambda s: of(lines.check_slack(s, 1.0, "f")), 0.0201, 0.0199, "good", "caution"),
    ("hose_cut", lambda cut: of(lines.check_cut(cut, "f")), 0.051, 0.049, "good", "caution"),
    ("ends_meet", lambda d: of(lines.check_meets("x", d, "f")), 0.019, 0.021, "good", "bad"),
    (
        "hose_end_turns", lambda a: of(lines.check_hose_end("x", a, "f")),
        24.9, 25.1, "good", "caution",
    ),
    ("draws_air", verdict_of, 0.0499, 0.0501, "sound", "caution"),
    ("runs_dry", verdict_of, 0.4999, 0.5001, "caution", "not_safe"),
    (
        "dips_apart", lambda gap: dips_of([0, 1, 1, *[0] * round(gap / 0.01), 1, 1, 0]),
        0.07, 0.04, 2, 1,
    ),
    ("shortest_dip", lambda shortest: dips_of([0, 1, 1, 0], shortest), 0.0199, 0.0201, 1, 0),
    ("pressure_dip", lambda share: len(gallery_over(share).dips), 0.601, 0.599, 0, 1),
    ("shortest_pressure_dip", lambda span: len(gallery_over(0.2, span).dips), 0.101, 0.097, 1, 0),
    ("engine_runs", lambda rpm: len(gallery_over(0.2, rpm=rpm).dips), 301.0, 299.0, 1, 0),
    (
        # 5 bar is 72.5 psi: at 7250 rpm
        "pressure_line", lambda rpm: gallery_over(1.0, rpm=rpm).under_line > 1.0,
        7240.0, 7260.0, False, True,
    ),
    ("mouth_gap", lambda gap: of(check_gap(gap)), 6.31e-3, 6.29e-3, "good", "caution"),
    ("mouth_gap", lambda gap: of(check_gap(gap)), 9.59e-3, 9.61e-3, "good", "caution"),
    ("openings_head", lambda head: of(openings_at(head)), 9.99e-3, 10.01e-3, "good", "bad"),
    (
        "plate_end", lambda gap: of(plates.check_end("P", gap, "f")),
        1.99e-3, 2.01e-3, None, "caution",
    ),
    (
        "drain_entry", lambda h: of(bosses.check_drain("d", h, None, "f")),
        1e-5, -1e-5, "good", "bad",
    ),
    (
        "drain_under", lambda s: of(bosses.check_drain("d", 0.02, s, "f")),
        0.049, 0.051, "good", "caution",
    ),
    (
        "plug_height", lambda h: of(bosses.check_plug("p", h, "f")),
        7.9e-3, 8.1e-3, "good", "caution",
    ),
    (
        "spanner_room", lambda gap: of(bosses.check_spanner("b", gap + 6e-3, 12e-3, 0.02, "f")),
        12.1e-3, 11.9e-3, None, "caution",
    ),
    (
        "spanner_depth", lambda deep: of(bosses.check_spanner("b", 0.01, 12e-3, deep, "f")),
        44.9e-3, 45.1e-3, "caution", None,
    ),
    (
        "tube_speed", lambda v: of(pickup.check_tube(0.02, v, 6e3, "f")),
        2.99, 3.01, "good", "caution",
    ),
    ("oil_below_crank", lambda gap: of(crank.check_standing(gap)), 1e-5, -1e-5, "good", "bad"),
    ("tray_room", lambda r: of(crank.check_tray("t", r, True, "f")), 3.1e-3, 2.9e-3, "good", "bad"),
    ("scraper_gap", lambda g: of(crank.check_scraper("s", g, "f")), 1.1e-3, 0.9e-3, "good", "bad"),
    (
        "scraper_gap", lambda g: of(crank.check_scraper("s", g, "f")),
        2.9e-3, 3.1e-3, "good", "caution",
    ),
    ("crank_splash", lambda v: v > crank.SPLASH.most, 19e-6, 21e-6, False, True),
    ("thrown_alike", crank.THROWN_ALIKE.holds, 1.149, 1.151, True, False),
    ("thrown_alike", crank.THROWN_ALIKE.holds, 0.87, 0.869, True, False),
    ("on_relief", lambda share: gauge.is_on_relief(share * 5e5, 5e5), 0.849, 0.851, False, True),
    (
        "over_relief", lambda share: of(gauge.check_highest(share * 5.0, 5.0)),
        1.09, 1.11, None, "bad",
    ),
    (
        "inlet_depression", lambda kpa: pickup.INLET_DEPRESSION.holds(kpa * 1e3), 24.9, 25.1,
        True, False,
    ),
    ("oil_apart", lambda litres: Apart(litres * 1e-3, 0.0).is_little, -0.049, -0.051, True, False),
    ("draw_apart", lambda flow: Apart(0.0, flow / 60e3).is_little, 0.99, 1.01, True, False),
    (
        "bottle_charge", lambda share: of(circuit.check_charge("b", share * 5.0, 5.0, "f")),
        0.99, 1.01, None, "bad",
    ),
    (
        "bottle_size", lambda share: of(circuit.check_size("b", share * 6.0, 6.0, "f")),
        0.49, 0.51, None, "caution",
    ),
    ("jets_apart", gauge.JETS_APART.holds, 49.9, 50.1, True, False),
    ("like_warmth", gauge.LIKE_WARMTH.holds, 19.9, 20.1, True, False),
    (
        "bolt_engagement", lambda n: of(bolts.check_bolts(6e-3 + n * 6e-3, 6e-3, 6.6e-3, 0.0)),
        1.51, 1.49, "good", "caution",
    ),
    (
        "one_source", lambda n: of(circuit.check_sources("gallery", ["pump"] * n, "f")),
        1, 0, None, "bad",
    ),
    (
        "one_source", lambda n: of(circuit.check_sources("gallery", ["pump"] * n, "f")),
        1, 2, None, "bad",
    ),
    ("drain_seal", lambda m: of(drains.check_margin("d", m, 1.0, "f")), 0.02, -1e-4, "good", "bad"),
    (
        "drain_spare", lambda m: of(drains.check_margin("d", m, 0.0, "f")),
        10.1e-3, 9.9e-3, "good", "caution",
    ),
    ("back_up", lambda span: len(backs_up_for(span)), 0.06, 0.03, 1, 0),
    ("drain_falls", lambda deg: of(drains.check_fall("d", deg, "f")), 10.1, 9.9, None, "caution"),
    (
        "drain_reducer", lambda s: of(drains.check_reducer("d", "f", s, "f")),
        0.91, 0.89, None, "caution",
    ),
    ("drain_flanges", lambda s: of(drains.check_flanges("d", s, "f")), 0.98, 0.96, None, "caution"),
    (
        "gravity_bore", lambda b: of(drains.check_bore("d", b, "f")),
        13.6e-3, 13.4e-3, None, "caution",
    ),
    (
        "feed_fits_drain", lambda s: of(drains.check_feed("d", s * 1e-5, 1e-5, "f")),
        0.99, 1.01, "good", "bad",
    ),
    ("own_stage", lambda n: of(drains.check_stage("s", int(n), False, "f")), 1.0, 2.0, None, "bad"),
    (
        "stage_carries", lambda s: of(drains.check_sweep("s", s, 900.0, "f")),
        0.89, 0.91, "good", "bad",
    ),
    (
        "stage_suction", lambda p: of(drains.check_suction("d", p, "f")),
        19e3, 21e3, None, "caution",
    ),
    ("crankcase", lambda p: of(drains.check_crankcase(p, "f")), 990.0, 1010.0, "good", "caution"),
    ("vent_under", lambda s: of(drains.check_vent("v", s, "f")), 0.049, 0.051, None, "caution"),
    ("scavenge_ratio", lambda ratio: of(dry.check_ratio(ratio, "x")), 2.0, 1.99, "good",
     "caution"),
    ("scavenge_ratio", lambda ratio: of(dry.check_ratio(ratio, "x")), 3.0, 3.01, "good",
     "caution"),
    ("pump_speed", dry.PUMP_SPEED.holds, 5000.0, 5001.0, True, False),
    ("return_speed", dry.RETURN_SPEED.holds, 5.5, 5.51, True, False),
    ("outlet_cover", dry.OUTLET_COVER.holds, 0.060, 0.0599, True, False),
    ("case_pull", dry.CASE_PULL.holds, 25e3, 25.1e3, True, False),
    ("tank_vent", dry.TANK_VENT.holds, 1e3, 1.01e3, True, False),
    ("tank_time", dry.TANK_TIME.holds, 8.0, 7.99, True, False),
    ("tank_full", dry.TANK_FULL.holds, 0.8, 0.801, True, False),
    ("hole_in_sheet", making.HOLE.holds, 1.0, 0.99, True, False),
    ("socket_room", making.SOCKET.holds, 1.2, 1.19, True, False),
    ("torch_room", making.TORCH.holds, 60e-3, 59.9e-3, True, False),
    ("torch_angle", making.TORCH_ANGLE.holds, 45.0, 44.9, True, False),
    ("web_of_sheet", making.WEB.holds, 1.5, 1.49, True, False),
    ("drawing_scale", lambda s: making.fault_of_scale(s, 1.0) is None, 1.0049, 1.0051, True, False),
    ("drawing_scale", lambda s: making.fault_of_scale(s, 1.0) is None, 0.9951, 0.9949, True, False),
    ("left_lying", dry.LEFT_LYING.holds, 1.5e-3, 1.51e-3, True, False),
]  # fmt: skip


@pytest.mark.parametrize(
    ("key", "said", "inside", "outside", "within", "beyond"),
    EDGES,
    ids=[f"{row[0]} {row[3]:g}" for row in EDGES],
)
def test_both_sides_of_every_edge(
    key: str, said: Callable[[float], object], inside: float, outside: float,
    within: object, beyond: object,
) -> None:  # fmt: skip
    assert said(inside) == within
    assert said(outside) == beyond


def test_no_limit_is_left_out_above() -> None:
    limits = {
        (rule.key, side)
        for rule in RULES
        for side, limit in (("low", rule.low), ("high", rule.high))
        if limit is not None
    }
    tried = [row[0] for row in EDGES]
    assert {key for key, _ in limits} == set(tried)
    assert len(limits) == len(tried)


@pytest.mark.parametrize("rule", RULES, ids=[rule.key for rule in RULES])
def test_a_rule_says_who_says_so(rule: Rule) -> None:
    assert rule.words
    assert rule.source
    assert (rule.unit != "") == (rule.low is not None or rule.high is not None)


def test_rules_are_known_by_different_keys() -> None:
    assert len({rule.key for rule in RULES}) == len(RULES)


def test_the_mouths_gap_in_inches() -> None:
    """1/4 to 3/8 in (common practice, no published source): 6.35 to 9.525 mm."""
    assert check_gap(6.35e-3).state == check_gap(9.525e-3).state == "good"
    assert GAP.least <= 6.4e-3
    assert GAP.most >= 9.5e-3
    assert gap_words() in check_gap(0.02).words


def test_only_what_is_wrong_offers_to_be_mended() -> None:
    away = plates.check_end("P1", 0.005, "pan.plates.0.from_mm")
    assert away is not None
    assert away.fix == "carry_to_wall"
    assert openings_at(0.001).fix is None


def test_openings_against_torricelli() -> None:
    """``v = sqrt(2 g h)`` through 0.6 of the area: 0.01 m of oil pass 0.2657 L/s a 10 cm²."""
    words = plates.check_openings(10e-4, 0.6 * 10e-4 * math.sqrt(2 * 9.80665 * 0.01), 6e3).words
    assert "16 L/min" in words
    assert "10.0 mm of oil" in words


@pytest.mark.parametrize(
    ("gap", "state"), [(-0.001, "bad"), (0.0, "caution"), (0.0099, "caution"), (0.01, None)]
)
def test_a_gap_against_the_one_wanted(gap: float, state: State) -> None:
    assert of(around.check_keep_out("rack", gap, 0.01, "car.keep_outs.0")) == state


@pytest.mark.parametrize(
    ("seal", "age", "state"),
    [
        ("brazed", "unknown", None), ("none", "new", "bad"), ("o_ring", "new", "good"),
        ("gasket", "reused", "caution"), ("liquid", "unknown", "caution"),
    ],
)  # fmt: skip
def test_the_joints_seal(seal: str, age: str, state: State) -> None:
    assert of(pickup.check_joint(seal, age, "f")) == state


@pytest.mark.parametrize(
    ("found", "state"),
    [("sound", None), ("not_looked", None), ("watch", "caution"), ("replace", "bad")],
)
def test_what_was_looked_at(found: str, state: State) -> None:
    assert of(check_item("Cracks", found, "pan.inspection.0")) == state


def test_what_was_not_looked_at() -> None:
    assert check_unseen(0, 10) is None
    assert of(check_unseen(1, 10)) == "caution"


def test_bolts_longer_by_the_spacer() -> None:
    """A spacer makes the bolt longer and its hold no shorter (common practice)."""
    thin, thick = (bolts.check_bolts(20e-3, 6e-3, 6.6e-3, by) for by in (0.0, 10e-3))
    assert thin.state == thick.state == "good"
    assert "20.0 mm hold 14.0 mm" in thin.words
    assert "30.0 mm with the spacer hold 14.0 mm" in thick.words


@pytest.mark.parametrize(
    ("is_over", "is_covered", "state"), [(False, False, "bad"), (True, False, "caution")]
)
def test_a_dipstick_off_the_pan_is_worse_than_one_over_a_dry_floor(
    is_over: bool, is_covered: bool, state: str
) -> None:
    assert of(bosses.check_dipstick("stick", is_over, is_covered, "pan.bosses.0")) == state
    assert bosses.check_dipstick("stick", True, True, "pan.bosses.0") is None
