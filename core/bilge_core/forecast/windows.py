"""The stretches of a lap that a remedy is tried over: where the build as it is finds gas."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.dips import stretches_above
from bilge_core.physics.arrays import Array

WORTH = 0.2
"""Share of gas [-] from which a stretch is run. Ours: in a trial a half missed up to 1.7 s of
dips; what this misses stands in docs/options.md.
"""
_PAD = 0.15  # [s] before and after (ours: a remedy's dips may begin a little earlier)
_APART = 1.5  # [s]: nearer ones are run as one (ours: the lead between them costs as much)
LEAD = 1.0
"""[s] that oil without plates is run before a window counts. Ours: docs/options.md."""
LEAD_OF_PLATES = 2.0
"""The same between plates [s]: what lies behind a gate has longer to come (ours)."""
_QUIETER = 1.5  # [s] earlier that a lead may begin, where the load is less (ours)
_AS_QUIET = 0.1  # [m/s2] more than the least: as little (ours)


@dataclass(frozen=True)
class Window:
    """A stretch of a lap: it counts from `start` to `end`, its lead begins at `begin` [s].

    All since the start of the lap.
    """

    begin: float
    start: float
    end: float

    @property
    def lasts(self) -> float:
        """What it costs to run [s]."""
        return self.end - self.begin


def windows_of(
    time: Array, gas_share: Array, load: Array, lead: float = LEAD
) -> tuple[Window, ...]:
    """The stretches of a lap in which its mouth finds gas, padded, near ones as one.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Rising [s]; windows are told since the first.
    gas_share : ndarray, shape (n,)
        At the mouth of the build as it is, in moving oil.
    load : ndarray, shape (n,)
        Horizontal [m/s2]: a lead begins where there is little, never in the middle of a corner.
    lead : float
        [s]

    Returns
    -------
    tuple of Window
        In order; none overlaps the next, its lead included.

    Raises
    ------
    InvalidQuantity
        If the arrays differ in length or hold what is not a number, or the lead is below nil.

    Examples
    --------
    >>> time = np.arange(0.0, 20.0, 0.5)
    >>> gas = np.where((time >= 8.0) & (time <= 10.0), 1.0, 0.0)
    >>> load = np.where((time >= 6.8) & (time <= 10.0), 9.0, 0.0)
    >>> [(w.begin, round(w.start, 2), w.end) for w in windows_of(time, gas, load)]
    [(6.0, 7.45, 10.55)]
    """
    if not lead >= 0.0:
        raise InvalidQuantity("lead", lead, "nil or more")
    if load.shape != time.shape:
        raise InvalidQuantity("load", f"{load.shape} samples", "a number at every time")
    first, last = float(time[0]), float(time[-1])
    found: list[Window] = []
    for above, until in stretches_above(time, gas_share, WORTH):
        start, end = max(above - _PAD, first), min(until + _PAD, last)
        begin = _quiet(time, load, start - lead) - first
        start, end = start - first, end - first
        if found and (begin <= found[-1].end or start - found[-1].end < _APART):
            found[-1] = Window(found[-1].begin, found[-1].start, max(end, found[-1].end))
        else:
            found.append(Window(begin, start, end))
    return tuple(found)


def _quiet(time: Array, load: Array, latest: float) -> float:
    """The moment of least load in the time before the latest [s]; that itself where none is less.

    A lead that would begin before the lap begins with it.
    """
    if latest <= time[0]:
        return float(time[0])
    near = np.flatnonzero((time >= latest - _QUIETER) & (time <= latest))
    if len(near) == 0:
        return latest
    least = near[load[near] <= load[near].min() + _AS_QUIET]
    return float(time[least[-1]])


def left_out(windows: tuple[Window, ...], stretches: list[tuple[float, float]]) -> float:
    """How much of some stretches lies in no window [s]: what a windowed lap misses.

    Parameters
    ----------
    windows : tuple of Window
    stretches : list of pair of float
        Since the start of the lap [s].

    Examples
    --------
    >>> round(left_out((Window(0.0, 1.0, 2.0),), [(0.5, 1.5), (1.8, 2.2)]), 6)
    0.7
    """
    missed = 0.0
    for first, last in stretches:
        inside = sum(max(0.0, min(last, each.end) - max(first, each.start)) for each in windows)
        missed += (last - first) - inside
    return missed
