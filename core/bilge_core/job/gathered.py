"""Steps as they are gathered for a card."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from bilge_core.job.library import STEPS
from bilge_core.job.operations import OPERATIONS
from bilge_core.job.step import CardStep, step_id


@dataclass
class Gathered:
    """Steps as they are found, each id once."""

    hours: Mapping[str, float]
    steps: dict[str, CardStep] = field(default_factory=dict)

    def add(
        self,
        key: str,
        part: str = "",
        name: str = "",
        bought: Iterable[tuple[str, float]] = (),
        hours: float | None = None,
    ) -> None:
        """One more step; of one that is there already, what is bought for it grows."""
        step = STEPS[key]
        share = self.hours.get(step.of, OPERATIONS[step.of].hours) / OPERATIONS[step.of].hours
        made = CardStep(
            step_id(key, part), step, part, name, step.words.format(part=name or "it"),
            step.hours * share if hours is None else hours, step.wait * share,
            bought=tuple(bought),
        )  # fmt: skip
        there = self.steps.get(made.id)
        if there is not None:
            made = replace(there, bought=(*there.bought, *made.bought))
        self.steps[made.id] = made
