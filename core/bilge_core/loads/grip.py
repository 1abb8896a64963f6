"""The same lap with more grip, or less."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log


def with_grip(log: Log, times: float) -> Log:
    """A lap driven with so many times the grip.

    Parameters
    ----------
    log : Log
        Prepared.
    times : float
        Above nil: loads along and across are so many times as great.

    Returns
    -------
    Log
        The same line: speeds and crank speeds go with the root of it, times with one over the
        root. The crank is never turned faster than the lap's own fastest.

    Raises
    ------
    InvalidQuantity

    References
    ----------
    ``a = v² / r`` on an unchanged line.

    Examples
    --------
    >>> log = Log(np.array([0.0, 1.1]), np.ones(2), np.ones(2), np.zeros(2), np.array([300.0, 400]))
    >>> more = with_grip(log, 1.21)
    >>> more.time.round(6).tolist(), more.forward.tolist(), more.engine_speed.round(6).tolist()
    ([0.0, 1.0], [1.21, 1.21], [330.0, 400.0])
    """
    if not (times > 0.0 and math.isfinite(times)):
        raise InvalidQuantity("grip", times, "above nil")
    root = math.sqrt(times)
    begin = float(log.time[0])
    speed = log.engine_speed
    return replace(
        log,
        time=begin + (log.time - begin) / root,
        forward=log.forward * times,
        leftward=log.leftward * times,
        engine_speed=np.minimum(speed * root, speed.max()),
    )
