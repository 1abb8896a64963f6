"""A remedy over time, coarsely: enough to lay over a lap."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.physics.arrays import Array

STEP = 0.1
"""[s] between a trace's points (ours: a dip is told from a twentieth of a second on, and the worst
of each tenth is kept)."""


@dataclass(frozen=True)
class Trace:
    """The worst of each tenth of a second, as plain numbers.

    time : of the lap, the log's own, rising [s]
    pressure : least in the gallery, over the air's [Pa]
    gas : most in what the mouth draws [-]
    """

    time: tuple[float, ...]
    pressure: tuple[float, ...]
    gas: tuple[float, ...]


def traced(time: Array, pressure: Array, gas: Array) -> Trace:
    """A trace of looks.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Rising [s].
    pressure : ndarray, shape (n,) [Pa]
    gas : ndarray, shape (n,)

    Examples
    --------
    >>> found = traced(np.array([0.0, 0.05, 0.1]), np.array([3e5, 1e5, 2e5]), np.array([0, 0.4, 0]))
    >>> found.time, found.pressure, found.gas
    ((0.0, 0.1), (100000.0, 200000.0), (0.4, 0.0))
    """
    if not len(time):
        return Trace((), (), ())
    place = np.floor(time / STEP + 1e-6).astype(int)
    starts = np.flatnonzero(np.diff(place, prepend=place[0] - 1))
    return Trace(
        tuple(np.round(place[starts] * STEP, 2).tolist()),
        tuple(np.minimum.reduceat(pressure, starts).round().tolist()),
        tuple(np.maximum.reduceat(gas, starts).round(2).tolist()),
    )


def joined(traces: Sequence[Trace | None]) -> Trace | None:
    """Stretches of one lap as one, in the order of time; None: there is none.

    Examples
    --------
    >>> joined([Trace((5.0,), (2e5,), (0.1,)), None, Trace((1.0,), (3e5,), (0.0,))]).time
    (1.0, 5.0)
    """
    found = [each for each in traces if each is not None]
    if not found:
        return None
    rows = sorted({
        row for each in found for row in zip(each.time, each.pressure, each.gas, strict=True)
    })  # fmt: skip
    return Trace(
        tuple(row[0] for row in rows), tuple(row[1] for row in rows), tuple(row[2] for row in rows)
    )
