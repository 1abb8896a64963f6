"""How high the oil of a finished run stood at a place, for whatever drains or breathes there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.back_ups import Surface, even_times
from bilge_core.loads.log import Log, at_times
from bilge_core.moving.heights import heights_over
from bilge_core.moving.record import Frames, read_frames
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from forecasts.drained import OfRun

from runs.models import Result, Run


@dataclass(frozen=True)
class _Asked:
    result: int
    read: Callable[[], Frames] = field(compare=False)


@lru_cache(maxsize=2)
def _kept(asked: _Asked) -> Frames:
    """Some tens of megabytes each: the run that is looked at, and the one before."""
    return asked.read()


def _frames_of(run: Run) -> Frames | None:
    found = Result.objects.filter(pk=run.result_id or 0).values_list("frames", flat=True).first()
    if not found:
        return None
    return _kept(_Asked(run.result_id or 0, lambda: read_frames(bytes(found))))


def _ups(document: BuildDocument, log: Log, time: Array) -> Array:
    there = at_times(log, time)
    return up_from(apparent_gravity(document.car, there.forward, there.leftward, there.upward))


def of_run(run: Run) -> OfRun:
    """A finished run's oil, for drains to be told on."""
    known_by = f"run {run.result_id}".encode()
    return OfRun(known_by, lambda document, log: surface_of(run, document, log))


def surface_of(run: Run, document: BuildDocument, log: Log) -> Surface | None:
    """How high a run's oil stood, at `even_times` of its log; None where nothing is on record.

    Where a place is bare it is as far down as the next oil or floor below.
    """
    frames = _frames_of(run)
    if frames is None:
        return None
    times = even_times(log)
    at_frames, at_times_ = (_ups(document, log, time) for time in (frames.time, times))

    def surface(place: Array) -> Array:
        under = heights_over(frames, place, at_frames)
        return np.asarray(np.interp(times, frames.time, under) + at_times_ @ place)

    return surface
