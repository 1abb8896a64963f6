"""Track books: what a session used by the pan's own curve, what is due, trends."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any

import pytest
from bilge_core.agreement.book import (
    Book,
    Booked,
    book_of,
    due_of,
    fitted_items,
    hours_run,
    litres_at,
    short_of_mark,
    used_in,
)
from bilge_core.agreement.book_entries import Session, read_booked
from bilge_core.document.build import Build
from bilge_core.document.learned import Learned
from bilge_core.errors import InvalidInput
from bilge_core.network.held import held_running
from bilge_core.pan import assemble_pan
from bilge_core.pan.levels import level_of_volume
from bilge_core.physics.axes import standing_up
from bilge_core.rules.track_book import DUE_SOON
from bilge_core.tell.book import Changed, book_out
from bilge_core.tell.judged import DipsCount
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.jobs import DUNLIN, GATED, NOON, demo


def test_at_the_mark_nothing_is_missing_and_below_it_what_was_taken_out() -> None:
    """What filter, cooler and lines keep stays there while it stands: only the rest is dipped."""
    pan, up = assemble_pan(DUNLIN), standing_up(DUNLIN.car)
    lowest = float((pan.solid.vertices @ up).min())
    assert DUNLIN.oil.mark_l is not None
    at_mark = DUNLIN.oil.mark_l * 1e-3 - held_running(DUNLIN).pressed
    for out in (0.0, 0.5e-3):
        level = level_of_volume(pan.solid, up, at_mark - out) - lowest
        raw = session("s", "2026-06-07", level_before_mm=level * 1e3)
        dipped = read_booked(raw)
        assert isinstance(dipped, Session)
        assert short_of_mark(dipped, DUNLIN, pan) == pytest.approx(out, abs=1e-9)
    hot = dipped.model_copy(update={"dipped": "hot"})
    assert short_of_mark(hot, DUNLIN, pan) is None


TODAY = date(2026, 6, 10)


def session(name: str, on: str, hours: float = 2.0, **more: Any) -> dict[str, Any]:
    return {"kind": "session", "id": name, "on": on, "circuit": "Saltmarsh Ring", "hours": hours,
            **more}  # fmt: skip


def book(*raws: dict[str, Any], build: Build = DUNLIN, state: int = 1) -> Book:
    rows = [Booked(read_booked(raw), "MK", datetime(2026, 6, 1, 12, at % 60, tzinfo=UTC), state)
            for at, raw in enumerate(raws)]  # fmt: skip
    return book_of(rows, fitted_items(build))


def done(item: str, on: str, **more: Any) -> dict[str, Any]:
    return {"kind": "item_done", "item": item, "on": on, **more}


@pytest.mark.parametrize("litres", [1.0, 3.5, 6.0])
@pytest.mark.parametrize("build", [DUNLIN, demo("sandpiper")], ids=["dunlin", "sandpiper"])
def test_a_level_is_the_litres_that_stand_that_high_in_the_leaned_pan(
    build: Build, litres: float
) -> None:
    pan, up = assemble_pan(build), standing_up(build.car)
    level = level_of_volume(pan.solid, up, litres * 1e-3)
    dipped = level - float((pan.solid.vertices @ up).min())
    assert litres_at(build, dipped, pan) * 1e3 == pytest.approx(litres, abs=1e-6)


def test_what_was_used_is_what_the_level_lost_and_what_was_poured_in() -> None:
    """By hand: levels of 5.0 and 4.6 L, 0.3 L poured in, 70 ml in the can, two hours."""
    pan, up = assemble_pan(DUNLIN), standing_up(DUNLIN.car)
    lowest = float((pan.solid.vertices @ up).min())
    before, after = (
        (level_of_volume(pan.solid, up, volume) - lowest) * 1e3 for volume in (5e-3, 4.6e-3)
    )
    raw = session("s1", "2026-06-07", level_before_mm=before, level_after_mm=after, added_l=0.3,
                  can_ml=70)  # fmt: skip
    entry = read_booked(raw)
    assert isinstance(entry, Session)
    used = used_in(entry, DUNLIN)
    assert used.oil == pytest.approx(0.7e-3, abs=1e-8)
    assert used.lost == pytest.approx(0.63e-3, abs=1e-8)
    assert used.an_hour(used.oil) == pytest.approx(0.35e-3, abs=1e-8)
    bare = read_booked(session("s2", "2026-06-07"))
    assert isinstance(bare, Session)
    assert used_in(bare, DUNLIN).oil is None and used_in(bare, DUNLIN).lost is None


def test_a_session_written_anew_takes_its_place_and_one_struck_is_gone() -> None:
    told = book(session("s1", "2026-05-24", 2.0), session("s1", "2026-05-24", 3.0),
                session("s2", "2026-06-07", 1.5))  # fmt: skip
    assert hours_run(told) == 4.5
    struck = book(session("s1", "2026-05-24"), {"kind": "session_struck", "id": "s1"})
    assert struck.sessions == {}


def test_what_comes_round_is_what_the_car_has() -> None:
    assert "gates" not in {each.id for each in fitted_items(DUNLIN)}
    assert "gates" in {each.id for each in fitted_items(GATED)}
    assert "precharge" in {each.id for each in fitted_items(demo("plumbed"))}
    assert "belt" in {each.id for each in fitted_items(demo("curlew"))}


def state_of(told: Book, item: str, today: date = TODAY) -> str:
    return next(each.state for each in due_of(told, today) if each.item.id == item)


def test_hours_on_both_sides_of_the_edges_of_due() -> None:
    every = 12.0  # the joint's seal
    soon = every * (1 - DUE_SOON.most)
    for hours, wanted in ((soon - 0.01, "later"), (soon, "soon"),
                          (every, "due"), (every + 0.01, "overdue")):  # fmt: skip
        assert state_of(book(session("s1", "2026-06-07", hours)), "jointseal") == wanted


def test_hours_count_from_the_day_on_which_it_was_done() -> None:
    told = book(session("s1", "2026-05-10", 9), done("jointseal", "2026-05-12", how="renewed"),
                session("s2", "2026-05-24", 5))  # fmt: skip
    due = next(each for each in due_of(told, TODAY) if each.item.id == "jointseal")
    assert (due.run, due.hours_left) == (5.0, 7.0)
    assert due.last and due.last.how == "renewed"


def test_the_calendar_counts_as_well_and_each_session_means_now() -> None:
    told = book(session("s1", "2025-06-01", 1.0))
    oil = {"kind": "item", "id": "oil", "name": "engine oil", "every_hours": 100, "every_days": 365}
    yearly = book(session("s1", "2025-06-01", 1.0), oil)
    assert state_of(yearly, "oil", date(2026, 6, 1)) == "due"
    assert state_of(yearly, "oil", date(2026, 6, 2)) == "overdue"
    assert state_of(told, "filter") == "due"
    looked = book(session("s1", "2025-06-01", 1.0), done("filter", "2025-06-01"))
    assert state_of(looked, "filter") == "later"


def test_the_builders_own_interval_takes_the_usual_ones_place_and_one_is_dropped() -> None:
    own = {"kind": "item", "id": "jointseal", "name": "pickup joint's seal", "every_hours": 40}
    told = book(session("s1", "2026-06-07", 13), own)
    assert state_of(told, "jointseal") == "later"
    gone = book({"kind": "item_dropped", "id": "magnet"})
    assert "magnet" not in gone.items
    with pytest.raises(InvalidInput, match=r"entry: comes round"):
        read_booked({"kind": "item", "id": "x", "name": "x"})


def told_of(*raws: dict[str, Any], changed: dict[str, Changed] | None = None) -> Any:
    usual = frozenset(each.id for each in fitted_items(DUNLIN))
    return book_out(book(*raws), {1: DUNLIN}, changed or {}, usual, TODAY, {})


def test_trends_are_off_when_the_last_is_well_over_what_was_usual() -> None:
    def can(last: float) -> Any:
        rows = [session(f"s{n}", f"2026-05-{n + 1:02d}", 1.0, can_ml=ml)
                for n, ml in enumerate((50, 60, 55, last))]  # fmt: skip
        return next(each for each in told_of(*rows).trends if each.key == "can")

    assert can(82).is_rising is False and can(83).is_rising is True  # 1.5 times 55

    def lowest(last: float) -> Any:
        rows = [session(f"s{n}", f"2026-05-{n + 1:02d}", 1.0, lowest_bar=bar)
             for n, bar in enumerate((3.0, 3.2, 3.1, last))]  # fmt: skip
        return next(each for each in told_of(*rows).trends if each.key == "lowest")

    assert lowest(2.0).is_rising and not lowest(2.1).is_rising  # 3.1 / 1.5
    few = [session(f"s{n}", f"2026-05-{n + 1:02d}", 1.0, can_ml=ml)
           for n, ml in enumerate((50, 60, 500))]  # fmt: skip
    assert not told_of(*few).trends[-1].is_rising  # three are too few to say what is usual


@pytest.mark.parametrize(
    ("key", "field", "limit", "within", "past"),
    [("can", "can_ml", 60, 60, 61), ("lowest", "lowest_bar", 2.0, 2.0, 1.9),
     ("over_ambient", "hottest_c", 90, 114, 115)],
)  # fmt: skip
def test_a_limit_of_the_builders_own(
    key: str, field: str, limit: float, within: float, past: float
) -> None:
    def last(value: float, *more: dict[str, Any]) -> Any:
        rows = (session("s1", "2026-05-01", 1.0, ambient_c=24, **{field: value}),
                {"kind": "trend_limit", "key": key, "limit": limit}, *more)  # fmt: skip
        return next(each for each in told_of(*rows).trends if each.key == key)

    assert last(within).limit == limit and not last(within).is_past
    assert last(past).is_past
    forgotten = last(past, {"kind": "trend_limit", "key": key})
    assert forgotten.limit is None and not forgotten.is_past
    with pytest.raises(InvalidInput, match="limit"):
        read_booked({"kind": "trend_limit", "key": key, "limit": -1})


def test_what_was_logged_stands_where_nothing_was_typed() -> None:
    count = DipsCount(met=1, foreseen=1, false_alarms=0, not_shown=0, laps=2, has_forecast=True,
                      looks="slosh", hottest_c=118.0, lowest_bar=1.9)  # fmt: skip
    usual = frozenset[str]()

    def first(**typed: Any) -> Any:
        rows = book(session("s1", "2026-05-01", 1.0, ambient_c=20, **typed))
        return book_out(rows, {1: DUNLIN}, {}, usual, TODAY, {"s1": count}).sessions[0]

    logged = first()
    assert (logged.hottest_c, logged.lowest_bar, logged.over_ambient_c) == (118.0, 1.9, 98.0)
    typed = first(hottest_c=124, lowest_bar=2.2)
    assert (typed.hottest_c, typed.lowest_bar) == (124, 2.2)


def test_after_something_was_learned_it_is_run_again() -> None:
    count = DipsCount(met=2, foreseen=1, false_alarms=0, not_shown=0, laps=2, has_forecast=True,
                      looks="slosh")  # fmt: skip
    found = {"value": 0.3, "give": 0.1, "source": "dips of 2 laps, 2026-06-07"}
    told = DUNLIN.model_copy(update={"learned": Learned(up_top_more_l=found)})

    def follows(driven: Build, known: Build) -> str:
        rows = book(session("s1", "2026-06-07", 1.0))
        out = book_out(rows, {1: driven}, {}, frozenset(), TODAY, {"s1": count}, known)
        assert out.next is not None
        return out.next.what

    assert follows(DUNLIN, DUNLIN) == "hold_up"
    assert follows(DUNLIN, told) == "again"
    assert follows(told, told) == "hold_up"  # it was driven by that forecast already


def test_the_newest_comes_first_and_two_changes_at_once_are_said() -> None:
    rows = (session("s1", "2026-05-24"), session("s2", "2026-06-07", hottest_c=121, ambient_c=24))
    told = told_of(*rows, changed={"s2": Changed(("a plate: new", "mouth's gap: 8 mm to 9 mm"), 2)})
    assert [each.session.id for each in told.sessions] == ["s2", "s1"]
    assert told.sessions[0].over_ambient_c == 97 and told.several_changed
    assert not told_of(*rows, changed={"s2": Changed(("a plate: new",), 1)}).several_changed
    assert told_of().sessions == [] and told_of().hours == 0


def test_hours_of_each_time_it_was_done_add_up() -> None:
    told = told_of(session("s1", "2026-05-01", 4), done("jointseal", "2026-05-02"),
                   session("s2", "2026-05-10", 3), session("s3", "2026-05-11", 2),
                   done("jointseal", "2026-05-12", found="watch"))  # fmt: skip
    due = next(each for each in told.due if each.id == "jointseal")
    assert [each.hours_then for each in due.done] == [4.0, 5.0] and due.is_usual


rows_of = st.lists(
    st.one_of(
        st.builds(lambda n, day, hours: session(f"s{n}", f"2026-05-{day:02d}", hours),
                  st.integers(0, 4), st.integers(1, 28), st.floats(0.1, 8)),
        st.builds(lambda day, item: done(item, f"2026-05-{day:02d}"), st.integers(1, 28),
                  st.sampled_from(["oil", "filter", "jointseal"])),
        st.builds(lambda n: {"kind": "session_struck", "id": f"s{n}"}, st.integers(0, 4)),
    ),
    max_size=15,
)  # fmt: skip


@settings(deadline=None)
@given(rows_of)
def test_any_entries_give_a_book_whose_hours_add_up(raws: list[dict[str, Any]]) -> None:
    told = book(*raws)
    assert hours_run(told) == pytest.approx(sum(entry.hours for entry, _ in told.in_order))
    for due in due_of(told, TODAY):
        assert 0.0 <= due.run <= hours_run(told) + 1e-9
        assert due.hours_left is None or due.hours_left == pytest.approx(
            (due.item.every_hours or 0.0) - due.run, abs=1e-5
        )
    assert NOON.tzinfo is UTC
