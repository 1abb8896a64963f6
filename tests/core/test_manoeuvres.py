"""Loads without a logger, and a log on other tyres."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast import forecast_settled
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import KINDS, Manoeuvre, manoeuvre_log, with_grip
from bilge_core.physics.gravity import STANDARD_GRAVITY

CORNER = Manoeuvre("corner", "left", 1.2, 0.5, 4.0, 600.0)


def loads(log: Log) -> tuple[np.ndarray, np.ndarray]:
    return log.leftward / STANDARD_GRAVITY, log.forward / STANDARD_GRAVITY


def test_a_corner_is_held_as_long_as_said() -> None:
    log = manoeuvre_log(CORNER)
    side, fore = loads(log)
    assert log.time[side > 1.2 - 1e-9].size == pytest.approx(4.0 * 50, abs=1)
    assert np.all(fore == 0.0)
    assert side[0] == side[-1] == 0.0
    # halfway up a half-cosine it is at half its height
    assert np.interp(2.25, log.time, side) == pytest.approx(0.6, abs=0.01)
    # impulse: hold and one ramp's worth, whatever its shape
    assert np.trapezoid(side, log.time) == pytest.approx(1.2 * 4.5, rel=1e-3)


@pytest.mark.parametrize(
    ("kind", "low", "high", "fore_low", "fore_high"),
    [
        ("corner", 0.0, 1.2, 0.0, 0.0),
        ("braking", 0.0, 0.0, -1.2, 0.0),
        ("launch", 0.0, 0.0, 0.0, 1.2),
        ("chicane", -1.2, 1.2, 0.0, 0.0),
        ("drift", -1.2, 1.2, 0.0, 0.25),
        ("skid_pad", 0.0, 1.2, 0.0, 0.0),
        ("hill", 0.0, 0.0, 0.0, 1.2),
    ],
)
def test_each_kind_loads_the_way_it_says(
    kind: str, low: float, high: float, fore_low: float, fore_high: float
) -> None:
    side, fore = loads(manoeuvre_log(replace(CORNER, kind=kind)))  # type: ignore[arg-type]
    found = (side.min(), side.max(), fore.min(), fore.max())
    assert found == pytest.approx((low, high, fore_low, fore_high), abs=1e-9)
    mirrored, _ = loads(manoeuvre_log(replace(CORNER, kind=kind, hand="right")))  # type: ignore[arg-type]
    assert mirrored == pytest.approx(-side)


def test_kinds_are_all_there_and_can_be_judged(dunlin: Build) -> None:
    for kind in KINDS:
        log = prepare(manoeuvre_log(replace(CORNER, kind=kind)))
        assert np.all(np.isfinite(forecast_settled(dunlin, log).lap.cover))


def test_a_long_left_hander_runs_the_demo_dry_for_as_long_as_it_lasts(dunlin: Build) -> None:
    """Steady 1.4 g with 0.6 g of drive lies outside the rose; the dip is the hold and a little."""
    log = manoeuvre_log(replace(CORNER, level=1.4))
    hard = replace(log, forward=0.45 * log.leftward)
    result = forecast_settled(dunlin, hard)
    assert len(result.dry_time.dips) == 1
    assert 4.0 < result.dry_time.dry < 5.0
    assert result.dry_time.dips[0].hand == "left"


@pytest.mark.parametrize(
    "wrong",
    [{"level": 0.0}, {"level": 5.0}, {"ramp": -1.0}, {"hold": math.nan}, {"engine_speed": 1e4}],
)
def test_figures_that_make_no_sense_are_refused(wrong: dict[str, float]) -> None:
    with pytest.raises(InvalidQuantity):
        manoeuvre_log(replace(CORNER, **wrong))  # type: ignore[arg-type]


def test_better_tyres_keep_the_line(saltmarsh: Log) -> None:
    """Radius is v² / a: it must not change, nor the distance driven (kinematics)."""
    better = with_grip(saltmarsh, 1.21)
    turning = np.abs(saltmarsh.leftward) > 5.0
    radius = saltmarsh.speed[turning] ** 2 / saltmarsh.leftward[turning]
    assert better.speed[turning] ** 2 / better.leftward[turning] == pytest.approx(radius)
    driven = [np.trapezoid(log.speed, log.time) for log in (saltmarsh, better)]
    assert driven[1] == pytest.approx(driven[0])
    assert better.duration == pytest.approx(saltmarsh.duration / 1.1)
    assert better.engine_speed.max() <= saltmarsh.engine_speed.max()
    gaining = saltmarsh.forward > 0
    assert np.array_equal(better.forward[gaining], saltmarsh.forward[gaining])
    assert len(find_corners(prepare(better))) == len(find_corners(saltmarsh))


def test_better_tyres_starve_an_engine_that_lived(deeper: Build, saltmarsh: Log) -> None:
    """An engine that survived on road tyres starves when the tyres get better (common practice,
    no published source)."""
    assert forecast_settled(deeper, saltmarsh).verdict.state == "sound"
    least = [
        forecast_settled(deeper, prepare(with_grip(saltmarsh, factor))).least_cover
        for factor in (0.8, 1.0, 1.2, 1.4)
    ]
    assert least == sorted(least, reverse=True)
    for factor in (0.1, 5.0, math.nan):
        with pytest.raises(InvalidQuantity, match="factor"):
            with_grip(saltmarsh, factor)
