"""What a worker does with a run."""

from __future__ import annotations

import os
import socket
import time

from bilge_core.build import Build as BuildDocument
from bilge_core.errors import BilgeError
from bilge_core.forecast.dips import RUNS_DRY
from bilge_core.forecast.moving import forecast_moving
from bilge_core.freesurface.lap import RATE, LookAt
from django_tasks import task
from loads.services import corners_of, log_of

from runs.lease import Held, claim
from runs.models import Run
from runs.telling import figures_of

_BEAT_EVERY = 0.4  # [s]


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
        is_dry = 1.0 - look.sight.oil_share > RUNS_DRY
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
        if not self._held.beat(look.time, partial):
            raise _NoLongerOursError


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
        document = BuildDocument.model_validate(run.state.document)
        log = log_of(run.lap)
        forecast = forecast_moving(
            document, log, run.cells, corners_of(run.lap, log), run.seed,  # type: ignore[arg-type]
            watch=_Watch(held), record=records.append,
        )  # fmt: skip
    except _NoLongerOursError:
        return
    except (BilgeError, ValueError) as error:
        held.fail(str(error))
        return
    held.finish(
        figures_of(forecast).model_dump(mode="json"),
        records[0],
        time.process_time() - cpu,
        time.monotonic() - wall,
    )
