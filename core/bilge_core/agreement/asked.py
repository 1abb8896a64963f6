"""The figures of a car that nobody measured: what is guessed of each, and between which bounds."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bilge_core.agreement.response import LEVELS
from bilge_core.agreement.sensor_shown import GAUGE_LAG
from bilge_core.document.build import Build
from bilge_core.network import GUESSES
from bilge_core.network.guesses import known_of


@dataclass(frozen=True)
class Asked:
    """One figure of a fit.

    key : by which it is known
    words : what it is
    before : as it is guessed
    spread : standard deviation of that guess; of a logarithm where it is one
    low, high : bounds
    is_log : whether its logarithm is what is fitted
    unit, scale : as it is shown
    """

    key: str
    words: str
    before: float
    spread: float
    low: float
    high: float
    is_log: bool
    unit: str
    scale: float

    def taken(self, x: float) -> float:
        """From what is fitted to what it is."""
        return float(np.exp(x)) if self.is_log else x

    def put(self, value: float) -> float:
        """The other way."""
        return float(np.log(value)) if self.is_log else value


_SEALING = GUESSES["sealing_oil"]
ASKED = (
    Asked("held_more", "oil up top, more than thought", 0.0, 0.3e-3, LEVELS[0], LEVELS[-1],
          False, "L", 1e3),
    Asked("bearings", "what the bearings let through, of what was thought", 1.0, 0.16, 0.5, 2.0,
          True, "%", 100.0),
    Asked("sealing_oil", _SEALING.words, _SEALING.likely, 1.0, _SEALING.low, _SEALING.high,
          True, _SEALING.unit, _SEALING.scale),
    Asked("lag", "lag of the pressure sensor", GAUGE_LAG, 0.15, 0.0, 0.6, False, "s", 1.0),
    Asked("gauge", "what the sensor shows, of what there is", 1.0, 0.015, 0.9, 1.1, True, "%",
          100.0),
)  # fmt: skip
"""What is really uncertain. Smaller drains and a longer way down put oil up top as well: dips alone
cannot tell those from `held_more`, which stands for all of them. The spreads are ours."""


def lag_of(build: Build) -> float:
    """How late a build's pressure sensor shows: as its track book told, else as guessed [s].

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> lag_of(read_build(Path("demo/dunlin.json").read_text())) == GAUGE_LAG
    True
    """
    found = build.learned.gauge_lag_s if build.learned else None
    return found.value if found else GAUGE_LAG


def asked_of(build: Build) -> tuple[Asked, ...]:
    """The same for a build: what its track book told before is where they begin.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.learned import Learned
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> found = {"value": 0.12, "give": 0.01, "source": "12 November"}
    >>> told = build.model_copy(update={"learned": Learned(gauge_lag_s=found)})
    >>> [each.before for each in asked_of(told) if each.key == "lag"]
    [0.12]
    """
    known = {**known_of(build), "lag": lag_of(build)}
    return tuple(
        replace(each, before=min(max(known[each.key], each.low), each.high))
        if each.key in known
        else each
        for each in ASKED
    )
