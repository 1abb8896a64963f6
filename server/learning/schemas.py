"""What is told of a fit of the figures that nobody measured."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from bilge_core.tell.learned import FitTold, LapTold
from ninja import Schema
from pydantic import Field


class LearningOut(Schema):
    """How far it is, and what came of it."""

    id: int
    status: Literal["waiting", "running", "finished", "cancelled", "failed"]
    reason: str
    laps: list[LapTold]
    state: int
    """That the laps were driven in."""
    asked_at: datetime
    ended_at: datetime | None
    runs: int
    runs_done: int
    share: float
    """Of all of it that is done."""
    told: FitTold | None
    taken_in: int | None
    """Number of the state that its figures were taken over into."""
    left: bool


class LatestLearningOut(Schema):
    """The newest of a build; null where there was none."""

    learning: LearningOut | None


class TakeIn(Schema):
    """Which figures are taken over."""

    base_state: int
    learning_id: int
    keys: Annotated[list[str], Field(min_length=1, max_length=10)]


class LeaveIn(Schema):
    """Which fit is left as it was."""

    learning_id: int


class TakeTrialIn(Schema):
    """Take over what a hold-up trial told."""

    base_state: int
