"""A remedy laid over the lap: the build's own run and the remedy's newest trial, point by point."""

from __future__ import annotations

from typing import Any

import numpy as np
from accounts.models import Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.options.trace import Trace, traced
from bilge_core.rules.air import RUNS_DRY
from bilge_core.tell.options import RUNGS
from bilge_core.tell.remedies import TraceKept
from runs.models import Result

from studies.basis import base_key
from studies.models import Study, StudyTrial
from studies.schemas import OverLapOut, TraceOut

_BEST_FIRST = ("lap", "windows", "worst")


def _out(trace: Trace) -> TraceOut:
    return TraceOut(
        time_s=list(trace.time), bar=[round(each / 1e5, 2) for each in trace.pressure],
        gas=list(trace.gas),
    )  # fmt: skip


def _own(figures: dict[str, Any]) -> Trace:
    samples, mouth = figures["samples"], figures["mouths"][0]["samples"]
    time = np.array(samples["time_s"], dtype=float)
    pressure = np.array(samples["pressure_bar"], dtype=float) * 1e5
    return traced(time, pressure, np.array(mouth["gas_share"], dtype=float))


def over_lap(workshop: Workshop, study: Study, remedy: str) -> OverLapOut:
    """A remedy over the worst lap beside the build as it is.

    Raises
    ------
    InvalidInput
        If either was not run in moving oil yet.
    """
    lap = study.over.select_related("lap").get(place=0).lap
    own = Result.objects.filter(workshop=workshop, key=base_key(study, lap)).first()
    if own is None:
        raise InvalidInput([Problem("key", "cannot be laid over: the build's own run is not done")])
    rows = study.trials.filter(
        candidate=remedy, lap=0, status=StudyTrial.DONE, rung__in=_BEST_FIRST
    )
    for row in sorted(rows, key=lambda each: (_BEST_FIRST.index(each.rung), each.seed)):
        kept = (row.outcome or {}).get("trace")
        if kept is not None:
            trace = Trace(**TraceKept.model_validate(kept).model_dump())
            words = RUNGS[row.rung]  # type: ignore[index]
            return OverLapOut(
                lap=lap.name, duration_s=lap.duration_s, own=_out(_own(own.figures)),
                remedy=_out(trace), rung_words=words, dry_above=RUNS_DRY.most,
            )  # fmt: skip
    words = "cannot be laid over: nothing of it was run in moving oil yet"
    raise InvalidInput([Problem("key", words)])
