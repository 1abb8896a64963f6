"""What is kept of runs, and what is cleared away when it grows too much."""

from __future__ import annotations

from datetime import timedelta

from accounts.models import Workshop
from builds.models import Build
from django.conf import settings
from django.core.management import call_command
from django.db import transaction
from django.db.models import F, Q
from django.db.models.functions import Length, Now
from django_tasks import task_backends
from django_tasks.base import TaskResultStatus
from django_tasks_db import DatabaseBackend
from django_tasks_db.models import DBTaskResult
from forecasts.models import KeptVerdict

from runs.felt import felt_in
from runs.models import Result, Run

_TASKS_DAYS = 1
_VERDICT_DAYS = 60


def _wanted(workshop: Workshop) -> set[int]:
    """Results of what builds show now, of the car as it is, and of every revision, over each lap.

    Those that were run on these very states are kept whichever version of the code made them.
    """
    own = Q(state=F("build__current")) | Q(state=F("build__as_is"))
    own |= Q(state__revision__isnull=False)
    runs = Run.objects.filter(own, build__workshop=workshop, result__isnull=False)
    wanted = set(runs.values_list("result_id", flat=True))
    for build in Build.objects.filter(workshop=workshop).select_related("current", "as_is"):
        runs = Run.objects.filter(build=build, result__isnull=False).select_related("lap")
        states = [revision.state for revision in build.revisions.select_related("state")]
        states += [state for state in (build.current, build.as_is) if state]
        laps = {run.lap_id: run.lap for run in runs.defer("lap__samples")}
        felt = {felt_in(state, lap) for state in states for lap in laps.values()}
        wanted |= set(runs.filter(felt__in=felt).values_list("result_id", flat=True))
    return wanted


def _clear_verdicts() -> None:
    """Drop verdicts that are old; they are given again when they are asked for."""
    KeptVerdict.objects.filter(made_at__lt=Now() - timedelta(days=_VERDICT_DAYS)).delete()


@transaction.atomic
def _clear_results(workshop: Workshop) -> int:
    """Drop a workshop's oldest results beyond its room; how many.

    What a build shows now, the car's as it is, and every revision's, is never dropped. The rest can
    be run again.
    """
    results = Result.objects.filter(workshop=workshop)
    sizes = list(results.order_by("made_at").values_list("pk", Length("frames")))
    over = sum(size for _, size in sizes) - settings.RUN_RECORDS_BYTES
    kept = _wanted(workshop)
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
    _clear_verdicts()
    return sum(_clear_results(workshop) for workshop in Workshop.objects.all())
