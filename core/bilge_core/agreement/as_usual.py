"""What a car's gallery usually shows at a speed, by its own laps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules.gallery import ENGINE_RUNS

_WIDE = speed_of_rpm(250.0)  # [rad/s] of a band of speeds (ours)
_FEWEST = 12  # readings in a band that count (ours)
_QUARTER = 75.0
"""Percentile of the readings of a band that is taken as usual (ours): a dip in under three quarters
of them does not lower it, and noise of a gauge raises it by less than one part in a hundred."""


@dataclass(frozen=True)
class AsUsual:
    """Pressure over crank speed.

    speed : rising, shape (k,) [rad/s]
    pressure : never falling, shape (k,) [Pa]
    """

    speed: Array
    pressure: Array

    def at(self, speed: Array) -> Array:
        """What is usual at each of some speeds, shape (n,) [Pa]."""
        return np.asarray(np.interp(speed, self.speed, self.pressure))


def as_usual(laps: Sequence[Log]) -> AsUsual:
    """What a gallery usually shows, by all readings of some laps of one car on one day.

    Parameters
    ----------
    laps : sequence of Log
        Prepared, each with its oil's pressure.

    Returns
    -------
    AsUsual

    Raises
    ------
    InvalidQuantity
        If no lap has a pressure with the engine running.

    Examples
    --------
    >>> speed = np.linspace(300.0, 700.0, 400)
    >>> log = Log(np.arange(400) * 0.05, *np.zeros((3, 400)), speed, oil_pressure=speed * 800.0)
    >>> round(float(as_usual([log]).at(np.array([500.0]))[0]) / 1e5, 1)
    4.1
    """
    held = [(lap.engine_speed, lap.oil_pressure) for lap in laps if lap.oil_pressure is not None]
    speeds = np.concatenate([speed for speed, _ in held]) if held else np.zeros(0)
    pressures = np.concatenate([pressure for _, pressure in held]) if held else np.zeros(0)
    runs = speeds >= ENGINE_RUNS.least
    speeds, pressures = speeds[runs], pressures[runs]
    bands = np.floor(speeds / _WIDE).astype(int)
    rows = []
    for band in np.unique(bands):
        inside = bands == band
        if inside.sum() >= _FEWEST:
            there = float(np.percentile(pressures[inside], _QUARTER))
            rows.append((float(speeds[inside].mean()), there))
    if not rows or max(there for _, there in rows) <= 0.0:
        raise InvalidQuantity("oil pressure", "missing", "logged with the engine running")
    at, usual = np.array(rows).T
    usual = np.maximum.accumulate(usual)  # a faster pump does not usually give less
    return AsUsual(at, np.maximum(usual, usual.max() * 1e-3))
