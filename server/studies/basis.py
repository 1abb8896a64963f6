"""What a study's trials are held against: the build's own run over each lap."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any

import numpy as np
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.lying import Lying
from bilge_core.moving import Fineness
from bilge_core.moving.seen import RATE
from bilge_core.options.candidate import Room, room_of
from bilge_core.options.remedies import remedies
from bilge_core.options.trial import BaseLap
from bilge_core.pan import assemble_pan
from builds.models import BuildState
from loads.models import Lap
from loads.services import corners_of, log_of
from runs.felt import felt_in, result_key
from runs.models import Result

from studies.models import Study

CELLS: Fineness = "quick"


def document_of(state: BuildState) -> BuildDocument:
    """A state's document as a run is made from it: ids and names by place do not matter here."""
    return state.read


def base_key(study: Study, lap: Lap) -> str:
    """What the build's own run over a lap is known by."""
    return result_key(felt_in(study.state, lap), CELLS, 0)


@dataclass(frozen=True)
class _Asked:
    key: str
    make: Callable[[], object] = field(compare=False)


@lru_cache(maxsize=8)
def _kept(asked: _Asked) -> object:
    return asked.make()


def base_of(study: Study, lap: Lap) -> BaseLap | None:
    """The build's own run over a lap; None while it is not finished."""
    key = base_key(study, lap)
    found = Result.objects.filter(workshop_id=study.workshop_id, key=key)
    if not found.exists():
        return None

    def make() -> BaseLap:
        figures = found.values_list("figures", flat=True).get()
        samples, mouth = figures["samples"], figures["mouths"][0]["samples"]
        pressure = figures["pressure"]
        log = log_of(lap)
        base = BaseLap(
            document_of(study.state), log, corners_of(lap, log),
            np.array(samples["time_s"], dtype=float), np.array(mouth["gas_share"], dtype=float),
            np.array(mouth["swallowed"], dtype=float), float(figures["mouths"][0]["dry_s"]),
            float(pressure["under_s"]), float(pressure["lowest_bar"] / pressure["usual_bar"]),
            float(pressure["lowest_bar"]) * 1e5, 
        )  # fmt: skip
        return replace(base, lies=_lying(base, samples))

    base = _kept(_Asked(f"base {key}", make))
    assert isinstance(base, BaseLap)
    return base


def _lying(base: BaseLap, samples: dict[str, Any]) -> Lying | None:
    """Where the oil lay while it was driest; None: it never was dry, or the record does not say."""
    driest = base.driest
    if not driest.any() or not samples.get("near_l"):
        return None

    def mean(values: list[float]) -> float:
        return float(np.array(values, dtype=float)[driest].mean()) * 1e-3

    mouth = assemble_pan(base.build).mouth.centre
    return Lying(
        float(driest.sum()) / RATE,
        sum(mean(each) for each in samples["litres"].values()),
        mean(samples["near_l"]),
        mean(samples["centre_ahead_mm"]) - float(mouth[0]),
        mean(samples["centre_left_mm"]) - float(mouth[1]),
    )


def bare_lap(study: Study, lap: Lap) -> BaseLap:
    """A lap without the build's own run over it: enough for settled oil and for whole laps."""
    log = log_of(lap)
    none = np.zeros(0)
    return BaseLap(
        document_of(study.state), log, corners_of(lap, log), none, none, none, 0.0, 0.0, 1.0
    )


def room_left(state: BuildState) -> Room:
    """The gaps that a state leaves."""
    room = _kept(_Asked(f"room {state.pk}", lambda: room_of(document_of(state))))
    assert isinstance(room, Room)
    return room


def titles_for(state: BuildState) -> dict[str, str]:
    """What every single remedy for a state is called, by its key."""

    def make() -> dict[str, str]:
        return {each.key: each.title for each in remedies(document_of(state))}

    titles = _kept(_Asked(f"titles {state.pk}", make))
    assert isinstance(titles, dict)
    return titles
