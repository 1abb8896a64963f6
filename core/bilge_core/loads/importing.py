"""Reading the rows of a logged recording, of any length, into columns."""

from __future__ import annotations

import csv
import io
import math
from array import array
from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import chain
from operator import itemgetter

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.sniff import LogFile
from bilge_core.physics.arrays import Array

MOST_SAMPLES = 8_000_000
MOST_SHOWN = 8
"""Faulty rows that are told one by one; the rest are counted."""

_BATCH = 5_000  # rows
_BATCH_BYTES = 200_000
_BLANK = frozenset({"", "nan", "-", "--", "---", "n/a", "na", "null", "none"})


@dataclass(frozen=True)
class Columns:
    """The cells of some columns as numbers, row by row.

    values : heading to ndarray, shape (n,)
        Not a number where a cell is blank.
    lines : ndarray, shape (n,), where each row stands in the file
    bad_rows : how many rows hold text where a number belongs, or too few cells; left out
    faults : the first of them, each with its place
    """

    values: dict[str, Array]
    lines: NDArray[np.int64]
    bad_rows: int = 0
    faults: tuple[Problem, ...] = field(default=())


def cell_value(cell: str, decimal_comma: bool) -> float:
    """A cell's figure; not a number where it is blank.

    Raises
    ------
    ValueError
        If it is text, or without end.

    Examples
    --------
    >>> cell_value(" 1,5 ", True), cell_value("-", False)
    (1.5, nan)
    """
    text = cell.strip()
    if text.lower() in _BLANK:
        return math.nan
    value = float(text.replace(",", ".") if decimal_comma else text)
    if not math.isfinite(value):
        raise ValueError(text)
    return value


class _Gathered:
    """Rows as they are read."""

    def __init__(self, headings: Sequence[str], places: Sequence[int], comma: bool) -> None:
        self.headings = headings
        self.places = places
        self.wanted: Callable[[list[str]], Iterable[str]] = (
            itemgetter(*places) if len(places) > 1 else lambda row: (row[places[0]],)
        )
        self.comma = comma
        self.values = array("d")
        self.lines = array("q")
        self.faults: list[Problem] = []
        self.bad = 0

    def fault(self, line: int, where: str, what: str) -> None:
        self.bad += 1
        if len(self.faults) < MOST_SHOWN:
            self.faults.append(Problem(f"line {line}{where}", what))

    def slowly(self, line: int, row: list[str]) -> None:
        """A row with something other than numbers in it."""
        found = []
        for heading, place in zip(self.headings, self.places, strict=True):
            if place >= len(row):
                self.fault(line, f", column {heading}", f"has no value: {len(row)} cells only")
                return
            try:
                found.append(cell_value(row[place], self.comma))
            except ValueError:
                cell = row[place].strip()[:40]
                self.fault(line, f", column {heading}", f"{cell!r} is not a number")
                return
        self.values.extend(found)
        self.lines.append(line)

    def take(self, rows: list[list[str]], lines: Sequence[int]) -> None:
        """Some rows: all at once when they hold nothing but numbers, else one by one."""
        try:
            cells: Iterable[str] = chain.from_iterable(map(self.wanted, rows))
            if self.comma:
                cells = (cell.replace(",", ".") for cell in cells)
            found = array("d", map(float, cells))
            if not math.isfinite(sum(found)):
                raise ValueError
        except (ValueError, IndexError):
            for line, row in zip(lines, rows, strict=True):
                if any(cell.strip() for cell in row):
                    self.slowly(line, row)
            return
        self.values.extend(found)
        self.lines.extend(lines)

    def columns(self) -> Columns:
        table = np.frombuffer(self.values, dtype=np.float64).reshape(-1, len(self.places))
        return Columns(
            {heading: table[:, i].copy() for i, heading in enumerate(self.headings)},
            np.frombuffer(self.lines, dtype=np.int64).copy(),
            self.bad,
            tuple(self.faults),
        )


