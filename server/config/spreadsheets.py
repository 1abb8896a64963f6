"""Tables for spreadsheets: no cell of words is ever taken for a formula."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

Cell = str | float | int


def harmless(cell: Cell) -> Cell:
    """A cell that no spreadsheet takes for a formula.

    Examples
    --------
    >>> harmless("=1+1"), harmless("-3 to 5"), harmless(-3.5), harmless("hose")
    ("'=1+1", "'-3 to 5", -3.5, 'hose')
    """
    if isinstance(cell, str) and cell[:1] in ("=", "+", "-", "@", "\t", "\r"):
        return f"'{cell}"
    return cell


def csv_of(headings: Sequence[str], rows: Iterable[Sequence[Cell]]) -> str:
    """A table as CSV (RFC 4180), headings first."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(headings)
    writer.writerows([[harmless(cell) for cell in row] for row in rows])
    return out.getvalue()
