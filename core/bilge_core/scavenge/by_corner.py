"""Which stage has oil and which air, corner by corner."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.loads.corners import Corner
from bilge_core.physics.arrays import Array

WORST_FOR = 1.0
"""[s] of a corner that is told by itself: its worst (ours)."""


@dataclass(frozen=True)
class StagesInCorner:
    """A corner for a dry sump.

    corner : Corner
    start : of its worst second [s]
    shares : of oil in what each stage draws over the corner, shape (stages,)
    brings : each stage's oil of all that comes up over it, shape (stages,)
    worst : share of oil in what all stages draw in its worst second
    left : oil in the pan, the most of it [m3]
    """

    corner: Corner
    start: float
    shares: Array
    brings: Array
    worst: float
    left: float


def by_corner(
    time: Array, swept: Array, oil: Array, in_pan: Array, corners: Sequence[Corner]
) -> tuple[StagesInCorner, ...]:
    """Each corner's stages, and the second in which all together bring least for what they sweep.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Rising [s].
    swept, oil : ndarray, shape (n, stages)
        What each stage draws in all, and the oil of it [m3/s].
    in_pan : ndarray, shape (n,) [m3]
    corners : sequence of Corner

    Examples
    --------
    >>> time = np.arange(0.0, 4.0, 0.5)
    >>> swept = np.ones((8, 2))
    >>> oil = np.column_stack([np.where(time < 2.0, 0.8, 0.2), np.zeros(8)])
    >>> (one,) = by_corner(time, swept, oil, time, [Corner(1, "left", 0.0, 3.5, 1.2)])
    >>> one.start, one.shares.round(2).tolist(), one.brings.tolist()
    (2.0, [0.5, 0.0], [1.0, 0.0])
    """
    found = []
    for corner in corners:
        starts = np.flatnonzero((time >= corner.start) & (time <= corner.end))
        if not len(starts):
            continue
        windows = [
            (start, (time >= time[start]) & (time < time[start] + WORST_FOR))
            for start in starts
            if time[start] + WORST_FOR <= corner.end + 1e-9
        ] or [(starts[0], (time >= corner.start) & (time <= corner.end))]
        start, inside = min(
            windows, key=lambda each: float(oil[each[1]].sum() / max(swept[each[1]].sum(), 1e-12))
        )
        whole = (time >= corner.start) & (time <= corner.end)
        brought = oil[whole].sum(axis=0)
        shares = brought / np.maximum(swept[whole].sum(axis=0), 1e-12)
        worst = float(oil[inside].sum() / max(swept[inside].sum(), 1e-12))
        in_all = max(float(brought.sum()), 1e-12)
        found.append(
            StagesInCorner(
                corner,
                float(time[start]),
                shares,
                brought / in_all,
                worst,
                float(in_pan[whole].max()),
            )
        )
    return tuple(found)
