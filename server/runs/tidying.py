"""What is kept of runs, and what is cleared away when it grows too much."""

from __future__ import annotations

from datetime import timedelta

from accounts.models import Workshop
from django.conf import settings
from django.core.management import call_command
from django.db import transaction
from django.db.models import F, Q
from django.db.models.functions import Length, Now
from django_tasks import task_backends
from django_tasks.base import TaskResultStatus
from django_tasks_db import DatabaseBackend
from django_tasks_db.models import DBTaskResult

from runs.models import Result, Run

_TASKS_DAYS = 1


@transaction.atomic
def _clear_results(workshop: Workshop) -> int:
    """Drop a workshop's oldest results beyond its room; how many.

    What a build shows now, and every revision's, is never dropped. The rest can be run again.
    """
    results = Result.objects.filter(workshop=workshop)
    sizes = list(results.order_by("made_at").values_list("pk", Length("frames")))
    over = sum(size for _, size in sizes) - settings.RUN_RECORDS_BYTES
    wanted = Q(state=F("build__current")) | Q(state__revision__isnull=False)
    runs = Run.objects.filter(wanted, result__workshop=workshop)
    kept = set(runs.values_list("result", flat=True))
    dropped = []
    for key, size in sizes:
        if over <= 0:
            break
        if key not in kept:
            dropped.append(key)
            over -= size
    # the rows are held, so that nobody is given one of them in the meantime
    held = list(results.select_for_update().filter(pk__in=dropped).values_list("pk", flat=True))
    Run.objects.filter(result__in=held).delete()
    results.filter(pk__in=held).delete()
    return len(held)


def _clear_tasks() -> None:
    """Drop the queue's own rows of tasks that ended, or whose worker never came back."""
    if not isinstance(task_backends["default"], DatabaseBackend):
        return
    call_command("prune_db_task_results", min_age_days=_TASKS_DAYS, queue_name="*", verbosity=0)
    DBTaskResult.objects.filter(
        status=TaskResultStatus.RUNNING, started_at__lt=Now() - timedelta(days=_TASKS_DAYS)
    ).delete()


def tidy() -> int:
    """Clear away what is not needed any more; how many results were dropped."""
    _clear_tasks()
    return sum(_clear_results(workshop) for workshop in Workshop.objects.all())
