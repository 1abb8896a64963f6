"""The fit of what nobody measured, on sessions of a car that is not there, its truth known.

What its mouth draws is on record (``tests/reference/held_up.py`` made it): the truths are runs of
their own, from another start, at amounts between those that the fit may look at.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
import pytest
from bilge_core.agreement.asked import ASKED
from bilge_core.agreement.fitting import Fit, _correlated, fit
from bilge_core.agreement.response import LEVELS, Response
from bilge_core.agreement.sensor_shown import Shown
from bilge_core.agreement.stand_in import Truth, stand_in_laps
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.on_record import Record
from bilge_core.loads.log import Log

from tests.conftest import DEMO
from tests.reference.held_up import GRIPS, HERE, TRUTHS, laps

SEEDS = 10


@cache
def kept() -> dict[str, np.ndarray]:
    with np.load(HERE / "held_up.npz") as stored:
        return {name: stored[name] / 255.0 for name in stored.files}


@cache
def car() -> Build:
    return read_build((DEMO / "dunlin.json").read_text())


@cache
def driven() -> tuple[Log, ...]:
    return laps()


def responses() -> list[Response]:
    return [
        Response(log.time, np.array([kept()[f"gas_{lap}_{held * 1e6:.0f}"] for held in LEVELS]))
        for lap, log in enumerate(driven())
    ]


@dataclass(frozen=True)
class Known:
    held: float
    bearings: float
    lag: float
    found: Fit


@cache
def session(seed: int) -> Known:
    """Two laps of a car whose figures the seed decides, fitted."""
    rng = np.random.default_rng(seed)
    held = TRUTHS[seed % len(TRUTHS)]
    bearings, lag = float(rng.uniform(0.88, 1.12)), float(rng.uniform(0.03, 0.25))
    truth = Truth(
        Shown(lag, 50.0), bearings=bearings, sealing=float(np.exp(rng.uniform(-4.2, -2.8)))
    )
    rows = []
    for lap, log in enumerate(driven()):
        record = Record(log.time, kept()[f"gas_{lap}_{held * 1e6:.0f}"])
        rows += stand_in_laps(car(), log, record, truth, 1, seed, unlike=0.0)
    return Known(held, bearings, lag, fit(car(), rows, responses()))


FIGURES = ("held_more", "bearings", "lag")
DAILY = (3,)
"""Seeds that are fitted each day, of a car whose pump seals well; all ten with ``--long``."""


def off(known: Known, key: str) -> tuple[float, float]:
    """How far a figure is from its truth, and how far it may be by what is stated."""
    true = {"held_more": known.held, "bearings": np.log(known.bearings), "lag": known.lag}[key]
    told = known.found.of(key)
    return abs(told.asked.put(told.value) - float(true)), told.give


@pytest.mark.parametrize("seed", DAILY)
def test_a_known_truth_is_found(seed: int) -> None:
    """At most 0.15 L, 3 %, 0.03 s are stated of these, and the truth is within them."""
    known = session(seed)
    for key, most in zip(FIGURES, (0.15e-3, 0.03, 0.03), strict=True):
        apart, give = off(known, key)
        assert apart <= give <= most
        assert known.found.of(key).tells
    assert known.found.left < 0.5 * known.found.before


@pytest.mark.long
def test_the_truth_is_within_what_is_stated_in_nine_of_ten() -> None:
    """Reached (2026-11): ten of ten. What is stated is 0.05 to 0.26 L, 2 to 11 %, 0.004 to 0.04 s:
    wide where the pump slips much on gas. What it was off by: 0.09 L, 4 %, 0.013 s at most."""
    for key, most in zip(FIGURES, (0.15e-3, 0.05, 0.03), strict=True):
        rows = [off(session(seed), key) for seed in range(SEEDS)]
        assert sum(apart <= give for apart, give in rows) >= 9
        assert max(apart for apart, _ in rows) <= most


def test_the_trend_is_straight_over_the_levels() -> None:
    """Against numpy's own fit at one moment, and between nil and all where it would leave them."""
    for each in responses():
        at = int(np.argmax(np.ptp(each.gas_share, axis=0)))
        slope, base = np.polyfit(LEVELS, each.gas_share[:, at], 1)
        for held in LEVELS:
            share = each.at(held).gas_share
            assert share[at] == pytest.approx(np.clip(base + slope * held, 0.0, 1.0), abs=1e-9)
            assert share.min() >= 0.0 and share.max() <= 1.0


def test_without_a_dip_the_oil_up_top_is_not_told() -> None:
    """Nothing in the log: what was guessed stays, and says so."""
    log = driven()[0]
    dry = Response(log.time, np.zeros((len(LEVELS), len(log.time))))
    covered = Record(log.time, np.zeros(len(log.time)))
    rows = stand_in_laps(car(), log, covered, Truth(Shown(0.05, 50.0)), 1, 3, unlike=0.0)
    told = fit(car(), rows, [dry]).of("held_more")
    assert not told.tells
    assert told.value == pytest.approx(0.0, abs=1e-6)
    assert told.give == pytest.approx(2.0 * ASKED[0].spread, rel=0.01)


def test_one_lap_alone_is_leant_on() -> None:
    log = driven()[0]
    record = Record(log.time, kept()[f"gas_0_{TRUTHS[1] * 1e6:.0f}"])
    rows = stand_in_laps(car(), log, record, Truth(Shown(0.05, 50.0)), 1, 3, unlike=0.0)
    assert fit(car(), rows, responses()[:1]).leans == 0


def test_how_many_readings_say_one_thing_is_summed_over_laps() -> None:
    """A mean of five values in a row is alike up to five away: 1 + 2 (4 + 3 + 2 + 1) / 5 = 5."""
    steps = np.random.default_rng(3).normal(size=(2, 60_004))
    rows = [np.convolve(each, np.full(5, 0.2), mode="valid") for each in steps]
    each = [_correlated([row]) for row in rows]
    assert each == pytest.approx([5.0, 5.0], abs=0.3)
    assert _correlated(rows) == pytest.approx(5.0, abs=0.3)
    assert _correlated([rows[0], rows[0]]) == pytest.approx(each[0])
    # the shorter lap, first or last, counts as far as it goes
    assert _correlated([rows[0], rows[1][:500]]) == pytest.approx(5.0, abs=0.3)
    assert _correlated([rows[1][:500], rows[0]]) == pytest.approx(5.0, abs=0.3)


def test_faults_are_named() -> None:
    with pytest.raises(InvalidQuantity, match="laps"):
        fit(car(), [], [])
    with pytest.raises(InvalidQuantity, match="oil pressure"):
        fit(car(), [driven()[0]], responses()[:1])
    assert len(GRIPS) == len(driven())
