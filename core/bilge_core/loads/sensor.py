"""The accelerometer's own frame and place, turned into the car's at the engine."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.loads.reading import Sensor
from bilge_core.loads.summing import moving_mean
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY

_STANDS = 0.8  # [m/s]
_LONG_ENOUGH = 2.0  # [s]
_STILL = 0.05 * STANDARD_GRAVITY  # [m/s2]
_MOVING = 8.0  # [m/s] from which speed and GPS tell of straights
_STEADY_OVER = 0.6  # [s] over which speed and turning are smoothed
_SHOWN_G = 0.05  # [g] of a steady difference that is worth a word: a tilt of 3 degrees
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


def _smoothed(channel: Array, time: Array, over: float) -> Array:
    step = max(float(np.median(np.diff(time))), 1e-3)
    return moving_mean(channel, max(1, round(over / step)), "mirrored")


def turning_rate(log: Log, yaw_rate: Array | None) -> Array | None:
    """How fast the car turns [rad/s], positive to the left, by yaw rate or GPS; None without."""
    if yaw_rate is not None:
        return _smoothed(yaw_rate, log.time, _STEADY_OVER)
    if log.place is None:
        return None
    east, north = (_smoothed(log.place[:, k], log.time, _STEADY_OVER) for k in (0, 1))
    heading = np.unwrap(np.arctan2(np.gradient(north, log.time), np.gradient(east, log.time)))
    return _smoothed(np.gradient(heading, log.time), log.time, _STEADY_OVER)


def unexplained(log: Log, yaw_rate: Array | None) -> tuple[float, float | None] | None:
    """What the sensor reads that the car's motion does not explain, fore and to the side [m/s2].

    Medians, while the car moves, of longitudinal acceleration less the change of speed, and of
    lateral acceleration less speed times turning. Slopes and banks cancel over whole laps; what
    stays is a tilt. The side is None without yaw rate or GPS; None alone when it hardly moves.

    Examples
    --------
    >>> time = np.arange(0.0, 20.0, 0.1)
    >>> log = Log(time, 20.0 + 2.0 * time, 2.5 + 0 * time, 0 * time, 0 * time)
    >>> fore, side = unexplained(log, None)
    >>> round(fore, 2), side
    (0.5, None)
    """
    speed = _smoothed(log.speed, log.time, _STEADY_OVER)
    moving = speed > _MOVING
    if moving.sum() * float(np.median(np.diff(log.time))) < _LONG_ENOUGH:
        return None
    fore = float(np.median((log.forward - np.gradient(speed, log.time))[moving]))
    turning = turning_rate(log, yaw_rate)
    if turning is None:
        return fore, None
    return fore, float(np.median((log.leftward - turning * speed)[moving]))


def _level_by(log: Log, felt: Array, yaw_rate: Array | None) -> tuple[Array, str]:
    """The direction that is down to the sensor, and how that is known."""
    stretch = standing_stretch(log)
    if stretch is not None:
        first, last = stretch
        length = log.time[last - 1] - log.time[first]
        mean = np.median(felt[first:last], axis=0)
        return mean, f"{length:.0f} s standing at {log.time[first]:.0f} s"
    found = unexplained(log, yaw_rate)
    if found is None:
        raise InvalidQuantity(
            "standing stretch",
            "missing",
            "2 s or more in which the car stands or drives; log it so, or do not level",
        )
    fore, side = found
    up = math.sqrt(max(STANDARD_GRAVITY**2 - fore**2 - (side or 0.0) ** 2, 1.0))
    how = "the change of speed" + (
        " and the turning over the whole log, as it never stands"
        if side is not None
        else " over the whole log, fore and aft alone: nothing stands, and no yaw rate or GPS "
        "tells the side"
    )
    return np.array([fore, side or 0.0, up]), how


def shown_tilt(log: Log, yaw_rate: Array | None) -> str | None:
    """What the numbers show of a tilt that was not taken out, in words; None for none.

    Longitudinal g against the change of speed, which no tilt touches, over all of the log; side g
    against speed times turning, where yaw rate or GPS tell it.
    """
    found = unexplained(log, yaw_rate)
    if found is None:
        return None
    off = [each for each in found if each is not None]
    worst = max(off, key=abs) / STANDARD_GRAVITY
    if abs(worst) < _SHOWN_G:
        return None
    which = "Longitudinal" if len(off) == 1 or abs(off[0]) >= abs(off[1]) else "Side"
    by = "its change of speed" if which == "Longitudinal" else "its turning"
    return (
        f"{which} g reads {abs(worst):.2f} g {'more' if worst > 0 else 'less'} than {by} tells: "
        f"the sensor seems to tilt by {math.degrees(math.asin(min(1.0, abs(worst)))):.0f}°. "
        "Levelling takes it out."
    )


def _levelled(log: Log, yaw_rate: Array | None) -> tuple[Log, str]:
    upward = log.upward if log.upward is not None else np.full_like(log.time, STANDARD_GRAVITY)
    felt = np.column_stack([log.forward, log.leftward, upward])
    mean, words = _level_by(log, felt, yaw_rate)
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
    return levelled, f"The sensor's tilt of {_tilt(mean):.1f}° is taken out, from {words}."


def _tilt(felt: Array) -> float:
    return math.degrees(math.acos(min(1.0, float(felt[2] / np.linalg.norm(felt)))))


def _moved(log: Log, sensor: Sensor, yaw_rate: Array) -> tuple[Log, str]:
    """Accelerations at the engine from those at the sensor, by the yaw rate."""
    ahead, left = -sensor.ahead_mm * 1e-3, -sensor.left_mm * 1e-3  # engine from sensor
    step = max(float(np.median(np.diff(log.time))), 1e-3)
    smooth = moving_mean(yaw_rate, max(1, round(_YAW_SMOOTH / step)), "mirrored")
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
        If it is to be levelled and the car neither stands nor drives, or is to be moved and there
        is no yaw rate.

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
        log, words = _levelled(log, yaw_rate)
        said.append(words)
    elif (tilt := shown_tilt(log, yaw_rate)) is not None and not sensor.turned_left_deg:
        said.append(tilt)
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
