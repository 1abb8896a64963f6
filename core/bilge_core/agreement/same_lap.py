"""Where on one lap a moment of another is: two laps of one circuit laid onto each other."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.line import distance_driven
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.rules.logger import SAME_LAP

_SHARES = 1024
"""Places round a lap at which two are held against each other."""
_NOWHERE = 1.0  # [m]: manoeuvres may be typed without a speed
_WORTH = 0.02  # of agreement, for which a lap is turned to begin elsewhere (ours)
_BESIDE = 0.03  # of the lap within which a corner of one is that of the other (ours)


@dataclass(frozen=True)
class LaidOn:
    """One lap laid onto another.

    alike : how well their side loads agree over the distance, 1 being all of it
    there : time on the other lap at each sample of this one, shape (n,) [s]
    """

    alike: float
    there: Array

    @property
    def is_same(self) -> bool:
        """Whether both are laps of one circuit."""
        return SAME_LAP.holds(self.alike)


def _share(log: Log) -> Array:
    """How far round each sample is; of a log that drove nowhere, by its clock."""
    driven = distance_driven(log)
    if driven[-1] < _NOWHERE:
        driven = log.time - log.time[0]
    return np.asarray(driven / driven[-1])


def _agree(one: Array, other: Array) -> Array:
    """How well two rounds agree, the other begun at each place in turn."""
    a, b = one - one.mean(), other - other.mean()
    size = float(np.linalg.norm(a) * np.linalg.norm(b))
    if size == 0.0:
        return np.zeros(len(a))
    return np.asarray(np.fft.irfft(np.conj(np.fft.rfft(a)) * np.fft.rfft(b), len(a)) / size)


def _middle(corner: Corner, log: Log, share: Array) -> float:
    ends = np.interp([corner.start, corner.end], log.time, share)
    return float(ends.mean())


def _paired(log: Log, other: Log, share: Array, others: Array, turned: float) -> Array:
    """Places of corners on this lap and how much further they are on the other, shape (k, 2)."""
    theirs = [(each.hand, _middle(each, other, others)) for each in find_corners(other)]
    rows = []
    for corner in find_corners(log):
        here = _middle(corner, log, share)
        apart = [
            (there - here - turned + 0.5) % 1.0 - 0.5
            for hand, there in theirs
            if hand == corner.hand
        ]
        nearest = min(apart, key=abs, default=1.0)
        if abs(nearest) < _BESIDE:
            rows.append((here, nearest))
    return np.array(rows).reshape(-1, 2)


def laid_on(log: Log, other: Log) -> LaidOn:
    """Lay a lap onto another by the distance driven, then by the corners that both have.

    Parameters
    ----------
    log, other : Log
        Prepared.

    Returns
    -------
    LaidOn

    Notes
    -----
    A lap whose line is elsewhere is turned round until side loads agree best. Between the middles
    of corners that both have, and are within 3 % of a lap, distance is shared out evenly.

    Examples
    --------
    >>> time = np.arange(0.0, 20.0, 0.05)
    >>> side = 9.0 * np.sin(time) * (time < 14.0)
    >>> lap = Log(time, np.full(400, 30.0), np.zeros(400), side, np.full(400, 500.0))
    >>> found = laid_on(lap, lap)
    >>> found.is_same, bool(np.abs(found.there - time).max() < 0.05)
    (True, True)
    """
    share, others = _share(log), _share(other)
    even = np.arange(_SHARES) / _SHARES
    here, there = (np.interp(even, s, each.leftward) for s, each in ((share, log), (others, other)))
    agree = _agree(here, there)
    best = int(np.argmax(agree))
    turn = best if agree[best] > agree[0] + _WORTH else 0
    turned = turn / _SHARES
    pairs = _paired(log, other, share, others, turned)
    more = np.interp(share, pairs[:, 0], pairs[:, 1], period=1.0) if len(pairs) else 0.0
    on = np.clip(share + more, 0.0, 1.0) if turn == 0 else (share + turned + more) % 1.0
    return LaidOn(float(agree[turn]), np.interp(on, others, other.time))
