"""Dips: the stretches in which the pickup runs dry."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.corners import Corner, place_on_lap
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.rules.air import DRAWS_AIR, JOINED, RUNS_DRY


@dataclass(frozen=True)
class Dip:
    """One stretch of running dry.

    start, end : [s]; `dry` is the dry time within it [s].
    worst : time of least cover [s]; `cover` there [m]
    load : horizontal load there [g]; `side_g` its part to the left, `fore_g` forward
    corner : number, or None on a straight
    hand : of the turn at the worst moment, or None
    place : such as ``in corner 6``
    """

    start: float
    end: float
    dry: float
    worst: float
    cover: float
    load: float
    side_g: float
    fore_g: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str


@dataclass(frozen=True)
class DryTime:
    """Dips, worst first, with dry time and time of drawing air over the lap [s]."""

    dips: tuple[Dip, ...]
    dry: float
    draws_air: float


def stretches_above(time: Array, share: Array, threshold: float) -> list[tuple[float, float]]:
    """Stretches in which a sampled share is above a threshold, ends interpolated [s].

    Raises
    ------
    InvalidQuantity
        If the arrays differ in length or hold what is not a number.

    Examples
    --------
    >>> stretches_above(np.array([0.0, 1.0, 2.0]), np.array([0.0, 1.0, 0.0]), 0.5)
    [(0.5, 1.5)]
    """
    if time.shape != share.shape or not np.all(np.isfinite(share)):
        raise InvalidQuantity("gas share", f"{share.shape} samples", "a number at every time")
    above = np.concatenate([[False], share > threshold, [False]])
    starts = np.flatnonzero(~above[:-1] & above[1:])
    ends = np.flatnonzero(above[:-1] & ~above[1:]) - 1

    def crossing(outside: int, inside: int) -> float:
        if not 0 <= outside < len(time):
            return float(time[inside])
        part = (threshold - share[outside]) / (share[inside] - share[outside])
        return float(time[outside] + part * (time[inside] - time[outside]))

    return [
        (crossing(start - 1, start), crossing(end + 1, end))
        for start, end in zip(starts.tolist(), ends.tolist(), strict=True)
    ]


def joined_stretches(
    stretches: list[tuple[float, float]],
) -> list[tuple[float, float, float]]:
    """Stretches with no more than a moment between them as one; with the sum of its parts [s].

    Examples
    --------
    >>> joined_stretches([(0.0, 1.0), (1.01, 2.0), (3.0, 4.0)])
    [(0.0, 2.0, 1.99), (3.0, 4.0, 1.0)]
    """
    joined: list[tuple[float, float, float]] = []
    for start, end in stretches:
        if joined and not JOINED.holds(start - joined[-1][1]):
            first, _, dry = joined.pop()
            joined.append((first, end, dry + end - start))
        else:
            joined.append((start, end, end - start))
    return joined


def find_dips(
    log: Log,
    cover: Array,
    gas_share: Array,
    corners: tuple[Corner, ...],
    shortest: float = 0.0,
) -> DryTime:
    """Dips of a lap: stretches with a gas share above one half, gaps under 0.05 s joined.

    Parameters
    ----------
    log : Log
        Prepared; the same samples as the next two.
    cover : ndarray, shape (n,) [m]
    gas_share : ndarray, shape (n,)
    corners : tuple of Corner
    shortest : float
        A dip shorter than this [s] is counted in the dry time, but not told as one.

    Returns
    -------
    DryTime
        Dips with the longest dry time first.

    Raises
    ------
    InvalidQuantity
        If the arrays differ in length or hold what is not a number.

    Examples
    --------
    >>> time = np.arange(0.0, 3.0, 0.5)
    >>> log = Log(time, *np.zeros((4, 6)))
    >>> share = np.array([0.0, 0.0, 1.0, 1.0, 0.0, 0.0])
    >>> find_dips(log, -share, share, ()).dry
    1.0
    """
    dips = []
    stretches = joined_stretches(stretches_above(log.time, gas_share, RUNS_DRY.most))
    for start, end, dry in stretches:
        if dry < shortest:
            continue
        inside = np.flatnonzero((log.time >= start) & (log.time <= end))
        worst = int(inside[np.argmin(cover[inside])])
        side = float(log.leftward[worst]) / STANDARD_GRAVITY
        fore = float(log.forward[worst]) / STANDARD_GRAVITY
        corner, place = place_on_lap(corners, float(log.time[worst]))
        dips.append(
            Dip(
                start, end, dry, float(log.time[worst]), float(cover[worst]),
                math.hypot(side, fore), side, fore,
                corner.number if corner else None, corner.hand if corner else None, place,
            )
        )  # fmt: skip
    dips.sort(key=lambda dip: -dip.dry)
    draws = sum(end - start for start, end in stretches_above(log.time, gas_share, DRAWS_AIR.most))
    return DryTime(tuple(dips), sum(dry for _, _, dry in stretches), draws)
