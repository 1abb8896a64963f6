"""Cards against the ten lists, and what holds for any: acyclic, needs first, plans that move."""

from __future__ import annotations

import itertools
from datetime import timedelta
from fnmatch import fnmatch
from random import Random

import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput
from bilge_core.job.card import Card, card_of
from bilge_core.job.library import STEPS
from bilge_core.job.order import Days, placed_in_time
from bilge_core.job.settings import CardSettings
from bilge_core.rules.mouth import GAP
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.jobs import (
    BUMPER,
    DUNLIN,
    GATED,
    JOBS,
    NOON,
    PLAIN,
    SUCTION,
    demo,
    done,
    hits,
    ticked,
)

ADDED = {
    "retorque": "a gasket settles once warm; only where a gasket was chosen",
    "mark_stick": "the marks are of the pan that was",
    "look_at_tube": "the pan is off: looked at whatever else is done",
    "renew_seal:*": "the pickup came off its joint, so its seal is new",
    "put_back:*": "what came off goes back",
    "cut_plate:*": "a plate is cut before it is fitted",
    "blank:*": "a hole that the plan has no use for",
    "cut_line:*": "a hose is cut before it is laid",
    "wash_line:*": "and washed out",
    "wash_pan": "a hole was blanked: chips",
    "drill_cover:*": "a cover that carries a tapping is drilled before it goes on",
    "fit_part:*": "the plate that the lines leave from",
    "take_out:*": "the filter leaves the block",
    "fit_filter:*": "a base comes without its filter",
    "brace_tube": "a tube that is made anew is braced at once",
    "take_off:*": "the builder's own list of what is in the way",
    "top_up": "a bottle takes oil",
    "prime_turbo:*": "a turbo is primed whenever oil was out",
    **dict.fromkeys(
        ("clean_pan", "look_over", "pan_off", "drain", "prime", "prove_pressure", "leak_check",
         "write_down"),
        "with every job that opens the oil side",
    ),
}  # fmt: skip
"""Steps that the library adds to a list, and why; argued in the closing note as well."""


@pytest.mark.parametrize("name", list(JOBS))
def test_a_card_has_all_of_its_list_in_its_order_and_what_it_adds_is_argued(name: str) -> None:
    before, after, said, groups = JOBS[name]
    card = card_of(before, after, said)
    cautions = {key for each in card.steps for key in each.step.cautions}
    last, listed = -1, set()
    for group in groups:
        places = [_found(card, key, cautions) for key, _ in group]
        found = [at for each in places for at in each]
        assert not found or min(found) > last, (group, [each.id for each in card.steps])
        last = max(found, default=last)
        listed |= {card.steps[at].id for at in found}
    extra = {each.id for each in card.steps} - listed
    assert {each for each in extra if not any(fnmatch(each, key) for key in ADDED)} == set()


def _found(card: Card, key: str, cautions: set[str]) -> list[int]:
    if key.startswith("!"):
        assert key[1:] in cautions, key
        return []
    places = hits(card, key)
    assert places, key
    return places


def test_every_line_of_the_lists_says_what_asks_for_it() -> None:
    lines = [line for *_, groups in JOBS.values() for group in groups for line in group]
    assert len(lines) > 100
    assert all(len(sentence) > 10 for _, sentence in lines)


def needs_come_first(card: Card) -> bool:
    place = {each.id: at for at, each in enumerate(card.steps)}
    return len(place) == len(card.steps) and all(
        place[need] < place[each.id] for each in card.steps for need in each.needs
    )


BUILDS = [demo(each) for each in ("dunlin", "dunlin-deeper", "dunlin-gated", "dunlin-shop",
                                  "plumbed", "curlew", "sandpiper")]  # fmt: skip
