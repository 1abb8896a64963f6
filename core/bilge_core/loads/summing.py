"""Sums and means along a log's samples, in NumPy alone.

SciPy has both; importing the parts of it that do takes longer than judging a lap.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from bilge_core.physics.arrays import Array


def summed(rate: Array, time: Array) -> Array:
    """The integral of a rate from the first sample on, by trapezoids, shape (n,).

    Examples
    --------
    >>> summed(np.array([0.0, 1.0, 2.0]), np.array([0.0, 1.0, 2.0])).tolist()
    [0.0, 0.5, 2.0]
    """
    steps = 0.5 * (rate[1:] + rate[:-1]) * np.diff(time)
    return np.concatenate([[0.0], np.cumsum(steps)])


def moving_mean(values: Array, width: int, beyond: Literal["mirrored", "nil"]) -> Array:
    """The mean of `width` samples round each, shape (n,).

    Beyond the ends the samples are mirrored about them, or nil.

    Examples
    --------
    >>> moving_mean(np.array([0.0, 3.0, 6.0, 9.0]), 3, "mirrored").tolist()
    [1.0, 3.0, 6.0, 8.0]
    >>> moving_mean(np.array([3.0, 3.0, 3.0]), 3, "nil").tolist()
    [2.0, 3.0, 2.0]
    """
    if width <= 1:
        return np.array(values, dtype=np.float64)
    ahead = width // 2
    mode: Literal["symmetric", "constant"] = "symmetric" if beyond == "mirrored" else "constant"
    padded = np.pad(np.asarray(values, dtype=np.float64), (ahead, width - 1 - ahead), mode=mode)
    return np.convolve(padded, np.full(width, 1.0 / width), mode="valid")
