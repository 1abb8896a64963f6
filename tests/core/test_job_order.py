"""The library of steps, and the order and the time that they are placed in."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest
from bilge_core.errors import InvalidQuantity
from bilge_core.job.card import card_of
from bilge_core.job.difference import Piece
from bilge_core.job.expand import _BY, _HOLES, _STEPS, IN_PLACE, Circumstances, steps_of
from bilge_core.job.library import STEPS
from bilge_core.job.operations import OPERATIONS, TO_OPEN_THE_PAN
from bilge_core.job.order import (
    Days,
    critical_path,
    graph_of,
    in_order,
    needed_by,
    placed_in_time,
)
from bilge_core.job.settings import CardSettings
from bilge_core.job.step import CardStep, Step

from tests.core.job_lists import Group
from tests.core.jobs import DUNLIN, JOBS, NOON, PLAIN


def test_every_operation_has_steps_and_they_take_its_hours() -> None:
    at = Circumstances(PLAIN, {}, False, False, (), {})
    opening = {*TO_OPEN_THE_PAN, "top_up", "let_out"}
    for key in sorted({*_STEPS, *_BY}):
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


def row(name: str, hours: float, *needs: str, wait: float = 0.0, wait_days: int = 0) -> CardStep:
    step = Step(name, name, "fit", "drain", hours)
    return CardStep(name, step, "", "", name, hours, wait, needs=needs, wait_days=wait_days)


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


def test_days_of_waiting_count_in_the_critical_path_as_days() -> None:
    long, away = row("a", 23.5), row("b", 1.0, wait_days=1)
    assert critical_path([long, away]) == ("b",)
    assert critical_path([row("a", 25.5), away]) == ("a",)


def test_of_what_can_be_done_now_what_waits_longest_afterwards_goes_first() -> None:
    """Hours and days of waiting alike: 25 h is more than a day, 23 h less."""
    for wait_days, hours, first in ((1, 25.0, "paint"), (1, 23.0, "away"), (2, 47.0, "away")):
        steps = [row("plain", 9.0), row("away", 1.0, wait_days=wait_days),
                 row("paint", 1.0, wait=hours)]  # fmt: skip
        order = [each.id for each in in_order(steps)]
        assert order[0] == first and order[2] == "plain"


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


def test_the_pumps_drive_nut_is_left_handed_locked_and_wired() -> None:
    """Common practice, no published source: 17 lbf ft, left-hand thread, locker and lock wire."""
    pump = next(each.id for each in DUNLIN.circuit.components if each.kind == "pressure_stage")
    said = CardSettings.model_validate({"extras": [{"do": "renew", "part": pump}]})
    card = card_of(DUNLIN, DUNLIN, said)
    nut, wire = card.step(f"pump_nut:{pump}"), card.step(f"lock_wire:{pump}")
    assert card.opens and nut and wire and wire.step.is_gate
    assert nut.step.torque and nut.step.torque.left_handed
    assert nut.step.torque.words.endswith("17.0 lbf·ft")
    seal = card.step("seal_pan")
    assert seal and needed_by(card.steps, "seal_pan") >= {nut.id, wire.id}
