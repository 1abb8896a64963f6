"""Cards against the ten lists, and what holds for any: acyclic, needs first, plans that move."""

from __future__ import annotations

import itertools
from datetime import UTC, datetime, timedelta
from fnmatch import fnmatch
from random import Random

import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.job.card import Card, card_of
from bilge_core.job.difference import Piece
from bilge_core.job.entries import read_entry
from bilge_core.job.expand import _BY, _HOLES, _STEPS, IN_PLACE, Circumstances, steps_of
from bilge_core.job.library import STEPS
from bilge_core.job.operations import OPERATIONS, TO_OPEN_THE_PAN
from bilge_core.job.order import Days, critical_path, graph_of, in_order, placed_in_time
from bilge_core.job.progress import next_step, progress_of, refusal_of
from bilge_core.job.settings import CardSettings
from bilge_core.job.standing import NOTHING_DONE, Kept, Standing, standing_of
from bilge_core.job.step import CardStep, Step
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.job_lists import Group
from tests.core.jobs import BUMPER, DUNLIN, JOBS, demo, done

PLAIN = CardSettings()
NOON = datetime(2026, 7, 13, 12, 0, tzinfo=UTC)
GATED = done(DUNLIN, kind="fit_gates")

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


def hits(card: Card, pattern: str) -> list[int]:
    return [at for at, each in enumerate(card.steps) if fnmatch(each.id, pattern)]


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


def ticked(*steps: str, state: int = 1, at: datetime = NOON) -> Standing:
    return standing_of(
        Kept(read_entry({"kind": "ticked", "step": step}), number, "MK",
             at + timedelta(minutes=number), state)
        for number, step in enumerate(steps)
    )  # fmt: skip


def test_nothing_to_do_is_an_empty_card() -> None:
    assert card_of(DUNLIN, DUNLIN, PLAIN).steps == ()
    known = done(DUNLIN, kind="figures", figures=[{"field": "car.rail_height_mm", "value": 230}])
    assert card_of(DUNLIN, known, PLAIN).steps == ()


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


# -- when the plan changes under a card ------------------------------------------------------------


def a_gate(build: Build) -> str:
    return next(opening.gate.id for plate in build.pan.plates
                for opening in plate.openings if getattr(opening, "gate", None))  # fmt: skip


def test_what_is_done_stays_and_what_is_new_comes_in() -> None:
    first = card_of(DUNLIN, done(DUNLIN, kind="fit_tray"), PLAIN)
    standing = ticked("stands", "drain", "take_off:all", "pan_off")
    more = card_of(DUNLIN, done(done(DUNLIN, kind="fit_tray"), kind="fit_scraper", side="left",
                                gap_mm=1.5), PLAIN, standing=standing)  # fmt: skip
    assert {each.id for each in first.steps} < {each.id for each in more.steps}
    rows = progress_of(more, standing, NOON + timedelta(days=1))
    assert [key for key, row in rows.items() if row.state == "done"] == [
        "stands", "drain", "take_off:all", "pan_off",
    ]  # fmt: skip


def test_what_was_made_and_is_dropped_is_taken_back_and_the_pan_is_closed() -> None:
    gate = a_gate(GATED)
    standing = ticked("stands", "drain", "take_off:all", "pan_off", f"hang_gate:{gate}")
    card = card_of(DUNLIN, DUNLIN, PLAIN, standing=standing)
    undo = card.step(f"undo.hang_gate:{gate}")
    assert undo and undo.step.makes and hits(card, "torque_pan")
    after = standing_of([
        *(Kept(read_entry({"kind": "ticked", "step": key}), n, "MK", NOON, 1)
          for n, key in enumerate((*standing.done, undo.id))),
    ])  # fmt: skip
    assert f"hang_gate:{gate}" not in after.done
    again = card_of(DUNLIN, DUNLIN, PLAIN, standing=after)
    assert not hits(again, "undo.*") and hits(again, "torque_pan")


def test_a_part_drawn_otherwise_after_it_was_made_is_made_again() -> None:
    raw = GATED.model_dump(mode="json")
    plate = raw["pan"]["plates"][0]
    plate["top_depth_mm"] = plate["top_depth_mm"] + 5
    moved = Build.model_validate(raw)
    step = f"fit_plate:{plate['id']}"
    standing = ticked(step, state=3)
    card = card_of(DUNLIN, moved, PLAIN, standing=standing, states={3: GATED})
    assert card.step(f"redo.{step}")
    rows = progress_of(card, standing, NOON, stale={step})
    assert rows[step].state == "done" and rows[f"redo.{step}"].state != "done"
    renamed = raw | {"name": "another name"}
    same = card_of(DUNLIN, Build.model_validate(renamed), PLAIN, standing=standing,
                   states={3: moved})  # fmt: skip
    assert not hits(same, "redo.*")


