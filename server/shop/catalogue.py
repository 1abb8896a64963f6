"""The catalogue as a CSV: written for a spreadsheet, read back with every fault named."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import dataclass

from bilge_core.errors import InvalidInput, Problem
from bilge_core.options.candidate import Prices
from bilge_core.shop import PARTS, OwnPart, ShopPart, is_own, own_part
from bilge_core.shop.fittings import FITTINGS, Fitting
from bilge_core.shop.own import MOST_COST, MOST_DAYS
from config.spreadsheets import csv_of

LARGEST = 300_000
"""[bytes] of a catalogue."""
_FITTING = ("end_1", "end_2", "angle_deg", "height_mm", "spanner")
_HEADINGS = ("key", "part", "per", "cost", "lead_days", "weight_kg", *_FITTING)
_MOST_TOLD = 20

_Row = dict[str, str | None]


@dataclass(frozen=True)
class Catalogue:
    """What a catalogue says: own prices of the starting set's parts, and parts of its own."""

    prices: list[tuple[str, float, int]]
    own: list[OwnPart]

    @property
    def count(self) -> int:
        """Of all parts that it names."""
        return len(self.prices) + len(self.own)


def _row(part: ShopPart, fitting: Fitting | None) -> tuple[str | float, ...]:
    ends: tuple[str | float, ...] = ("",) * len(_FITTING)
    if fitting is not None:
        first, second = (f"{end.thread} {end.sex}" for end in fitting.ends)
        height = round(fitting.height * 1e3, 3)
        ends = (first, second, fitting.angle, height, fitting.spanner)
    return (part.key, part.words, part.per, float(part.cost), part.lead_days, part.weight, *ends)


def write_catalogue(prices: Prices) -> str:
    """All parts as a workshop pays them, its own last."""
    added = {each.key: each for each in prices.fittings}
    rows = [_row(prices.part(key), FITTINGS.get(key)) for key in PARTS]
    rows += [_row(prices.parts[key], added.get(key)) for key in prices.parts if key not in PARTS]
    return csv_of(_HEADINGS, rows)


class _Line:
    """A row of the table, and what is wrong with it."""

    def __init__(self, number: int, row: _Row) -> None:
        self._row = row
        self._at = f"file.{number}"
        self.faults: list[Problem] = []

    def text(self, column: str) -> str:
        """A cell; empty where the table has no such column."""
        return (self._row.get(column) or "").strip()

    def wrong(self, column: str, words: str) -> None:
        """One more fault."""
        self.faults.append(Problem(f"{self._at}.{column}", words))

    def figure(self, column: str, wanted: str, most: float) -> float:
        """A figure from nil; one at fault is told and is nil."""
        text = self.text(column)
        try:
            value = float(text)
        except ValueError:
            value = math.nan
        if math.isfinite(value) and 0.0 <= value <= most:
            return value
        self.wrong(column, f"{wanted} (it is {text!r:.30})")
        return 0.0

    def price(self) -> tuple[float, int]:
        """Cost and lead time."""
        cost = self.figure("cost", f"must be a figure from 0 to {MOST_COST:,.0f}", MOST_COST)
        whole = f"must be whole days, at most {MOST_DAYS}"
        days = self.figure("lead_days", whole, MOST_DAYS)
        if days != int(days):
            self.wrong("lead_days", f"{whole} (it is {days})")
        return cost, int(days)

    def maybe(self, column: str) -> float:
        """A figure that may be left out."""
        return self.figure(column, "must be a figure from 0", 1e6) if self.text(column) else 0.0

    def own(self) -> OwnPart | None:
        """A part of the workshop's own; None where something is wrong with it."""
        part = ShopPart(
            self.text("key"), self.text("part"), self.text("per") or "piece", *self.price(),
            self.maybe("weight_kg"),
        )  # fmt: skip
        turn, height = self.maybe("angle_deg"), self.maybe("height_mm")
        if self.faults:
            return None
        ends = self.text("end_1"), self.text("end_2")
        try:
            return own_part(part, ends, turn, height, self.text("spanner"))
        except InvalidInput as fault:
            for problem in fault.problems:
                self.wrong(_COLUMN.get(problem.field, problem.field), problem.message)
            return None


_COLUMN = {"words": "part"}
"""Columns that are called otherwise than their fields."""


def read_catalogue(raw: bytes) -> Catalogue:
    """Costs and lead times of a catalogue, and the workshop's own parts in it.

    Of the starting set's parts `key`, `cost` and `lead_days` are read; of its own all columns.

    Raises
    ------
    InvalidInput
        Naming line and column of each fault.
    """
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InvalidInput([Problem("file", "must be text in UTF-8")]) from None
    try:
        reader = csv.DictReader(io.StringIO(text))
        headings, table = set(reader.fieldnames or ()), [(reader.line_num, row) for row in reader]
    except csv.Error as error:
        raise InvalidInput([Problem("file", f"cannot be read as CSV: {error}")]) from None
    missing = {"key", "cost", "lead_days"} - headings
    if missing:
        words = f"must have the columns {', '.join(sorted(missing))}: write one out first"
        raise InvalidInput([Problem("file", words)])
    found = Catalogue([], [])
    faults: list[Problem] = []
    for number, row in table:
        line = _Line(number, row)
        key = line.text("key")
        if is_own(key):
            own = line.own()
            found.own.extend([own] if own else [])
        else:
            if key not in PARTS:
                words = f"is no part of the catalogue ({key[:30]!r}); one of your own begins own_"
                line.wrong("key", words)
            found.prices.append((key, *line.price()))
        faults += line.faults
    if faults:
        raise InvalidInput(faults[:_MOST_TOLD])
    return found
