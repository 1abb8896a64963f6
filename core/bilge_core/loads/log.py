"""A log in SI, and making it ready: even steps and stated smoothing."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.summing import moving_mean
from bilge_core.physics.arrays import Array

SMOOTHING = 0.1
"""Width [s] of the moving mean over accelerations: takes out vibration, keeps corners."""

HIGHEST_RATE = 100.0
"""Samples per second kept of a log; faster ones are thinned by interpolation."""


@dataclass(frozen=True)
class Log:
    """One logged lap, every array of shape (n,) but `place`; None where it was not logged.

    time : [s], rising
    speed : [m/s]
    forward : the car's acceleration forward, as felt by a sensor [m/s2]
    leftward : to the left [m/s2]
    engine_speed : [rad/s]
    upward : as felt by a sensor [m/s2]: standard gravity when standing on the level
    place : shape (n, 2), east and north of the first sample [m]
    oil_pressure : in the gallery, above the air's [Pa]
    oil_temperature : [K]
    """

    time: Array
    speed: Array
    forward: Array
    leftward: Array
    engine_speed: Array
    upward: Array | None = None
    place: Array | None = None
    oil_pressure: Array | None = None
    oil_temperature: Array | None = None

    @property
    def duration(self) -> float:
        """From the first sample to the last [s]."""
        return float(self.time[-1] - self.time[0])

    @property
    def step(self) -> float:
        """From one sample of a prepared log to the next [s]."""
        return float(self.time[1] - self.time[0])

    def between(self, start: float, end: float) -> Log:
        """The samples from `start` to `end` [s], both counted."""
        inside = (self.time >= start) & (self.time <= end)

        def cut(channel: Array | None) -> Array | None:
            return None if channel is None else channel[inside]

        return Log(
            self.time[inside],
            self.speed[inside],
            self.forward[inside],
            self.leftward[inside],
            self.engine_speed[inside],
            cut(self.upward),
            cut(self.place),
            cut(self.oil_pressure),
            cut(self.oil_temperature),
        )


def prepare(log: Log) -> Log:
    """The log at even steps from nil, its accelerations smoothed over `SMOOTHING`.

    Parameters
    ----------
    log : Log
        As logged; steps may be uneven.

    Returns
    -------
    Log
        At the log's own rate, at most `HIGHEST_RATE`.

    Raises
    ------
    InvalidQuantity
        If it has fewer than two samples or time does not rise.

    Examples
    --------
    >>> raw = Log(np.array([5.0, 5.5, 6.0]), *np.ones((4, 3)))
    >>> prepare(raw).time.tolist()
    [0.0, 0.5, 1.0]
    """
    if len(log.time) < 2 or not np.all(np.diff(log.time) > 0.0):
        raise InvalidQuantity("time", "not rising", "rising, with at least two samples")
    own_step = max(round(float(np.median(np.diff(log.time))), 6), 1e-6)
    step = max(own_step, 1.0 / HIGHEST_RATE)
    count = int(np.floor(log.duration / step + 1e-6)) + 1
    even = np.arange(count, dtype=np.float64) * np.float64(step)
    since_start = log.time - log.time[0]
    # smoothed on a fine grid before it is thinned, or vibration would come back as slow waves
    fine_step = max(min(own_step, 0.01), 1e-3)
    fine = np.arange(0.0, log.duration + fine_step, fine_step)
    width = 2 * int(SMOOTHING / fine_step / 2.0) + 1
    inside = moving_mean(np.ones_like(fine), width, "nil")

    def at_even(channel: Array) -> Array:
        return np.asarray(np.interp(even, since_start, channel))

    def smooth(channel: Array) -> Array:
        on_fine = np.interp(fine, since_start, channel)
        mean = moving_mean(on_fine, width, "nil") / inside
        return np.asarray(np.interp(even, fine, mean))

    def maybe_even(channel: Array | None) -> Array | None:
        return None if channel is None else at_even(channel)

    place = log.place
    if place is not None:
        place = np.column_stack([at_even(place[:, 0]), at_even(place[:, 1])])
    return replace(
        log,
        time=even,
        speed=at_even(log.speed),
        forward=smooth(log.forward),
        leftward=smooth(log.leftward),
        engine_speed=at_even(log.engine_speed),
        upward=None if log.upward is None else smooth(log.upward),
        place=place,
        oil_pressure=maybe_even(log.oil_pressure),
        oil_temperature=maybe_even(log.oil_temperature),
    )


def at_times(log: Log, time: Array) -> Log:
    """A log's channels at other times [s], drawn straight between its samples.

    Examples
    --------
    >>> log = Log(np.arange(3.0), *np.zeros((4, 3)))
    >>> at_times(log, np.array([0.5, 1.5])).time.tolist()
    [0.5, 1.5]
    """

    def there(channel: Array | None) -> Array | None:
        return None if channel is None else np.interp(time, log.time, channel)

    place = log.place
    if place is not None:
        place = np.column_stack([np.interp(time, log.time, place[:, axis]) for axis in (0, 1)])
    return replace(
        log,
        time=time,
        speed=np.interp(time, log.time, log.speed),
        forward=np.interp(time, log.time, log.forward),
        leftward=np.interp(time, log.time, log.leftward),
        engine_speed=np.interp(time, log.time, log.engine_speed),
        upward=there(log.upward),
        place=place,
        oil_pressure=there(log.oil_pressure),
        oil_temperature=there(log.oil_temperature),
    )