def test_something_inside_a_closed_pan_opens_it_once_more() -> None:
    closed = [each.id for each in card_of(DUNLIN, done(DUNLIN, kind="fit_tray"), PLAIN).steps]
    standing = ticked(*closed)
    both = done(done(DUNLIN, kind="fit_tray"), kind="fit_gates")
    card = card_of(DUNLIN, both, PLAIN, standing=standing)
    assert card.step("open_again")
    rows = [Kept(read_entry({"kind": "ticked", "step": key}), n, "MK", NOON, 1)
            for n, key in enumerate((*closed, "open_again"))]  # fmt: skip
    opened = standing_of(rows)
    assert "torque_pan" not in opened.done and "pan_off" not in opened.done
    assert any(key.startswith("fit_tray:") for key in opened.done)
    again = card_of(DUNLIN, both, PLAIN, standing=opened)
    assert not again.step("open_again") and hits(again, "drain")


def test_a_part_found_bad_stops_its_steps_and_is_sent_back_with_its_wait() -> None:
    before, after, said, _ = JOBS["new pan, pickup moved"]
    rows = [Kept(read_entry({"kind": "ticked", "step": "stands"}), 1, "MK", NOON, 1),
            Kept(read_entry({"kind": "found_bad", "part": "pan", "words": "crack at bolt 4",
                             "wait_days": 7}), 2, "MK", NOON, 1)]  # fmt: skip
    standing = standing_of(rows)
    card = card_of(before, after, said, standing=standing)
    sent = card.step("send_back:pan")
    assert sent and sent.wait_days == 7
    progress = progress_of(card, standing, NOON)
    assert progress["offer_up"].state == "stopped" and progress["drain"].state == "ready"
    assert refusal_of(card, standing, "offer_up", NOON) == (
        "waits for a step that must not be passed: Look the new pan over as it came"
    )
    begin = NOON.replace(tzinfo=None)
    late = placed_in_time(card.steps, begin, Days(6))[-1].over
    soon = placed_in_time(card_of(before, after, said).steps, begin, Days(6))[-1].over
    assert (late - soon).days >= 6
    back = standing_of([*rows, Kept(read_entry({"kind": "ticked", "step": "look_again:pan"}), 3,
                                    "MK", NOON, 1)])  # fmt: skip
    assert back.bad == {}


# -- gates and waits -------------------------------------------------------------------------------


def test_a_gate_is_not_passed_but_for_a_written_reason_that_stays() -> None:
    card = card_of(DUNLIN, GATED, PLAIN)
    assert refusal_of(card, NOTHING_DONE, "drain", NOON) is not None
    assert "must not be passed" in (refusal_of(card, NOTHING_DONE, "drain", NOON) or "")
    passed = standing_of(
        [
            Kept(
                read_entry(
                    {"kind": "overridden", "step": "stands", "why": "on a rated four-post lift"}
                ),
                1,
                "MK",
                NOON,
                1,
            )
        ]
    )
    assert refusal_of(card, passed, "drain", NOON) is None
    assert progress_of(card, passed, NOON)["stands"].state == "overridden"
    assert passed.overridden["stands"].words == "on a rated four-post lift"
    with pytest.raises(InvalidInput, match="at least 8"):
        read_entry({"kind": "overridden", "step": "stands", "why": "ok"})


def test_a_wait_shuts_what_comes_after_it_until_its_very_end() -> None:
    card = card_of(DUNLIN, GATED, PLAIN)
    standing = ticked("stands", "drain", "take_off:all")
    drain = card.step("drain")
    assert drain is not None
    over = standing.done["drain"].at + timedelta(hours=drain.wait)
    early, late = over - timedelta(seconds=1), over
    assert progress_of(card, standing, early)["pan_off"].state == "shut"
    assert "shut until" in (refusal_of(card, standing, "pan_off", early) or "")
    assert progress_of(card, standing, late)["pan_off"].state == "ready"
    assert refusal_of(card, standing, "pan_off", late) is None


def test_a_wait_can_be_said_to_be_over() -> None:
    card = card_of(DUNLIN, GATED, PLAIN)
    rows = [Kept(read_entry(raw), n, "MK", NOON, 1) for n, raw in enumerate([
        *({"kind": "ticked", "step": key} for key in ("stands", "drain", "take_off:all")),
        {"kind": "wait_over", "step": "drain", "why": "drained overnight"},
    ])]  # fmt: skip
    assert progress_of(card, standing_of(rows), NOON)["pan_off"].state == "ready"


def test_a_gate_that_was_passed_before_something_was_made_is_open_again() -> None:
    card = card_of(DUNLIN, done(DUNLIN, kind="fit_gates"), PLAIN)
    ids = [each.id for each in card.steps]
    until = ids.index("wash_pan")
    standing = ticked(*ids[: until + 1])
    assert progress_of(card, standing, NOON + timedelta(days=1))["wash_pan"].state == "done"
    later = done(done(DUNLIN, kind="fit_gates"), kind="fit_tray")
    rows = progress_of(
        card_of(DUNLIN, later, PLAIN, standing=standing), standing, NOON + timedelta(days=1)
    )
    assert rows["wash_pan"].is_void and rows["wash_pan"].state != "done"


