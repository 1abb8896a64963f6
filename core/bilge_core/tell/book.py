"""A track book as everybody reads it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from pydantic import BaseModel

from bilge_core.agreement.book import (
    Book,
    Booked,
    Due,
    DueState,
    due_of,
    hours_run,
    short_of_mark,
    used_in,
)
from bilge_core.agreement.book_entries import HoldUp, ItemDone, Session, TrendKey
from bilge_core.agreement.hold_up import held_up
from bilge_core.agreement.next_change import Shows, What, next_change
from bilge_core.document.build import Build
from bilge_core.pan import Pan, assemble_pan
from bilge_core.rules.track_book import UNLIKE_BEFORE
from bilge_core.tell.differences import DifferenceOut
from bilge_core.tell.judged import DipsCount
from bilge_core.tell.numbers import litres


class DrivenOut(BaseModel):
    """A session with what it used."""

    session: Session
    state: int
    by: str
    at: datetime
    oil_used_l: float | None
    oil_used_l_h: float | None
    can_ml_h: float | None
    lost_l: float | None
    """Neither in the pan nor in the can."""
    over_ambient_c: float | None
    hottest_c: float | None
    """Of the oil, as typed; else by its laps' log."""
    lowest_bar: float | None
    changed: list[str]
    """What differs from the car of the session before, in words."""
    dips: DipsCount | None
    """Of its laps held against the forecast; null: none were."""


class DoneOut(BaseModel):
    """Something that was looked at or renewed."""

    done: ItemDone
    by: str
    hours_then: float
    """That the engine had run since the time before."""


class DueOut(BaseModel):
    """Something that comes round."""

    id: str
    name: str
    every_hours: float | None
    every_days: float | None
    each_session: bool
    is_usual: bool
    """Its interval is the program's guess."""
    state: DueState
    hours_left: float | None
    days_left: float | None
    run_hours: float
    done: list[DoneOut]


class TrendOut(BaseModel):
    """One figure over the sessions."""

    key: TrendKey
    points: list[tuple[date, float]]
    limit: float | None
    """The builder's own; null: none."""
    is_past: bool
    """The last is beyond it."""
    is_rising: bool
    """The last is well over what was usual, where rising is worse; or under, where falling is."""


class NextOut(BaseModel):
    """The one thing to change next."""

    what: What
    title: str
    why: str
    measure: str


class HeldAtOut(BaseModel):
    """Oil held up at an engine speed, measured and as the forecast has it."""

    rpm: float
    held_l: float
    give_l: float
    thought_l: float
    more_l: float


class HoldUpOut(BaseModel):
    """A hold-up trial."""

    trial: HoldUp
    by: str
    at: list[HeldAtOut]
    more_l: float
    """Than thought, over all speeds."""
    give_l: float
    returns_s: float | None
    words: str


class BookOut(BaseModel):
    """A car's track book."""

    sessions: list[DrivenOut]
    """The newest first."""
    due: list[DueOut]
    hours: float
    trends: list[TrendOut]
    hold_ups: list[HoldUpOut]
    """The newest first."""
    next: NextOut | None
    """Null before the first session."""
    several_changed: bool
    """More than one thing was changed before the last session: what it shows has two causes."""


@dataclass(frozen=True)
class Changed:
    """What differs from the car of the session before.

    words : each difference
    things : how many parts of the car they lie in: five plates of one box are one thing
    """

    words: tuple[str, ...]
    things: int


def changed_between(rows: Sequence[DifferenceOut]) -> Changed:
    """Differences as a builder counts them.

    Examples
    --------
    >>> rows = [DifferenceOut(field="oil.volume_l", words="oil: 6 L to 7 L"),
    ...         DifferenceOut(field="oil.mark_l", words="mark: 6 L to 7 L"),
    ...         DifferenceOut(field="pan.plates.p3", words="lid: new")]
    >>> changed_between(rows).things
    2
    """
    things = {tuple(row.field.split(".")[: 1 if row.field.startswith("oil.") else 2])
              for row in rows}  # fmt: skip
    return Changed(tuple(row.words for row in rows), len(things))


