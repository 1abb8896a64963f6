"""Reads of learnings, always within a workshop."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.tell.learned import FitTold, LapTold
from builds.selectors import build_of, stands_on

from learning.models import Learning, LearningStep
from learning.schemas import LearningOut


def newest_of(workshop: Workshop, build_id: int) -> Learning | None:
    """The newest of a build; None where there was none.

    Raises
    ------
    NotFound
        If the build is not the workshop's.
    """
    return build_of(workshop, build_id).learnings.defer("kept").first()


def taken_in(learning: Learning) -> int | None:
    """The state that its figures were taken over into; None once that was undone."""
    return learning.taken_in if stands_on(learning.build, learning.taken_in) else None


def learning_out(learning: Learning) -> LearningOut:
    """How far it is, and what came of it."""
    rows = learning.steps.values_list("lap", "status", "share")
    runs = [(status, share) for lap, status, share in rows if lap is not None]
    return LearningOut(
        id=learning.pk,
        status=learning.status,  # type: ignore[arg-type]
        reason=learning.reason,
        laps=[LapTold.model_validate(each) for each in learning.laps],
        state=learning.state.number,
        asked_at=learning.asked_at,
        ended_at=learning.ended_at,
        runs=len(runs),
        runs_done=sum(status == LearningStep.DONE for status, _ in runs),
        share=round(sum(share for *_, share in rows) / max(len(rows), 1), 3),
        told=None if learning.told is None else FitTold.model_validate(learning.told),
        taken_in=taken_in(learning),
        left=learning.left,
    )
