"""Laps in a recording: by the logger's word, by GPS, or by the corners coming round again."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy

from bilge_core.loads.line import distance_driven, heading
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array

SHORTEST_LAP = 5.0
"""[s] that a lap or a load must last to be judged."""

_SHORTEST_TIME = 12.0  # [s]
_NEAR = 30.0  # [m] from the start line's place
_GRID = 5.0  # [m] of distance between samples of the bends
_SHORTEST_LAP = 300.0  # [m]
_LONGEST_LAP = 30_000.0  # [m]
_ALIKE = 0.6  # correlation of the bends of two laps
_WHOLE_TURN = math.radians(330.0)
_SLOWEST = 5.0  # [m/s]
_SAME_LENGTH = 0.03  # share of a lap's length by which lines and loggers differ (ours)
_STRAIGHT = 1e-4  # [1/m] spread of bends that is none


@dataclass(frozen=True)
class LapSpan:
    """One lap of a recording: number, from, to [s], and whether it is a whole flying one."""

    number: int
    start: float
    end: float
    whole: bool

    @property
    def duration(self) -> float:
        """[s]"""
        return self.end - self.start


def _spans(log: Log, edges: list[float], said: bool) -> tuple[LapSpan, ...]:
    """Spans between edges, whole where they are as long as the others.

    When edges were found, not said, the outer spans are no whole laps.
    """
    end = float(log.time[-1])
    kept = [0.0]
    for edge in sorted(edges):
        if edge - kept[-1] >= _SHORTEST_TIME and end - edge >= 1.0:
            kept.append(edge)
    bounds = list(zip(kept, [*kept[1:], end], strict=True))
    driven = distance_driven(log)
    far = [float(np.diff(np.interp(each, log.time, driven))[0]) for each in bounds]
    usual = float(np.median(far[1:-1] or far))
    return tuple(
        LapSpan(
            number,
            a,
            b,
            len(bounds) == 1
            or (abs(length - usual) <= _SAME_LENGTH * usual and (said or 1 < number < len(bounds))),
        )
        for number, ((a, b), length) in enumerate(zip(bounds, far, strict=True), start=1)
    )


def _passes(log: Log, place: Array) -> list[float]:
    """Times at which the car comes by the place where it was fastest, going the same way."""
    velocity = np.gradient(place, log.time, axis=0)
    at = int(np.argmax(log.speed))
    near = np.hypot(*(place - place[at]).T)
    same_way = velocity @ velocity[at] > 0.5 * np.linalg.norm(velocity, axis=1) * np.linalg.norm(
        velocity[at]
    )
    closeness = np.where(same_way & (near < _NEAR), -near, -1e6)
    step = log.step
    peaks, _ = scipy.signal.find_peaks(
        np.concatenate([[-2e6], closeness, [-2e6]]),
        height=-_NEAR,
        distance=max(1, round(_SHORTEST_TIME / step)),
    )
    return [float(log.time[peak - 1]) for peak in peaks]


def _likeness(one: Array, other: Array) -> float:
    """Correlation of two stretches of bends, nil where there is none to speak of."""
    if len(one) != len(other) or min(np.std(one), np.std(other)) < _STRAIGHT:
        return 0.0
    return float(np.corrcoef(one, other)[0, 1])


def _lap_lag(bends: Array, turned: Array) -> int | None:
    """After how many steps of distance the bends repeat, the shortest that is a whole turn."""
    shortest = round(_SHORTEST_LAP / _GRID)
    longest = min(len(bends) - shortest, round(_LONGEST_LAP / _GRID))
    if longest <= shortest:
        return None
    centred = bends - bends.mean()
    size = 1 << (2 * len(bends) - 1).bit_length()
    spectrum = np.fft.rfft(centred, size)
    raw = np.fft.irfft(spectrum * np.conj(spectrum), size)[: len(bends)]
    likeness = raw[:longest] / (len(bends) - np.arange(longest))
    inner = likeness[1:-1]
    peaks = np.flatnonzero((inner > likeness[:-2]) & (inner > likeness[2:])) + 1
    good = [
        (int(lag), _likeness(bends[:-lag], bends[lag:]))
        for lag in peaks
        if lag >= shortest and abs(float(turned[lag] - turned[0])) > _WHOLE_TURN
    ]
    best = max((r for _, r in good), default=0.0)
    return next((lag for lag, r in good if r >= max(_ALIKE, 0.9 * best)), None)


def _by_bends(log: Log) -> list[float]:
    """Times at which the bends come round again, from where the car was fastest on the first lap.

    The bends over distance are laid over themselves; each next pass is looked
    for within 6 % of a lap, so that drift does not add up.
    """
    driven = distance_driven(log)
    if driven[-1] < 2.0 * _SHORTEST_LAP:
        return []
    even = np.arange(0.0, float(driven[-1]), _GRID)
    speed = np.interp(even, driven, log.speed)
    side = np.interp(even, driven, log.leftward)
    bends = np.where(speed > _SLOWEST, side / np.maximum(speed, _SLOWEST) ** 2, 0.0)
    lag = _lap_lag(bends, np.interp(even, driven, heading(log)))
    if lag is None:
        return []
    half, slack = max(4, round(0.15 * lag)), max(2, round(0.06 * lag))
    here = half + int(np.argmax(speed[half : half + lag]))
    passes = [here]
    while here + lag + slack + half < len(bends):
        pattern = bends[here - half : here + half]
        candidates = range(here + lag - slack, here + lag + slack + 1)
        likeness = [_likeness(pattern, bends[c - half : c + half]) for c in candidates]
        found = int(np.argmax(likeness))
        if likeness[found] < 0.5:
            break
        here = candidates[found]
        passes.append(here)
    return [float(np.interp(even[at], driven, log.time)) for at in passes]


def find_laps(log: Log, lap_starts: tuple[float, ...] = ()) -> tuple[LapSpan, ...]:
    """Laps of a prepared recording.

    Parameters
    ----------
    log : Log
        Evenly spaced: see `prepare`.
    lap_starts : tuple of float
        Where the logger itself says that laps begin [s]; it is believed.

    Returns
    -------
    tuple of LapSpan
        From the first sample to the last without gaps; one when no lap comes
        round twice. Those over 3 % longer or shorter in distance than the usual
        are not whole: a part lap, a pit lane.

    Notes
    -----
    Without the logger's word a lap begins where the car was fastest: with GPS
    each time it comes by within 30 m, going the same way; without, each time
    the bends it drives repeat over distance and have turned a whole turn. A
    figure of eight without GPS is therefore not found.

    Examples
    --------
    >>> time = np.arange(0.0, 100.0, 0.1)
    >>> one = np.ones_like(time)
    >>> log = Log(time, 30 * one, 0 * one, 0 * one, 600 * one)
    >>> [(lap.number, lap.start, lap.end) for lap in find_laps(log, (40.0, 80.0))]
    [(1, 0.0, 40.0), (2, 40.0, 80.0), (3, 80.0, 99.9)]
    """
    end = float(log.time[-1])
    if lap_starts:
        return _spans(log, list(lap_starts), said=True)
    if end < 2.0 * _SHORTEST_TIME:
        return (LapSpan(1, 0.0, end, True),)
    passes = _passes(log, log.place) if log.place is not None else _by_bends(log)
    return _spans(log, passes, said=False) if len(passes) > 1 else (LapSpan(1, 0.0, end, True),)
