"""What was found at strip-downs, as everybody reads it."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from pydantic import BaseModel

from bilge_core.agreement.strip_down import LookedAt, Turned, compared
from bilge_core.document.inspection import Found


class FoundOut(BaseModel):
    """One thing as it was found."""

    found: Found
    off_flat_mm: float | None
    note: str
    on: date
    by: str


class StripDownOut(BaseModel):
    """One thing, the last time and the time before."""

    item: str
    now: FoundOut
    before: FoundOut | None
    turned: Turned


def _found(row: LookedAt) -> FoundOut:
    told = row.found
    return FoundOut(
        found=told.found, off_flat_mm=told.off_flat_mm, note=told.note, on=row.on, by=row.by
    )


def strip_down_out(rows: Iterable[LookedAt]) -> list[StripDownOut]:
    """Each thing that was looked at, what turned worse first."""
    return [
        StripDownOut(
            item=each.now.found.item, now=_found(each.now),
            before=None if each.before is None else _found(each.before), turned=each.turned,
        )
        for each in compared(rows)
    ]  # fmt: skip
