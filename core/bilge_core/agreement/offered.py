"""Rounds of offering up, entry by entry: what was found where, and how each place stands."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any, Literal

import numpy as np

from bilge_core.agreement.fit_entries import (
    AnyOffered,
    Found,
    Means,
    PlaceSaid,
    RoundBegun,
    RoundClosed,
)
from bilge_core.agreement.places import Place, spot


@dataclass(frozen=True)
class Finding:
    """What was found at a place in one round.

    round : its number, from one
    gap : [m]; nil where it touches; None: it was only looked at
    """

    round: int
    touches: bool
    gap: float | None
    done: str
    photos: tuple[str, ...]
    by: str
    at: datetime
    state: int


@dataclass(frozen=True)
class OfferedUp:
    """A round.

    number : from one
    closed : when each of its places was sound or accepted
    """

    number: int
    means: Means
    car_on: str
    words: str
    by: str
    at: datetime
    closed: datetime | None = None


@dataclass(frozen=True)
class Entered:
    """An entry with its hand, its time and the state that it was made on."""

    entry: AnyOffered
    by: str
    at: datetime
    state: int


@dataclass(frozen=True)
class Offered:
    """A test fit as it stands.

    rounds : in their order
    said : places said by hand, by id
    wanted : gaps wanted otherwise than the build says, by place [m]
    found : findings by place, in the order of the rounds, one a round
    accepted : why, by place; gone when something else is found there
    dropped : places that are not looked at any more
    """

    rounds: tuple[OfferedUp, ...] = ()
    said: Mapping[str, Place] = field(default_factory=dict)
    wanted: Mapping[str, float] = field(default_factory=dict)
    found: Mapping[str, tuple[Finding, ...]] = field(default_factory=dict)
    accepted: Mapping[str, str] = field(default_factory=dict)
    dropped: frozenset[str] = frozenset()


def _found(now: Offered, entry: Found, row: Entered) -> Offered:
    if not now.rounds:
        return now
    number = now.rounds[-1].number
    before = tuple(each for each in now.found.get(entry.place, ()) if each.round != number)
    gap = 0.0 if entry.touches else None if entry.gap_mm is None else entry.gap_mm * 1e-3
    one = Finding(number, entry.touches, gap, entry.done, tuple(entry.photos), row.by, row.at,
                  row.state)  # fmt: skip
    accepted = {key: why for key, why in now.accepted.items() if key != entry.place}
    return replace(
        now, found={**now.found, entry.place: (*before, one)}, accepted=accepted,
        dropped=now.dropped - {entry.place},
    )  # fmt: skip


def _begun(now: Offered, entry: RoundBegun, row: Entered) -> Offered:
    number = len(now.rounds) + 1
    one = OfferedUp(number, entry.means, entry.car_on, entry.words, row.by, row.at)
    return replace(now, rounds=(*now.rounds, one))


def _closed(now: Offered, entry: RoundClosed, row: Entered) -> Offered:
    if not now.rounds:
        return now
    last = replace(now.rounds[-1], closed=row.at)
    return replace(now, rounds=(*now.rounds[:-1], last))


def _said(now: Offered, entry: PlaceSaid, row: Entered) -> Offered:
    at = None if entry.at_mm is None else spot(np.array(entry.at_mm) * 1e-3)
    place = Place(entry.place, entry.name, entry.wanted_mm * 1e-3, at=at)
    return replace(now, said={**now.said, entry.place: place}, dropped=now.dropped - {entry.place})


_BY_KIND: dict[str, Any] = {
    "round_begun": _begun,
    "round_closed": _closed,
    "found": _found,
    "place_said": _said,
    "wanted": lambda now, entry, row: replace(
        now, wanted={**now.wanted, entry.place: entry.wanted_mm * 1e-3}
    ),
    "accepted": lambda now, entry, row: replace(
        now, accepted={**now.accepted, entry.place: entry.why}
    ),
    "dropped": lambda now, entry, row: replace(now, dropped=now.dropped | {entry.place}),
}


def offered_of(rows: Iterable[Entered]) -> Offered:
    """A test fit after its entries, in the order kept.

    Examples
    --------
    >>> offered_of([]).rounds
    ()
    """
    now = Offered()
    for row in rows:
        now = _BY_KIND[row.entry.kind](now, row.entry, row)
    return now


PlaceState = Literal["touches", "tight", "sound", "accepted", "not_looked"]


def state_of(place: Place, offered: Offered) -> PlaceState:
    """How a place stands by what was found last; not looked at where this round has nothing.

    Examples
    --------
    >>> state_of(Place("a", "lid to mount", 8e-3), Offered())
    'not_looked'
    """
    found = offered.found.get(place.id, ())
    if not found or not offered.rounds or found[-1].round != offered.rounds[-1].number:
        return "not_looked"
    if place.id in offered.accepted:
        return "accepted"
    last = found[-1]
    if last.touches:
        return "touches"
    wanted = offered.wanted.get(place.id, place.wanted)
    return "sound" if last.gap is None or last.gap >= wanted - 1e-9 else "tight"


_ORDER: tuple[PlaceState, ...] = ("touches", "tight", "not_looked", "accepted", "sound")


def all_places(forecast: Sequence[Place], offered: Offered) -> tuple[Place, ...]:
    """Forecast places and those said by hand, in a fixed order; none that was dropped."""
    there = {place.id: place for place in (*forecast, *offered.said.values())}
    return tuple(place for key, place in there.items() if key not in offered.dropped)


def worst_first(places: Sequence[Place], offered: Offered) -> tuple[Place, ...]:
    """Places by how they stand, those that touch first, then by what is short."""

    def rank(place: Place) -> tuple[int, float]:
        found = offered.found.get(place.id, ())
        gap = found[-1].gap if found else place.forecast
        wanted = offered.wanted.get(place.id, place.wanted)
        return _ORDER.index(state_of(place, offered)), (9.9 if gap is None else gap) - wanted

    return tuple(sorted(places, key=rank))


def open_places(places: Sequence[Place], offered: Offered) -> tuple[Place, ...]:
    """Places that keep a round from being closed."""
    return tuple(
        each for each in places if state_of(each, offered) in {"touches", "tight", "not_looked"}
    )
