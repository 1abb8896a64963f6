"""A plan that changed under a card: what is stopped, done again, taken back, opened once more."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from bilge_core.document.build import Build
from bilge_core.job.gathered import Gathered
from bilge_core.job.library import STEPS
from bilge_core.job.named import is_drawn_otherwise
from bilge_core.job.operations import OPERATIONS
from bilge_core.job.settings import WHOLE_PAN
from bilge_core.job.standing import REOPENED, Standing, key_of
from bilge_core.job.step import CardStep, Phase, Step, step_id

_CLOSED: tuple[str, ...] = ("seal_pan", "finger_tight", "torque_pan")
_CARRIED = ("finger_tight",)
"""Makes something, yet there is nothing to take back."""


def send_back(gathered: Gathered, standing: Standing, names: Mapping[str, str]) -> None:
    """What was found bad goes back first, and is looked at again."""
    for part, (entry, _) in standing.bad.items():
        name = names.get(part, part)
        gathered.add("send_back", part, name)
        sent = gathered.steps[step_id("send_back", part)]
        gathered.steps[sent.id] = replace(sent, wait_days=entry.wait_days)
        gathered.add("look_again", part, name)


_STOPPED_WITH_THE_PAN: frozenset[Phase] = frozenset({"bench", "wash", "pickup", "close"})


def stopped_by(step: CardStep, standing: Standing) -> tuple[str, ...]:
    """Ids of the looks at what came back that a step waits for."""
    if step.step.key in {"send_back", "look_again"} or step.id in standing.done:
        return ()
    return tuple(
        step_id("look_again", part)
        for part in standing.bad
        if step.part == part
        or (part == WHOLE_PAN and step.step.phase in _STOPPED_WITH_THE_PAN)
    )  # fmt: skip


def _last_made(standing: Standing, step: str) -> int | None:
    """The state of the plan that a step was last done to."""
    done = [standing.done[name] for name in (step, f"redo.{step}") if name in standing.done]
    return max(done, key=lambda each: each.number).state if done else None


def stale_steps(steps: Iterable[CardStep], standing: Standing, plan: Build,
                states: Mapping[int, Build]) -> frozenset[str]:  # fmt: skip
    """Ids of steps that were done to an older drawing of their part.

    Parameters
    ----------
    steps : iterable of CardStep
    standing : Standing
    plan : Build
    states : mapping of number to Build
        States of the plan that something was ticked on, the present one left out.
    """
    found = set()
    for each in steps:
        state = _last_made(standing, each.id)
        if state is None or not each.part or not each.step.makes or state not in states:
            continue
        if is_drawn_otherwise(states[state], plan, each.part):
            found.add(each.id)
    return frozenset(found)


def done_again(gathered: Gathered, stale: frozenset[str], standing: Standing) -> None:
    """Steps that were done to an older drawing stand behind themselves as steps of their own."""
    for name in list(gathered.steps):
        there = gathered.steps[name]
        if name not in stale and f"redo.{name}" not in standing.done:
            continue
        step = replace(there.step, after=(there.step.key + ".", *there.step.after))
        words = f"Again, to the new drawing: {there.words[0].lower()}{there.words[1:]}"
        gathered.steps[f"redo.{name}"] = replace(
            there, id=f"redo.{name}", step=step, words=words, bought=()
        )


def taken_back(gathered: Gathered, standing: Standing) -> None:
    """What was made and is not wanted any more is taken back: a step of its own."""
    for name, done in standing.done.items():
        key = key_of(name)
        known = STEPS.get(key)
        wanted = name.removeprefix("redo.")
        if known is None or not known.makes or wanted in gathered.steps or key in _CARRIED:
            continue
        if name.startswith("redo.") and wanted in standing.done:
            continue
        of_the_pan = known.phase in {"bench", "pickup"} and OPERATIONS[known.of].opens_pan
        step = Step(
            "undo", "Take back", "bench" if of_the_pan else "fit", "take_out_part", 0.4,
            after=("@off",) if of_the_pan else ("stands", "release_bottle"), makes=True,
            why="The plan changed after it was done.", source="ours: the plan changed",
        )  # fmt: skip
        words = done.words or known.words.format(part="it")
        gathered.steps[f"undo.{name}"] = CardStep(
            f"undo.{name}", step, name.partition(":")[2], "", f"Take back: {words}",
            gathered.hours.get(step.of, OPERATIONS[step.of].hours),
        )  # fmt: skip


def put_back_still(gathered: Gathered, standing: Standing) -> None:
    """What was taken off goes back on, though nobody lists it as in the way any more."""
    for name, done in standing.done.items():
        key, _, part = name.partition(":")
        back = step_id("put_back", part)
        if key != "take_off" or name in gathered.steps or back in standing.done:
            continue
        gathered.add("put_back", part, done.words.rpartition(": ")[2] or "what came off")


def is_open_still(standing: Standing) -> bool:
    """The pan was begun to come off and is not closed yet."""
    return bool({"pan_off", "seal_pan"} & set(standing.done)) and (
        "torque_pan" not in standing.done
    )


def open_again(gathered: Gathered, standing: Standing) -> None:
    """Where the pan is closed and something inside it is still to do, it comes off once more."""
    if not any(key in standing.done for key in _CLOSED):
        return
    inside = any(
        each.id not in standing.done
        and each.step.phase in {"bench", "wash", "pickup"}
        and (OPERATIONS[each.step.of].opens_pan or each.step.key == "undo")
        for each in gathered.steps.values()
    )  # fmt: skip
    if not inside:
        return
    step = Step(
        REOPENED, "Begin again: the pan comes off once more", "access", "look_over", 0.1,
        after=("stands",), why="The plan changed after it was closed; what closed and filled it "
        "is done anew.", source="ours: the plan changed",
    )  # fmt: skip
    gathered.steps[REOPENED] = CardStep(REOPENED, step, "", "", step.words, step.hours)
