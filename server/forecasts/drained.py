"""Drains of builds over laps, and what they do to a verdict."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from bilge_core.document.build import Build as BuildDocument
from bilge_core.drains.laid import drains_of
from bilge_core.errors import BilgeError
from bilge_core.forecast.back_ups import (
    AS_GUESSED,
    DrainsForecast,
    Surface,
    Tried,
    forecast_drains,
)
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.network.breathing import full_power_speed
from bilge_core.tell.drains_verdict import drains_verdict
from bilge_core.tell.verdict import DrainsVerdict
from builds.models import Build, BuildState
from builds.selectors import plain_document
from loads.models import Lap
from loads.services import corners_of, log_of

from forecasts.kept import kept

_STANDS_FOR = 2.0  # [s] of an engine that stands level at full power, where there is no lap (ours)


def ids_felt(state: BuildState) -> bytes:
    """The ids of a state's circuit and bosses: answers on drains name parts by them."""
    plain = plain_document(state)
    return json.dumps([plain["circuit"], plain["pan"]["bosses"]], sort_keys=True).encode()


def _loads(document: BuildDocument, lap: Lap | None) -> tuple[Log, tuple[Corner, ...]]:
    if lap is not None:
        log = log_of(lap)
        return log, corners_of(lap, log)
    time = np.array([0.0, _STANDS_FOR])
    still = np.zeros(2)
    return Log(time, still, still, still, np.full(2, full_power_speed(document.car))), ()


@dataclass(frozen=True)
class OfRun:
    """The oil of a finished run that drains are told on, in the place of settled oil.

    known_by : of the run
    surface : how high its oil stood, of a build's document and a log; None: nothing is on record
    """

    known_by: bytes
    surface: Callable[[BuildDocument, Log], Surface | None]


def drains_over(
    document: BuildDocument, lap: Lap | None, tried: Tried = AS_GUESSED, run: OfRun | None = None
) -> DrainsForecast:
    """A document's drains over a lap; without one, standing level at full power.

    Raises
    ------
    InvalidInput
    """
    log, corners = _loads(document, lap)
    surface = None if run is None else run.surface(document, log)
    return forecast_drains(document, log, corners, tried, surface)


def drains_verdict_over(
    build: Build, document: BuildDocument, lap: Lap, run: OfRun | None = None
) -> DrainsVerdict | None:
    """What a build's drains do over a lap: what is kept, or worked out now; None without any."""
    assert build.current is not None
    found = drains_of(document)
    if not (found.placed or found.unplaced or found.pulled):
        return None
    try:
        told = kept(
            "drains", build.current, lap,
            lambda: {"verdict": drains_verdict(drains_over(document, lap, run=run))},
            b"verdict", ids_felt(build.current), b"" if run is None else run.known_by,
        )  # fmt: skip
    except BilgeError:
        return None  # the oil's own verdict says what is wrong with it
    return DrainsVerdict.model_validate_json(told["verdict"])
