"""The hold-up trial: litres by the pan's own curve, its time by an exponential that is known."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

import pytest
from bilge_core.agreement.book import Booked, book_of
from bilge_core.agreement.book_entries import HoldUp, read_booked
from bilge_core.agreement.hold_up import READ_TO, held_up
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.network.held import held_running
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.book import book_out

from tests.core.test_book import TODAY

AREA = 0.4 * 0.24
"""[m2] of the box's floor."""


@pytest.fixture
def box(box_document: Callable[..., dict[str, Any]]) -> Build:
    return build_from(box_document())


def trial(**more: Any) -> HoldUp:
    raw = {
        "kind": "hold_up", "id": "h1", "on": "2026-06-07", "standing_mm": 80.0,
        "running": [{"rpm": 3000, "level_mm": 72.0}, {"rpm": 1000, "level_mm": 78.0}], **more,
    }  # fmt: skip
    found = read_booked(raw)
    assert isinstance(found, HoldUp)
    return found


def test_litres_are_the_box_floor_times_what_the_level_fell(box: Build) -> None:
    found = held_up(trial(), box)
    assert [row.rpm for row in found.at] == [1000, 3000]
    assert [row.held for row in found.at] == pytest.approx([AREA * 2e-3, AREA * 8e-3], rel=1e-6)
    # two readings of a tube, each to a millimetre
    assert found.fastest.give == pytest.approx(math.sqrt(2.0) * AREA * READ_TO, rel=1e-6)


def test_what_is_thought_is_what_the_forecasts_circuit_holds_up_there(box: Build) -> None:
    for row in held_up(trial(), box).at:
        held = held_running(box, speed_of_rpm(row.rpm))
        assert row.thought == held.up_top + held.thrown
        assert row.more == row.held - row.thought


def test_at_the_usual_speed_it_is_what_it_always_was(box: Build) -> None:
    usual = held_running(box)
    assert held_running(box, usual.speed) == usual


@pytest.mark.parametrize("time", [6.0, 25.0])
def test_the_time_in_which_it_comes_back_is_found(box: Build, time: float) -> None:
    after = [
        {"seconds": at, "level_mm": 80.0 - 8.0 * math.exp(-at / time)} for at in (0, 5, 10, 20)
    ]
    assert held_up(trial(after=after), box).returns == pytest.approx(time, rel=1e-6)


@pytest.mark.parametrize(
    "after",
    [
        [],
        [{"seconds": 5, "level_mm": 75}],
        [{"seconds": 5, "level_mm": 75}, {"seconds": 5, "level_mm": 76}],
        [{"seconds": 5, "level_mm": 85}, {"seconds": 9, "level_mm": 80}],
        [{"seconds": 5, "level_mm": 76}, {"seconds": 9, "level_mm": 75}],
    ],
    ids=["none", "one", "one moment", "all of it back", "falling"],
)
def test_where_nothing_tells_of_a_time_none_is_said(box: Build, after: list[Any]) -> None:
    assert held_up(trial(after=after), box).returns is None


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"running": []}, "running"),
        ({"running": [{"rpm": 200, "level_mm": 70}]}, "rpm"),
        ({"standing_mm": 700}, "standing_mm"),
        ({"after": [{"seconds": -1, "level_mm": 70}]}, "seconds"),
    ],
)
def test_faults_are_named(more: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput, match=field):
        trial(**more)


def test_it_is_told_beside_what_was_thought(box: Build) -> None:
    thought = held_running(box, speed_of_rpm(3000.0))
    level = 80.0 - (thought.up_top + thought.thrown) / AREA * 1e3
    told = []
    for fell in (0.0, 4.0, -4.0):
        running = [{"rpm": 3000, "level_mm": level - fell}]
        row = Booked(trial(running=running), "MK", datetime(2026, 6, 7, tzinfo=UTC), 1)
        out = book_out(book_of([row]), {1: box}, {}, frozenset(), TODAY, {})
        told.append(out.hold_ups[0].words)
    assert told == [
        "About what the forecast has.",
        "0.38 L more than the forecast has at 3000 rpm.",
        "0.38 L less than the forecast has at 3000 rpm.",
    ]
