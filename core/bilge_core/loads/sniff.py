"""Looking at a file before it is read: encoding, separator, headings, units, sample rate."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import BinaryIO

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import (
    CHANNELS,
    POSITIVE_WORDS,
    ChannelName,
    known_unit,
    read_heading,
)
from bilge_core.loads.headings import plainness, taken_for, understand_heading
from bilge_core.loads.reading import Column, Reading
from bilge_core.quantities import KINDS

_LOOKED_AT = 256 * 1024
_HEADER_LINES = 60
_LONGEST_LINE = 20_000
_LONGEST_UNIT = 40
_SEPARATORS = ",;\t| "
_RATE = re.compile(
    r"(?:sampl\w*|logg\w*|log)\s*(?:rate|frequency|freq)?\D{0,12}?(\d+(?:[.,]\d+)?)\s*(hz|ms)?",
    re.IGNORECASE,
)
_NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?$")
_DECIMAL_COMMA = re.compile(r"[+-]?\d*,\d+$")


@dataclass(frozen=True)
class LogFile:
    """A delimited file as understood, and a proposed way to read it.

    source : the file's bytes, or where it lies
    encoding, separator, decimal_comma : how its text is written
    header_line : the line of its headings, nil when it has none
    units_line : the line of units under them, None when there is none
    under : the cells of that line; none when there is none
    proposal : what the headings say; a unit that they do not say is an empty string and a sign
        that they do not say is None: the user is asked
    size : [bytes]
    """

    source: bytes | Path = field(repr=False)
    encoding: str
    separator: str
    decimal_comma: bool
    header_line: int
    units_line: int | None
    headings: tuple[str, ...]
    under: tuple[str, ...]
    proposal: Reading
    size: int

    @contextmanager
    def opened(self) -> Iterator[BinaryIO]:
        """The file's bytes from its beginning."""
        stream: BinaryIO = (
            io.BytesIO(self.source) if isinstance(self.source, bytes) else self.source.open("rb")
        )
        try:
            yield stream
        finally:
            stream.close()


def _encoding(head: bytes) -> str:
    for mark, name in (
        (b"\xff\xfe", "utf-16"),
        (b"\xfe\xff", "utf-16"),
        (b"\xef\xbb\xbf", "utf-8-sig"),
    ):
        if head.startswith(mark):
            return name
    if b"\x00" in head[:65536]:
        raise InvalidInput(
            [Problem("file", "is not text; export the lap from the logger as CSV and give that")]
        )
    try:
        head.decode("utf-8")
    except UnicodeDecodeError as error:
        if error.start < len(head) - 4:  # not merely a letter cut in two
            return "cp1252"
    return "utf-8"


def split_line(line: str, separator: str) -> list[str]:
    """The cells of a line; none when it is not delimited text.

    Examples
    --------
    >>> split_line('"time","a, b"', ",")
    ['time', 'a, b']
    """
    try:
        reader = csv.reader(
            [line.strip(" ") if separator == " " else line],
            delimiter=separator,
            skipinitialspace=True,
        )
        return [cell.strip() for cell in next(reader, [])]
    except csv.Error:
        return []


def _first_lines(text: str) -> list[str]:
    reader = io.StringIO(text, newline=None)
    lines = []
    for _ in range(_HEADER_LINES + 40):
        line = reader.readline(_LONGEST_LINE)
        if not line:
            break
        lines.append(line.rstrip("\r\n"))
    return lines


def _known_columns(headings: list[str]) -> dict[ChannelName, Column]:
    """For each channel the heading that means it most plainly, the first of those alike; bare."""
    columns: dict[ChannelName, Column] = {}
    plain: dict[ChannelName, float] = {}
    for heading in headings:
        guess = understand_heading(heading)
        if guess.channel is None or len(heading) > 200:
            continue
        here = plainness(heading, guess.channel)
        if here > plain.get(guess.channel, 0.0):
            plain[guess.channel] = here
            columns[guess.channel] = Column(heading=heading, unit="")
    return columns


def _numbers(cells: list[str]) -> int:
    return sum(bool(_NUMBER.match(cell)) for cell in cells)


@dataclass(frozen=True)
class _Headings:
    line: int
    separator: str
    headings: list[str]


def _are_units(cells: list[str]) -> bool:
    """Whether a line holds units rather than names: most of what is in it, bare or in brackets."""
    filled = [cell.strip("[]()").lower() for cell in cells if cell]
    return 2 * sum(any(cell in kind.units for kind in KINDS.values()) for cell in filled) > len(
        filled
    )


def _is_units_row(lines: list[str], at: int, separator: str) -> bool:
    """Whether a line holds the units of the names above it, whatever those are called."""
    if at == 0 or not _are_units(cells := split_line(lines[at], separator)):
        return False
    above = split_line(lines[at - 1], separator)
    is_named = len(above) == len(cells) and all(above) and _numbers(above) == 0
    return is_named and not _are_units(above)


def _named_headings(lines: list[str]) -> _Headings | None:
    """The line that names most channels, two at least."""
    best, most = None, 1
    for number, line in enumerate(lines[:_HEADER_LINES], start=1):
        if len(line) >= _LONGEST_LINE:
            continue
        for separator in _SEPARATORS:
            headings = split_line(line, separator)
            if len(headings) - _numbers(headings) <= most:
                continue  # it has no more names than another has channels
            known = len(_known_columns(headings))
            if known > most and not _is_units_row(lines, number - 1, separator):
                best, most = _Headings(number, separator, headings), known
    return best


