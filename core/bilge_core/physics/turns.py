"""Turns a minute, as people say them, and angular speed, as formulas take it."""

from __future__ import annotations

import math
from typing import TypeVar

from bilge_core.physics.arrays import Array

Speed = TypeVar("Speed", float, Array)


def speed_of_rpm(rpm: Speed) -> Speed:
    """Angular speed [rad/s] of turns a minute.

    Examples
    --------
    >>> round(speed_of_rpm(6000.0), 2)
    628.32
    """
    return rpm * math.pi / 30.0


def rpm_of_speed(speed: Speed) -> Speed:
    """Turns a minute of an angular speed [rad/s].

    Examples
    --------
    >>> round(rpm_of_speed(628.3185), 1)
    6000.0
    """
    return speed * 30.0 / math.pi
