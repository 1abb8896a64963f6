"""What was found at one strip-down against the one before."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import Literal

from bilge_core.document.inspection import Inspected

Turned = Literal["worse", "better", "same", "first"]
_ORDER = ("sound", "watch", "replace")


@dataclass(frozen=True)
class LookedAt:
    """One thing looked at, when and by whom."""

    found: Inspected
    on: date
    by: str


@dataclass(frozen=True)
class Compared:
    """One thing as it was found last, and on the day before that on which it was looked at.

    now : LookedAt
    before : LookedAt or None
    """

    now: LookedAt
    before: LookedAt | None

    @property
    def turned(self) -> Turned:
        """Which way it went; by how it was found, then by how far off flat it is."""
        if self.before is None:
            return "first"
        then, now = self.before.found, self.now.found
        steps = _ORDER.index(now.found) - _ORDER.index(then.found)
        if steps == 0 and now.off_flat_mm is not None and then.off_flat_mm is not None:
            more = now.off_flat_mm - then.off_flat_mm
            steps = 0 if abs(more) < READ_TO else (1 if more > 0.0 else -1)
        return "same" if steps == 0 else ("worse" if steps > 0 else "better")


READ_TO = 0.05
"""[mm] to which a feeler gauge tells how far off flat a rail is (ours)."""


def compared(rows: Iterable[LookedAt]) -> tuple[Compared, ...]:
    """Each thing that was looked at, the last time against the day before.

    Parameters
    ----------
    rows : iterable of LookedAt
        In any order; what is written twice on a day counts as it was written last.

    Returns
    -------
    tuple of Compared
        Those that turned worse first, then by name.

    Examples
    --------
    >>> def looked(found, day):
    ...     return LookedAt(Inspected(item="Rail", found=found), date(2026, 6, day), "MK")
    >>> [(each.before.on.day, each.turned) for each in compared(
    ...     [looked("sound", 1), looked("sound", 7), looked("watch", 7)])]
    [(1, 'worse')]
    """
    found: dict[str, dict[date, LookedAt]] = {}
    for row in rows:
        if row.found.found != "not_looked":
            found.setdefault(row.found.item, {})[row.on] = row
    both = []
    for days in found.values():
        last = sorted(days)[-2:]
        both.append(Compared(days[last[-1]], days[last[0]] if len(last) > 1 else None))
    order: dict[Turned, int] = {"worse": 0, "first": 1, "same": 1, "better": 1}
    return tuple(sorted(both, key=lambda each: (order[each.turned], each.now.found.item)))
