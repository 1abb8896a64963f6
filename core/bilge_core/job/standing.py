"""Where a job stands: its entries, one after the other, folded into one picture."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any

from bilge_core.job.entries import (
    AnyEntry,
    BoltLoose,
    BoltTight,
    FoundBad,
    Noted,
    Overridden,
    Ticked,
    Unticked,
    WaitOver,
)
from bilge_core.job.library import STEPS

REOPENED = "open_again"
"""Ticked, the pan is open again: what closed and filled it has to be done anew."""


@dataclass(frozen=True)
class Kept:
    """An entry with its hand, its time and the state of the plan that it was made on.

    number : its place among all of the card
    """

    entry: AnyEntry
    number: int
    by: str
    at: datetime
    state: int


@dataclass(frozen=True)
class Done:
    """Who ticked a step or overrode a gate, when, on which state of the plan."""

    by: str
    at: datetime
    state: int
    number: int
    words: str = ""


@dataclass(frozen=True)
class Standing:
    """Where a job stands.

    done : by step id, what is ticked
    overridden : by step id, gates passed without; ``words`` is the reason
    bolts : by step id, pairs of pass and bolt
    over : by step id, waits that were said to be over; ``words`` says why
    bad : by part id, what was found
    noted : by step id, in the order taken
    """

    done: Mapping[str, Done] = field(default_factory=dict)
    overridden: Mapping[str, Done] = field(default_factory=dict)
    bolts: Mapping[str, frozenset[tuple[int, int]]] = field(default_factory=dict)
    over: Mapping[str, Done] = field(default_factory=dict)
    bad: Mapping[str, tuple[FoundBad, Done]] = field(default_factory=dict)
    noted: Mapping[str, tuple[tuple[Noted, Done], ...]] = field(default_factory=dict)


NOTHING_DONE = Standing()
_ANEW = frozenset({"access", "off", "wash", "close", "fill", "run"})
"""Phases that have to be gone through again when a closed pan is opened once more."""


def key_of(step: str) -> str:
    """The library's key in a step's id.

    Examples
    --------
    >>> key_of("hang_gate:g12"), key_of("redo.fit_plate:p3"), key_of("drain")
    ('hang_gate', 'fit_plate', 'drain')
    """
    return step.split(":", maxsplit=1)[0].rpartition(".")[2]


def _is_anew(step: str) -> bool:
    known = STEPS.get(key_of(step))
    return known is None or known.phase in _ANEW


def _without(rows: Mapping[str, Done], step: str) -> dict[str, Done]:
    return {key: value for key, value in rows.items() if key != step}


def _ticked(now: Standing, entry: Ticked, how: Done) -> Standing:
    step = entry.step
    if step == REOPENED:
        left = {key: value for key, value in now.done.items() if not _is_anew(key)}
        bolts = {key: value for key, value in now.bolts.items() if not _is_anew(key)}
        return replace(now, done=left, bolts=bolts)
    if key_of(step) == "look_again":
        now = _right(now, step.partition(":")[2])
    if step.startswith("undo."):  # what was made is taken back: both are as if never done
        return replace(now, done=_without(now.done, step.removeprefix("undo.")))
    return replace(now, done={**now.done, step: replace(how, words=entry.words)})


def _bolted(now: Standing, entry: BoltTight | BoltLoose, how: Done) -> Standing:
    there = now.bolts.get(entry.step, frozenset())
    one = frozenset({(entry.in_pass, entry.bolt)})
    changed = there | one if isinstance(entry, BoltTight) else there - one
    return replace(now, bolts={**now.bolts, entry.step: changed})


def _unticked(now: Standing, entry: Unticked, how: Done) -> Standing:
    return replace(
        now, done=_without(now.done, entry.step),
        overridden=_without(now.overridden, entry.step), over=_without(now.over, entry.step),
    )  # fmt: skip


def _waited(now: Standing, entry: WaitOver, how: Done) -> Standing:
    return replace(now, over={**now.over, entry.step: replace(how, words=entry.why)})


def _passed(now: Standing, entry: Overridden, how: Done) -> Standing:
    passed = {**now.overridden, entry.step: replace(how, words=entry.why)}
    return replace(now, overridden=passed)


def _noted(now: Standing, entry: Noted, how: Done) -> Standing:
    before = now.noted.get(entry.step, ())
    return replace(now, noted={**now.noted, entry.step: (*before, (entry, how))})


def _found_bad(now: Standing, entry: FoundBad, how: Done) -> Standing:
    sent = {f"send_back:{entry.part}", f"look_again:{entry.part}"}
    done = {key: value for key, value in now.done.items() if key not in sent}
    return replace(now, done=done, bad={**now.bad, entry.part: (entry, how)})


def _right(now: Standing, part: str) -> Standing:
    return replace(now, bad={key: row for key, row in now.bad.items() if key != part})


_BY_KIND: dict[str, Callable[[Standing, Any, Done], Standing]] = {
    "ticked": _ticked,
    "unticked": _unticked,
    "bolt_tight": _bolted,
    "bolt_loose": _bolted,
    "wait_over": _waited,
    "overridden": _passed,
    "noted": _noted,
    "found_bad": _found_bad,
    "put_right": lambda now, entry, how: _right(now, entry.part),
}


def _after(now: Standing, kept: Kept) -> Standing:
    how = Done(kept.by, kept.at, kept.state, kept.number)
    return _BY_KIND[kept.entry.kind](now, kept.entry, how)


def standing_of(entries: Iterable[Kept]) -> Standing:
    """Where a job stands after its entries.

    Parameters
    ----------
    entries : iterable of Kept
        In the order in which they were kept.

    Examples
    --------
    >>> from datetime import datetime, timezone
    >>> from bilge_core.job.entries import read_entry
    >>> at = datetime(2026, 7, 12, 13, 5, tzinfo=timezone.utc)
    >>> def kept(number, **raw):
    ...     return Kept(read_entry(raw), number, "MK", at, 3)
    >>> rows = [kept(1, kind="ticked", step="stands"), kept(2, kind="ticked", step="drain"),
    ...         kept(3, kind="unticked", step="drain")]
    >>> list(standing_of(rows).done)
    ['stands']
    """
    now = NOTHING_DONE
    for kept in entries:
        now = _after(now, kept)
    return now
