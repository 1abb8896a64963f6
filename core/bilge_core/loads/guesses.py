"""Units and signs that a file does not say, worked out from its numbers, each with the reason."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.loads.channels import CHANNELS, ChannelName
from bilge_core.loads.importing import Columns
from bilge_core.loads.reading import Reading, clock_of
from bilge_core.physics.arrays import Array
from bilge_core.quantities import si_from

_RATE = 10.0  # [1/s] at which channels are compared
_SMOOTH = 5  # samples of that: half a second, longer than noise and shorter than a corner
_MOST_G = 4.0  # figures above this are no g of a car (ours: road and race cars stay below 3.5)
_ALIKE = 0.35  # correlation from which two channels are taken to tell of the same thing
_NEAR = 0.12  # by how much a distance driven may differ, as a logarithm
_AS = {"unit": "", "positive": " as positive"}
_RADIUS = 6_371_008.8  # of the earth [m] (IUGG, from memory)


@dataclass(frozen=True)
class Guess:
    """What was worked out: the field of the reading, what it was taken for, and why."""

    field: str
    taken: str
    reason: str

    @property
    def words(self) -> str:
        """The guess as one says it.

        >>> Guess("channels.speed.unit", "km/h", "it reaches 214").words
        'speed is in km/h: it reaches 214'
        """
        _, name, what = self.field.split(".")
        label = CHANNELS[name].label  # type: ignore[index]
        return (
            f"{label} {'is in' if what == 'unit' else 'counts'} {self.taken}{_AS[what]}"[:200]
            + f": {self.reason}"
        )


class _Numbers:
    """A file's channels at even times, as far as units and signs are known by now."""

    def __init__(self, columns: Columns, reading: Reading) -> None:
        self._columns = columns
        self.reading = reading
        self.guesses: list[Guess] = []

    def raw(self, name: ChannelName) -> Array | None:
        """A channel's figures as written; None when it has no column of numbers."""
        column = self.reading.columns.get(name)
        if column is None:
            return None
        values = self._columns.values[column.heading]
        return values if np.isfinite(values).sum() > 20 else None

    def take(self, name: ChannelName, reason: str, **change: str) -> None:
        """Settle a unit or a sign for this reason."""
        column = self.reading.columns[name]
        told = self.reading.columns | {name: column.model_copy(update=change)}
        self.reading = self.reading.model_copy(update={"columns": told})
        ((what, taken),) = change.items()
        self.guesses.append(Guess(f"channels.{name}.{what}", taken, reason))

    def time(self) -> Array | None:
        """[s] of each row, without what goes back; None when nothing tells."""
        kind = clock_of(self.reading)
        rows = len(self._columns.lines)
        if kind == "rate" and self.reading.sample_rate_hz:
            return np.arange(rows) / self.reading.sample_rate_hz
        if kind == "distance":
            return self._time_by_distance()
        raw = self.raw("time")
        if kind != "time" or raw is None:
            return None
        seconds = raw * si_from(1.0, "time", self.reading.columns["time"].unit)
        steps = np.diff(seconds, prepend=seconds[0])
        return np.asarray(np.cumsum(np.where(steps > 0.0, steps, 0.0)))

    def _time_by_distance(self) -> Array | None:
        """Distance over speed; while speed's unit is not known, as if it were in m/s."""
        distance, speed = self.raw("distance"), self.raw("speed")
        if distance is None or speed is None or not self.reading.columns["distance"].unit:
            return None
        unit = self.reading.columns["speed"].unit
        pace = np.nan_to_num(speed) * (si_from(1.0, "speed", unit) if unit else 1.0)
        metres = si_from(1.0, "distance", self.reading.columns["distance"].unit)
        steps = np.maximum(np.nan_to_num(np.diff(distance, prepend=distance[0])), 0.0) * metres
        return np.asarray(np.cumsum(steps / np.maximum(pace, 1.0)))

    def even(self, name: ChannelName, si: bool = True) -> Array | None:
        """A channel at even times, smoothed; in SI once its unit is known."""
        time, raw = self.time(), self.raw(name)
        if time is None or raw is None:
            return None
        good = np.isfinite(raw) & np.isfinite(time)
        if good.sum() < 20:
            return None
        times = np.arange(time[good][0], time[good][-1], 1.0 / _RATE)
        values = np.interp(times, time[good], raw[good])
        unit, kind = self.reading.columns[name].unit, CHANNELS[name].kind
        if si and unit:
            values = values * (si_from(1.0, kind, unit) - si_from(0.0, kind, unit))
        if len(values) <= 4 * _SMOOTH:
            return None
        return np.convolve(values, np.full(_SMOOTH, 1.0 / _SMOOTH), mode="same")[_SMOOTH:-_SMOOTH]


