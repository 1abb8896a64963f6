"""Searches on a small grid: within the room, from two starts, quoted to what starts allow."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from bilge_core.acts.gates_fitted import OFF_WALL
from bilge_core.acts.round_mouth import opening_for, room_at_mouth
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidQuantity
from bilge_core.options.ladder import Failed, Trial
from bilge_core.options.search import (
    LABELS,
    TOLD_APART,
    Found,
    best_of,
    found_at,
    grid_of,
    search_trials,
)
from bilge_core.options.trial import Outcome
from bilge_core.pan import assemble_pan
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_plates_fitted import DUNLIN, SANDPIPER


@pytest.mark.parametrize("build", [DUNLIN, SANDPIPER], ids=["dunlin", "sandpiper"])
def test_every_place_is_in_the_room_and_its_own(build: Build) -> None:
    for what in LABELS:
        grid = grid_of(build, what)
        assert 8 <= len(grid) <= 20
        assert len({each.candidate.key for each in grid}) == len(grid)
        made = [each for each in grid if each.candidate.build is not None]
        assert len(made) >= len(grid) - 1  # the pickup's own place is no move
        for each in made:
            assert each.candidate.build is not None
            assemble_pan(each.candidate.build)
        builds = {str(each.candidate.build) for each in made}
        assert len(builds) == len(made)  # no place is tried twice


@pytest.mark.parametrize(
    ("x", "y", "ahead", "left"),
    [(340, -60, (-60, 28), (-28, 60)), (60, 60, (-28, 60), (-60, 28))],
)
def test_a_mouth_is_moved_by_six_centimetres_and_never_nearer_a_wall_than_twelve_millimetres(
    box_document: Callable[..., dict[str, Any]],
    x: float, y: float, ahead: tuple[float, float], left: tuple[float, float],
) -> None:  # fmt: skip
    """In a box 400 by 240 a mouth of 40 keeps its middle 32 from the walls."""
    build = build_from(box_document(pickup__x_mm=x, pickup__y_mm=y))
    moved = [act for each in grid_of(build, "pickup") for act in each.candidate.acts]
    for key, ends in (("ahead_mm", ahead), ("left_mm", left)):
        by = [act[key] for act in moved]
        assert (min(by), max(by)) == ends


def test_gates_stand_off_by_up_to_what_the_farthest_wall_leaves() -> None:
    room = room_at_mouth(DUNLIN)
    walls = (
        DUNLIN.pickup.x_mm - room.rear, room.front - DUNLIN.pickup.x_mm,
        DUNLIN.pickup.y_mm - room.right, room.left - DUNLIN.pickup.y_mm,
    )  # fmt: skip
    assert max(walls) == 130.0
    assert max(each.across for each in grid_of(DUNLIN, "gates")) == 130.0 - OFF_WALL


def test_no_opening_is_wider_than_the_zone_that_the_mouth_stands_in() -> None:
    """In a sump 97 mm wide the widest is a millimetre less."""
    room = room_at_mouth(DUNLIN)
    assert max(each.across for each in grid_of(DUNLIN, "level_plate")) == round(
        1.6 * opening_for(DUNLIN)
    )
    raw = DUNLIN.model_dump(mode="json")
    zone = next(each for each in raw["pan"]["zones"] if each["floor"]["kind"] == "flat"
                and each["floor"]["depth_mm"] == room.depth)  # fmt: skip
    zone["outline_mm"] = [
        [x, y if y < raw["pickup"]["y_mm"] else room.right + 97.0] for x, y in zone["outline_mm"]
    ]
    narrow = build_from(raw)
    assert room_at_mouth(narrow).left - room_at_mouth(narrow).right == 97.0
    assert max(each.across for each in grid_of(narrow, "level_plate")) == 96.0


def gave(dry: float, ramp: float = 0.0) -> Outcome:
    return Outcome(dry, 0.1, 0.5, 2e5, 1, 2, 2, 4e-3, 6.0, ramp)


def test_two_starts_of_each_place_and_no_more() -> None:
    wanted = search_trials(["a", "b"], {})
    assert [(each.candidate, each.seed) for each in wanted] == [
        ("a", 0), ("b", 0), ("a", 1), ("b", 1),
    ]  # fmt: skip
    assert {each.rung for each in wanted} == {"worst"}
    assert search_trials(["a"], {trial: gave(1.0) for trial in wanted}) == ()


def test_a_place_is_the_mean_of_its_starts_so_far() -> None:
    one = Trial("a", "worst", 0, 0)
    assert found_at("a", {}) is None
    assert found_at("a", {one: gave(1.0, 0.4)}) == Found(1.0, 0.4, 0.1, 1)
    two = {one: gave(1.0, 0.4), Trial("a", "worst", 0, 1): gave(2.0, 0.6)}
    assert found_at("a", two) == Found(1.5, 0.5, 0.1, 2)
    assert found_at("a", two | {one: Failed("too little oil")}) is None


@pytest.mark.parametrize(("more", "alike"), [(-0.01, ("a", "b")), (0.01, ("a",))])
def test_places_are_told_apart_from_so_much(more: float, alike: tuple[str, ...]) -> None:
    found = {"a": Found(1.0, 0.2, 0.0, 2), "b": Found(1.0 + TOLD_APART + more, 0.1, 0.0, 2)}
    best = best_of(found)
    assert best.alike == alike
    assert best.key == ("b" if len(alike) == 2 else "a")  # the ramp breaks the tie


def test_no_place_is_refused() -> None:
    with pytest.raises(InvalidQuantity):
        best_of({})


@given(st.dictionaries(st.text("abcdef", min_size=1), st.floats(0, 9), min_size=1))
def test_the_best_is_among_those_like_it_and_none_is_drier(dry: dict[str, float]) -> None:
    found = {key: Found(each, each, 0.0, 2) for key, each in dry.items()}
    best = best_of(found)
    assert best.key in best.alike and dry[best.key] == min(dry.values())
