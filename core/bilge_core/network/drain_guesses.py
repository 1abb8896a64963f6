"""What nobody measured of drains and breathing, with the range that it is likely to be in."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from bilge_core.network.guesses import GUESSES, Guess

_OURS = "ours"
_MEMORY = "from memory"

DRAIN_GUESSES: Mapping[str, Guess] = MappingProxyType(
    {
        guess.key: guess
        for guess in (
            Guess(
                "turbo_foam", "gas in the oil that leaves a turbo", 0.4, 0.3, 0.5, "%", 100.0,
                f"{_OURS}: its shaft beats it to froth; a sight tube in the drain tells it",
            ),
            GUESSES["head_foam"],
            Guess(
                "seal_height", "a turbo's seals over its drain flange", 0.025, 0.015, 0.04, "mm",
                1e3, f"{_OURS}: measure it with a depth gauge through the drain hole",
            ),
            Guess(
                "housing_floor", "floor of a turbo's oil housing", 12e-4, 8e-4, 20e-4, "cm2", 1e4,
                _OURS,
            ),
            Guess(
                "head_wall", "walls of a head round its drains", 0.04, 0.025, 0.06, "mm", 1e3,
                _OURS,
            ),
            Guess(
                "drain_line", "bore of a drain whose size nobody gave", 14.1e-3, 10e-3, 18e-3,
                "mm", 1e3, "common practice, no published source: size 10 for a turbo by gravity",
            ),
            Guess(
                "blow_by", "blow-by of an engine whose power nobody gave", 60 / 60e3, 30 / 60e3,
                150 / 60e3, "L/min", 60e3, _OURS,
            ),
            Guess(
                "vent_bore", "bore of a breather hose", 15e-3, 12e-3, 19e-3, "mm", 1e3, _OURS,
            ),
            Guess(
                "vent_length", "length of a breather hose", 0.6, 0.3, 1.2, "mm", 1e3, _OURS,
            ),
            Guess(
                "vent_rise", "how far a breather hose climbs over its port", 0.15, 0.05, 0.35,
                "mm", 1e3, _OURS,
            ),
            Guess(
                "breather_opening", "narrowest of a breather", 16e-3, 9e-3, 25e-3, "mm", 1e3, _OURS,
            ),
            Guess(
                "gas_in_passages", "share of a head's drains that is free for gas", 0.5, 0.2, 0.8,
                "%", 100.0, _OURS,
            ),
            Guess(
                "mist", "oil that a cubic metre of blow-by carries as mist", 1.0e-3, 0.3e-3, 5e-3,
                "g/m3", 1e3, f"{_MEMORY}: unbaffled; a measured can tells it",
            ),
            Guess(
                "behind_baffle", "share of the mist that gets past a baffle in a cover", 0.3, 0.1,
                0.6, "%", 100.0, _OURS,
            ),
        )
    }
)  # fmt: skip


class DrainGuesses:
    """Figures in use: the likely ones, but for those that are set.

    Examples
    --------
    >>> figures = DrainGuesses({"turbo_foam": 0.5})
    >>> figures["turbo_foam"], figures["seal_height"], figures.used
    (0.5, 0.025, ('turbo_foam', 'seal_height'))
    """

    def __init__(self, instead: Mapping[str, float] | None = None) -> None:
        self._instead = dict(instead or {})
        unknown = set(self._instead) - set(DRAIN_GUESSES)
        assert not unknown, unknown
        self._used: dict[str, None] = {}

    def __getitem__(self, key: str) -> float:
        self._used[key] = None
        return self._instead.get(key, DRAIN_GUESSES[key].likely)

    @property
    def used(self) -> tuple[str, ...]:
        """Keys in the order in which they were first asked for."""
        return tuple(self._used)
