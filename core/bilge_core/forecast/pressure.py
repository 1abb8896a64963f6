"""Pressure dips: the stretches in which the gallery has much less than it usually has."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.dips import joined_stretches, stretches_above
from bilge_core.loads.corners import Corner, place_on_lap
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.rules.gallery import (
    ENGINE_RUNS,
    PRESSURE_DIP,
    PRESSURE_LINE,
    SHORTEST_PRESSURE_DIP,
)


@dataclass(frozen=True)
class PressureDip:
    """One stretch of too little pressure.

    start, end : [s]
    lowest : least pressure in it, over the air's [Pa], and its time `lowest_at` [s]
    usual : what the engine steadily has at that speed [Pa]
    load : horizontal load there [g]
    corner : number, or None on a straight
    hand : of the turn there, or None
    place : such as ``in corner 6``
    """

    start: float
    end: float
    lowest: float
    lowest_at: float
    usual: float
    load: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str

    @property
    def lasts(self) -> float:
        """[s]"""
        return self.end - self.start


@dataclass(frozen=True)
class PressureOverLap:
    """What the gallery had over a lap.

    dips : longest first
    lowest : where it is least beside what is usual there, over the air's [Pa]
    lowest_at : [s]
    usual : what is usual there [Pa]
    band : lowest pressure there if the pump slips more on gas, and if less; None: not worked out
    under : time in dips [s]
    under_line : time under the rule of thumb's line [s]
    """

    dips: tuple[PressureDip, ...]
    lowest: float
    lowest_at: float
    usual: float
    band: tuple[float, float] | None
    under: float
    under_line: float

    @property
    def wanted(self) -> float:
        """Under which it were a dip, at the lowest moment [Pa]."""
        return PRESSURE_DIP.least * self.usual


def find_pressure_dips(
    log: Log,
    pressure: Array,
    usual: Array,
    corners: tuple[Corner, ...],
    band: tuple[Array, Array] | None = None,
) -> PressureOverLap:
    """Pressure dips of a lap: stretches under a share of what is usual, gaps under 0.05 s joined.

    Where the engine does not run there is none.

    Parameters
    ----------
    log : Log
        The same samples as the next two.
    pressure : ndarray, shape (n,)
        In the main gallery, over the air's [Pa]: computed, or measured.
    usual : ndarray, shape (n,)
        What this engine steadily has at that speed and temperature [Pa].
    corners : tuple of Corner
    band : pair of ndarray, shapes (n,), optional
        The same with a pump that slips more on gas, and with one that slips less.

    Returns
    -------
    PressureOverLap

    Raises
    ------
    InvalidQuantity
        If the arrays differ in length, hold what is not a number, or nothing is usual.

    Examples
    --------
    >>> time = np.arange(0.0, 3.0, 0.5)
    >>> log = Log(time, *np.zeros((3, 6)), np.full(6, 400.0))
    >>> pressure = np.array([4.0, 4.0, 1.0, 1.0, 4.0, 4.0]) * 1e5
    >>> found = find_pressure_dips(log, pressure, np.full(6, 4e5), ())
    >>> found.lowest, round(found.dips[0].lasts, 2)
    (100000.0, 0.97)
    """
    if pressure.shape != log.time.shape or usual.shape != log.time.shape:
        raise InvalidQuantity("pressure", f"{pressure.shape} samples", "one at every time")
    if not np.all(np.isfinite(pressure)) or not np.all(usual > 0.0):
        raise InvalidQuantity("pressure", "not a number", "a number, and usually above 0")
    runs = log.engine_speed >= ENGINE_RUNS.least
    share = np.where(runs, pressure / usual, 1.0)
    missing = 1.0 - share
    dips, under = [], 0.0
    for start, end, _ in joined_stretches(
        stretches_above(log.time, missing, 1.0 - PRESSURE_DIP.least)
    ):
        if not SHORTEST_PRESSURE_DIP.holds(end - start):
            continue
        under += end - start
        inside = np.flatnonzero((log.time >= start) & (log.time <= end))
        worst = int(inside[np.argmin(pressure[inside])])
        load = math.hypot(float(log.leftward[worst]), float(log.forward[worst])) / STANDARD_GRAVITY
        corner, place = place_on_lap(corners, float(log.time[worst]))
        dips.append(
            PressureDip(
                start, end, float(pressure[worst]), float(log.time[worst]), float(usual[worst]),
                load, corner.number if corner else None, corner.hand if corner else None, place,
            )
        )  # fmt: skip
    dips.sort(key=lambda dip: -dip.lasts)
    least = int(np.argmin(share))
    line = PRESSURE_LINE.least * log.engine_speed
    steps = np.diff(log.time, append=log.time[-1])
    around = (
        None
        if band is None
        else (_least_near(log.time, band[0], least), _least_near(log.time, band[1], least))
    )
    return PressureOverLap(
        tuple(dips), float(pressure[least]), float(log.time[least]), float(usual[least]), around,
        under, float(steps[(pressure < line) & runs].sum()),
    )  # fmt: skip


_NEAR = 0.25  # [s] around the lowest moment in which a band's own lowest is looked for (ours)


def _least_near(time: Array, pressure: Array, at: int) -> float:
    return float(pressure[np.abs(time - time[at]) <= _NEAR].min())
