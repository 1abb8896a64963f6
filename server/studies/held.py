"""Who a trial belongs to while it is under way, and what is known of it already.

As with runs: every write names its attempt and counts only while that attempt holds the trial.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from bilge_core.tell.remedies import OutcomeKept
from django.db.models import Q
from django.db.models.functions import Now
from runs.lease import lease, taken_from

from studies.models import KnownOutcome, Study, StudyTrial

LONGEST = timedelta(seconds=60)
"""What a worker has to make remedies ready."""


@dataclass(frozen=True)
class HeldTrial:
    """A trial held by a worker."""

    trial_id: int
    study_id: int
    attempt: int

    def _mine(self) -> Q:
        return Q(pk=self.trial_id, attempt=self.attempt, status=StudyTrial.RUNNING)

    def beat(self, windows: dict[str, object] | None = None) -> bool:
        """Show life and keep the windows done so far; False when it is no longer this worker's."""
        changed: dict[str, object] = {"lease_until": Now() + lease()}
        if windows is not None:
            changed["windows"] = windows
        alive = Study.objects.filter(pk=self.study_id, status=Study.RUNNING)
        if not alive.update(stirred_at=Now()):
            return False
        return bool(StudyTrial.objects.filter(self._mine()).update(**changed))

    def put_back(self) -> None:
        """Let another take it; what windows gave stays."""
        StudyTrial.objects.filter(self._mine()).update(status=StudyTrial.WAITING)

    def finish(self, outcome: OutcomeKept | None, reason: str, cpu_s: float) -> bool:
        """End it with what it gave, or why it could not be run."""
        return bool(
            StudyTrial.objects.filter(self._mine()).update(
                status=StudyTrial.DONE if outcome else StudyTrial.FAILED,
                outcome=None if outcome is None else outcome.model_dump(mode="json"),
                reason=reason[:300],
                cpu_s=cpu_s,
            )
        )


def claim(study_id: int) -> HeldTrial | None:
    """The waiting trial most worth running, or one whose worker is gone; None: there is none."""
    gone = Q(status=StudyTrial.RUNNING, lease_until__lt=Now())
    free = StudyTrial.objects.filter(Q(status=StudyTrial.WAITING) | gone, study_id=study_id)
    taken = taken_from(free)
    return None if taken is None else HeldTrial(taken[0], study_id, taken[1])


def known(workshop_id: int, key: str) -> KnownOutcome | None:
    """What a trial gave when it was run before."""
    return KnownOutcome.objects.filter(workshop_id=workshop_id, key=key).first()


def keep(workshop_id: int, key: str, outcome: OutcomeKept | None, reason: str) -> None:
    """Keep what a trial gave, once."""
    row = KnownOutcome(
        workshop_id=workshop_id, key=key, reason=reason[:300],
        outcome=None if outcome is None else outcome.model_dump(mode="json"),
    )  # fmt: skip
    KnownOutcome.objects.bulk_create([row], ignore_conflicts=True)
