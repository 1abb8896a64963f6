"""What the crank throws: Euler's equation by hand, its ranges, and what may be said of two pans."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.windage import AT_LEAST, find_windage, thrown_against
from bilge_core.loads.log import Log
from bilge_core.rules.crank import SPLASH, THROWN_ALIKE
from bilge_core.tell.moving import (
    KeptFigures,
    LikelyOut,
    WindageOut,
    figures_of,
    summary_of,
    thrown_beside,
)
from hypothesis import given
from hypothesis import strategies as st

STEP = 0.02


def test_power_is_eulers_equation() -> None:
    """Mass flow times the square of the speed it leaves with, by hand for one second: 0.3 L in the
    sweep are 2.55 kg/s at 850 kg/m3 and a tenth of a second; at 500 rad/s and 0.09 m (0.9 of it)
    they leave at 40.5 m/s, of which 0.8 is reached in torque: 2.55 x 0.8 x 40.5^2 W.
    """
    found = find_windage(np.full(50, 0.3e-3), np.full(50, 500.0), 0.09, 850.0, STEP)
    assert found is not None
    assert found.thrown.likely == pytest.approx(3e-3)
    assert found.power.likely == pytest.approx(2.55 * 0.8 * 40.5**2)
    # the extremes: half and twice as long in the sweep, half and all of the speed
    assert found.thrown.low == pytest.approx(1.5e-3) and found.thrown.high == pytest.approx(6e-3)
    assert found.power.low == pytest.approx(1.275 * 0.5 * 40.5**2)
    assert found.power.high == pytest.approx(5.1 * 40.5**2)


def test_it_is_the_mean_of_what_happens_not_what_happens_on_average() -> None:
    """Oil that comes only at high speed costs more than the same oil at the mean speed."""
    speed = np.repeat([200.0, 600.0], 50)
    late = find_windage(np.repeat([0.0, 0.4e-3], 50), speed, 0.08, 850.0, STEP)
    even = find_windage(np.full(100, 0.2e-3), np.full(100, 400.0), 0.08, 850.0, STEP)
    assert late is not None and even is not None
    assert late.reached == pytest.approx(even.reached)
    assert late.power.likely / even.power.likely == pytest.approx(2.0 * 600.0**2 / 400.0**2 / 2.0)


@given(st.floats(0.0, 2e-3), st.floats(50.0, 900.0), st.floats(0.04, 0.12), st.floats(1.1, 3.0))
def test_more_oil_more_speed_never_cost_less(
    reached: float, speed: float, radius: float, more: float
) -> None:
    def power(litres: float, fast: float) -> float:
        found = find_windage(np.full(60, litres), np.full(60, fast), radius, 850.0, STEP)
        assert found is not None
        assert found.power.low <= found.power.likely <= found.power.high
        return found.power.likely

    usual = power(reached, speed)
    assert power(reached * more, speed) == pytest.approx(usual * more)
    assert power(reached, speed * more) == pytest.approx(usual * more**2)


def test_nothing_is_said_of_less_than_a_second() -> None:
    enough = round(AT_LEAST / STEP)
    for count, is_told in ((enough - 1, False), (enough, True)):
        found = find_windage(np.zeros(count), np.ones(count), 0.08, 850.0, STEP)
        assert (found is not None) is is_told


@pytest.mark.parametrize(
    ("figures", "name"),
    [
        ((0.0, 850.0, STEP), "radius"),
        ((0.08, 0.0, STEP), "density"),
        ((0.08, 850.0, math.nan), "step"),
    ],
)
def test_what_cannot_be_is_named(figures: tuple[float, float, float], name: str) -> None:
    with pytest.raises(InvalidQuantity, match=name):
        find_windage(np.zeros(60), np.ones(60), *figures)
    with pytest.raises(InvalidQuantity, match="59 samples"):
        find_windage(np.zeros(60), np.ones(59), 0.08, 850.0, STEP)


def test_alike_is_told_as_alike_and_a_splash_as_none() -> None:
    low, high = THROWN_ALIKE.least, THROWN_ALIKE.most
    before = 0.2e-3
    assert thrown_against(before * (high - 1e-6), before, "R2") == "about as much as R2"
    assert thrown_against(before * (high + 1e-3), before, "R2") == "1.2 times what R2 throws"
    assert thrown_against(before * (low + 1e-6), before, "R2") == "about as much as R2"
    assert thrown_against(before * (low - 1e-3), before, "R2") == "0.9 times what R2 throws"
    splash = SPLASH.most
    assert thrown_against(before, splash, "R2") == "R2 throws next to nothing"
    assert thrown_against(splash, before, "R2") == "next to nothing, unlike R2"
    assert thrown_against(splash, splash, "R2") is None
    assert thrown_against(splash * 1.01, splash * 1.01, "R2") == "about as much as R2"


def standing(seconds: float) -> Log:
    time = np.arange(0.0, seconds, STEP)
    still = np.zeros_like(time)
    return Log(time, still, still, still, np.full_like(time, 500.0))


def test_a_run_tells_it_and_a_summary_keeps_it(dunlin: Build) -> None:
    """A crank low enough to stand in the oil throws; raised clear of it, it does not."""
    assert dunlin.car.crank is not None

    def told(height_mm: float) -> KeptFigures:
        crank = dunlin.car.crank.model_copy(update={"height_mm": height_mm})  # type: ignore[union-attr]
        car = dunlin.car.model_copy(update={"crank": crank})
        return figures_of(forecast_moving(dunlin.model_copy(update={"car": car}), standing(1.2)))

    low, high = told(0.0), told(200.0)
    assert low.windage is not None and high.windage is not None
    assert low.windage.reached_l == pytest.approx(np.mean(low.samples.crank_l), abs=1e-3)
    assert low.windage.reached_l > 0.1 and high.windage.reached_l == 0.0
    assert low.windage.thrown_l_min.likely == pytest.approx(600.0 * low.windage.reached_l, rel=1e-2)
    assert summary_of(low).windage == low.windage
    assert thrown_beside(low.windage, high.windage, "R2") == "R2 throws next to nothing"
    assert thrown_beside(high.windage, high.windage, "R2") == ""
    # read back as it is kept, and as it was kept before it was told
    kept = json.loads(low.model_dump_json())
    assert KeptFigures.model_validate(kept).windage == low.windage
    del kept["windage"]
    assert KeptFigures.model_validate(kept).windage is None


def test_nothing_is_said_where_nobody_knows_the_crank(dunlin: Build) -> None:
    car = dunlin.car.model_copy(update={"crank": None})
    assert forecast_moving(dunlin.model_copy(update={"car": car}), standing(1.2)).windage is None


def test_two_runs_told_beside_each_other_are_told_by_what_the_crank_reaches() -> None:
    def told(litres: float) -> WindageOut:
        none = LikelyOut(low=0.0, likely=0.0, high=0.0)
        return WindageOut(reached_l=litres, thrown_l_min=none, power_kw=none)

    assert thrown_beside(told(0.4), told(0.2), "R1") == "2.0 times what R1 throws"
    assert thrown_beside(told(0.1), told(0.2), "R1") == "0.5 times what R1 throws"
    assert thrown_beside(told(0.0), told(0.0), "R1") == ""
