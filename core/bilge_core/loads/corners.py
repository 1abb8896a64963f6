"""Corners of a lap, found from its side g."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.loads.summing import moving_mean
from bilge_core.physics.gravity import STANDARD_GRAVITY

_SMOOTH = 0.5  # [s]
_FLOOR_G = 0.25
_SHARE_OF_PEAK = 0.3
_JOIN = 0.8  # [s] between stretches of one hand that count as one corner
_SHORTEST = 0.6  # [s]


@dataclass(frozen=True)
class Corner:
    """One corner: number in the order driven, hand, start and end [s], highest side load [g].

    `name` is what the builder calls it, None for its number.
    """

    number: int
    hand: Literal["left", "right"]
    start: float
    end: float
    peak_g: float
    name: str | None = None

    @property
    def called(self) -> str:
        """Its name in a sentence: ``corner 3`` or what the builder calls it."""
        return self.name or f"corner {self.number}"


def find_corners(log: Log) -> tuple[Corner, ...]:
    """Corners of a prepared log.

    A corner is a stretch of one hand in which side g, smoothed over 0.5 s,
    stays above 0.25 g or 0.3 of the lap's peak, whichever is more; stretches of
    one hand less than 0.8 s apart are one, those under 0.6 s are dropped.

    Parameters
    ----------
    log : Log
        Evenly spaced: see `prepare`.

    Returns
    -------
    tuple of Corner
        In the order driven; empty for a log without corners.

    Raises
    ------
    InvalidQuantity
        If the log has fewer than two samples.

    References
    ----------
    The thresholds are ours, chosen on invented laps.

    Examples
    --------
    >>> time = np.arange(0, 10, 0.1)
    >>> side = np.where((time > 3) & (time < 6), 9.8, 0.0)
    >>> [(c.number, c.hand) for c in find_corners(Log(time, *np.zeros((2, 100)), side, time))]
    [(1, 'left')]
    """
    if len(log.time) < 2:
        raise InvalidQuantity("log", f"{len(log.time)} samples", "at least two samples")
    step = log.step
    side = moving_mean(log.leftward / STANDARD_GRAVITY, max(1, round(_SMOOTH / step)), "mirrored")
    threshold = max(_FLOOR_G, _SHARE_OF_PEAK * float(np.abs(side).max()))
    hand = np.where(side > threshold, 1, np.where(side < -threshold, -1, 0))
    stretches: list[tuple[int, int, int]] = []
    edges = np.flatnonzero(np.diff(hand)) + 1
    for begin, last in zip([0, *edges], [*edges, len(hand)], strict=True):
        first = begin
        if hand[first] == 0:
            continue
        if (
            stretches
            and stretches[-1][2] == hand[first]
            and (first - stretches[-1][1]) * step < _JOIN
        ):
            first = stretches.pop()[0]
        stretches.append((int(first), int(last), int(hand[first])))
    kept = [s for s in stretches if (s[1] - s[0]) * step >= _SHORTEST]
    return tuple(
        Corner(
            number,
            "left" if sign > 0 else "right",
            float(log.time[first]),
            float(log.time[last - 1]),
            float(np.abs(side[first:last]).max()),
        )
        for number, (first, last, sign) in enumerate(kept, start=1)
    )


def named_corners(log: Log, spans: Sequence[tuple[str | None, float, float]]) -> tuple[Corner, ...]:
    """Corners where the builder says they are, numbered in the order driven.

    Parameters
    ----------
    log : Log
        Prepared.
    spans : sequence of (name or None, start [s], end [s])

    Returns
    -------
    tuple of Corner
        Each with the hand to which it turns on the whole, and its highest side load.

    Raises
    ------
    InvalidQuantity
        If a span lies outside the lap, is shorter than two samples or overlaps another.

    Examples
    --------
    >>> time = np.arange(0, 10, 0.1)
    >>> side = np.where((time > 3) & (time < 6), 9.8, 0.0)
    >>> log = Log(time, *np.zeros((2, 100)), side, time)
    >>> [(c.called, c.hand) for c in named_corners(log, [("Mill bend", 3.0, 6.0)])]
    [('Mill bend', 'left')]
    """
    corners: list[Corner] = []
    before = -1.0
    for number, (name, start, end) in enumerate(sorted(spans, key=lambda s: s[1]), start=1):
        inside = (log.time >= start) & (log.time <= end)
        what = f"corner {number}"
        if not (math.isfinite(start) and math.isfinite(end)) or inside.sum() < 2:
            raise InvalidQuantity(
                what, f"{start:g} to {end:g} s", f"inside the lap, 0 to {log.time[-1]:.1f} s"
            )
        if start < before:
            raise InvalidQuantity(what, f"from {start:g} s", f"after the one before ({before:g} s)")
        before = end
        side = log.leftward[inside] / STANDARD_GRAVITY
        hand: Literal["left", "right"] = "left" if float(side.mean()) >= 0.0 else "right"
        corners.append(Corner(number, hand, start, end, float(np.abs(side).max()), name))
    return tuple(corners)


def place_on_lap(corners: tuple[Corner, ...], time: float) -> tuple[Corner | None, str]:
    """The corner that a moment belongs to, and how to say it.

    Returns
    -------
    tuple of Corner or None, and str
        ``"in corner 3"``, ``"into corner 3"`` (up to 3 s before it),
        ``"out of corner 3"`` (up to 3 s after it), or ``"on a straight"``.

    Examples
    --------
    >>> place_on_lap((Corner(1, "left", 3.0, 6.0, 1.0),), 2.0)[1]
    'into corner 1'
    """
    for corner in corners:
        if corner.start <= time <= corner.end:
            return corner, f"in {corner.called}"
    near = [(corner.start - time, corner, "into") for corner in corners if corner.start > time]
    near += [(time - corner.end, corner, "out of") for corner in corners if corner.end < time]
    within = [entry for entry in near if entry[0] <= 3.0]
    if not within:
        return None, "on a straight"
    _, corner, word = min(within, key=lambda entry: entry[0])
    return corner, f"{word} {corner.called}"
