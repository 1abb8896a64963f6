"""On which record of oil at the mouth a circuit is shown: its own run's, or the next best."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property, lru_cache, partial
from typing import Any, Literal

import numpy as np
from bilge_core import settled
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.on_record import Apart, Record, apart, circuit_lap
from bilge_core.loads.log import Log
from bilge_core.network import network_of
from bilge_core.tell.bottle import TRIAL_STEP, OnRecord, on_record
from bilge_core.tell.known_by import key_of
from builds.models import Build
from builds.selectors import document_of, plain_document
from forecasts.verdicts import forecast_over
from loads.models import Lap
from loads.selectors import known_by
from loads.services import corners_of, log_of
from runs.felt import felt_in
from runs.models import Run
from runs.selectors import figures_kept, finished_of, others_of

Kind = Literal["own", "preview", "settled", "steady"]

_POURED = ("volume_l", "away_l", "mark_l")
_STEADY_FOR = 1.0  # [s] of an engine that runs level, where there is no lap (ours)


@dataclass(frozen=True)
class Basis:
    """A lap and what a mouth drew there.

    kind : of the build's own run in moving oil, of another's with the same pan, of settled oil, or
        level and steady where there is no lap
    run : that it is of
    make : what it is told from
    apart : how far the build is from what it is of, of a preview
    lasts : of the lap [s]
    """

    kind: Kind
    run: Run | None
    make: Callable[[], OnRecord]
    apart: Apart | None
    lasts: float

    @cached_property
    def on(self) -> OnRecord:
        """What it is told from: worked out for who asks for more than is kept."""
        return self.make()

    @property
    def known_by(self) -> bytes:
        """What answers on it are known by, beside the build, the lap and the code of runs."""
        code = settled.VERSION if self.kind == "settled" else ""
        return f"{self.kind} {None if self.run is None else self.run.result_id} {code}".encode()


def _has_same_pan(run: Run, document: dict[str, Any], felt: str, lap: Lap) -> bool:
    """Whether a run's build differs from a document in its circuit and its oil's amount alone."""
    theirs = plain_document(run.state)
    swapped = {
        **theirs,
        "circuit": document["circuit"],
        "pan": {**theirs["pan"], "bosses": document["pan"]["bosses"]},
        "oil": {**theirs["oil"], **{name: document["oil"][name] for name in _POURED}},
    }
    return key_of("moving", swapped, known_by(lap)) == felt


@dataclass(frozen=True)
class _Asked:
    key: str
    make: Callable[[], OnRecord] = field(compare=False)


@lru_cache(maxsize=16)
def _kept(asked: _Asked) -> OnRecord:
    """What is told from again and again while a figure is dragged: read and run once."""
    return asked.make()


def _of_run(run: Run, lap: Lap, document: BuildDocument) -> OnRecord:
    """A run's own lap in moving oil."""

    def make() -> OnRecord:
        kept = figures_kept(run)
        seen = kept.mouths[0].samples
        record = Record.of_looks(np.array(kept.samples.time_s), np.array(seen.swallowed))
        log = log_of(lap)
        return on_record(log, record, corners_of(lap, log), document)

    return _kept(_Asked(f"run {run.result_id} {known_by(lap)!r}", make))


def _of_settled(lap: Lap, document: BuildDocument, felt: str) -> OnRecord:
    """A lap in settled oil."""

    def make() -> OnRecord:
        found = forecast_over(document, lap)
        record = Record(found.log.time, found.lap.gas_share)
        return on_record(found.log, record, found.corners, document)

    return _kept(_Asked(f"settled {felt}", make))


def _steady(document: BuildDocument) -> OnRecord:
    """No lap: the engine level and steady at its usual running speed."""
    time = np.array([0.0, _STEADY_FOR])
    speed = np.full(2, network_of(document).running)
    still = np.zeros(2)
    log = Log(time, still, still, still, speed)
    return on_record(log, Record(time, np.zeros(2)), (), document)


def basis_of(build: Build) -> Basis:
    """What a build as it stands is shown on: the best there is.

    Raises
    ------
    InvalidInput
        If it cannot be run, with the field named.
    """
    document, lap = document_of(build), build.lap
    if lap is None or build.current is None:
        return Basis("steady", None, partial(_steady, document), None, _STEADY_FOR)
    felt = felt_in(build.current, lap)
    own = finished_of(build, felt)
    if own is not None:
        return Basis("own", own, partial(_of_run, own, lap, document), None, lap.duration_s)
    plain = plain_document(build.current)
    for run in others_of(build, lap):
        if not _has_same_pan(run, plain, felt, lap):
            continue
        theirs = run.state.read
        on = _of_run(run, lap, theirs)
        mine = circuit_lap(document, on.log, on.record, on.corners, step=TRIAL_STEP, band=False)
        far = apart(document, mine, theirs, on.lap)
        if far.is_little:
            return Basis("preview", run, partial(_of_run, run, lap, theirs), far, lap.duration_s)
    settled_oil = partial(_of_settled, lap, document, felt)
    return Basis("settled", None, settled_oil, None, lap.duration_s)