def _correlation(one: Array | None, other: Array | None) -> float:
    if one is None or other is None or len(one) != len(other):
        return 0.0
    if not (one.std() > 1e-9 and other.std() > 1e-9):
        return 0.0
    return float(np.corrcoef(one, other)[0, 1])


def _gaining(numbers: _Numbers) -> Array | None:
    """Rate of change of speed, in its own unit a second while that is not known."""
    speed = numbers.even("speed")
    return None if speed is None else np.gradient(speed, 1.0 / _RATE)


def _heading_rate(numbers: _Numbers) -> Array | None:
    """How fast the GPS track turns [rad/s], positive to the left."""
    latitude, longitude = numbers.even("latitude"), numbers.even("longitude")
    if latitude is None or longitude is None:
        return None
    east = _RADIUS * math.cos(float(latitude[0])) * (longitude - longitude[0])
    north = _RADIUS * (latitude - latitude[0])
    heading = np.unwrap(np.arctan2(np.gradient(north), np.gradient(east)))
    rate = np.gradient(heading, 1.0 / _RATE)
    return np.asarray(np.clip(rate, -1.5, 1.5))  # a standing car's track turns wildly


def _guess_time(numbers: _Numbers) -> None:
    raw = numbers.raw("time")
    if raw is None or numbers.reading.columns["time"].unit:
        return None
    steps = np.diff(raw[np.isfinite(raw)])
    step = float(np.median(steps[steps > 0.0])) if (steps > 0.0).any() else 0.0
    span = float(np.nansum(np.where(steps > 0.0, steps, 0.0)))
    for unit in ("s", "ms", "min"):
        one = si_from(1.0, "time", unit)
        if step > 0.0 and 0.9 <= 1.0 / (step * one) <= 2000.0 and 5.0 <= span * one <= 10_800.0:
            rate = f"{1.0 / (step * one):.4g} rows a second over {span * one:.0f} s"
            return numbers.take("time", f"its steps of {step:.4g} make {rate}", unit=unit)
    return None


def _guess_acceleration(numbers: _Numbers, name: ChannelName) -> None:
    raw = numbers.raw(name)
    if raw is None or numbers.reading.columns[name].unit:
        return
    level = float(np.nanmedian(raw)) if name == "vertical" else 0.0
    most = float(np.nanpercentile(np.abs(raw - level), 99.0))
    unit = "g" if most <= _MOST_G else "m/s2"
    numbers.take(name, f"it reaches {most:.3g}, as {unit} do", unit=unit)


def _driven(numbers: _Numbers) -> tuple[float, str] | None:
    """How far the car went [m] by something that is not its speed."""
    distance = numbers.raw("distance")
    if distance is not None and numbers.reading.columns["distance"].unit:
        steps = np.diff(distance[np.isfinite(distance)])
        one = si_from(1.0, "distance", numbers.reading.columns["distance"].unit)
        return float(steps[steps > 0.0].sum() * one), "the distance driven"
    latitude, longitude = numbers.even("latitude"), numbers.even("longitude")
    if latitude is None or longitude is None:
        return None
    east = math.cos(float(latitude[0])) * np.diff(longitude)
    return float(_RADIUS * np.hypot(east, np.diff(latitude)).sum()), "the GPS track"


def _guess_speed(numbers: _Numbers) -> None:
    raw = numbers.raw("speed")
    if raw is None or numbers.reading.columns["speed"].unit:
        return None
    factors = {unit: si_from(1.0, "speed", unit) for unit in ("km/h", "m/s", "mph")}
    by_distance = clock_of(numbers.reading) == "distance"
    speed = numbers.even("speed", si=False)
    gone = None if by_distance else _driven(numbers)
    if speed is not None and gone is not None and gone[0] > 100.0:
        summed = float(speed.sum()) / _RATE
        off = {unit: abs(math.log(max(summed * f, 1e-9) / gone[0])) for unit, f in factors.items()}
        best = min(off, key=lambda unit: off[unit])
        if off[best] < _NEAR:
            return numbers.take("speed", f"so it adds up to {gone[1]}", unit=best)
    pull, gaining = numbers.even("longitudinal"), _gaining(numbers)
    if pull is not None and gaining is not None and abs(_correlation(gaining, pull)) > _ALIKE:
        slope = abs(float(gaining @ pull) / float(pull @ pull))
        power = 2.0 if by_distance else 1.0  # then the unit is in the time as well
        off = {unit: abs(math.log(max(slope * f**power, 1e-9))) for unit, f in factors.items()}
        best = min(off, key=lambda unit: off[unit])
        if off[best] < 0.35:  # the next unit is 0.48 away
            return numbers.take("speed", "so its change agrees with longitudinal g", unit=best)
    most = float(np.nanpercentile(raw, 99.5))
    unit = "m/s" if most < 55.0 else "km/h"
    return numbers.take("speed", f"it reaches {most:.0f}; nothing else tells", unit=unit)


