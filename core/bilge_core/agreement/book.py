"""A car's track book: sessions, what they used, and what is due by hours and by the calendar."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Literal

from bilge_core.agreement.book_entries import (
    AnyBooked,
    HoldUp,
    Item,
    ItemDone,
    ItemDropped,
    Session,
    SessionStruck,
    TrendKey,
    TrendLimit,
)
from bilge_core.document.build import Build
from bilge_core.network.held import held_running
from bilge_core.pan import Pan, assemble_pan
from bilge_core.pan.levels import volume_below
from bilge_core.physics.axes import standing_up
from bilge_core.rules.track_book import DUE_SOON
from bilge_core.scavenge.level import litres_at as in_tank_at
from bilge_core.scavenge.tank import tank_of, tank_space

ITEMS: tuple[Item, ...] = tuple(
    Item(kind="item", id=key, name=name, every_hours=hours, every_days=days, each_session=each)
    for key, name, hours, days, each in (
        ("oil", "engine oil", 10.0, 365.0, False),
        ("filter", "filter, cut open", None, None, True),
        ("magnet", "magnet of the plug", None, None, True),
        ("jointseal", "pickup joint's seal", 12.0, None, False),
        ("brace", "pickup tube and its brace, cracks", 20.0, None, False),
        ("gates", "gates: hinges and leaves", 8.0, None, False),
        ("hoses", "hoses: chafe, ends, age", 40.0, 1825.0, False),
        ("precharge", "bottle's pre-charge", None, None, True),
        ("belt", "belt of the dry sump", 15.0, 365.0, False),
    )
)
"""What comes round on such a car. The intervals are ours, a guess until the builder types others;
that these are looked at is common practice, no published source."""


@dataclass(frozen=True)
class Booked:
    """An entry with its hand, its time and the state of the build that it was made on."""

    entry: AnyBooked
    by: str
    at: datetime
    state: int


@dataclass(frozen=True)
class Book:
    """A track book after its entries.

    sessions : by id, as written last, each with the entry it came with
    items : by id, what comes round on this car
    done : by item, in the order of their days
    hold_ups : by id, as written last
    limits : of figures over the sessions, the builder's own
    """

    sessions: Mapping[str, Booked] = field(default_factory=dict)
    items: Mapping[str, Item] = field(default_factory=dict)
    done: Mapping[str, tuple[tuple[ItemDone, Booked], ...]] = field(default_factory=dict)
    hold_ups: Mapping[str, Booked] = field(default_factory=dict)
    limits: Mapping[TrendKey, float] = field(default_factory=dict)

    @property
    def in_order(self) -> tuple[tuple[Session, Booked], ...]:
        """Sessions, the earliest first."""
        rows = [(row.entry, row) for row in self.sessions.values()]
        found = [(entry, row) for entry, row in rows if isinstance(entry, Session)]
        return tuple(sorted(found, key=lambda pair: (pair[0].on, pair[1].at)))


def fitted_items(build: Build) -> tuple[Item, ...]:
    """Of what comes round, what this build has.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> [each.id for each in fitted_items(build)]
    ['oil', 'filter', 'magnet', 'jointseal', 'brace', 'hoses']
    """
    kinds = {part.kind for part in build.circuit.components}
    has_gates = any(
        getattr(hole, "gate", None) for plate in build.pan.plates for hole in plate.openings
    )
    missing = set()
    if not has_gates:
        missing.add("gates")
    if "accumulator" not in kinds:
        missing.add("precharge")
    if "tank" not in kinds:
        missing.add("belt")
    return tuple(each for each in ITEMS if each.id not in missing)


def book_of(rows: Iterable[Booked], usual: Sequence[Item] = ()) -> Book:
    """A book after its entries, in the order kept.

    Parameters
    ----------
    rows : iterable of Booked
    usual : sequence of Item
        What comes round on this car unless it is said otherwise.

    Examples
    --------
    >>> book_of([]).sessions
    {}
    """
    sessions: dict[str, Booked] = {}
    items = {each.id: each for each in usual}
    done: dict[str, list[tuple[ItemDone, Booked]]] = {}
    hold_ups: dict[str, Booked] = {}
    limits: dict[TrendKey, float] = {}
    for row in rows:
        entry = row.entry
        if isinstance(entry, Session):
            sessions[entry.id] = row
        elif isinstance(entry, SessionStruck):
            sessions.pop(entry.id, None)
        elif isinstance(entry, Item):
            items[entry.id] = entry
        elif isinstance(entry, ItemDropped):
            items.pop(entry.id, None)
        elif isinstance(entry, HoldUp):
            hold_ups[entry.id] = row
        elif isinstance(entry, TrendLimit):
            limits.pop(entry.key, None)
            if entry.limit is not None:
                limits[entry.key] = entry.limit
        else:
            done.setdefault(entry.item, []).append((entry, row))
    ordered = {
        key: tuple(sorted(each, key=lambda pair: (pair[0].on, pair[1].at)))
        for key, each in done.items()
    }
    return Book(sessions, items, ordered, hold_ups, limits)


def litres_at(build: Build, level: float, pan: Pan | None = None) -> float:
    """Oil in the pan at a dipped level, the car standing, its engine leaned [m3].

    Of a dry sump in its tank: in its pan nobody dips.

    Parameters
    ----------
    build : Build
    level : float
        Straight up from the lowest point inside [m].
    pan : Pan, optional
        As assembled from the build.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> litres_at(build, 0.0)
    0.0
    """
    if build.circuit.is_dry:
        space = tank_space(tank_of(build))
        return in_tank_at(space, min(level, space.height))
    pan = pan or assemble_pan(build)
    up = standing_up(build.car)
    lowest = float((pan.solid.vertices @ up).min())
    return volume_below(pan.solid, up, lowest + level)


def short_of_mark(session: Session, build: Build, pan: Pan | None = None) -> float | None:
    """Oil missing to the mark as a session began [m3]; None where it was not dipped cold.

    None of a dry sump, either: stopped, its tank says nothing of what is in all.

    What stands in filter, cooler and lines stays there, as `forecast.stopping.standing` has it. A
    hot engine holds oil up for a while: what is missing then says nothing.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> on = dict(kind="session", id="s", on="2026-06-07", circuit="Ring", hours=1.0)
    >>> low, none = Session(**on, level_before_mm=60.0), Session(**on)
    >>> 1e-3 < short_of_mark(low, build) < 5e-3, short_of_mark(none, build)
    (True, None)
    """
    if session.level_before_mm is None or session.dipped != "cold" or build.circuit.is_dry:
        return None
    mark = (build.oil.mark_l or build.oil.volume_l) * 1e-3
    stays = held_running(build).pressed
    return mark - stays - litres_at(build, session.level_before_mm * 1e-3, pan)


@dataclass(frozen=True)
class Used:
    """What a session used, per hour where it is a rate.

    oil : that the level lost and that was poured in [m3]; None: not dipped before and after
    can : found in the catch can [m3]; None: not emptied
    lost : neither in the pan nor in the can: burnt, or lost [m3]; None where either is not known
    hours : [h]
    """

    oil: float | None
    can: float | None
    hours: float

    @property
    def lost(self) -> float | None:
        """[m3]"""
        if self.oil is None:
            return None
        return self.oil - (self.can or 0.0)

    def an_hour(self, volume: float | None) -> float | None:
        """A volume per hour run [m3/h]."""
        return None if volume is None else volume / self.hours


def used_in(session: Session, build: Build, pan: Pan | None = None) -> Used:
    """What a session used of its oil, by the pan's own curve."""
    oil = None
    if session.level_before_mm is not None and session.level_after_mm is not None:
        pan = pan or assemble_pan(build)
        before, after = (
            litres_at(build, level * 1e-3, pan)
            for level in (session.level_before_mm, session.level_after_mm)
        )
        oil = before - after + session.added_l * 1e-3
    can = None if session.can_ml is None else session.can_ml * 1e-6
    return Used(oil, can, session.hours)


