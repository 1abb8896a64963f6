"""What nobody measured, with the range that it is likely to be in.

Each stands once, with its source. A circuit whose builder measured the thing itself does not use
it; what was used is told by `Network.taken`.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from bilge_core.document.build import Build

_OURS = "ours"
_MEMORY = "from memory"


@dataclass(frozen=True)
class Guess:
    """One figure that is guessed.

    key : by which it is set to something else
    words : what it is
    likely : SI, or a share
    low, high : between which it is likely to be
    unit : as it is shown
    scale : from SI to that unit
    source : why
    """

    key: str
    words: str
    likely: float
    low: float
    high: float
    unit: str
    scale: float
    source: str


GUESSES: Mapping[str, Guess] = MappingProxyType(
    {
        guess.key: guess
        for guess in (
            Guess(
                "sealing_oil", "how far the pump slips on gas: oil that seals it at least",
                0.03, 0.0016, 0.1, "%", 100.0,
                f"{_OURS}: no gauge reading tells it; dips in a logged lap would",
            ),
            Guess(
                "pump_leak", "what slips back in the pump at 4 bar, of what it sweeps at 1500 rpm",
                0.06, 0.02, 0.12, "%", 100.0, f"{_MEMORY}: gear and rotor pumps, hot",
            ),
            Guess(
                "inlet_speed", "speed of oil in the pump's inlet port at its quickest",
                4.0, 3.0, 6.0, "m/s", 1.0,
                f"{_OURS}: the port is sized for it at 7000 rpm of the crank",
            ),
            Guess(
                "head_share", "share of the engine's oil that goes up to the heads",
                0.2, 0.1, 0.35, "%", 100.0, _OURS,
            ),
            Guess(
                "head_foam", "gas in the oil that lies in heads and chests",
                0.15, 0.1, 0.2, "%", 100.0, _OURS,
            ),
            Guess(
                "drain_bore", "six drains of a head, bore of each",
                12e-3, 9e-3, 16e-3, "mm", 1e3, _OURS,
            ),
            Guess(
                "head_length", "length of a head's floor", 0.42, 0.35, 0.52, "mm", 1e3, _OURS,
            ),
            Guess(
                "head_width", "width of a head's floor", 0.14, 0.10, 0.18, "mm", 1e3, _OURS,
            ),
            Guess(
                "chest_bore", "way down of the timing chest, bore", 30e-3, 20e-3, 45e-3, "mm", 1e3,
                _OURS,
            ),
            Guess(
                "thrown_lag", "time of oil off the crank on its way down, at rest",
                0.8, 0.4, 1.6, "s", 1.0,
                f"{_OURS}: and 0.15 s every 1000 rpm; a sight tube on the sump tells it",
            ),
            Guess(
                "relief", "pressure at which the relief opens", 5.0e5, 4.0e5, 6.0e5, "bar", 1e-5,
                f"{_MEMORY}: usual of race engines",
            ),
            Guess(
                "relief_bore", "bore of a relief valve or regulator", 14e-3, 10e-3, 20e-3, "mm",
                1e3, _OURS,
            ),
            Guess(
                "onto_relief", "crank speed at which the hot engine comes onto its relief",
                345.6, 260.0, 470.0, "rpm", 30.0 / math.pi,
                f"{_MEMORY}: about half of a road engine's speed range; gauge readings tell it",
            ),
            Guess(
                "filter_drop", "drop of a filter at 40 L/min, hot", 0.3e5, 0.15e5, 0.6e5, "bar",
                1e-5, _MEMORY,
            ),
            Guess(
                "filter_bypass", "opening of a filter's bypass", 1.2e5, 0.8e5, 1.8e5, "bar", 1e-5,
                _MEMORY,
            ),
            Guess(
                "cooler_drop", "drop of a cooler with its lines at 40 L/min, hot",
                0.5e5, 0.25e5, 1.0e5, "bar", 1e-5, _MEMORY,
            ),
            Guess("filter_holds", "oil in a filter", 0.35e-3, 0.2e-3, 0.6e-3, "L", 1e3, _OURS),
            Guess(
                "cooler_holds", "oil in a cooler", 0.45e-3, 0.25e-3, 0.8e-3, "L", 1e3, _OURS,
            ),
            Guess(
                "gallery_holds", "oil in galleries and passages", 0.3e-3, 0.15e-3, 0.5e-3, "L",
                1e3, _OURS,
            ),
            Guess(
                "precharge", "pre-charge of a bottle, cold", 1.5e5, 0.7e5, 2.5e5, "bar", 1e-5,
                _OURS,
            ),
            Guess(
                "bottle_warmth", "temperature that a bottle's gas comes to", 333.15, 303.15,
                363.15, "K", 1.0, f"{_OURS}: warm oil comes and goes, air cools it",
            ),
            Guess(
                "turbo_takes", "oil that a turbo takes at 3 bar, hot", 2.0 / 60e3, 0.8 / 60e3,
                4.0 / 60e3, "L/min", 60e3, f"{_MEMORY}: plain bearings; balls take less than half",
            ),
            Guess(
                "valve_bore", "bore of a shut-off or check valve", 12e-3, 8e-3, 16e-3, "mm", 1e3,
                _OURS,
            ),
            Guess(
                "suction_bore", "bore of the pickup's tube", 19e-3, 15e-3, 25e-3, "mm", 1e3, _OURS,
            ),
            Guess(
                "suction_length", "length of the pickup's tube", 0.25, 0.15, 0.4, "mm", 1e3, _OURS,
            ),
            Guess("jets_open", "opening of piston jets", 1.5e5, 1.2e5, 3.0e5, "bar", 1e-5, _MEMORY),
        )
    }
)  # fmt: skip


HEAD_DRAINS = 6
"""Drains of a head whose passages nobody measured (ours); their bore is the guess `drain_bore`."""


def known_of(build: Build) -> dict[str, float]:
    """Guesses that a build's track book has told, in place of the likely ones.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.learned import Learned
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> found = {"value": 4.0, "give": 1.0, "source": "12 November"}
    >>> known_of(build), known_of(build.model_copy(update={"learned": Learned(sealing_pct=found)}))
    ({}, {'sealing_oil': 0.04})
    """
    sealing = build.learned.sealing_pct if build.learned else None
    return {"sealing_oil": sealing.value / 100.0} if sealing else {}


class Guessed:
    """Figures in use: the likely ones, but for those that are set; notes which were guessed.

    What is known is no guess and is not among `used`.

    Examples
    --------
    >>> figures = Guessed({"sealing_oil": 0.1})
    >>> figures["sealing_oil"], figures["head_share"], figures.used
    (0.1, 0.2, ('sealing_oil', 'head_share'))
    """

    def __init__(
        self,
        instead: Mapping[str, float] | None = None,
        known: Mapping[str, float] | None = None,
    ) -> None:
        self._instead, self._known = dict(instead or {}), dict(known or {})
        unknown = {*self._instead, *self._known} - set(GUESSES)
        assert not unknown, unknown
        self._used: dict[str, None] = {}

    def __getitem__(self, key: str) -> float:
        if key in self._known:
            return self._instead.get(key, self._known[key])
        self._used[key] = None
        return self._instead.get(key, GUESSES[key].likely)

    @property
    def used(self) -> tuple[str, ...]:
        """Keys in the order in which they were first asked for."""
        return tuple(self._used)
