"""A line's step takes what the order has for that line, piece by piece."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput
from bilge_core.job.card import Card
from bilge_core.job.step import CardStep
from bilge_core.lines.bending import Bender
from bilge_core.lines.chain import Own
from bilge_core.lines.flows import flows_cold, flows_hot
from bilge_core.lines.laid import lines_of
from bilge_core.lines.order import Need, needs_of, order_of

WHOLE_LINES = frozenset({"hose", "hard_line"})
"""Parts of the shop that stand for a whole line where nobody has laid it out."""


def _by_run(plan: Build, bender: Bender, own: Own) -> Mapping[str, tuple[Need, ...]]:
    lines = lines_of(plan, flows_hot(plan), flows_cold(plan), own)
    return {line.run.id: needs_of(plan, line, bender) for line in lines}


def with_line_parts(card: Card, plan: Build, bender: Bender, own: Own = ()) -> Card:
    """The card with each line's pieces in place of "a hose with both ends".

    Parameters
    ----------
    card : Card
    plan : Build
    bender : Bender
    own : tuple of Fitting
        What the workshop keeps besides the starting set.

    Returns
    -------
    Card
        As it was where the plan's circuit cannot be run.
    """
    if not any(part in WHOLE_LINES for each in card.steps for part, _ in each.bought):
        return card
    try:
        needs = _by_run(plan, bender, own)
    except InvalidInput:
        return card

    def taken(step: CardStep) -> CardStep:
        own = tuple(pair for pair in step.bought if pair[0] not in WHOLE_LINES)
        if len(own) == len(step.bought) or step.part not in needs:
            return step
        pieces = tuple((need.part, need.count) for need in needs[step.part])
        return replace(step, bought=own + pieces)

    return replace(card, steps=tuple(taken(each) for each in card.steps))


def order_parts(plan: Build, bender: Bender, as_is: Build, own: Own = ()) -> frozenset[str]:
    """Parts on the order of the lines; none where the plan's circuit cannot be run."""
    try:
        lines = lines_of(plan, flows_hot(plan), flows_cold(plan), own)
    except InvalidInput:
        return frozenset()
    return frozenset(row.part for row in order_of(plan, lines, bender, as_is, own))
