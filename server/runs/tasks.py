"""What a worker does with a run."""

from __future__ import annotations

import logging
import os
import socket
import time
from collections.abc import Callable

from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.reach import unnamed
from bilge_core.errors import BilgeError
from bilge_core.forecast.moving import forecast_moving
from bilge_core.moving.seen import RATE, LookAt
from bilge_core.rules.air import RUNS_DRY
from bilge_core.tell.moving import figures_of, summary_of
from builds.selectors import plain_document
from django.db import DatabaseError, connection
from django_tasks import task
from loads.services import corners_of, log_of

from runs.lease import Given, Held, claim
from runs.models import Run

logger = logging.getLogger(__name__)

_BEAT_EVERY = 0.4  # [s]
_PATIENCE = 120.0  # [s] for a database that is away when a run has ended
_TRY_EVERY = 0.5  # [s]


class _NoLongerOursError(Exception):
    """Cancelled, or put back for another worker."""


class _Watch:
    """Shows life while a run goes on, and ends it when it is no longer this worker's."""

    def __init__(self, held: Held) -> None:
        self._held = held
        self._last = 0.0
        self._dry = 0
        self._dips = 0
        self._was_dry = False

    def __call__(self, look: LookAt) -> None:
        is_dry = 1.0 - float(look.sight.oil_share[0]) > RUNS_DRY.most
        self._dry += is_dry
        self._dips += is_dry and not self._was_dry
        self._was_dry = is_dry
        now = time.monotonic()
        if now - self._last < _BEAT_EVERY:
            return
        self._last = now
        partial: dict[str, object] = {
            "dry_s": round(self._dry / RATE, 2),
            "dip_count": self._dips,
            "oil_in_pan_l": round(look.sight.volume * 1e3, 2),
        }
        try:
            still_ours = self._held.beat(look.time, partial)
        except DatabaseError:  # it is away: go on, and ask again at the next sign of life
            connection.close()
            return
        if not still_ours:
            raise _NoLongerOursError


def _once_the_database_is_back(write: Callable[[], bool]) -> None:
    """Write the end of a run, as often as it takes; a second time it changes nothing."""
    until = time.monotonic() + _PATIENCE
    while True:
        try:
            write()
        except DatabaseError:
            if time.monotonic() > until:
                raise
            connection.close()
            time.sleep(_TRY_EVERY)
        else:
            return


def _worker_name() -> str:
    return f"{socket.gethostname()} {os.getpid()}"


@task()
def carry_out(run_id: int) -> None:
    """Run a run, if it still waits for it."""
    held = claim(run_id, _worker_name())
    if held is None:
        return
    run = Run.objects.select_related("state", "lap").get(pk=run_id)
    cpu, wall = time.process_time(), time.monotonic()
    records: list[bytes] = []
    try:
        document = BuildDocument.model_validate(unnamed(plain_document(run.state)))
        log = log_of(run.lap)
        forecast = forecast_moving(
            document, log, run.cells, corners_of(run.lap, log), run.seed,  # type: ignore[arg-type]
            watch=_Watch(held), record=records.append,
        )  # fmt: skip
    except _NoLongerOursError:
        return
    except (BilgeError, ValueError) as error:
        reason = str(error)
        _once_the_database_is_back(lambda: held.fail(reason))
        return
    except Exception as error:
        logger.exception("run %s ended in an error of ours", run_id)
        reason = f"The solver stopped with an error of its own ({type(error).__name__})."
        _once_the_database_is_back(lambda: held.fail(reason))
        return
    figures = figures_of(forecast)
    given = Given(
        summary_of(figures).model_dump(mode="json"), figures.model_dump(mode="json"), records[0]
    )
    spent = time.process_time() - cpu, time.monotonic() - wall
    _once_the_database_is_back(lambda: held.finish(given, *spent))