ACTS = (
    {"kind": "fit_gates"}, {"kind": "fit_tray"}, {"kind": "spacer", "by_mm": 6.35},
    {"kind": "spacer", "by_mm": -3}, {"kind": "refill", "to_l": 5.0},
    {"kind": "fit_accumulator", "at": "gallery_tapping", "volume_l": 2.0},
    {"kind": "move_filter", "filters": 2}, {"kind": "fit_cooler"}, {"kind": "feed_turbo"},
    {"kind": "fit_level_plate"}, {"kind": "fit_scraper", "side": "left", "gap_mm": 1.5},
    {"kind": "move_pickup", "left_mm": -12}, {"kind": "brace_pickup"}, {"kind": "fit_catch_can"},
    {"kind": "sump_preset", "place": "front", "depth_mm": 138, "shelf_mm": 50},
    {"kind": "go_dry", "depth_mm": 60},
)  # fmt: skip


def acted(build: Build, raw: dict[str, object]) -> Build:
    try:
        return done(build, **raw)
    except InvalidInput:
        return build


class Plan:
    """A demo and what is done to it, one after the other."""

    def __init__(self, start: int, acts: list[int]) -> None:
        self.said = (start, acts)
        chosen = (ACTS[at] for at in acts)
        self.states = tuple(itertools.accumulate(chosen, acted, initial=BUILDS[start]))

    def __repr__(self) -> str:
        return f"Plan{self.said}"


plans = st.builds(
    Plan,
    st.integers(0, len(BUILDS) - 1),
    st.lists(st.integers(0, len(ACTS) - 1), max_size=4),
)
said_of = st.builds(
    CardSettings,
    sump_in_place=st.booleans(),
    sealing=st.sampled_from(["gasket", "liquid"]),
    access=st.sampled_from([[], [BUMPER]]),
    extras=st.sampled_from([[], [{"do": "renew", "part": "pan"}],
                            [{"do": "look_at", "part": "b8"}]]),
)  # fmt: skip


@settings(deadline=None, max_examples=60)
@given(plans, plans, said_of)
def test_any_change_to_any_demo_gives_an_acyclic_card_with_needs_first(
    plan: Plan, other: Plan, said: CardSettings
) -> None:
    first, last = plan.states[0], plan.states[-1]
    for before, after in ((first, last), (last, first), (other.states[-1], last)):
        card = card_of(before, after, said)
        assert needs_come_first(card)
        for each in card.steps:
            assert "{" not in each.words
            assert each.hours >= 0.0


