"""Cover, gas share, dips, rose and verdict."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.errors import ConvergenceError, InvalidQuantity
from bilge_core.forecast import find_dips, forecast_settled, give_verdict
from bilge_core.forecast.dips import Dip, DryTime, stretches_above
from bilge_core.loads.log import Log
from bilge_core.oil import GRADES, hot_volume_ratio, kinematic_viscosity, sae_range_at_100_c
from bilge_core.pan import assemble_pan
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.pickup.draw_down import critical_depth, gas_share, pump_volume_flow
from bilge_core.pickup.mouth import Mouth, bare_share
from bilge_core.quantities import convert, field_unit, parse_figure
from bilge_core.settled import cover_rose, level_curve, settle, settle_lap
from bilge_core.tell.settled import lap_out
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.conftest import steady_log

Make = Callable[..., dict[str, Any]]


@settings(max_examples=30, deadline=None)
@given(
    st.booleans(),
    st.floats(-1.2, 1.2),
    st.floats(-1.2, 1.2),
    st.floats(-0.03, 0.03),
    st.floats(0.005, 0.03),
)
def test_bare_share_against_random_points(
    is_round: bool, along: float, across: float, level: float, half_width: float
) -> None:
    """Share of 40 000 random points of the mouth above the surface (Monte Carlo)."""
    # a level mouth in the surface itself is as bare as covered
    assume(abs(level) > 1e-9 or abs(along) + abs(across) > 1e-6)
    noise = np.random.default_rng(3)
    half = (0.02, 0.02 if is_round else half_width)
    points = noise.uniform(-1, 1, (40_000, 2))
    if is_round:
        points = points[np.hypot(*points.T) <= 1]
    normal = np.array([math.tan(along), math.tan(across), 1.0])
    normal /= np.linalg.norm(normal)
    above = (points * half) @ normal[:2] > level
    share = bare_share(Mouth(np.zeros(3), *half, is_round), normal, level)
    assert share == pytest.approx(above.mean(), abs=0.012)


def test_bare_share_of_a_level_mouth_is_all_or_nothing() -> None:
    mouth = Mouth(np.zeros(3), 0.02, 0.03, False)
    up = np.array([0.0, 0.0, 1.0])
    assert bare_share(mouth, up, 0.001) == 0.0
    assert bare_share(mouth, up, -0.001) == 1.0
    with pytest.raises(InvalidQuantity, match="level"):
        bare_share(mouth, up, math.nan)


def test_gas_share_rises_as_cover_falls() -> None:
    cover = np.linspace(0.03, 0.0, 50)
    share = [gas_share(float(c), 0.02, 0.0) for c in cover]
    assert share[0] == 0.0
    assert share[-1] == 0.5
    assert np.all(np.diff(share) >= 0)
    assert gas_share(-0.01, 0.02, 0.9) == 0.9
    for bad in ({"bare": 1.1}, {"cover": math.nan}, {"critical": math.inf}):
        with pytest.raises(InvalidQuantity):
            gas_share(**{"cover": 0.01, "critical": 0.02, "bare": 0.0, **bad})


def test_critical_depth_scales_as_flow_to_two_fifths() -> None:
    depth = critical_depth(np.array([1e-4, 32e-4]), 9.81)
    assert depth[1] / depth[0] == pytest.approx(4.0)
    assert float(critical_depth(0.0, 9.81)) == 0.0
    for flow, gravity in ((-1e-4, 9.8), (math.nan, 9.8), (1e-4, 0.0), (1e-4, math.inf)):
        with pytest.raises(InvalidQuantity):
            critical_depth(flow, gravity)


def test_pump_flow_refuses_what_no_pump_does() -> None:
    assert pump_volume_flow(12e-6, 0.5, np.zeros(3)).tolist() == [0.0] * 3
    for arguments in ((-1e-6, 1.0, 100.0), (1e-6, math.nan, 100.0), (1e-6, 1.0, -100.0)):
        with pytest.raises(InvalidQuantity):
            pump_volume_flow(*arguments)


def test_lap_agrees_with_single_loads(dunlin: Build, saltmarsh: Log) -> None:
    pan = assemble_pan(dunlin)
    lap = settle_lap(pan, dunlin, saltmarsh)
    for at in range(0, len(saltmarsh.time), 397):
        gravity = apparent_gravity(dunlin.car, saltmarsh.forward[at], saltmarsh.leftward[at])
        surface = settle(pan, gravity)
        assert lap.cover[at] == pytest.approx(surface.cover, abs=1e-9)
        assert lap.levels[at] == pytest.approx(surface.level, abs=1e-9)
        assert lap.gas_share[at] >= surface.bare - 1e-12


def test_rose_edge_is_where_cover_is_nil(dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    rose = cover_rose(pan, dunlin.car)
    checked = 0
    for angle, edge in zip(rose.directions, rose.edge, strict=True):
        if not math.isfinite(edge):
            continue
        # oil thrown forward is a car that brakes; thrown left, a right turn
        forward, leftward = -edge * math.cos(angle), -edge * math.sin(angle)
        gravity = apparent_gravity(dunlin.car, 9.80665 * forward, 9.80665 * leftward)
        assert settle(pan, gravity).cover == pytest.approx(0.0, abs=2e-6)
        checked += 1
    assert checked > 20


def test_rose_refusals_and_a_mouth_that_is_bare_at_rest(box_document: Make) -> None:
    build = Build.model_validate(box_document(oil__volume_l=0.5))
    pan = assemble_pan(build)
    assert np.all(cover_rose(pan, build.car).edge == 0.0)
    for arguments in ({"directions": 3}, {"limit": 0.0}, {"limit": math.nan}):
        with pytest.raises(InvalidQuantity):
            cover_rose(pan, build.car, **arguments)


def test_level_curve_of_a_box_is_a_straight_line(box_document: Make) -> None:
    build = Build.model_validate(box_document())
    curve = level_curve(assemble_pan(build), np.array([0.0, 0.0, -9.8]))
    assert curve.heights == pytest.approx(curve.volumes / (0.4 * 0.24), abs=1e-9)
    with pytest.raises(InvalidQuantity, match="at least 2"):
        level_curve(assemble_pan(build), np.array([0.0, 0.0, -9.8]), points=1)
    with pytest.raises(InvalidQuantity, match="apparent gravity"):
        settle(assemble_pan(build), np.zeros(3))


def test_oil_swells_into_the_pan(box_document: Make) -> None:
    cold = assemble_pan(Build.model_validate(box_document()))
    hot = assemble_pan(Build.model_validate(box_document(oil__temperature_c=110)))
    assert cold.oil_volume == pytest.approx(5e-3, rel=1e-12)
    assert hot.oil_volume / cold.oil_volume == pytest.approx(1.073, abs=0.005)


def test_sections_have_the_area_of_the_pan(dunlin: Build) -> None:
    """Slices across the engine, summed along it, hold what the solid holds."""
    pan = assemble_pan(dunlin)
    places = np.linspace(0.001, 0.451, 226)

    def area(rings: tuple[np.ndarray, ...]) -> float:
        def one(ring: np.ndarray) -> float:
            x, y = ring.T
            return 0.5 * abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1)))

        return sum(one(ring) for ring in rings)

    areas = [area(cut_pan(pan, "x", float(at)).inside) for at in places]
    assert float(np.mean(areas)) * 0.452 == pytest.approx(pan.capacity_to_rail, rel=0.003)
    with pytest.raises(InvalidQuantity):
        cut_pan(pan, "x", math.nan)


def test_stretches_are_interpolated_and_reach_the_ends() -> None:
    time = np.array([0.0, 1.0, 2.0, 3.0])
    assert stretches_above(time, np.array([1.0, 0.0, 0.25, 1.0]), 0.5) == [
        (0.0, 0.5),
        (pytest.approx(2 + 1 / 3), 3.0),
    ]
    with pytest.raises(InvalidQuantity):
        stretches_above(time, np.array([0.0, math.nan, 0.0, 0.0]), 0.5)
    with pytest.raises(InvalidQuantity):
        stretches_above(time, np.zeros(3), 0.5)


def dips_of(share: np.ndarray, step: float) -> DryTime:
    time = np.arange(len(share)) * step
    return find_dips(Log(time, *np.zeros((4, len(share)))), -share, share, ())


def test_dips_less_than_a_twentieth_apart_are_one() -> None:
    share = np.zeros(1000)
    share[100:200] = 1.0
    share[203:300] = 1.0
    share[400:500] = 1.0
    found = dips_of(share, 0.01)
    assert [round(dip.end - dip.start, 2) for dip in found.dips] == [2.0, 1.0]
    assert found.dry == pytest.approx(2.97, abs=0.02)  # the gap itself is not dry


def test_dry_time_hardly_depends_on_the_rate() -> None:
    def share(step: float) -> np.ndarray:
        return 0.5 + 0.5 * np.sin(np.arange(0.0, 18.5, step))

    coarse, fine = dips_of(share(0.02), 0.02), dips_of(share(0.002), 0.002)
    assert coarse.dry == pytest.approx(fine.dry, abs=1e-3)


def test_dunlin_runs_dry_and_stops_with_oil_and_depth(
    dunlin: Build, deeper: Build, saltmarsh: Log
) -> None:
    as_raced = forecast_settled(dunlin, saltmarsh)
    assert as_raced.verdict.state == "not_safe"
    worst = as_raced.dry_time.dips[0]
    assert (worst.corner, worst.hand, worst.place) == (2, "left", "in corner 2")
    assert worst.start < worst.worst < worst.end
    assert worst.dry == pytest.approx(worst.end - worst.start, abs=0.06)
    assert as_raced.dry_time.dry == pytest.approx(sum(d.dry for d in as_raced.dry_time.dips))
    assert "worst for 1.1 s in corner 2, left, at 1.29 g" in as_raced.verdict.sentence
    mended = forecast_settled(deeper, saltmarsh)
    assert mended.verdict.state == "sound"
    assert mended.dry_time.dips == ()
    oil = dunlin.oil.model_copy(update={"volume_l": dunlin.oil.volume_l + 1.0})
    more = forecast_settled(dunlin.model_copy(update={"oil": oil}), saltmarsh)
    assert 0.0 < more.dry_time.dry < as_raced.dry_time.dry


def test_left_and_right_mirror(dunlin: Build) -> None:
    """A pan and its mirror image under mirrored loads see the same cover."""
    document = dunlin.model_dump()
    for zone in document["pan"]["zones"]:
        zone["outline_mm"] = [(x, -y) for x, y in zone["outline_mm"]]
    document["pickup"]["y_mm"] *= -1
    document["car"]["lean_right_deg"] *= -1
    mirrored = Build.model_validate(document)
    left, right = steady_log(0.3, 1.1), steady_log(0.3, -1.1)
    one = forecast_settled(dunlin, left).lap.cover[0]
    other = forecast_settled(mirrored, right).lap.cover[0]
    assert one == pytest.approx(other, abs=1e-9)
    assert one != pytest.approx(forecast_settled(dunlin, right).lap.cover[0], abs=1e-3)


DIP = Dip(1.0, 1.8, 0.8, 1.5, -0.02, 1.31, 1.31, 0.0, 6, "left", "in corner 6")


@pytest.mark.parametrize(
    ("dips", "draws", "state", "words"),
    [
        ((DIP,), 2.0, "not_safe", "The pickup runs dry for 0.8 s in corner 6, left, at 1.31 g."),
        ((DIP, DIP), 2.0, "not_safe", "runs dry twice a lap, worst for 0.8 s"),
        ((DIP,) * 12, 2.0, "not_safe", "runs dry 12 times a lap"),
        ((replace(DIP, dry=0.04),), 1.0, "not_safe", "dry for 0.04 s"),
        ((replace(DIP, dry=0.09),), 1.0, "not_safe", "dry for 0.09 s"),  # one place would say nil
        ((replace(DIP, dry=0.12),), 1.0, "not_safe", "dry for 0.1 s"),
        (
            (replace(DIP, hand=None, place="on a straight"),),
            1.0,
            "not_safe",
            "on a straight at 1.31",
        ),
        ((), 1.2, "caution", "draws air along for 1.2 s a lap; least cover 12 mm"),
        ((), 0.0, "sound", "covered all lap, by 12 mm"),
    ],
)
def test_verdict(dips: tuple[Dip, ...], draws: float, state: str, words: str) -> None:
    verdict = give_verdict(DryTime(dips, sum(d.dry for d in dips), draws), 0.012)
    assert verdict.state == state
    assert words in verdict.sentence


@pytest.mark.parametrize("typed", ["", "oil", "1/0", "3 quarters of a qt", "1 1", "1e999", "--3"])
def test_figures_that_are_none_are_refused(typed: str) -> None:
    with pytest.raises(InvalidQuantity):
        parse_figure(typed, "volume", "L", "L")


def test_units_of_another_kind_are_refused_by_name() -> None:
    with pytest.raises(InvalidQuantity, match="one of 'l'"):
        parse_figure("6 mm", "volume", "L", "L")
    with pytest.raises(InvalidQuantity):
        convert(1.0, "length", "qt", "mm")
    assert field_unit("depth_mm") == ("length", "mm")
    assert field_unit("drive_ratio") == ("ratio", "")


@settings(max_examples=200, deadline=None)
@given(st.text(max_size=30))
def test_no_typed_text_crashes_it(typed: str) -> None:
    try:
        assert math.isfinite(parse_figure(typed, "length", "mm", "mm"))
    except InvalidQuantity as refused:
        assert refused.requirement


@pytest.mark.parametrize("temperature", [100.0, 600.0, math.nan])
def test_oil_outside_its_range_is_refused(temperature: float) -> None:
    for formula in (kinematic_viscosity, hot_volume_ratio):
        with pytest.raises(InvalidQuantity, match="temperature"):
            formula(GRADES["5W-40"], temperature)
    with pytest.raises(InvalidQuantity, match="grade"):
        sae_range_at_100_c("17W-3")


def test_convergence_error_says_how_far_it_came() -> None:
    assert "in 40 iterations; residual 0.002" in str(ConvergenceError("level", 40, 0.002))


def test_a_log_of_many_samples_is_thinned_in_its_order(dunlin: Build) -> None:
    """Every second or third one, from the first on; a short one whole."""
    for count, every in ((7999, 1), (8000, 2), (17000, 3)):
        time = np.arange(count) * 0.01
        still = forecast_settled(dunlin, Log(time, *np.zeros((4, count))))
        told = lap_out(still).samples.time_s
        assert len(told) == math.ceil(count / every)
        assert told[:2] == [0.0, pytest.approx(0.01 * every)]