def hours_run(book: Book, since: date | None = None) -> float:
    """Hours that the engine ran, after a day where one is given [h]."""
    return sum(entry.hours for entry, _ in book.in_order if since is None or entry.on > since)


DueState = Literal["overdue", "due", "soon", "later"]


@dataclass(frozen=True)
class Due:
    """Something that comes round, and when.

    hours_left, days_left : below nil it is overdue; None: it does not come round so
    last : when it was done last; None: never
    run : hours since then [h]
    """

    item: Item
    state: DueState
    hours_left: float | None
    days_left: float | None
    last: ItemDone | None
    run: float


def _state_of(item: Item, hours: float | None, days: float | None, is_now: bool) -> DueState:
    lefts = [
        (left, every)
        for left, every in ((hours, item.every_hours), (days, item.every_days))
        if left is not None and every is not None
    ]
    if any(left < 0.0 for left, _ in lefts):
        return "overdue"
    if is_now or any(left == 0.0 for left, _ in lefts):
        return "due"
    return "soon" if any(left <= DUE_SOON.most * every for left, every in lefts) else "later"


_ORDER: tuple[DueState, ...] = ("overdue", "due", "soon", "later")


def due_of(book: Book, today: date) -> tuple[Due, ...]:
    """What comes round, the most pressing first.

    Hours count from the day on which it was done last, or from the first session.
    """
    found = []
    began = next((entry.on for entry, _ in book.in_order), None)
    for item in book.items.values():
        done = book.done.get(item.id, ())
        last = done[-1][0] if done else None
        run = hours_run(book, last.on if last else None)
        hours = None if item.every_hours is None else round(item.every_hours - run, 6)
        from_day = last.on if last else began
        days = None
        if item.every_days is not None and from_day is not None:
            days = item.every_days - (today - from_day).days
        is_now = item.each_session and run > 0.0
        state = _state_of(item, hours, days, is_now)
        found.append(Due(item, state, hours, days, last, run))

    def pressing(due: Due) -> tuple[int, float]:
        lefts = [each for each in (due.hours_left, due.days_left) if each is not None]
        return _ORDER.index(due.state), min(lefts, default=0.0)

    return tuple(sorted(found, key=pressing))
