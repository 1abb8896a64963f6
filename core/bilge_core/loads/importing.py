"""Reading a logged lap from delimited text."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import (
    CHANNELS,
    ChannelName,
    Column,
    Mapping,
    check_mapping,
    read_heading,
)
from bilge_core.loads.log import Log
from bilge_core.quantities import KINDS, si_from

MOST_SAMPLES = 1_000_000
_HEADER_LINES = 60
_LONGEST_LINE = 20_000
_MOST_FAULTS = 8


@dataclass(frozen=True)
class LogFile:
    """A delimited file as understood: its headings, where they stand, and a proposed mapping.

    `proposal` holds what the headings say; a unit that they do not say is an
    empty string and a sign that they do not say is None: the user is asked.
    """

    text: str
    separator: str
    header_line: int
    headings: tuple[str, ...]
    proposal: Mapping


def _decode(data: bytes) -> str:
    if b"\x00" in data[:65536]:
        raise InvalidInput(
            [Problem("file", "is not text; export the lap from the logger as CSV and give that")]
        )
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def _split(line: str, separator: str) -> list[str]:
    try:
        return [cell.strip() for cell in next(csv.reader([line], delimiter=separator), [])]
    except csv.Error:  # not a line of headings, then
        return []


def _first_lines(text: str) -> list[str]:
    reader = io.StringIO(text, newline=None)
    lines = []
    for _ in range(_HEADER_LINES):
        line = reader.readline(_LONGEST_LINE)
        if not line:
            break
        lines.append(line.rstrip("\r\n"))
    return lines


def _propose(headings: list[str]) -> Mapping:
    proposal: Mapping = {}
    for heading in headings:
        guess = read_heading(heading)
        if guess.channel is not None and guess.channel not in proposal:
            proposal[guess.channel] = Column.model_validate(
                {"heading": heading, "unit": guess.unit or "", "positive": guess.positive}
            )
    return proposal


def open_log(data: bytes) -> LogFile:
    """Find the headings of a delimited file and propose which column is what.

    Parameters
    ----------
    data : bytes
        The file: comma, semicolon or tab separated, UTF-8 or Latin-1, headings
        within its first 60 lines.

    Returns
    -------
    LogFile

    Raises
    ------
    InvalidInput
        If it is not text, is empty, or no line names at least two of time,
        speed, lateral g, longitudinal g and engine speed.

    Examples
    --------
    >>> found = open_log(b"time [s],speed [km/h]\\n0,100\\n")
    >>> found.proposal["speed"].unit
    'km/h'
    """
    text = _decode(data)
    if not text.strip():
        raise InvalidInput([Problem("file", "is empty; export the lap from the logger as CSV")])
    best: tuple[int, int, str, list[str]] = (0, 0, ",", [])
    for number, line in enumerate(_first_lines(text), start=1):
        if len(line) >= _LONGEST_LINE:
            continue
        for separator in ",;\t":
            headings = _split(line, separator)
            known = len(_propose(headings))
            if known > best[0]:
                best = (known, number, separator, headings)
    known, number, separator, headings = best
    if known < 2:
        labels = ", ".join(channel.label for channel in CHANNELS.values())
        raise InvalidInput(
            [
                Problem(
                    "file",
                    f"has no line of headings in its first {_HEADER_LINES} lines; one line must "
                    f"name the columns: {labels}",
                )
            ]
        )
    return LogFile(text, separator, number, tuple(headings), _propose(headings))


def _rows(file: LogFile) -> Iterator[tuple[int, list[str]]]:
    reader = csv.reader(io.StringIO(file.text, newline=""), delimiter=file.separator)
    try:
        for row in reader:
            if reader.line_num > file.header_line and any(cell.strip() for cell in row):
                yield reader.line_num, row
    except csv.Error as error:
        raise InvalidInput(
            [Problem(f"line {reader.line_num}", f"cannot be read as delimited text: {error}")]
        ) from None


def _positions(file: LogFile, mapping: Mapping) -> dict[ChannelName, int]:
    problems = [
        Problem(
            f"channels.{name}.heading",
            f"there is no column {column.heading!r}; the file has {', '.join(file.headings)}"[:600],
        )
        for name, column in mapping.items()
        if column.heading not in file.headings
    ]
    if problems:
        raise InvalidInput(problems)
    return {name: file.headings.index(column.heading) for name, column in mapping.items()}


def _number(cell: str, separator: str) -> float:
    text = cell.strip()
    value = float(text.replace(",", ".") if separator != "," else text)
    if not math.isfinite(value):
        raise ValueError(text)
    return value


def _is_units_row(row: list[str], separator: str, positions: dict[ChannelName, int]) -> bool:
    """A row under the headings in which no wanted cell is a number: units, skipped."""
    for place in positions.values():
        try:
            _number(row[place], separator)
        except (ValueError, IndexError):
            continue
        return False
    return True


def _read_columns(
    file: LogFile, mapping: Mapping
) -> tuple[dict[ChannelName, list[float]], list[int]]:
    positions = _positions(file, mapping)
    columns: dict[ChannelName, list[float]] = {name: [] for name in positions}
    lines: list[int] = []
    faults: list[Problem] = []
    for index, (line, row) in enumerate(_rows(file)):
        if index == 0 and _is_units_row(row, file.separator, positions):
            continue
        if len(lines) >= MOST_SAMPLES:
            faults.append(
                Problem(f"line {line}", f"more than {MOST_SAMPLES:,} samples; export one lap")
            )
            break
        lines.append(line)
        for name, place in positions.items():
            try:
                columns[name].append(_number(row[place], file.separator))
            except (ValueError, IndexError):
                cell = row[place].strip()[:40] if place < len(row) else ""
                found = f"{cell!r} is not a number" if cell else "has no value"
                faults.append(Problem(f"line {line}, column {mapping[name].heading}", found))
        if len(faults) >= _MOST_FAULTS:
            break
    if faults:
        raise InvalidInput(faults)
    return columns, lines


def _check_time(time: list[float], lines: list[int], unit: str) -> None:
    if len(time) < 20:
        raise InvalidInput(
            [
                Problem(
                    "file", f"has {len(time)} samples under its headings; a lap needs at least 20"
                )
            ]
        )
    steps = np.diff(np.array(time))
    wrong = np.flatnonzero(steps <= 0.0)
    if len(wrong):
        place = int(wrong[0])
        how = "goes back" if steps[place] < 0.0 else "stands still"
        raise InvalidInput(
            [
                Problem(
                    f"line {lines[place + 1]}",
                    f"time {how}: {time[place]:g} {unit}, then {time[place + 1]:g} {unit}; "
                    "time must rise from line to line: export one lap, in order",
                )
            ]
        )


def _check_range(name: ChannelName, values: np.ndarray, lines: list[int], column: Column) -> None:
    channel = CHANNELS[name]
    wrong = np.flatnonzero((values < channel.lowest) | (values > channel.highest))
    if name == "time" or not len(wrong):
        return
    place = int(wrong[np.abs(values[wrong]).argmax()])
    low, high = (
        _from_si(limit, channel.kind, column.unit) for limit in (channel.lowest, channel.highest)
    )
    value = _from_si(float(values[place]), channel.kind, column.unit)
    raise InvalidInput(
        [
            Problem(
                f"line {lines[place]}, column {column.heading}",
                f"{value:.4g} {column.unit} is outside {low:.3g} to {high:.3g} {column.unit}; "
                f"is the column's unit {column.unit}?",
            )
        ]
    )


def _from_si(value: float, kind: str, unit: str) -> float:
    zero, one = si_from(0.0, kind, unit), si_from(1.0, kind, unit)
    return (value - zero) / (one - zero)


def read_log(file: LogFile, mapping: Mapping) -> Log:
    """Read the samples of an opened file.

    Parameters
    ----------
    file : LogFile
        From `open_log`.
    mapping : dict of channel name to Column
        All five channels, with units, and signs for the accelerations.

    Returns
    -------
    Log
        SI, signs of ISO 8855 (forward, left), as logged: see `prepare`.

    Raises
    ------
    InvalidInput
        Naming the line and column: text where a number belongs, a missing
        channel, time that does not rise, figures no car reaches.

    Examples
    --------
    >>> head = "time [s],speed [m/s],lateral g [g + right],longitudinal g [g + forward],rpm"
    >>> rows = "\\n".join(f"{i},30,1,0,6000" for i in range(20))
    >>> file = open_log(f"{head}\\n{rows}\\n".encode())
    >>> float(read_log(file, file.proposal).leftward[0])
    -9.80665
    """
    check_mapping(mapping)
    columns, lines = _read_columns(file, mapping)
    _check_time(columns["time"], lines, mapping["time"].unit)
    si: dict[ChannelName, np.ndarray] = {}
    for name, column in mapping.items():
        kind = KINDS[CHANNELS[name].kind].name
        sign = -1.0 if column.positive in ("right", "braking") else 1.0
        zero, one = si_from(0.0, kind, column.unit), si_from(1.0, kind, column.unit)
        si[name] = sign * (zero + (one - zero) * np.array(columns[name]))
        _check_range(name, si[name], lines, column)
    return Log(
        si["time"],
        np.maximum(si["speed"], 0.0),
        si["longitudinal"],
        si["lateral"],
        np.maximum(si["engine_speed"], 0.0),
    )
