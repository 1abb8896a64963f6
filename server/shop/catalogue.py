"""The catalogue as a CSV: written for a spreadsheet, read back with every fault named."""

from __future__ import annotations

import csv
import io
import math

from bilge_core.errors import InvalidInput, Problem
from bilge_core.options.candidate import Prices
from bilge_core.shop import PARTS
from config.spreadsheets import csv_of

LARGEST = 300_000
"""[bytes] of a catalogue."""
_HEADINGS = ("key", "part", "per", "cost", "lead_days", "weight_kg")
_MOST_COST, _MOST_DAYS = 1e6, 730
_MOST_TOLD = 20


def write_catalogue(prices: Prices) -> str:
    """All parts as a workshop pays them."""
    rows = []
    for key in PARTS:
        part = prices.part(key)
        rows.append((key, part.words, part.per, part.cost, part.lead_days, part.weight))
    return csv_of(_HEADINGS, rows)


def _figure(text: str, most: float) -> float | None:
    try:
        value = float(text.strip())
    except ValueError:
        return None
    return value if math.isfinite(value) and 0.0 <= value <= most else None


def read_catalogue(raw: bytes) -> list[tuple[str, float, int]]:
    """Keys, costs and lead times of a catalogue.

    Only `key`, `cost` and `lead_days` are read; others may stand beside them.

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
    rows: list[tuple[str, float, int]] = []
    faults: list[Problem] = []
    for number, row in table:
        line, key = f"file.{number}", (row["key"] or "").strip()
        cost, days = _figure(row["cost"] or "", _MOST_COST), _figure(row["lead_days"] or "", 730)
        if key not in PARTS:
            faults.append(Problem(f"{line}.key", f"is no part of the catalogue ({key[:30]!r})"))
        if cost is None:
            words = f"must be a figure from 0 to {_MOST_COST:,.0f} (it is {row['cost']!r:.30})"
            faults.append(Problem(f"{line}.cost", words))
        if days is None or days != int(days):
            words = f"must be whole days, at most {_MOST_DAYS} (it is {row['lead_days']!r:.30})"
            faults.append(Problem(f"{line}.lead_days", words))
        if cost is not None and days is not None:
            rows.append((key, cost, int(days)))
    if faults:
        raise InvalidInput(faults[:_MOST_TOLD])
    return rows
