"""Who a run belongs to while it is under way: attempts, leases and the database's clock.

Every write of a worker names its attempt and counts only while that attempt holds the run, so that
a worker that was given up for dead and comes back changes nothing.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.db.models.functions import Now

from runs.models import Result, Run

OVERDUE = timedelta(seconds=60)
"""A run that has waited this long is queued once more: its place may have been lost."""

MOST_ATTEMPTS = 5


def lease() -> timedelta:
    """How long without a sign of life something is held."""
    return timedelta(seconds=settings.RUN_LEASE_S)


@dataclass(frozen=True)
class Given:
    """What a run gave: figures at length, what lists show of them, and the record of its oil."""

    summary: dict[str, object]
    figures: dict[str, object]
    frames: bytes


@dataclass(frozen=True)
class Held:
    """A run held by a worker."""

    run_id: int
    attempt: int

    def _mine(self) -> Q:
        return Q(pk=self.run_id, attempt=self.attempt, status=Run.RUNNING)

    def beat(self, reached: float, partial: dict[str, object] | None) -> bool:
        """Show life and say how far it is; False when the run is no longer this worker's."""
        changed = {"lease_until": Now() + lease(), "reached_s": reached}
        if partial is not None:
            changed["partial"] = partial
        return bool(Run.objects.filter(self._mine()).update(**changed))

    def finish(self, given: Given, cpu_s: float, wall_s: float) -> bool:
        """Keep the result and end the run, both or neither; False when it was no longer held."""
        with transaction.atomic():
            run = Run.objects.select_for_update().filter(self._mine()).first()
            if run is None:
                return False
            result, _ = Result.objects.get_or_create(
                workshop_id=run.workshop_id,
                key=run.key,
                defaults={
                    "summary": given.summary,
                    "figures": given.figures,
                    "frames": given.frames,
                    "cpu_s": cpu_s,
                    "wall_s": wall_s,
                },
            )
            Run.objects.filter(pk=run.pk).update(
                status=Run.FINISHED, result=result, reached_s=run.lasts_s, ended_at=Now()
            )
        return True

    def fail(self, reason: str) -> bool:
        """End the run with the reason."""
        return bool(
            Run.objects.filter(self._mine()).update(
                status=Run.FAILED, reason=reason[:300], ended_at=Now()
            )
        )


def taken_from(free: QuerySet[Any]) -> tuple[int, int] | None:
    """The first of some rows that could be taken: its key and its attempt; None: none could.

    Each has a `status`, an `attempt` and a `lease_until`.
    """
    for key in free.values_list("pk", flat=True)[:8]:
        if free.filter(pk=key).update(
            status="running", attempt=F("attempt") + 1, lease_until=Now() + lease()
        ):
            return key, free.model.objects.values_list("attempt", flat=True).get(pk=key)
    return None


def claim(run_id: int, worker: str) -> Held | None:
    """Take a waiting run; None when it is taken, ended or gone."""
    taken = Run.objects.filter(pk=run_id, status=Run.WAITING).update(
        status=Run.RUNNING,
        attempt=F("attempt") + 1,
        worker=worker[:80],
        lease_until=Now() + lease(),
        started_at=Now(),
        reached_s=0.0,
        partial=None,
    )
    if not taken:
        return None
    attempt = Run.objects.filter(pk=run_id).values_list("attempt", flat=True).get()
    return Held(run_id, attempt)


def end_those(runs: QuerySet[Run], status: str, reason: str) -> None:
    """End runs with a reason, each by its key.

    Found first and changed one by one: an update over an index of what others change too is where
    MariaDB finds deadlocks.
    """
    for run_id in runs.values_list("pk", flat=True):
        runs.filter(pk=run_id).update(status=status, reason=reason, ended_at=Now())


def put_back_lost() -> list[int]:
    """Put back runs whose worker is gone and queue again those long overdue; which they are.

    Safe to call at any time by anyone: each is put back once.
    """
    lost = Q(status=Run.RUNNING, lease_until__lt=Now())
    end_those(
        Run.objects.filter(lost, attempt__gte=MOST_ATTEMPTS),
        Run.FAILED,
        f"Its worker was lost {MOST_ATTEMPTS} times; run it again in coarser cells.",
    )
    again = []
    for run_id in Run.objects.filter(lost).values_list("pk", flat=True):
        if Run.objects.filter(lost, pk=run_id).update(status=Run.WAITING, queued_at=Now()):
            again.append(run_id)
    overdue = Q(status=Run.WAITING, queued_at__lt=Now() - OVERDUE)
    for run_id in Run.objects.filter(overdue).values_list("pk", flat=True):
        if Run.objects.filter(overdue, pk=run_id).update(queued_at=Now()):
            again.append(run_id)
    return again
