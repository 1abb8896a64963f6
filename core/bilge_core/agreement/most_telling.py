"""Which laps tell most of what nobody measured: those whose gallery was short for longest."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bilge_core.agreement.as_usual import AsUsual
from bilge_core.loads.log import Log
from bilge_core.rules.gallery import ENGINE_RUNS, PRESSURE_DIP

LAPS = 2
"""That are fitted to: with six amounts of oil up top each, twelve coupled runs."""


def short_for(lap: Log, usual: AsUsual) -> float:
    """How much pressure a lap's dips lacked, as seconds without any.

    Parameters
    ----------
    lap : Log
        With its oil's pressure.
    usual : AsUsual
        Of the car, that day.

    Returns
    -------
    float
        [s]

    Examples
    --------
    >>> time = np.arange(0.0, 10.0, 0.1)
    >>> bars = np.where(time < 2.0, 2.5e5, 5e5)
    >>> lap = Log(time, *np.zeros((3, 100)), np.full(100, 500.0), oil_pressure=bars)
    >>> round(short_for(lap, AsUsual(np.array([500.0]), np.array([5e5]))), 6)
    1.0
    """
    assert lap.oil_pressure is not None
    share = lap.oil_pressure / usual.at(lap.engine_speed)
    dips = (share < PRESSURE_DIP.least) & (lap.engine_speed >= ENGINE_RUNS.least)
    return float(np.clip(1.0 - share, 0.0, 1.0)[dips].sum()) * lap.step


def most_telling(laps: Sequence[tuple[Log, AsUsual]]) -> tuple[int, ...]:
    """Numbers of the laps that tell most, the most telling first; none that has no dip.

    Examples
    --------
    >>> time = np.arange(0.0, 10.0, 0.1)
    >>> usual = AsUsual(np.array([500.0]), np.array([5e5]))
    >>> def lap(until):
    ...     bars = np.where(time < until, 2.5e5, 5e5)
    ...     return Log(time, *np.zeros((3, 100)), np.full(100, 500.0), oil_pressure=bars), usual
    >>> most_telling([lap(0.0), lap(1.0), lap(3.0), lap(2.0)])
    (2, 3)
    """
    short = [short_for(lap, usual) for lap, usual in laps]
    order = sorted(range(len(short)), key=lambda at: -short[at])
    return tuple(at for at in order if short[at] > 0.0)[:LAPS]
