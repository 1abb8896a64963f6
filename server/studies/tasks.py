"""What a worker does with a study: trial after trial, until it is over or somebody waits."""

from __future__ import annotations

import logging

from django.db.models.functions import Now
from django_tasks import task
from loads.models import Lap
from runs.long_jobs import enqueue_behind_runs, take_turns
from runs.models import Run
from shop.selectors import prices_of

from studies import trying
from studies.basis import base_key, base_of
from studies.growth import deepen, grow, make_ready
from studies.held import claim
from studies.models import Study, StudyTrial

logger = logging.getLogger(__name__)


def under_way(study_id: int) -> Study | None:
    """A study that is not over; None otherwise."""
    rows = Study.objects.select_related("workshop", "state", "build")
    alive = rows.filter(pk=study_id, status__in=(Study.WAITING, Study.RUNNING))
    return alive.first()


@task
def work_on(study_id: int) -> None:
    """Take trials of a study until there are none left; any number of workers may be at it."""
    take_turns(lambda: under_way(study_id), one_step, lambda: enqueue(study_id))


def enqueue(study_id: int) -> None:
    """Put a study into the queue, behind the runs."""
    enqueue_behind_runs(work_on, study_id)


def one_step(study: Study) -> bool:
    """Do the next thing there is to do; False when there is nothing now."""
    prices = prices_of(study.workshop)
    if study.candidates is None:
        return make_ready(study)
    held = claim(study.pk)
    if held is None:
        if grow(study.pk, prices):
            return True
        held = claim(study.pk)
    if held is None:
        waits = study.trials.filter(status__in=(StudyTrial.WAITING, StudyTrial.RUNNING)).exists()
        return not waits and deepen(study, prices)
    row = StudyTrial.objects.get(pk=held.trial_id)
    if trying.needs_base(row) and row.lap == 0 and base_of(study, _first_lap(study)) is None:
        held.put_back()
        return _ended_without_base(study)
    try:
        trying.carry_out_trial(study, held)
    except (trying.NoLongerOursError, trying.SomebodyWaitsError):
        return True
    except Exception as error:
        logger.exception("a trial of study %s ended in an error of ours", study.pk)
        words = f"The solver stopped with an error of its own ({type(error).__name__})."
        held.finish(None, words, 0.0)
    return True


def _ended_without_base(study: Study) -> bool:
    """End a study whose build's own run will not come: it failed, or was cancelled."""
    key = base_key(study, _first_lap(study))
    run = Run.objects.filter(workshop_id=study.workshop_id, key=key).order_by("-id").first()
    if run is not None and run.status in (Run.WAITING, Run.RUNNING, Run.FINISHED):
        return False
    why = run.reason if run is not None else "It is not there any more."
    words = f"The build's own run in moving oil did not come to its end. {why}"
    Study.objects.filter(pk=study.pk, status=Study.RUNNING).update(
        status=Study.FAILED, reason=words[:300], ended_at=Now()
    )
    return True


def _first_lap(study: Study) -> Lap:
    return study.over.select_related("lap").get(place=0).lap
