"""Both sides of the edges of what a log and a track book are judged by."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, date, datetime

import numpy as np
from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.book import Booked, book_of, due_of
from bilge_core.agreement.book_entries import read_booked
from bilge_core.agreement.dips_met import pair_dips
from bilge_core.agreement.fitting import is_told, leans_on, tied_in
from bilge_core.agreement.live import CornerAhead, Follower, Plan, Seen
from bilge_core.agreement.next_change import Shows, next_change
from bilge_core.agreement.places import correction_of, part_places, places_of
from bilge_core.agreement.resembles import resembles, runs_straight
from bilge_core.agreement.same_lap import LaidOn
from bilge_core.agreement.sensor_shown import Shown
from bilge_core.clearance.parts import PartGap
from bilge_core.document.learned import SURE
from bilge_core.document.read import read_build
from bilge_core.forecast.pressure import PressureDip
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.tell.book import trend_of
from bilge_core.tell.live import live_now, stands

from tests.conftest import DEMO


def straight_at(load: float) -> bool:
    time = np.arange(0.0, 4.0, 0.1)
    log = Log(time, *np.zeros((2, 40)), np.full(40, load * 9.80665), time)
    return bool(runs_straight(log).all())


def looks_short(share: float) -> str:
    """A gallery short by a share on straights of two speeds."""
    time = np.arange(0.0, 10.0, 0.05)
    speed = np.where(time < 5.0, 400.0, 600.0)
    seen = np.full(200, (1.0 - share) * 5e5)
    log = Log(time, *np.zeros((3, 200)), speed, oil_pressure=seen)
    return resembles([log], AsUsual(np.array([400.0]), np.array([5e5])), Shown(0.0, 20.0)).looks


def dip_at(start: float) -> PressureDip:
    return PressureDip(start, start + 0.4, 1e5, start, 5e5, 1.0, None, None, "")


def next_at(short: float) -> str:
    """What comes next of a car that went out with so much missing to its mark."""
    return next_change(Shows("slosh", True, True, 4, 4, 0, 0, short, False, ())).what


def used_over(times: float) -> bool:
    """Whether so many times what was usual is told."""
    days = [date(2026, 5, day) for day in (1, 2, 3, 4)]
    return trend_of("can", list(zip(days, (0.05, 0.05, 0.05, 0.05 * times), strict=True))).is_rising


def seen_at(share: float, until: float) -> Seen:
    """A car with a share of what is expected, so long before a corner that dips."""
    ahead = CornerAhead(Corner(1, "left", 4.0, 7.0, 1.0), 0.2, 0.3, 2e5, 5e5, 0.5)
    return Seen(1.0, 1, 0.1, share * 5e5, 5e5, 5e5, 30.0, 500.0, None, False, ahead, until)


def risk_in(until: float) -> str:
    """What is said of that corner."""
    steady = AsUsual(np.array([500.0]), np.array([5e5]))
    plan = Plan(*np.zeros((4, 2)), (), 1.0, 1, steady)
    corner = live_now(seen_at(1.0, until), Follower(plan)).corner
    assert corner is not None
    return corner.risk


DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def is_moved(by: float) -> bool:
    """Whether the exhaust is offered to be moved, found so far from where it is drawn."""
    place = next(each for each in places_of(DUNLIN) if each.name == "pan to exhaust")
    assert place.forecast is not None
    return correction_of(DUNLIN, place, place.forecast - by) is not None


def soon_after(used: float) -> str:
    """What is said of a seal of which so much of its interval is left."""
    session = {"kind": "session", "id": "s1", "on": "2026-06-07", "circuit": "Ring",
               "hours": 10.0 * (1.0 - used)}  # fmt: skip
    item = {"kind": "item", "id": "seal", "name": "seal", "every_hours": 10.0}
    at = datetime(2026, 6, 7, tzinfo=UTC)
    rows = [Booked(read_booked(raw), "MK", at, 1) for raw in (session, item)]
    return due_of(book_of(rows), date(2026, 6, 8))[0].state


def comes_up(over: float) -> bool:
    """Whether a tank's place comes up at a test fit, so much over the gap that is wanted."""
    gap = PartGap("c1", "tank", 0, over + 10e-3, 10e-3, np.zeros(3), np.array([0.0, 0.0, 0.1]))
    return bool(list(part_places(DUNLIN, [gap])))


BOOK_EDGES: list[tuple[str, Callable[[float], object], float, float, object, object]] = [
    ("due_soon", soon_after, 0.199, 0.201, "soon", "later"),
    ("comes_by_itself", comes_up, 39.9e-3, 40.1e-3, True, False),
    ("worth_moving", is_moved, 1.01e-3, 0.99e-3, True, False),
    (
        "as_expected",
        lambda share: stands(seen_at(share, 9.0)),
        0.851,
        0.849,
        "as_expected",
        "under",
    ),
    ("corner_near", risk_in, 3.99, 4.01, "near", "later"),
    ("short_of_mark", next_at, 0.299e-3, 0.301e-3, "options", "level"),
    ("unlike_before", used_over, 1.49, 1.51, False, True),
    (
        "told_apart",
        lambda c: tied_in(np.array([[1.0, c], [c, 1.0]]), ["a", "b"]),
        0.899,
        0.901,
        (),
        (("a", "b"),),
    ),
    ("leans", lambda share: leans_on([1.0 - share, share]), 0.799, 0.801, None, 1),
    ("tells", lambda left: is_told(left * SURE * 0.3, 0.3), 0.699, 0.701, True, False),
    ("same_lap", lambda alike: LaidOn(alike, np.zeros(2)).is_same, 0.801, 0.799, True, False),
    (
        "foreseen",
        lambda apart: len(pair_dips([dip_at(1.0)], [dip_at(1.4 + apart)])),
        0.499,
        0.501,
        1,
        2,
    ),
    ("readings_in_dip", lambda n: Shown(0.0, 10.0).shortest() <= n / 10.0, 2.0, 1.9, True, False),
    ("straight_on", straight_at, 0.349, 0.351, True, False),
    ("maybe_short", looks_short, 0.029, 0.031, "nothing", "cannot_tell"),
    ("short_on_straights", looks_short, 0.099, 0.101, "cannot_tell", "speed"),
]
