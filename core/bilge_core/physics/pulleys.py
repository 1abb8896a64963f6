"""Toothed pulleys."""

from __future__ import annotations

import math


def radius_of(pitch: float, teeth: int) -> float:
    """Of a toothed pulley's pitch line, in the unit of the pitch.

    Examples
    --------
    >>> round(radius_of(8.0, 24), 2)
    30.56
    """
    return teeth * pitch / (2.0 * math.pi)