def _plain_rows(lines: list[str], separator: str) -> list[list[str]]:
    """Lines without quotes as rows; several times quicker than the csv reader."""
    if separator == " ":
        return [line.split() for line in lines]
    return [line.split(separator) for line in lines]


def _quoted_rows(
    lines: Iterable[str], file: LogFile, line_before: int
) -> Iterator[tuple[list[list[str]], list[int]]]:
    """The rest of a file that quotes cells, some rows at a time, with the line each ends on."""
    reader = csv.reader(lines, delimiter=file.separator, skipinitialspace=True)
    rows: list[list[str]] = []
    places: list[int] = []
    try:
        for row in reader:
            rows.append(row)
            places.append(line_before + reader.line_num)
            if len(rows) == _BATCH:
                yield rows, places
                rows, places = [], []
    except csv.Error as error:
        line = line_before + reader.line_num
        raise InvalidInput(
            [Problem(f"line {line}", f"cannot be read as delimited text: {error}")]
        ) from None
    yield rows, places


def _batches(file: LogFile, stream: io.TextIOBase) -> Iterator[tuple[list[list[str]], list[int]]]:
    """Rows under the headings, some at a time, with the lines they end on."""
    number = 0
    for _ in range(file.units_line or file.header_line):
        stream.readline()
        number += 1
    while lines := stream.readlines(_BATCH_BYTES):
        if any('"' in line for line in lines):
            yield from _quoted_rows(chain(lines, stream), file, number)
            return
        yield (
            _plain_rows(lines, file.separator),
            list(range(number + 1, number + 1 + len(lines))),
        )
        number += len(lines)


def column_steps(file: LogFile, headings: Sequence[str]) -> Generator[float, None, Columns]:
    """`read_columns` in steps: gives the share read after each, and the columns at the end.

    Raises
    ------
    InvalidInput
        As `read_columns`.

    Examples
    --------
    >>> from bilge_core.loads.sniff import open_log
    >>> list(column_steps(open_log(b"time,speed\\n0,100\\n1,101\\n"), ["speed"]))
    [1.0]
    """
    wanted = list(dict.fromkeys(headings))
    missing = [heading for heading in wanted if heading not in file.headings]
    if missing:
        has = ", ".join(file.headings)
        raise InvalidInput(
            [
                Problem("file", f"there is no column {h!r}; the file has {has}"[:600])
                for h in missing
            ]
        )
    gathered = _Gathered(wanted, [file.headings.index(h) for h in wanted], file.decimal_comma)
    with file.opened() as raw:
        stream = io.TextIOWrapper(raw, encoding=file.encoding, errors="replace", newline="")
        for rows, lines in _batches(file, stream):
            gathered.take(rows, lines)
            if len(gathered.lines) > MOST_SAMPLES:
                raise InvalidInput(
                    [Problem("file", f"has more than {MOST_SAMPLES:,} rows; export fewer laps")]
                )
            yield min(1.0, raw.tell() / file.size)
        stream.detach()
    return gathered.columns()


def read_columns(file: LogFile, headings: Sequence[str]) -> Columns:
    """Read some columns of a file from its first row to its last, row by row.

    Parameters
    ----------
    file : LogFile
        From `open_log`.
    headings : sequence of str
        The columns wanted.

    Returns
    -------
    Columns
        Memory goes with rows times columns wanted (8 bytes each), not with the
        file.

    Raises
    ------
    InvalidInput
        If a column is not there, the file stops being delimited text, or it has
        more than `MOST_SAMPLES` rows.

    Examples
    --------
    >>> from bilge_core.loads.sniff import open_log
    >>> file = open_log(b"time,speed\\n0,100\\n1,fast\\n2,\\n")
    >>> columns = read_columns(file, ["time", "speed"])
    >>> columns.values["speed"].tolist(), columns.bad_rows, columns.faults[0].field
    ([100.0, nan], 1, 'line 3, column speed')
    """
    steps = column_steps(file, headings)
    while True:
        try:
            next(steps)
        except StopIteration as end:
            columns: Columns = end.value
            return columns
