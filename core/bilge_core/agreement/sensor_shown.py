"""What a pressure sensor and its logger show of the gallery: late, rounded off, now and then."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import accumulate

import numpy as np
from scipy.optimize import brentq

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array
from bilge_core.rules.gallery import PRESSURE_DIP, SHORTEST_PRESSURE_DIP
from bilge_core.rules.logger import READINGS_IN_DIP

GAUGE_LAG = 0.05
"""[s] ours: a sensor on the block with a logger's own filter, until dips tell better."""
_STILL = 1e-5  # of the largest reading: under it two readings are one, single precision or not


@dataclass(frozen=True)
class Shown:
    """How a sensor is read.

    lag : time constant of sensor, its line and the logger's own filter, first order [s]
    rate : readings a second
    """

    lag: float
    rate: float

    def shortest(self, share: float = 0.0) -> float:
        """Shortest dip that is told, where pressure falls at once to a share of what is usual [s].

        Parameters
        ----------
        share : float

        Returns
        -------
        float
            Not finite where so shallow a dip is none.

        Examples
        --------
        >>> Shown(0.0, 10.0).shortest(), round(Shown(0.2, 50.0).shortest(), 2)
        (0.2, 0.15)
        """
        missing, needed = 1.0 - share, 1.0 - PRESSURE_DIP.least
        if missing <= needed:
            return math.inf
        told = max(READINGS_IN_DIP.least / self.rate, SHORTEST_PRESSURE_DIP.least)
        if self.lag == 0.0:
            return told

        begins = -self.lag * math.log1p(-needed / missing)

        def stays(lasts: float) -> float:
            """For how long a dip is told [s], less what it must be."""
            deepest = -missing * math.expm1(-lasts / self.lag)
            return lasts + self.lag * math.log(deepest / needed) - begins - told

        return float(brentq(stays, begins, begins + told + 10.0 * self.lag))


def readings_a_second(time: Array, values: Array) -> float:
    """How often a channel was read, from the samples of a log that holds it at even steps.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Even [s].
    values : ndarray, shape (n,)
        Held between readings, or drawn straight from one to the next.

    Returns
    -------
    float
        [1/s]; the log's own rate where nothing tells of a lower one.

    Raises
    ------
    InvalidQuantity
        With fewer than two samples.

    Examples
    --------
    >>> time = np.arange(0.0, 4.0, 0.02)
    >>> read = np.sin(time[::5])
    >>> round(readings_a_second(time, np.repeat(read, 5)))
    10
    >>> round(readings_a_second(time, np.interp(time, time[::5], read)))
    10
    >>> round(readings_a_second(time, np.sin(time)))
    50
    """
    if len(time) < 2 or time.shape != values.shape:
        raise InvalidQuantity(
            "channel", f"{values.shape} samples", "one at every time, two or more"
        )
    step = float(time[1] - time[0])
    least = _STILL * max(float(np.abs(values).max()), 1e-12)
    moves = np.abs(np.diff(values)) > least
    if not moves.any():
        return 1.0 / step
    # held: it moves now and then; drawn straight: its slope changes now and then
    bends = np.abs(np.diff(values, 2)) > least
    moved = np.flatnonzero(moves if moves.mean() < 0.5 else bends)
    if len(moved) < 3:
        return 1.0 / step
    every = max(1, round(float(np.percentile(np.diff(moved), 20.0))))
    return 1.0 / (step * every)


def shown_by(sensor: Shown, time: Array, pressure: Array) -> Array:
    """A pressure as a sensor shows it, drawn straight between its readings.

    Parameters
    ----------
    sensor : Shown
    time : ndarray, shape (n,)
        Even [s].
    pressure : ndarray, shape (n,)

    Returns
    -------
    ndarray, shape (n,)

    Notes
    -----
    A first-order lag, solved exactly for readings that hold from step to step.

    Examples
    --------
    >>> time = np.arange(0.0, 1.0, 0.01)
    >>> seen = shown_by(Shown(0.1, 100.0), time, np.where(time < 0.5, 1.0, 0.0))
    >>> round(float(seen[59]), 2)  # a lag after it fell, 1/e is left
    0.37
    """
    step = float(time[1] - time[0])
    if sensor.lag > 0.0:
        left = math.exp(-step / sensor.lag)
        late = np.fromiter(
            accumulate(pressure.tolist(), lambda before, now: left * before + (1.0 - left) * now),
            dtype=np.float64, count=len(pressure),
        )  # fmt: skip
    else:
        late = pressure
    every = max(1, round(1.0 / (sensor.rate * step)))
    return np.asarray(np.interp(time, time[::every], late[::every]))
