"""Drains of builds over laps, and what they do to a verdict."""

from __future__ import annotations

import json

import numpy as np
from bilge_core.document.build import Build as BuildDocument
from bilge_core.drains.breathing import full_power_speed
from bilge_core.drains.laid import drains_of
from bilge_core.errors import BilgeError
from bilge_core.forecast.back_ups import AS_GUESSED, DrainsForecast, Tried, forecast_drains
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.tell.drains import drains_verdict
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


def drains_over(
    document: BuildDocument, lap: Lap | None, tried: Tried = AS_GUESSED
) -> DrainsForecast:
    """A document's drains over a lap; without one, standing level at full power.

    Raises
    ------
    InvalidInput
    """
    return forecast_drains(document, *_loads(document, lap), tried)


def drains_verdict_over(build: Build, document: BuildDocument, lap: Lap) -> DrainsVerdict | None:
    """What a build's drains do over a lap: what is kept, or worked out now; None without any."""
    assert build.current is not None
    found = drains_of(document)
    if not found.placed and not found.unplaced:
        return None
    try:
        told = kept(
            "drains", build.current, lap,
            lambda: {"verdict": drains_verdict(drains_over(document, lap))},
            b"verdict", ids_felt(build.current),
        )  # fmt: skip
    except BilgeError:
        return None  # the oil's own verdict says what is wrong with it
    return DrainsVerdict.model_validate_json(told["verdict"])
