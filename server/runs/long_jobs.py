"""What long work of many steps shares: its states, workers who take turns, and being woken."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from datetime import timedelta
from typing import Any, TypeVar

from django.db import connection, models
from django.db.models import Q
from django.db.models.functions import Now
from django_tasks import task_backends

from runs.selectors import somebody_waits

Job = TypeVar("Job")

_BEHIND_RUNS = -10
"""Priority: a run that somebody waits for goes first."""
_LOOK_EVERY = 0.2  # [s] for something to do
_AT_A_TIME = 60.0  # [s] of waiting for others before the worker is given back
_QUIET = timedelta(seconds=30)
"""Without a sign of life for so long, it is put into the queue again."""


class LongJob(models.Model):
    """Long work that any number of workers do step by step."""

    WAITING, RUNNING, FINISHED, CANCELLED, FAILED = (
        "waiting",
        "running",
        "finished",
        "cancelled",
        "failed",
    )
    UNDER_WAY = (WAITING, RUNNING)

    status = models.CharField(max_length=10, default=WAITING)
    reason = models.CharField(max_length=300, default="", blank=True)
    asked_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)
    stirred_at = models.DateTimeField(null=True)
    """When a worker was last at it, or it was put into the queue again."""

    class Meta:
        abstract = True


def take_turns(
    alive: Callable[[], Job | None], step: Callable[[Job], bool], give_back: Callable[[], None]
) -> None:
    """Do step after step of a job until it is over, or until a run that somebody waits for comes.

    Parameters
    ----------
    alive : callable
        The job while it is under way; None then.
    step : callable
        Does the next thing there is to do; False when there is nothing now.
    give_back : callable
        Puts it into the queue again, behind the run.
    """
    idle_since = time.monotonic()
    while True:
        job = alive()
        if job is None:
            return
        if somebody_waits():
            give_back()
            return
        if step(job):
            idle_since = time.monotonic()
        elif time.monotonic() - idle_since > _AT_A_TIME:
            return
        else:
            connection.close_if_unusable_or_obsolete()
            time.sleep(_LOOK_EVERY)


def enqueue_behind_runs(work: Any, job_id: int) -> None:
    """Put a task for a job into the queue, behind the runs where the queue knows an order."""
    can = task_backends["default"].supports_priority
    (work.using(priority=_BEHIND_RUNS) if can else work).enqueue(job_id)


def for_each_core(enqueue: Callable[[int], None], job_id: int) -> None:
    """As many workers as there are cores may be at it."""
    for _ in range(max(1, os.cpu_count() or 1)):
        enqueue(job_id)


def end_those(jobs: Any, status: str, reason: str) -> None:
    """End jobs that are under way, each by its key; their steps are left where they are."""
    for job_id in jobs.filter(status__in=LongJob.UNDER_WAY).values_list("pk", flat=True):
        jobs.model.objects.filter(pk=job_id, status__in=LongJob.UNDER_WAY).update(
            status=status, reason=reason[:300], ended_at=Now()
        )


def wake_quiet(jobs: Any, enqueue: Callable[[int], None]) -> int:
    """Put jobs whose workers are gone into the queue again; how many."""
    quiet = Q(stirred_at__isnull=True) | Q(stirred_at__lt=Now() - _QUIET)
    lost = jobs.filter(quiet, status__in=LongJob.UNDER_WAY)
    count = 0
    for job_id in lost.values_list("pk", flat=True):
        if lost.filter(pk=job_id).update(stirred_at=Now()):
            for_each_core(enqueue, job_id)
            count += 1
    return count