def _table_without_names(lines: list[str]) -> _Headings | None:
    """Where rows of numbers begin: the line above names them, or nothing does."""
    for number in range(min(len(lines), _HEADER_LINES)):
        for separator in _SEPARATORS:
            rows = [split_line(each, separator) for each in lines[number : number + 5]]
            width = len(rows[0])
            if len(rows) < 5 or width < 4 or any(len(row) != width for row in rows):
                continue
            if any(_numbers(row) < 0.7 * width for row in rows):
                continue
            for back in (1, 2):  # a row of units may stand between
                above = split_line(lines[number - back], separator) if number >= back else []
                if _is_units_row(lines, number - back, separator):
                    continue
                if len(above) == width and all(above) and _numbers(above) == 0:
                    return _Headings(number + 1 - back, separator, above)
            return _Headings(number, separator, [f"column {i + 1}" for i in range(width)])
    return None


def _units_row(lines: list[str], found: _Headings) -> tuple[str, ...]:
    """The cells of a row of units under the headings; none where there is no such row."""
    under = lines[found.line : found.line + 1]
    cells = split_line(under[0], found.separator) if under else []
    if not any(cells) or _numbers(cells) > 0 or max(map(len, cells)) > _LONGEST_UNIT:
        return ()
    return tuple(cells)


def _as_file_says(
    headings: list[str] | tuple[str, ...],
    under: tuple[str, ...],
    columns: dict[ChannelName, Column],
) -> dict[ChannelName, Column]:
    """Columns with what the file says of them, where they say nothing themselves.

    A unit in brackets in the heading goes before the row of units; "lateral g" may be but a name.
    """
    rows = dict(zip(headings, under, strict=False))

    def told(name: ChannelName, column: Column) -> Column:
        exact, said = read_heading(column.heading), taken_for(column.heading, name)
        in_brackets = exact.unit if exact.channel == name else None
        unit = in_brackets or known_unit(name, rows.get(column.heading, "")) or said.unit or ""
        return Column.model_validate(
            {
                "heading": column.heading,
                "unit": column.unit or unit,
                "positive": column.positive or said.positive,
            }
        )

    return {name: told(name, column) for name, column in columns.items()}


def as_file_says(file: LogFile, reading: Reading) -> Reading:
    """A reading with the units and signs that the file says, where the reading says none.

    Examples
    --------
    >>> file = open_log(b"Time;Speed;Side\\ns;mph;m/s2\\n0;60;0,1\\n1;60;0,2\\n")
    >>> column = Column(heading="Side", unit="")
    >>> as_file_says(file, Reading(columns={"lateral": column})).columns["lateral"].unit
    'm/s2'
    """
    told = _as_file_says(file.headings, file.under, reading.columns)
    return reading.model_copy(update={"columns": told})


def _worth_proposing(columns: dict[ChannelName, Column]) -> dict[ChannelName, Column]:
    """Without the extras that would need asking about, and without a second clock."""

    def wanted(name: ChannelName, column: Column) -> bool:
        if name == "distance":
            return "time" not in columns
        if CHANNELS[name].use != "extra":
            return True
        said = bool(column.unit) or not CHANNELS[name].units
        return said and (column.positive is not None or name not in POSITIVE_WORDS)

    kept = {name: column for name, column in columns.items() if wanted(name, column)}
    if not {"latitude", "longitude"} <= kept.keys():
        kept.pop("latitude", None)
        kept.pop("longitude", None)
    return kept


def _sample_rate(lines: list[str]) -> float | None:
    for line in lines:
        match = _RATE.search(line)
        if match and (match[2] or "rate" in line.lower() or "freq" in line.lower()):
            value = float(match[1].replace(",", "."))
            rate = 1000.0 / value if (match[2] or "").lower() == "ms" and value else value
            if 0.5 <= rate <= 100_000:
                return rate
    return None


def open_log(source: bytes | Path) -> LogFile:
    """Find the headings of a delimited file and propose which column is what.

    Parameters
    ----------
    source : bytes or Path
        The file: comma, semicolon, tab, bar or space separated; UTF-8, UTF-16
        or Windows Latin; headings within its first 60 lines, a row of units
        under them or not. Without headings its columns are numbered.

    Returns
    -------
    LogFile

    Raises
    ------
    InvalidInput
        If it is not text, is empty, or holds no table.

    Examples
    --------
    >>> found = open_log(b"Time;Speed\\ns;km/h\\n0,00;100\\n0,02;100\\n")
    >>> found.proposal.columns["speed"].unit, found.decimal_comma, found.units_line
    ('km/h', True, 2)
    """
    if isinstance(source, bytes):
        head, size = source[:_LOOKED_AT], len(source)
    else:
        with source.open("rb") as stream:
            head, size = stream.read(_LOOKED_AT), source.stat().st_size
    encoding = _encoding(head)
    text = head.decode(encoding, errors="replace")
    if not text.strip():
        raise InvalidInput([Problem("file", "is empty; export the lap from the logger as CSV")])
    lines = _first_lines(text)
    found = _named_headings(lines) or _table_without_names(lines)
    if found is None:
        raise InvalidInput(
            [
                Problem(
                    "file",
                    f"has no line of headings and no rows of numbers in its first {_HEADER_LINES} "
                    "lines; export it as delimited text, one column a channel",
                )
            ]
        )
    under = _units_row(lines, found)
    columns = _as_file_says(found.headings, under, _known_columns(found.headings))
    rows = [split_line(line, found.separator) for line in lines[found.line :]]
    decimal_comma = found.separator != "," and any(
        _DECIMAL_COMMA.match(cell) for row in rows for cell in row
    )
    columns = _worth_proposing(columns)
    rate = None if "time" in columns else _sample_rate(lines[: max(found.line - 1, 0)])
    return LogFile(
        source, encoding, found.separator, decimal_comma, found.line,
        found.line + 1 if under else None, tuple(found.headings), under,
        Reading(columns=columns, sample_rate_hz=rate), size,
    )  # fmt: skip
