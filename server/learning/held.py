"""Who a step belongs to while it is under way.

As with runs: every write names its attempt and counts only while that attempt holds the step.
"""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import Q
from django.db.models.functions import Now
from runs.lease import MOST_ATTEMPTS, lease, taken_from

from learning.models import Learning, LearningStep


@dataclass(frozen=True)
class HeldStep:
    """A step held by a worker."""

    step_id: int
    learning_id: int
    attempt: int

    def _mine(self) -> Q:
        return Q(pk=self.step_id, attempt=self.attempt, status=LearningStep.RUNNING)

    def beat(self, share: float) -> bool:
        """Show life and say how far it is; False when it is no longer this worker's."""
        alive = Learning.objects.filter(pk=self.learning_id, status=Learning.RUNNING)
        if not alive.update(stirred_at=Now()):
            return False
        mine = LearningStep.objects.filter(self._mine())
        return bool(mine.update(lease_until=Now() + lease(), share=share))

    def finish(self, drawn: bytes | None) -> bool:
        """End it with what it gave."""
        mine = LearningStep.objects.filter(self._mine())
        return bool(mine.update(status=LearningStep.DONE, share=1.0, drawn=drawn))


def claim(learning_id: int) -> HeldStep | None:
    """The next step that waits, or one whose worker is gone; None: there is none now.

    The fit waits for all runs.
    """
    steps = LearningStep.objects.filter(learning_id=learning_id)
    gone = Q(status=LearningStep.RUNNING, lease_until__lt=Now())
    free = steps.filter(Q(status=LearningStep.WAITING) | gone, attempt__lt=MOST_ATTEMPTS)
    if steps.filter(lap__isnull=False).exclude(status=LearningStep.DONE).exists():
        free = free.filter(lap__isnull=False)
    taken = taken_from(free)
    return None if taken is None else HeldStep(taken[0], learning_id, taken[1])


def is_lost(learning_id: int) -> bool:
    """Whether a step lost its worker so often that it is not tried again."""
    steps = LearningStep.objects.filter(learning_id=learning_id, attempt__gte=MOST_ATTEMPTS)
    return steps.filter(status=LearningStep.RUNNING, lease_until__lt=Now()).exists()
