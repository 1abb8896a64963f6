"""Which step of a card is done, shut, stopped or next, and which tick is refused."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

import networkx as nx

from bilge_core.job.card import Card
from bilge_core.job.order import graph_of
from bilge_core.job.standing import Standing
from bilge_core.job.step import CardStep

StepState = Literal["done", "overridden", "ready", "shut", "stopped", "blocked", "later"]
"""*Shut* waits for a time, *stopped* for a part that was found bad, *blocked* for a gate, *later*
for steps before it that anybody may do in another order."""


@dataclass(frozen=True)
class Progress:
    """A step as it stands.

    state : StepState
    until : when a wait before it is over; None where there is none, or nobody knows yet
    gates : ids of gates before it that are not passed
    is_void : a gate that was passed, before something was made that it looks at
    """

    state: StepState
    until: datetime | None = None
    gates: tuple[str, ...] = ()
    is_void: bool = False


def wait_is_over(step: CardStep, standing: Standing) -> datetime | None:
    """When the wait that a done step began is over; None where it is not done, or has none."""
    done = standing.done.get(step.id)
    if done is None or not (step.wait or step.wait_days):
        return None
    if step.id in standing.over:
        return standing.over[step.id].at
    return done.at + timedelta(hours=step.wait, days=step.wait_days)


def _is_void(step: CardStep, before: Collection[str], card: Mapping[str, CardStep],
             standing: Standing) -> bool:  # fmt: skip
    """Whether something that a gate looks at was made after it, or is still to be made."""
    ticked = standing.done[step.id].number
    for name in before:
        if not card[name].step.makes:
            continue
        done = standing.done.get(name)
        if done is None or done.number > ticked:
            return True
    return False


def progress_of(
    card: Card, standing: Standing, at: datetime, stale: Collection[str] = ()
) -> dict[str, Progress]:
    """How each step of a card stands.

    Parameters
    ----------
    card : Card
    standing : Standing
    at : datetime
        Now, with its zone.
    stale : collection of str
        Ids of steps that were done to an older drawing: their doing again is not done.

    Returns
    -------
    dict of id to Progress
        In the card's order.
    """
    graph, steps = graph_of(card.steps), {each.id: each for each in card.steps}
    before = {name: nx.ancestors(graph, name) for name in steps}
    void = {
        each.id
        for each in card.steps
        if each.step.is_gate
        and each.id in standing.done
        and _is_void(each, before[each.id], steps, standing)
    }
    again = {f"redo.{name}" for name in stale}
    passed = (set(standing.done) - void - again) | set(standing.overridden)
    found: dict[str, Progress] = {}
    for each in card.steps:
        if each.id in standing.done and each.id in passed:
            found[each.id] = Progress("done")
        elif each.id in standing.overridden:
            found[each.id] = Progress("overridden")
        else:
            found[each.id] = _to_do(each, before[each.id], steps, passed, standing, at, void)
    return found


def _to_do(
    each: CardStep, before: Collection[str], steps: Mapping[str, CardStep],
    passed: Collection[str], standing: Standing, at: datetime, void: Collection[str],
) -> Progress:  # fmt: skip
    gates = tuple(
        name for name in steps if name in before and steps[name].step.is_gate and name not in passed
    )
    is_void = each.id in void
    if any(steps[name].step.key == "look_again" for name in gates):
        return Progress("stopped", gates=gates, is_void=is_void)
    if gates:
        return Progress("blocked", gates=gates, is_void=is_void)
    ends = [wait_is_over(steps[name], standing) for name in each.needs]
    until = max((end for end in ends if end is not None), default=None)
    if until is not None and until > at:
        return Progress("shut", until, is_void=is_void)
    is_ready = all(name in passed for name in each.needs)
    return Progress("ready" if is_ready else "later", is_void=is_void)


def refusal_of(
    card: Card, standing: Standing, step: str, at: datetime, stale: Collection[str] = ()
) -> str | None:
    """Why a step cannot be ticked now; None where it can.

    Examples
    --------
    >>> from datetime import datetime, timezone
    >>> from bilge_core.job.standing import NOTHING_DONE
    >>> at = datetime(2026, 7, 1, tzinfo=timezone.utc)
    >>> refusal_of(Card((), False), NOTHING_DONE, "drain", at)
    'is not on this card'
    """
    row = progress_of(card, standing, at, stale).get(step)
    if row is None:
        return "is not on this card"
    if row.gates:
        first = card.step(row.gates[0])
        assert first is not None
        return f"waits for a step that must not be passed: {first.words}"
    if row.state == "shut":
        assert row.until is not None
        return f"is shut until {row.until:%d %B %H:%M} UTC: what was done before it still works"
    return None


def next_step(card: Card, progress: Mapping[str, Progress]) -> str | None:
    """The step to show first: the earliest that can be done, else the earliest that is not done.

    Examples
    --------
    >>> next_step(Card((), False), {})
    """
    open_steps = [each.id for each in card.steps if progress[each.id].state not in
                  {"done", "overridden"}]  # fmt: skip
    ready = [name for name in open_steps if progress[name].state == "ready"]
    return next(iter([*ready, *open_steps]), None)
