"""What a worker does with a learning: run after run, then the fit."""

from __future__ import annotations

import logging
import time
import zlib

import numpy as np
from bilge_core.agreement.fitting import fit
from bilge_core.agreement.judged import Named, read_kept_laps
from bilge_core.agreement.response import KEPT_TO, LEVELS, Response, drawn_at
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import BilgeError
from bilge_core.moving.seen import LookAt
from bilge_core.physics.arrays import Array
from bilge_core.tell.learned import LapTold, fit_told
from django.db.models.functions import Now
from django_tasks import task
from runs.long_jobs import end_those, enqueue_behind_runs, take_turns

from learning.held import HeldStep, claim, is_lost
from learning.models import Learning, LearningStep

logger = logging.getLogger(__name__)

_BEAT_EVERY = 0.4  # [s]


class _NoLongerOursError(Exception):
    """Cancelled, or held by another worker."""


class _Life:
    """Shows life while a run goes on, and ends it when it is no longer this worker's."""

    def __init__(self, held: HeldStep, lasts: float = 1.0) -> None:
        self._held, self._lasts = held, lasts
        self._last = time.monotonic()

    def at(self, share: float) -> None:
        """So much of it is done."""
        now = time.monotonic()
        if now - self._last < _BEAT_EVERY:
            return
        self._last = now
        if not self._held.beat(min(share, 1.0)):
            raise _NoLongerOursError

    def look(self, look: LookAt) -> None:
        """A run is at this."""
        self.at(look.time / self._lasts)


@task
def work_on(learning_id: int) -> None:
    """Take steps of a learning until there are none left; any number of workers may be at it."""
    rows = Learning.objects.filter(pk=learning_id, status__in=Learning.UNDER_WAY)
    take_turns(rows.first, one_step, lambda: enqueue(learning_id))


def enqueue(learning_id: int) -> None:
    """Put a learning into the queue, behind the runs."""
    enqueue_behind_runs(work_on, learning_id)


def _failed(learning: Learning, reason: str) -> None:
    end_those(Learning.objects.filter(pk=learning.pk), Learning.FAILED, reason)


def one_step(learning: Learning) -> bool:
    """Do the next thing there is to do; False when there is nothing now."""
    Learning.objects.filter(pk=learning.pk, status=Learning.WAITING).update(
        status=Learning.RUNNING, stirred_at=Now()
    )
    held = claim(learning.pk)
    if held is None:
        if is_lost(learning.pk):
            _failed(learning, "Its worker was lost again and again.")
        return False
    step = LearningStep.objects.get(pk=held.step_id)
    try:
        if step.lap is None:
            _fit(learning, held)
        else:
            _run(learning, held, step)
    except _NoLongerOursError:
        return True
    except (BilgeError, ValueError) as error:
        _failed(learning, str(error))
    except Exception as error:
        logger.exception("learning %s ended in an error of ours", learning.pk)
        words = f"The solver stopped with an error of its own ({type(error).__name__})."
        _failed(learning, words)
    return True


def _laps(learning: Learning) -> tuple[Named, ...]:
    return read_kept_laps(bytes(learning.kept))[1]


def _run(learning: Learning, held: HeldStep, step: LearningStep) -> None:
    assert step.lap is not None
    assert step.level is not None
    lap = _laps(learning)[step.lap].log
    build = BuildDocument.model_validate(learning.document)
    drawn = drawn_at(build, lap, LEVELS[step.level], watch=_Life(held, lap.duration).look)
    held.finish(zlib.compress(np.round(drawn * KEPT_TO).astype(np.uint8).tobytes()))


def _drawn(step: LearningStep) -> Array:
    assert step.drawn is not None
    return np.frombuffer(zlib.decompress(bytes(step.drawn)), dtype=np.uint8) / KEPT_TO


def _fit(learning: Learning, held: HeldStep) -> None:
    laps = _laps(learning)
    rows = learning.steps.filter(lap__isnull=False)
    responses = [
        Response(each.log.time, np.array([_drawn(step) for step in rows.filter(lap=number)]))
        for number, each in enumerate(laps)
    ]
    life = _Life(held)
    build = BuildDocument.model_validate(learning.document)
    found = fit(build, [each.log for each in laps], responses, lambda: life.at(0.5))
    told = fit_told(found, [LapTold.model_validate(each) for each in learning.laps])
    if held.finish(None):
        Learning.objects.filter(pk=learning.pk, status=Learning.RUNNING).update(
            status=Learning.FINISHED, ended_at=Now(), told=told.model_dump(mode="json")
        )
