"""An invented track and a point-mass lap of it. Nothing here is a real place or car."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from bilge_core.physics.arrays import Array
from scipy.ndimage import uniform_filter1d

GRAVITY = 9.80665

# The Saltmarsh Ring, driven anticlockwise: where its straights would meet in plan, and the
# radius of the corner there [m, m, m].
SALTMARSH = (
    (545.0, 0.0, 62.0),
    (600.0, 335.0, 42.0),
    (360.0, 310.0, 46.0),
    (300.0, 580.0, 85.0),
    (35.0, 605.0, 56.0),
    (-40.0, 345.0, 52.0),
    (-260.0, 410.0, 120.0),
    (-470.0, 275.0, 75.0),
    (-505.0, 0.0, 60.0),
)


@dataclass(frozen=True)
class PointMassCar:
    """A car as a point: grip [g] sideways and braking, power at the wheels [W], mass [kg].

    `drag` is half of air density times area times coefficient [kg/m]; `gearing`
    the speed [m/s] at 1000 rpm in each gear.
    """

    side_grip: float
    braking_grip: float
    power: float
    mass: float
    drag: float
    gearing: tuple[float, ...]
    lowest_rpm: float
    highest_rpm: float


DUNLIN = PointMassCar(
    side_grip=1.32,
    braking_grip=1.12,
    power=182e3,
    mass=1180.0,
    drag=0.42,
    gearing=(3.1, 4.6, 6.0, 7.4, 8.9),
    lowest_rpm=4300.0,
    highest_rpm=7600.0,
)
SANDPIPER = PointMassCar(
    side_grip=0.98,
    braking_grip=0.92,
    power=158e3,
    mass=1090.0,
    drag=0.40,
    gearing=(3.3, 5.0, 6.6, 8.3, 9.9),
    lowest_rpm=3600.0,
    highest_rpm=6800.0,
)
DUNLIN_IN_THE_RAIN = replace(DUNLIN, side_grip=0.62, braking_grip=0.58)


@dataclass(frozen=True)
class LapTrace:
    """A lap by distance: time [s], speed [m/s], forward and left acceleration [m/s2], rpm."""

    time: Array
    speed: Array
    forward: Array
    leftward: Array
    rpm: Array


def path(
    corners: tuple[tuple[float, float, float], ...], easing: float = 34.0
) -> tuple[Array, Array]:
    """Distance [m] and curvature [1/m, positive to the left] round straights and arcs.

    The lap starts in the middle of the straight that leads to the first
    corner. Curvature is eased in and out over `easing` metres, as it is driven.
    """
    places = np.array([corner[:2] for corner in corners])
    sides = np.roll(places, -1, axis=0) - places  # from each corner to the next
    headings = np.arctan2(sides[:, 1], sides[:, 0])
    turns = (headings - np.roll(headings, 1) + np.pi) % (2 * np.pi) - np.pi
    radii = np.array([corner[2] for corner in corners])
    cuts = radii * np.tan(np.abs(turns) / 2)  # what an arc takes off each straight
    straights = np.hypot(sides[:, 0], sides[:, 1]) - cuts - np.roll(cuts, -1)
    pieces = [(straights[-1] / 2, 0.0)]
    for turn, radius, straight in zip(turns, radii, straights, strict=True):
        pieces += [(abs(turn) * radius, np.sign(turn) / radius), (straight, 0.0)]
    pieces[-1] = (straights[-1] / 2, 0.0)
    ends = np.cumsum([length for length, _ in pieces])
    distance = np.arange(0.0, ends[-1], 1.0)
    curvature = np.array([bend for _, bend in pieces])[np.searchsorted(ends, distance, "right")]
    return distance, uniform_filter1d(curvature, round(easing), mode="wrap")


def _forward_limit(car: PointMassCar, speed: float, side: float) -> float:
    grip = 0.9 * car.side_grip * GRAVITY * np.sqrt(max(0.0, 1.0 - side**2))
    push = car.power / (car.mass * max(speed, 15.0)) - car.drag * speed**2 / car.mass
    return float(min(grip, push))


def drive(car: PointMassCar, distance: Array, curvature: Array) -> LapTrace:
    """A flying lap on the limit of the grip ellipse: speed capped by corners, power and brakes."""
    step = float(distance[1] - distance[0])
    top = 0.97 * np.sqrt(car.side_grip * GRAVITY / np.maximum(np.abs(curvature), 1e-5))
    speed = np.minimum(top, 75.0)
    count = len(speed)
    for i in range(2 * count):  # twice round, so that start meets finish
        here, there = i % count, (i + 1) % count
        side = min(1.0, speed[here] ** 2 * abs(curvature[here]) / (car.side_grip * GRAVITY))
        gain = _forward_limit(car, float(speed[here]), side)
        speed[there] = min(speed[there], np.sqrt(max(speed[here] ** 2 + 2 * gain * step, 25.0)))
    for i in range(2 * count, 0, -1):
        here, there = i % count, (i - 1) % count
        side = min(1.0, speed[here] ** 2 * abs(curvature[here]) / (car.side_grip * GRAVITY))
        loss = car.braking_grip * GRAVITY * np.sqrt(1.0 - 0.98 * side**2)
        loss += car.drag * speed[here] ** 2 / car.mass
        speed[there] = min(speed[there], np.sqrt(speed[here] ** 2 + 2 * loss * step))
    after = np.roll(speed, -1)
    time = np.concatenate([[0.0], np.cumsum(2.0 * step / (speed + after))])[:-1]
    forward = (after**2 - speed**2) / (2.0 * step)
    return LapTrace(time, speed, forward, speed**2 * curvature, _engine_speed(car, speed))


def _engine_speed(car: PointMassCar, speed: Array) -> Array:
    """Crank speed [rpm] with shifts up at the top and down when the lower gear fits."""
    rpm = np.empty_like(speed)
    gear = 2
    for i, value in enumerate(speed):
        while gear < len(car.gearing) - 1 and value / car.gearing[gear] > car.highest_rpm / 1e3:
            gear += 1
        while gear > 0 and value / car.gearing[gear - 1] < 0.94 * car.highest_rpm / 1e3:
            gear -= 1
        rpm[i] = max(car.lowest_rpm, 1e3 * value / car.gearing[gear])
    return rpm


def log_rows(trace: LapTrace, rate: float, seed: int) -> Array:
    """What a logger in that car would write, shape (n, 6).

    Time [s], speed [km/h], side g (+ left), fore g (+ forward), rpm, water [°C], with the delay of
    tyres and body, sensor noise and engine vibration.
    """
    noise = np.random.default_rng(seed)
    time = np.arange(0.0, trace.time[-1], 1.0 / rate)
    width = max(1, round(0.22 * rate))
    kernel = np.hanning(width + 2)[1:-1]
    kernel /= kernel.sum()

    def sampled(channel: Array, spread: float) -> Array:
        even = np.interp(time, trace.time, channel)
        around = np.concatenate([even[-width:], even, even[:width]])
        smooth = np.convolve(around, kernel, mode="same")[width:-width]
        return smooth + noise.normal(0.0, spread, len(time))

    return np.column_stack(
        [
            time,
            3.6 * sampled(trace.speed, 0.05),
            sampled(trace.leftward / GRAVITY, 0.035),
            sampled(trace.forward / GRAVITY, 0.03),
            sampled(trace.rpm, 12.0),
            91.0 + 1.5 * np.sin(2 * np.pi * time / 60.0) + noise.normal(0.0, 0.1, len(time)),
        ]
    )
