"""A recording of several invented laps, as a logger with GPS would write it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from bilge_core.physics.arrays import Array
from scipy.integrate import cumulative_trapezoid

from demo.track import DUNLIN, GRAVITY, SALTMARSH, drive, log_rows, path

RATE = 20.0
_STANDING = 6.0  # [s]
_LAUNCH = 5.0  # [m/s2]
_PITCH = np.radians(1.5)  # the logger leans forward by this
_ORIGIN = (12.0, -38.0)  # [deg] in the middle of an ocean: the track is nowhere
_EARTH = 6_371_008.8

PREAMBLE = (
    "Recording;Saltmarsh Ring, test day\n"
    "Car;Dunlin\n"
    "Sample rate;20 Hz\n"
    "\n"
    "Time;GPS speed;Lat g (+ left);Long g (+ forward);Vert g;Yaw rate (+ left);Engine speed;"
    "Oil pressure;Oil temp;GPS latitude;GPS longitude\n"
    "s;km/h;g;g;g;deg/s;rpm;bar;°C;deg;deg\n"
)


def _laps() -> tuple[Array, Array]:
    """Rows of `log_rows` for three laps on end, each a little quicker, and their lap number."""
    rows, numbers, clock = [], [], 0.0
    for number, grip in enumerate((1.22, 1.30, 1.32), start=1):
        lap = log_rows(
            drive(replace(DUNLIN, side_grip=grip), *path(SALTMARSH)), rate=RATE, seed=40 + number
        )
        lap[:, 0] += clock
        clock = lap[-1, 0] + 1.0 / RATE
        rows.append(lap)
        numbers.append(np.full(len(lap), number))
    return np.vstack(rows), np.concatenate(numbers)


def _before(first: Array) -> Array:
    """Standing, then gaining speed up to where the first lap takes over."""
    speed = first[1] / 3.6
    rolling = np.arange(0.0, speed / _LAUNCH, 1.0 / RATE)
    count = round(_STANDING * RATE)
    rows = np.zeros((count + len(rolling), 6))
    rows[count:, 1] = 3.6 * _LAUNCH * rolling
    rows[count:, 3] = _LAUNCH / GRAVITY
    rows[:, 4] = np.where(rows[:, 1] > 0.0, 5200.0, 1100.0)
    rows[:, 5] = 88.0
    return rows


def _places(speed: Array, side: Array, time: Array) -> Array:
    """Where it drove, closed by nothing but its own figures [m]."""
    turning = np.where(speed > 3.0, side / np.maximum(speed, 3.0), 0.0)
    along = cumulative_trapezoid(turning, time, initial=0.0)
    x = cumulative_trapezoid(speed * np.cos(along), time, initial=0.0)
    y = cumulative_trapezoid(speed * np.sin(along), time, initial=0.0)
    return np.column_stack([x, y])


def _lap_places(rows: Array, numbers: Array) -> Array:
    """Each lap drawn on its own and brought back to its start, so that the laps lie together."""
    places = np.zeros((len(rows), 2))
    for number in np.unique(numbers):
        inside = numbers == number
        lap = rows[inside]
        line = _places(lap[:, 1] / 3.6, lap[:, 2] * GRAVITY, lap[:, 0])
        share = (lap[:, 0] - lap[0, 0]) / (lap[-1, 0] - lap[0, 0])
        places[inside] = line - share[:, None] * line[-1]
    return places


def session_csv() -> str:
    """Standing, a launch and three laps at 20 Hz: semicolons, decimal commas, a row of units."""
    laps, numbers = _laps()
    before = _before(laps[0])
    rows = np.vstack([before, laps])
    time = np.arange(len(rows)) / RATE
    noise = np.random.default_rng(44)
    driven = cumulative_trapezoid(before[:, 1] / 3.6, time[: len(before)], initial=0.0)
    run_up = np.column_stack([driven - driven[-1] - 1.0, np.zeros(len(before))])
    places = np.vstack([run_up, _lap_places(laps, numbers)])
    speed, side, fore, rpm = rows[:, 1], rows[:, 2], rows[:, 3], rows[:, 4]
    yaw = np.where(speed > 10.0, np.degrees(side * GRAVITY / np.maximum(speed / 3.6, 3.0)), 0.0)
    up = 1.0 + 0.04 * np.sin(places[:, 0] / 45.0) * (speed > 10.0)
    felt_fore = fore * np.cos(_PITCH) + up * np.sin(_PITCH)
    felt_up = up * np.cos(_PITCH) - fore * np.sin(_PITCH) + noise.normal(0.0, 0.01, len(rows))
    pressure = np.minimum(5.4, 0.9 + rpm / 1350.0) + noise.normal(0.0, 0.04, len(rows))
    oil = 96.0 + 12.0 * (1.0 - np.exp(-time / 120.0))
    latitude = _ORIGIN[0] + np.degrees(places[:, 1] / _EARTH)
    longitude = _ORIGIN[1] + np.degrees(places[:, 0] / (_EARTH * np.cos(np.radians(_ORIGIN[0]))))
    lines = [
        f"{t:.2f};{v:.1f};{s:.3f};{f:.3f};{u:.3f};{w:.1f};{n:.0f};{p:.2f};{c:.1f};{la:.6f};{lo:.6f}"
        for t, v, s, f, u, w, n, p, c, la, lo in zip(
            time, speed, side, felt_fore, felt_up, yaw, rpm, pressure, oil, latitude, longitude,
            strict=True,
        )
    ]  # fmt: skip
    return PREAMBLE + "\n".join(lines).replace(".", ",") + "\n"