def _guess_longitudinal_sign(numbers: _Numbers) -> None:
    column = numbers.reading.columns.get("longitudinal")
    if column is None or column.positive or numbers.raw("longitudinal") is None:
        return
    alike = _correlation(_gaining(numbers), numbers.even("longitudinal"))
    if abs(alike) > _ALIKE:
        falls = alike < 0.0
        does = "falls" if falls else "rises"
        numbers.take(
            "longitudinal",
            f"speed {does} where it is positive",
            positive="braking" if falls else "forward",
        )
    else:
        numbers.take(
            "longitudinal", "nothing in the file tells; as in ISO 8855", positive="forward"
        )


def _guess_lateral_sign(numbers: _Numbers) -> None:
    column = numbers.reading.columns.get("lateral")
    if column is None or column.positive or numbers.raw("lateral") is None:
        return
    side = numbers.even("lateral")
    yaw = numbers.reading.columns.get("yaw_rate")
    turning = numbers.even("yaw_rate") if yaw and yaw.positive else None
    by = "the yaw rate"
    if turning is not None and yaw is not None and yaw.positive == "right":
        turning = -turning
    if turning is None:
        turning, by = _heading_rate(numbers), "the GPS track"
    speed = numbers.even("speed")
    if turning is not None and speed is not None and len(speed) == len(turning):
        turning = turning * speed
    alike = _correlation(turning, side)
    if abs(alike) > _ALIKE:
        hand = "left" if alike > 0.0 else "right"
        numbers.take("lateral", f"{by} turns {hand} where it is positive", positive=hand)
    else:
        numbers.take(
            "lateral",
            "nothing in the file tells; as in ISO 8855. Look at the line below: is the track "
            "driven that way round? If not, turn it",
            positive="left",
        )


def complete(columns: Columns, reading: Reading) -> tuple[Reading, tuple[Guess, ...]]:
    """A reading with what the file does not say filled in from its numbers.

    Parameters
    ----------
    columns : Columns
        Of all headings that the reading names.
    reading : Reading
        With an empty unit, or a sign of None, where the file says nothing.

    Returns
    -------
    (Reading, tuple of Guess)
        What was said stays as it is. Each guess has its reason; what nothing tells is taken as
        ISO 8855 has it, and its reason says so.

    Notes
    -----
    Time by the rows a second that its steps make; g or m/s2 by size; speed by the distance driven,
    by GPS, or by its change against longitudinal g; longitudinal's sign by the change of speed;
    lateral's by yaw rate or the turning of the GPS track. A lap that closes is the same in the
    mirror, so it tells no hand.

    Examples
    --------
    >>> from bilge_core.loads.reading import Column
    >>> time = np.arange(0.0, 60.0, 0.1)
    >>> push = 0.4 * np.sin(time / 4.0)
    >>> speed = 30.0 + 9.80665 * np.cumsum(push) * 0.1
    >>> values = {"t": time * 1e3, "v": speed * 3.6, "x": -push, "y": push, "n": speed}
    >>> named = {"time": "t", "speed": "v", "longitudinal": "x", "lateral": "y"}
    >>> reading = Reading(columns={k: Column(heading=h, unit="") for k, h in named.items()})
    >>> told, guesses = complete(Columns(values, np.arange(600)), reading)
    >>> [(name, told.columns[name].unit, told.columns[name].positive) for name in named]
    [('time', 'ms', None), ('speed', 'km/h', None), ('longitudinal', 'g', 'braking'), \
('lateral', 'g', 'left')]
    >>> guesses[1].field, guesses[1].taken
    ('channels.lateral.unit', 'g')
    """
    numbers = _Numbers(columns, reading)
    _guess_time(numbers)
    for name in ("lateral", "longitudinal", "vertical"):
        _guess_acceleration(numbers, name)
    _guess_speed(numbers)
    _guess_longitudinal_sign(numbers)
    _guess_lateral_sign(numbers)
    return numbers.reading, tuple(numbers.guesses)
