"""The accelerometer's own frame and place, turned into the car's at the engine."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import scipy
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.frames import STANDARD_GRAVITY
from bilge_core.loads.log import Log
from bilge_core.loads.reading import Sensor

Array = NDArray[np.float64]

_STANDS = 0.8  # [m/s]
_LONG_ENOUGH = 2.0  # [s]
_STILL = 0.05 * STANDARD_GRAVITY  # [m/s2]
_YAW_SMOOTH = 0.2  # [s] before yaw rate is differentiated


def _spread(channel: Array) -> float:
    low, high = np.percentile(channel, [25.0, 75.0])
    return float(high - low)


def standing_stretch(log: Log) -> tuple[int, int] | None:
    """The longest stretch in which the car stands, as a range of samples; None without one.

    A stretch of 2 s or more under 0.8 m/s in which the middle half of forward
    and side acceleration lies within 0.05 g: setting off and stopping, which
    are in it, do not count.

    Examples
    --------
    >>> time = np.arange(0.0, 10.0, 0.1)
    >>> speed = np.where(time < 4.0, 0.0, 20.0)
    >>> standing_stretch(Log(time, speed, *np.zeros((3, 100))))
    (0, 40)
    """
    slow = np.concatenate([[False], log.speed < _STANDS, [False]])
    edges = np.flatnonzero(np.diff(slow.astype(np.int8)))
    best: tuple[int, int] | None = None
    for first, last in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
        length = float(log.time[last - 1] - log.time[first])
        still = max(_spread(c[first:last]) for c in (log.forward, log.leftward)) < _STILL
        longest = -1.0 if best is None else float(log.time[best[1] - 1] - log.time[best[0]])
        if length >= _LONG_ENOUGH and still and length > longest:
            best = (first, last)
    return best


def _turn_onto_up(down_to: Array) -> Array:
    """The rotation that turns a felt direction onto straight up the short way, shape (3, 3)."""
    felt = down_to / np.linalg.norm(down_to)
    axis = np.cross(felt, [0.0, 0.0, 1.0])
    cross = np.array([[0.0, -axis[2], axis[1]], [axis[2], 0.0, -axis[0]], [-axis[1], axis[0], 0.0]])
    return np.asarray(np.eye(3) + cross + cross @ cross / (1.0 + felt[2]))


def _levelled(log: Log) -> tuple[Log, str]:
    stretch = standing_stretch(log)
    if stretch is None:
        raise InvalidQuantity(
            "standing stretch",
            "missing",
            "2 s or more in which the car stands; log it standing, or do not level",
        )
    first, last = stretch
    upward = log.upward if log.upward is not None else np.full_like(log.time, STANDARD_GRAVITY)
    felt = np.column_stack([log.forward, log.leftward, upward])
    mean = np.median(felt[first:last], axis=0)
    if mean[2] < 0.5 * float(np.linalg.norm(mean)):
        raise InvalidQuantity(
            "standing stretch", f"tilted by {_tilt(mean):.0f}°", "tilted by less than 60°"
        )
    turned = felt @ _turn_onto_up(mean).T
    levelled = replace(
        log,
        forward=turned[:, 0],
        leftward=turned[:, 1],
        upward=None if log.upward is None else turned[:, 2],
    )
    return levelled, (
        f"The sensor's tilt of {_tilt(mean):.1f}° is taken out, from "
        f"{log.time[last - 1] - log.time[first]:.0f} s standing at {log.time[first]:.0f} s."
    )


def _tilt(felt: Array) -> float:
    return math.degrees(math.acos(min(1.0, float(felt[2] / np.linalg.norm(felt)))))


def _moved(log: Log, sensor: Sensor, yaw_rate: Array) -> tuple[Log, str]:
    """Accelerations at the engine from those at the sensor, by the yaw rate."""
    ahead, left = -sensor.ahead_mm * 1e-3, -sensor.left_mm * 1e-3  # engine from sensor
    step = max(float(np.median(np.diff(log.time))), 1e-3)
    smooth = scipy.ndimage.uniform_filter1d(yaw_rate, max(1, round(_YAW_SMOOTH / step)))
    change = np.gradient(smooth, log.time)
    moved = replace(
        log,
        forward=log.forward - change * left - smooth**2 * ahead,
        leftward=log.leftward + change * ahead - smooth**2 * left,
    )
    most = float(np.hypot(moved.forward - log.forward, moved.leftward - log.leftward).max())
    return moved, (
        "Accelerations are moved from the sensor to the engine by the yaw rate: "
        f"by up to {most / STANDARD_GRAVITY:.2f} g."
    )


def in_car(log: Log, sensor: Sensor, yaw_rate: Array | None) -> tuple[Log, tuple[str, ...]]:
    """A log as the sensor felt it, as the engine felt it in the car's frame.

    Parameters
    ----------
    log : Log
        In the sensor's frame.
    sensor : Sensor
        How far it is turned, whether to level it, and where it sits.
    yaw_rate : ndarray, shape (n,), or None
        Turning to the left [rad/s].

    Returns
    -------
    tuple of Log, and tuple of str
        The log, and what was done in words.

    Raises
    ------
    InvalidQuantity
        If it is to be levelled and the car never stands, or is to be moved and
        there is no yaw rate.

    Notes
    -----
    Levelled first, in its own frame, then turned about the car's up, then moved:
    ``a_engine = a_sensor + yaw' x r + yaw x (yaw x r)`` with yaw alone (rigid
    body; roll and pitch rates are left out). A body-fixed accelerometer feels
    banking and body roll already: nothing is added for them. Levelling without
    a vertical channel takes it as 1 g.

    Examples
    --------
    >>> time = np.arange(0.0, 2.0, 0.1)
    >>> felt = Log(time, 30 + 0 * time, 9.8 + 0 * time, 0 * time, 600 + 0 * time)
    >>> turned, _ = in_car(felt, Sensor(turned_left_deg=90), None)
    >>> round(float(turned.leftward[0]), 3)
    9.8
    """
    said: list[str] = []
    if sensor.level_standing:
        log, words = _levelled(log)
        said.append(words)
    if sensor.turned_left_deg:
        angle = math.radians(sensor.turned_left_deg)
        log = replace(
            log,
            forward=log.forward * math.cos(angle) - log.leftward * math.sin(angle),
            leftward=log.forward * math.sin(angle) + log.leftward * math.cos(angle),
        )
        said.append(f"The sensor's axes are turned by {sensor.turned_left_deg:g}°.")
    if sensor.ahead_mm or sensor.left_mm:
        if yaw_rate is None:
            raise InvalidQuantity(
                "yaw rate", "missing", "named among the columns to move the sensor's readings"
            )
        log, words = _moved(log, sensor, yaw_rate)
        said.append(words)
    return log, tuple(said)
