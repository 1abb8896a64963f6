"""A recording as read: columns turned to SI in the car's frame, on one clock, with what is odd."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.loads.importing import Columns, read_columns
from bilge_core.loads.log import Log
from bilge_core.loads.reading import Column, Reading, check_reading, clock_of
from bilge_core.loads.sensor import in_car
from bilge_core.loads.sniff import LogFile
from bilge_core.loads.table import Table, drop_out_of_range, filled, from_si, to_si
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY

_FEWEST = 20
_LONGEST = 3.0 * 3600.0  # [s]
_RESTART = 5.0  # [s] that time goes back when a lap's own clock begins again
_BEGINS = 1.0  # [s] of a lap's own clock within which it has begun again
_SLOWEST = 1.0  # [m/s] taken at the least between two rows of a log by distance
_EARTH = 6_371_008.8  # mean radius [m] (IUGG, from memory)


@dataclass(frozen=True)
class Recording:
    """A recording: the log in SI, where laps begin by its own word, and what was odd.

    log : Log, as logged, in the car's frame
    lap_starts : [s] at which the logger's lap number changes or its lap clock restarts
    bad_rows : how many rows were left out
    faults : the first of them, each with its place
    remarks : sentences on what was filled in, turned or found
    """

    log: Log
    lap_starts: tuple[float, ...]
    bad_rows: int
    faults: tuple[Problem, ...]
    remarks: tuple[str, ...]


def _enough(count: int) -> None:
    if count < _FEWEST:
        raise InvalidInput(
            [Problem("file", f"has {count} samples under its headings; a lap needs at least 20")]
        )


def _rising_time(table: Table, column: Column) -> tuple[Array, list[float]]:
    """Time from its column: a lap clock that restarts is strung together, odd rows left out."""
    heading, unit = column.heading, column.unit
    blank = np.isnan(table.values[heading])
    table.drop(
        blank, lambda row: Problem(f"line {table.lines[row]}, column {heading}", "has no value")
    )
    _enough(len(table.lines))
    raw = to_si(table.values[heading], "time", column)
    steps = np.diff(raw)
    usual = float(np.median(steps[steps > 0.0])) if (steps > 0.0).any() else 0.0
    restarts = np.flatnonzero(steps < -_RESTART) + 1
    if len(restarts) > max(1.0, len(raw) / 100.0):
        restarts = restarts[:0]
    begins = float(raw[0]) + max(_BEGINS, 2.0 * usual)  # a lap's own clock begins again
    for place in restarts:
        if raw[place] > begins:
            before, here = (from_si(float(raw[at]), "time", unit) for at in (place - 1, place))
            raise InvalidInput(
                [
                    Problem(
                        f"line {table.lines[place]}",
                        f"time jumps back from {before:g} to {here:g} {unit} in the middle of a "
                        "lap; cut the file in two there and import the parts one by one",
                    )
                ]
            )
    shift = np.zeros_like(raw)
    for place in restarts:
        shift[place:] += raw[place - 1] - raw[place] + usual
    time = raw + shift
    highest = np.maximum.accumulate(time)
    odd = np.concatenate([[False], time[1:] <= highest[:-1]])

    def say(row: int) -> Problem:
        how = "stands still" if time[row] == time[row - 1] else "goes back"
        before, here = (from_si(float(raw[at]), "time", unit) for at in (row - 1, row))
        return Problem(
            f"line {table.lines[row]}",
            f"time {how}: {before:g} {unit}, then {here:g} {unit}; "
            "time must rise from line to line",
        )

    if odd.mean() > 0.2:
        raise InvalidInput([say(int(np.flatnonzero(odd)[0]))])
    starts = [float(time[place] - time[0]) for place in restarts]
    table.drop(odd, say)
    kept = time[~odd]
    return kept - kept[0], starts


def _time_by_distance(table: Table, distance: Column, speed: Column) -> Array:
    """Time from distance and speed: each step over the mean of the speeds at its ends."""
    rows = np.arange(len(table.lines), dtype=np.float64)
    driven = filled(table, "distance", distance, rows)
    odd = np.concatenate([[False], np.diff(driven) <= 0.0])

    def say(row: int) -> Problem:
        return Problem(
            f"line {table.lines[row]}",
            f"distance does not rise: {table.values[distance.heading][row]:g} {distance.unit}",
        )

    if len(odd) and odd.mean() > 0.2:
        raise InvalidInput([say(int(np.flatnonzero(odd)[0]))])
    table.drop(odd, say)
    _enough(len(table.lines))
    driven = driven[~odd]
    pace = np.maximum(filled(table, "speed", speed, driven), _SLOWEST)
    table.remarks.append("Time is made from distance and speed.")
    return np.asarray(
        np.concatenate([[0.0], np.cumsum(2.0 * np.diff(driven) / (pace[1:] + pace[:-1]))])
    )


def _clock(table: Table, reading: Reading) -> tuple[Array, list[float]]:
    columns = reading.columns
    kind = clock_of(reading)
    if kind == "time":
        return _rising_time(table, columns["time"])
    if kind == "distance":
        return _time_by_distance(table, columns["distance"], columns["speed"]), []
    assert reading.sample_rate_hz is not None
    table.remarks.append(f"Time is counted at {reading.sample_rate_hz:g} rows a second.")
    return np.arange(len(table.lines)) / reading.sample_rate_hz, []


def _felt_upward(vertical: Array) -> tuple[Array, str]:
    """Vertical g as felt upward, whichever way the logger counts it."""
    mean = float(np.median(vertical)) / STANDARD_GRAVITY
    if mean > 0.5:
        return vertical, "Vertical g reads +1 g on the level; it is used."
    if mean < -0.5:
        return -vertical, "Vertical g reads -1 g on the level; it is turned round and used."
    return (
        vertical + STANDARD_GRAVITY,
        "Vertical g reads nil on the level; gravity is added and it is used.",
    )


def _place(latitude: Array, longitude: Array) -> Array:
    """East and north [m] of the first place, on a plane that touches the earth there."""
    east = _EARTH * math.cos(float(latitude[0])) * (longitude - longitude[0])
    return np.column_stack([east, _EARTH * (latitude - latitude[0])])


def _gaps(time: Array) -> list[str]:
    steps = np.diff(time)
    wide = np.flatnonzero(steps > max(1.0, 20.0 * float(np.median(steps))))
    if not len(wide):
        return []
    worst = int(wide[steps[wide].argmax()])
    more = f" (the longest of {len(wide)} gaps)" if len(wide) > 1 else ""
    return [
        f"{steps[worst]:.1f} s are missing at {time[worst]:.1f} s{more}; "
        "they are drawn straight across."
    ]


def _lap_changes(table: Table, column: Column, time: Array) -> list[float]:
    number = np.round(filled(table, "lap", column, time))
    return [float(time[place]) for place in np.flatnonzero(np.diff(number) != 0.0) + 1]


def read_recording(file: LogFile, reading: Reading) -> Recording:
    """Read an opened file whole.

    Parameters
    ----------
    file : LogFile
        From `open_log`.
    reading : Reading
        Which column is what, in which unit and sign, and how the sensor sits.

    Returns
    -------
    Recording
        In SI and the car's frame (ISO 8855 signs), not yet at even steps: see
        `prepare`. Rows that cannot be read are left out, counted and the first
        of them told: it is for the user to agree to that.

    Raises
    ------
    InvalidInput
        If the reading lacks something, fewer than 20 rows remain, half the rows
        cannot be read, many figures are outside what a car reaches, or the
        recording is longer than 3 hours.

    Examples
    --------
    >>> from bilge_core.loads.sniff import open_log
    >>> head = "time [s],speed [m/s],lateral g [g + right],longitudinal g [g + forward],rpm"
    >>> rows = "\\n".join(f"{i},30,1,0,6000" for i in range(20))
    >>> file = open_log(f"{head}\\n{rows}\\n".encode())
    >>> float(read_recording(file, file.proposal).log.leftward[0])
    -9.80665
    """
    check_reading(reading)
    return recording_from(read_columns(file, wanted_headings(reading)), reading)


def wanted_headings(reading: Reading) -> list[str]:
    """The headings that a reading names, each once.

    Examples
    --------
    >>> from bilge_core.loads.sniff import open_log
    >>> wanted_headings(open_log(b"time [s],speed [m/s],water\\n0,10,90\\n1,11,90\\n").proposal)
    ['time [s]', 'speed [m/s]']
    """
    return list(dict.fromkeys(column.heading for column in reading.columns.values()))


def recording_from(columns: Columns, reading: Reading) -> Recording:
    """Columns as a recording; see `read_recording`.

    Raises
    ------
    InvalidInput
        As `read_recording`.

    Examples
    --------
    >>> from bilge_core.loads.reading import Column
    >>> names = {"speed": "km/h", "lateral": "g", "longitudinal": "g", "engine_speed": "rpm"}
    >>> signs = {"lateral": "left", "longitudinal": "forward"}
    >>> reading = Reading(sample_rate_hz=10, columns={
    ...     name: Column(heading=name, unit=unit, positive=signs.get(name))
    ...     for name, unit in names.items()})
    >>> rows = Columns({name: np.full(40, 1.0) for name in names}, np.arange(40) + 2)
    >>> recording_from(rows, reading).remarks
    ('Time is counted at 10 rows a second.',)
    """
    check_reading(reading)
    table = Table(columns)
    _enough(len(table.lines))
    for name, column in reading.columns.items():
        if name not in ("time", "distance"):
            drop_out_of_range(table, name, column)
    time, starts = _clock(table, reading)
    _enough(len(time))
    if table.bad > len(time):
        raise InvalidInput(
            [*table.faults, Problem("file", f"{table.bad} of its rows cannot be read: over half")]
        )
    if time[-1] > _LONGEST:
        raise InvalidInput(
            [
                Problem(
                    "file",
                    f"lasts {time[-1] / 3600.0:.3g} h; 3 h is the most: is the unit of time right?",
                )
            ]
        )
    si = {
        name: filled(table, name, column, time)
        for name, column in reading.columns.items()
        if name not in ("time", "distance", "lap")
    }
    if "lap" in reading.columns:
        starts = _lap_changes(table, reading.columns["lap"], time) or starts
    upward = None
    if "vertical" in si:
        upward, said = _felt_upward(si["vertical"])
        table.remarks.append(said)
    log = Log(
        time,
        np.maximum(si["speed"], 0.0),
        si["longitudinal"],
        si["lateral"],
        np.maximum(si["engine_speed"], 0.0),
        upward,
        _place(si["latitude"], si["longitude"]) if "latitude" in si else None,
        si.get("oil_pressure"),
        si.get("oil_temperature"),
    )
    try:
        log, said_of_sensor = in_car(log, reading.sensor, si.get("yaw_rate"))
    except InvalidQuantity as error:
        raise InvalidInput([Problem("sensor", str(error))]) from None
    return Recording(
        log,
        tuple(starts),
        table.bad,
        tuple(table.faults),
        (*table.remarks, *_gaps(time), *said_of_sensor),
    )


def read_log(file: LogFile, reading: Reading, leave_out_bad_rows: bool = False) -> Log:
    """The log of an opened file, whole.

    Raises
    ------
    InvalidInput
        As `read_recording`, and for rows that cannot be read unless they may be
        left out.

    Examples
    --------
    >>> from bilge_core.loads.sniff import open_log
    >>> head = "time [s],speed [m/s],lateral g [g + left],longitudinal g [g + forward],rpm"
    >>> rows = "\\n".join(f"{i},{'fast' if i == 7 else 30},1,0,6000" for i in range(30))
    >>> file = open_log(f"{head}\\n{rows}\\n".encode())
    >>> read_log(file, file.proposal)
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: line 9, column speed [m/s]: 'fast' is not a number
    >>> len(read_log(file, file.proposal, leave_out_bad_rows=True).time)
    29
    """
    recording = read_recording(file, reading)
    if recording.bad_rows and not leave_out_bad_rows:
        raise InvalidInput(list(recording.faults))
    return recording.log