_FEWEST = 3
_SEAL = "jointseal"
"""Id of the pickup joint's seal among what comes round."""


def _rounded(value: float | None, places: int = 2) -> float | None:
    return None if value is None else round(value, places)


def trend_of(
    key: TrendKey, points: list[tuple[date, float]], limit: float | None = None
) -> TrendOut:
    """The last against the middle one of those before, and against the builder's own limit.

    Examples
    --------
    >>> used = (0.2, 0.2, 0.3, 0.5)
    >>> rows = [(date(2026, 5, day), each) for day, each in enumerate(used, start=1)]
    >>> trend_of("oil_used", rows).is_rising
    True
    """
    before = sorted(value for _, value in points[:-1])
    is_off = False
    if len(before) >= _FEWEST:
        usual, last = before[len(before) // 2], points[-1][1]
        more, less = (usual, last) if key == "lowest" else (last, usual)
        is_off = not UNLIKE_BEFORE.holds(more / max(less, 1e-9))
    last = points[-1][1]
    is_past = limit is not None and (last < limit if key == "lowest" else last > limit)
    return TrendOut(key=key, points=points, is_rising=is_off, limit=limit, is_past=is_past)


def _session_out(
    session: Session, state: int, by: str, at: datetime, build: Build, pan: Pan,
    changed: list[str], dips: DipsCount | None,
) -> DrivenOut:  # fmt: skip
    used = used_in(session, build, pan)
    oil = None if used.oil is None else used.oil * 1e3
    hottest, lowest = session.hottest_c, session.lowest_bar
    if dips is not None:  # what was typed is by the gauge on the dash
        hottest = dips.hottest_c if hottest is None else hottest
        lowest = dips.lowest_bar if lowest is None else lowest
    over = None
    if hottest is not None and session.ambient_c is not None:
        over = hottest - session.ambient_c
    return DrivenOut(
        session=session, state=state, by=by, at=at, oil_used_l=_rounded(oil),
        oil_used_l_h=_rounded(None if oil is None else oil / session.hours),
        can_ml_h=_rounded(None if session.can_ml is None else session.can_ml / session.hours, 0),
        lost_l=None if used.lost is None else litres(used.lost), over_ambient_c=_rounded(over, 0),
        changed=changed, dips=dips, hottest_c=hottest, lowest_bar=lowest,
    )  # fmt: skip


def _due_out(due: Due, book: Book, usual: frozenset[str]) -> DueOut:
    rows = book.done.get(due.item.id, ())
    days = [row[0].on for row in rows]
    hours = [
        sum(entry.hours for entry, _ in book.in_order
            if entry.on <= day and (at == 0 or entry.on > days[at - 1]))
        for at, day in enumerate(days)
    ]  # fmt: skip
    return DueOut(
        id=due.item.id, name=due.item.name, every_hours=due.item.every_hours,
        every_days=due.item.every_days, each_session=due.item.each_session,
        is_usual=due.item.id in usual, state=due.state, hours_left=_rounded(due.hours_left, 1),
        days_left=due.days_left, run_hours=round(due.run, 1),
        done=[
            DoneOut(done=done, by=row.by, hours_then=round(run, 1))
            for (done, row), run in zip(rows, hours, strict=True)
        ],
    )  # fmt: skip


def _hold_up_out(row: Booked, build: Build) -> HoldUpOut:
    trial = row.entry
    assert isinstance(trial, HoldUp)
    found = held_up(trial, build)
    fastest = found.fastest
    if abs(fastest.more) <= fastest.give:
        words = "About what the forecast has."
    else:
        than = "more" if fastest.more > 0.0 else "less"
        apart = f"{abs(fastest.more) * 1e3:.2f} L {than}"
        words = f"{apart} than the forecast has at {fastest.rpm:.0f} rpm."
    return HoldUpOut(
        trial=trial, by=row.by, words=words,
        returns_s=_rounded(found.returns, 1),
        more_l=round(found.more[0] * 1e3, 2), give_l=round(found.more[1] * 1e3, 2),
        at=[
            HeldAtOut(
                rpm=each.rpm, held_l=round(each.held * 1e3, 2), give_l=round(each.give * 1e3, 2),
                thought_l=round(each.thought * 1e3, 2), more_l=round(each.more * 1e3, 2),
            )
            for each in found.at
        ],
    )  # fmt: skip


def _next_out(
    book: Book, builds: Mapping[int, Build], due: Sequence[Due], dips: Mapping[str, DipsCount],
    known: Build | None,
) -> NextOut | None:  # fmt: skip
    if not book.in_order:
        return None
    session, row = book.in_order[-1]
    count = dips.get(session.id)
    sealed = book.done.get(_SEAL, ())
    told = next_change(
        Shows(
            looks=count.looks if count else None, has_laps=count is not None,
            has_forecast=count is not None and count.has_forecast,
            met=count.met if count else 0, foreseen=count.foreseen if count else 0,
            false_alarms=count.false_alarms if count else 0,
            not_shown=count.not_shown if count else 0,
            short_of_mark=short_of_mark(session, builds[row.state]),
            seal_renewed=any(
                done.how == "renewed" and done.on >= session.on for done, _ in sealed
            ),
            overdue=tuple(each.item.name for each in due if each.state == "overdue"),
            learned_since=known is not None
            and known.learned is not None
            and known.learned != builds[row.state].learned,
        )
    )  # fmt: skip
    return NextOut(what=told.what, title=told.title, why=told.why, measure=told.measure)


def book_out(
    book: Book,
    builds: Mapping[int, Build],
    changed: Mapping[str, Changed],
    usual: frozenset[str],
    today: date,
    dips: Mapping[str, DipsCount],
    known: Build | None = None,
) -> BookOut:
    """A track book.

    Parameters
    ----------
    book : Book
    builds : mapping of number to Build
        Every state that a session was driven in.
    changed : mapping of session id to Changed
        What differed from the car of the session before.
    usual : frozenset of str
        Ids of the items whose intervals nobody typed.
    today : date
    dips : mapping of session id to DipsCount
        Of those whose laps were held against a forecast.
    known : Build, optional
        The car as it is known today.
    """
    pans = {number: assemble_pan(build) for number, build in builds.items()}
    sessions = [
        _session_out(entry, row.state, row.by, row.at, builds[row.state], pans[row.state],
                     list(changed[entry.id].words) if entry.id in changed else [],
                     dips.get(entry.id))
        for entry, row in book.in_order
    ]  # fmt: skip
    series: dict[TrendKey, list[tuple[date, float]]] = {
        "oil_used": [], "can": [], "over_ambient": [], "lowest": [],
    }  # fmt: skip
    for each in sessions:
        for key, value in (
            ("oil_used", each.oil_used_l_h), ("can", each.can_ml_h),
            ("over_ambient", each.over_ambient_c), ("lowest", each.lowest_bar),
        ):  # fmt: skip
            if value is not None:
                series[key].append((each.session.on, value))  # type: ignore[index]
    due = due_of(book, today)
    return BookOut(
        sessions=sessions[::-1],
        due=[_due_out(each, book, usual) for each in due],
        hold_ups=[_hold_up_out(row, builds[row.state]) for row in book.hold_ups.values()][::-1],
        next=_next_out(book, builds, due, dips, known),
        hours=round(hours_run(book), 1),
        trends=[
            trend_of(key, points, book.limits.get(key)) for key, points in series.items() if points
        ],
        several_changed=bool(sessions)
        and sessions[-1].session.id in changed
        and changed[sessions[-1].session.id].things > 1,
    )
