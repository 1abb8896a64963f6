"""Plans that move under a card, parts found bad, gates and waits."""

from __future__ import annotations

from datetime import timedelta

import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput
from bilge_core.job.card import card_of
from bilge_core.job.entries import read_entry
from bilge_core.job.order import Days, placed_in_time
from bilge_core.job.progress import next_step, progress_of, refusal_of
from bilge_core.job.standing import NOTHING_DONE, Kept, standing_of

from tests.core.jobs import DUNLIN, GATED, JOBS, NOON, PLAIN, done, hits, ticked


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


def test_a_pan_that_was_but_begun_to_be_closed_opens_once_more_as_well() -> None:
    card = card_of(DUNLIN, done(DUNLIN, kind="fit_tray"), PLAIN)
    closed = [each.id for each in card.steps]
    both = done(done(DUNLIN, kind="fit_tray"), kind="fit_gates")
    begun, before = closed[: closed.index("seal_pan") + 1], closed[: closed.index("seal_pan")]
    assert card_of(DUNLIN, both, PLAIN, standing=ticked(*begun)).step("open_again")
    assert not card_of(DUNLIN, both, PLAIN, standing=ticked(*before)).step("open_again")


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


def test_what_was_taken_off_goes_back_on_though_it_is_not_listed_any_more() -> None:
    standing = ticked("stands", "take_off:a7")
    card = card_of(DUNLIN, done(DUNLIN, kind="fit_tray"), PLAIN, standing=standing)
    assert card.step("put_back:a7") and not card.step("take_off:a7")
    back = ticked("stands", "take_off:a7", "put_back:a7")
    again = card_of(DUNLIN, done(DUNLIN, kind="fit_tray"), PLAIN, standing=back)
    assert not again.step("put_back:a7")