def test_the_next_step_is_one_that_can_be_done() -> None:
    card = card_of(DUNLIN, GATED, PLAIN)
    standing = ticked("stands", "drain")
    rows = progress_of(card, standing, standing.done["drain"].at)
    assert next_step(card, rows) == "take_off:all"
    everything = ticked(*(each.id for each in card.steps))
    assert next_step(card, progress_of(card, everything, NOON + timedelta(days=9))) is None


# -- the library -----------------------------------------------------------------------------------


def test_every_operation_has_steps_and_they_take_its_hours() -> None:
    at = Circumstances(PLAIN, {}, False, False, ())
    opening = {*TO_OPEN_THE_PAN, "top_up", "let_out"}
    for key in {*_STEPS, *_BY}:
        assert key in OPERATIONS
        own = [STEPS[each] for each in steps_of(Piece(key), at) if STEPS[each].of == key]
        told = sum(each.hours + each.wait for each in own)
        assert told == pytest.approx(OPERATIONS[key].hours, abs=0.36), key
    left = set(OPERATIONS) - {*_STEPS, *_BY} - opening
    assert all(any(step.of == key for step in STEPS.values()) for key in left), left
    for key in TO_OPEN_THE_PAN:
        told = sum(step.hours + step.wait for step in STEPS.values() if step.of == key)
        assert told == pytest.approx(OPERATIONS[key].hours, abs=0.16), key
    assert {step for steps in _HOLES.values() for step in steps} | set(IN_PLACE) <= set(STEPS)


def test_what_comes_first_is_a_step_or_a_phase_that_there_is() -> None:
    for step in STEPS.values():
        for after in step.after:
            assert after.startswith("@") or after.rstrip(".") in STEPS, (step.key, after)


def test_the_trades_gates_are_gates() -> None:
    """Common practice, no published source: the steps that must not be passed."""
    for key in ("swarf_out", "sand_out", "renew_seal", "shut_valve", "release_bottle",
                "prove_pressure", "stands", "wash_pan"):  # fmt: skip
        assert STEPS[key].is_gate, key


def test_a_step_of_no_operation_or_with_an_unknown_caution_is_refused() -> None:
    with pytest.raises(InvalidQuantity, match="an operation's key"):
        Step("a", "a", "run", "nothing", 1.0)
    with pytest.raises(InvalidQuantity, match="keys of cautions"):
        Step("a", "a", "run", "drain", 1.0, cautions=("sharks",))


def row(name: str, hours: float, *needs: str, wait: float = 0.0) -> CardStep:
    step = Step(name, name, "fit", "drain", hours)
    return CardStep(name, step, "", "", name, hours, wait, needs=needs)


def test_steps_that_wait_for_each_other_are_a_fault_that_names_them() -> None:
    with pytest.raises(InvalidQuantity, match="a -> b"):
        graph_of([row("a", 1.0, "b"), row("b", 1.0, "a")])


def test_the_critical_path_is_the_longest_chain_waits_counted() -> None:
    """By hand: a (1) then c (0.5 and 3 of wait) then d beats a, b (2), d."""
    steps = [row("a", 1.0), row("b", 2.0, "a"), row("c", 0.5, "a", wait=3.0),
             row("d", 1.0, "b", "c")]  # fmt: skip
    assert critical_path(steps) == ("a", "c", "d")
    rows = placed_in_time(steps, NOON.replace(tzinfo=None), Days())
    assert [each.step.id for each in rows] == ["a", "c", "b", "d"]  # b lies in the wait of c
    assert rows[-1].begins - rows[0].begins == timedelta(hours=4.5)
    assert in_order(steps)[1].id == "c"


def test_a_day_is_as_long_as_the_workshop_works_and_a_wait_passes_overnight() -> None:
    friday = datetime(2026, 7, 10, 9, 0)
    steps = [row("a", 5.5, wait=10.0), row("b", 2.0, "a")]
    rows = placed_in_time(steps, friday, Days(6.0, weekends=False))
    assert rows[0].ends == datetime(2026, 7, 10, 14, 30)
    assert rows[1].begins == datetime(2026, 7, 13, 9, 0)  # Monday
    every = placed_in_time(steps, friday, Days(6.0, weekends=True))
    assert every[1].begins == datetime(2026, 7, 11, 9, 0)
    part = placed_in_time(steps, friday, Days(6.0), {"a": datetime(2026, 7, 14)})
    assert part[0].begins == datetime(2026, 7, 14, 9, 0)


def test_a_lists_group_is_never_empty() -> None:
    groups: list[Group] = [group for *_, rows in JOBS.values() for group in rows]
    assert all(groups)