@settings(deadline=None, max_examples=60)
@given(plans, st.randoms(use_true_random=False))
def test_whatever_was_ticked_before_a_plan_moved_its_card_stays_sound(
    plan: Plan, random: Random
) -> None:
    """Any ticks on any plan, then any other plan: needs first, and nothing done is lost."""
    states = plan.states
    before, middle, after = states[0], states[len(states) // 2], states[-1]
    first = card_of(before, middle, PLAIN)
    rows = [each.id for each in first.steps if random.random() < 0.6]
    standing = ticked(*rows, state=1)
    card = card_of(before, after, PLAIN, standing=standing, states={1: middle})
    assert needs_come_first(card)
    here = {each.id for each in card.steps}
    for each in rows:
        if STEPS[each.split(":")[0]].makes and each not in here and each != "finger_tight":
            assert f"undo.{each}" in here


def test_nothing_to_do_is_an_empty_card() -> None:
    assert card_of(DUNLIN, DUNLIN, PLAIN).steps == ()
    known = done(DUNLIN, kind="figures", figures=[{"field": "car.rail_height_mm", "value": 230}])
    assert card_of(DUNLIN, known, PLAIN).steps == ()


@pytest.mark.parametrize(
    ("to_l", "words"), [(4.8, "Let out 1.4 L, dip"), (7.3, "Pour in 1.1 L, dip")]
)
def test_oil_alone_is_let_out_or_poured_in_by_as_much(to_l: float, words: str) -> None:
    assert DUNLIN.oil.volume_l == 6.2
    card = card_of(DUNLIN, done(DUNLIN, kind="refill", to_l=to_l), PLAIN)
    assert words in [each.words for each in card.steps]


def test_the_drain_and_the_bead_wait_by_themselves_while_hands_do_other_things() -> None:
    said = CardSettings(sealing="liquid", access=[BUMPER])  # type: ignore[list-item]
    rows = placed_in_time(card_of(DUNLIN, GATED, said).steps, NOON.replace(tzinfo=None), Days())
    by_id = {row.step.id: row for row in rows}
    drain = by_id["drain"]
    assert (drain.over - drain.begins) == timedelta(minutes=45)  # common practice
    assert drain.begins < by_id["take_off:a1"].begins < drain.over <= by_id["pan_off"].begins
    tight = by_id["finger_tight"]
    assert tight.over - tight.ends == timedelta(hours=1)  # common practice: about an hour
    assert by_id["torque_pan"].begins >= tight.over
    overlapped = sum(r.step.hours + r.step.wait for r in rows)
    taken = (rows[-1].over - rows[0].begins).total_seconds() / 3600.0
    assert taken < overlapped - 0.4


def test_a_gasket_is_torqued_again_and_a_bead_is_not() -> None:
    for sealing, wanted in (("gasket", True), ("liquid", False)):
        card = card_of(DUNLIN, GATED, CardSettings(sealing=sealing))  # type: ignore[arg-type]
        assert bool(hits(card, "retorque")) is wanted


def test_a_sump_drilled_in_place_takes_half_a_day_less_and_more_care() -> None:
    before, after, said, _ = JOBS["turbo drain through a thin wall, in place"]
    off = card_of(before, after, CardSettings())
    place = card_of(before, after, said)
    assert place.opens is False and off.opens is True
    saved = sum(each.hours for each in off.steps) - sum(each.hours for each in place.steps)
    assert 3.0 < saved < 6.0  # common practice: half a day less
    gates = {each.id for each in place.steps if each.step.is_gate}
    assert any(each.startswith("swarf_out") for each in gates)


def test_in_place_is_said_to_be_ignored_where_the_pan_comes_off_anyway() -> None:
    before, after, said, _ = JOBS["turbo drain through a thin wall, in place"]
    gated = done(after, kind="fit_gates")
    card = card_of(before, gated, said)
    assert card.opens and card.ignores_in_place


def test_a_bottle_that_is_there_is_shut_and_let_off_before_anything_is_opened() -> None:
    plumbed = demo("plumbed")
    card = card_of(plumbed, done(plumbed, kind="fit_tray"), PLAIN)
    assert card.steps[1].step.key == "release_bottle" and card.steps[1].step.is_gate


def test_a_hard_line_is_bent_with_sand_and_every_grain_is_a_gate() -> None:
    plumbed = demo("plumbed")
    raw = plumbed.model_dump(mode="json")
    at, run = next((n, r) for n, r in enumerate(raw["circuit"]["runs"])
                   if r["line"]["kind"] == "hose")  # fmt: skip
    raw["circuit"]["runs"][at] = {**run, "line": {"kind": "hard_line", "dash": 10}}
    card = card_of(plumbed, Build.model_validate(raw), PLAIN)
    sand = card.step(f"sand_out:{run['id']}")
    assert sand and sand.step.is_gate
    assert "swarf" not in sand.step.cautions
    lay = card.step(f"lay_line:{run['id']}")
    assert lay and sand.id in lay.needs


def test_a_bead_sets_for_an_hour_and_a_gasket_does_not() -> None:
    """Common practice, no published source: liquid gasket waits about an hour, then torque."""
    for sealing, hours in (("gasket", 0.0), ("liquid", 1.0)):
        tight = card_of(DUNLIN, GATED, CardSettings(sealing=sealing)).step("finger_tight")  # type: ignore[arg-type]
        assert tight and tight.wait == hours


def test_the_seal_that_is_renewed_is_the_joints_into_the_pump_not_the_mouths() -> None:
    lower = done(DUNLIN, kind="spacer", by_mm=6.35)
    seals = [each for each in card_of(DUNLIN, lower, PLAIN).steps if each.step.key == "renew_seal"]
    assert [(each.part, each.name) for each in seals] == [(SUCTION, "pickup tube")]


def test_the_gap_to_the_floor_is_the_rules_own() -> None:
    step = card_of(DUNLIN, done(DUNLIN, kind="spacer", by_mm=6.35), PLAIN).step("measure_gap")
    assert step and step.words == f"Measure {GAP.words}"
