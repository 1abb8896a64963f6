"""The line driven: where GPS says the car was, or drawn from speed and side g alone."""

from __future__ import annotations

import math

import numpy as np

from bilge_core.loads.log import Log
from bilge_core.loads.summing import summed
from bilge_core.physics.arrays import Array

_SLOWEST = 3.0  # [m/s]; below it, side g over speed says nothing of the turn


def heading(log: Log) -> Array:
    """Heading [rad] against the start, positive to the left: side acceleration over speed, summed.

    Examples
    --------
    >>> circle = Log(np.linspace(0, 10, 1001), *np.full((2, 1001), 20.0),
    ...              np.full(1001, 4 * math.pi), np.zeros(1001))
    >>> round(float(heading(circle)[-1]), 3)  # v = 20 m/s, a = 4π: one whole turn in 10 s
    6.283
    """
    rate = np.where(log.speed > _SLOWEST, log.leftward / np.maximum(log.speed, _SLOWEST), 0.0)
    return summed(rate, log.time)


def distance_driven(log: Log) -> Array:
    """Distance [m] since the start: speed, summed.

    Examples
    --------
    >>> steady = Log(np.array([0.0, 1.0, 2.0]), np.full(3, 30.0), *np.zeros((3, 3)))
    >>> distance_driven(steady).tolist()
    [0.0, 30.0, 60.0]
    """
    return summed(log.speed, log.time)


def driven_line(log: Log) -> Array:
    """Places along the lap in plan, closed where the lap comes round.

    Parameters
    ----------
    log : Log
        Prepared.

    Returns
    -------
    ndarray, shape (n, 2)
        Forward and left of the start [m], starting along +x; from GPS, where
        it was logged, east and north of it.

    Notes
    -----
    Without GPS: when the heading comes within a fifth of a whole turn, the error of heading
    and then of place is spread evenly over the lap; else the line stays open.

    Examples
    --------
    >>> straight = Log(np.array([0.0, 1.0]), np.array([30.0, 30.0]), *np.zeros((3, 2)))
    >>> driven_line(straight).tolist()
    [[0.0, 0.0], [30.0, 0.0]]
    """
    if log.place is not None:
        return np.asarray(log.place - log.place[0])
    turned = heading(log)
    turns = float(turned[-1]) / (2.0 * math.pi)
    closed = round(turns) != 0 and abs(turns - round(turns)) < 0.2
    share = log.time / log.time[-1]
    if closed:
        turned = turned + share * (round(turns) * 2.0 * math.pi - turned[-1])
    x = summed(log.speed * np.cos(turned), log.time)
    y = summed(log.speed * np.sin(turned), log.time)
    line = np.column_stack([x, y])
    return np.asarray(line - share[:, None] * line[-1] if closed else line)


_LINE_POINTS = 400


def thinned_line(log: Log) -> list[tuple[float, float]]:
    """The line driven [m], at most a few hundred points, for drawing.

    Examples
    --------
    >>> straight = Log(np.array([0.0, 1.0]), np.array([30.0, 30.0]), *np.zeros((3, 2)))
    >>> thinned_line(straight)
    [(0.0, 0.0), (30.0, 0.0)]
    """
    line = driven_line(log)
    chosen = np.linspace(0, len(line) - 1, min(_LINE_POINTS, len(line))).astype(int)
    return [(round(float(x), 1), round(float(y), 1)) for x, y in line[chosen]]
