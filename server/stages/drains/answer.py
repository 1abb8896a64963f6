"""What Drains asks, worked out or kept."""

from __future__ import annotations

import json

import numpy as np
from accounts.models import Workshop
from bilge_core.acts.drain_tuned import TuneDrain
from bilge_core.errors import InvalidInput, Problem
from bilge_core.forecast.back_ups import DrainForecast, DrainsForecast, Tried, drains_at
from bilge_core.pan import assemble_pan
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.tell.drains import DrainsOut, drains_out
from bilge_core.tell.drains_at import AtLoadOut, at_load_out
from builds.models import Build
from builds.selectors import build_of, document_of
from forecasts.drained import OfRun, drains_over, ids_felt
from forecasts.kept import kept
from runs.felt import felt_in
from runs.selectors import finished_of
from runs.surfaces import of_run

from stages.drains.schemas import AssumedIn, DrainTrialIn, DrainTrialOut, LoadIn

_GUESSED = "Foam and blow-by are guesses until they are measured."
_ON_SETTLED = f"On settled oil: a first look until a run in moving oil is finished. {_GUESSED}"
_ON_RUN = f"On its own run in moving oil; drawn as it would settle. {_GUESSED}"
_STANDING = "No lap: standing level at full power. Import a lap to see where a drain backs up."


def _run_of(build: Build) -> OfRun | None:
    """The build's own finished run over its lap."""
    if build.lap is None or build.current is None:
        return None
    run = finished_of(build, felt_in(build.current, build.lap))
    return None if run is None else of_run(run)


def _tried(assumed: AssumedIn) -> Tried:
    blow_by = None if assumed.blow_by_l_min is None else assumed.blow_by_l_min / 60e3
    foam = None if assumed.foam_pct is None else assumed.foam_pct / 100.0
    return Tried(foam, blow_by)


def drains(workshop: Workshop, build_id: int, assumed: AssumedIn) -> bytes:
    """A build's drains as it stands, over its lap, as JSON.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    document, tried, run = document_of(build), _tried(assumed), _run_of(build)

    def work_out() -> dict[str, DrainsOut]:
        forecast = drains_over(document, build.lap, tried, run)
        is_tried = tried.blow_by is not None
        return {"drains": drains_out(document, assemble_pan(document), forecast, is_tried)}

    told = kept(
        "drains", build.current, build.lap, work_out, b"stage", ids_felt(build.current),
        assumed.model_dump_json().encode(), b"" if run is None else run.known_by,
    )["drains"]  # fmt: skip
    duration = json.loads(told)["time_s"][-1]
    head = {
        "state": build.current.number,
        "has_lap": build.lap is not None,
        "duration_s": duration,
        "moves": run is not None,
        "words": _STANDING if build.lap is None else _ON_RUN if run else _ON_SETTLED,
    }
    return json.dumps(head).encode()[:-1] + b"," + told[1:]


def at_load(workshop: Workshop, build_id: int, load: LoadIn) -> AtLoadOut:
    """A build's drains under one steady load.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    forward, leftward = (each * STANDARD_GRAVITY for each in (load.fore_g, load.side_g))
    return at_load_out(drains_at(document, forward, leftward, _tried(load)))


def _of(forecast: DrainsForecast, run: str) -> DrainForecast:
    found = next((each for each in forecast.forecasts if each.drain.run == run), None)
    if found is None:
        wants = [
            word for each in forecast.drains.unplaced if each.run == run for word in each.wants
        ]
        words = f"cannot be told yet: say {' and '.join(wants)}" if wants else "is no drain here"
        raise InvalidInput([Problem("act.run", words)])
    return found


def trial(workshop: Workshop, build_id: int, asked: DrainTrialIn) -> DrainTrialOut:
    """A drain set otherwise, over the lap; nothing is kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    document = document_of(build)
    act: TuneDrain = asked.act
    done = act.done(document)
    tried = _tried(asked)
    # the pan is the same, its oil nearly: what is tried is told on the run of the build as it is
    run = _run_of(build)
    after = drains_over(done.build, build.lap, tried, run)
    mine = _of(after, act.run)
    before = drains_over(document, build.lap, tried, run)
    now = next((each for each in before.forecasts if each.drain.run == act.run), mine)
    at = int(np.argmin(np.abs(mine.over.time - now.spare_at)))
    worst = after.worst
    assert worst is not None
    return DrainTrialOut(
        words=done.words,
        run=act.run,
        spare_mm=round(mine.spare * 1e3),
        spare_at_s=round(mine.spare_at, 2),
        flooded_s=round(mine.flooded, 2),
        back_ups=len(mine.back_ups),
        there_mm=round(float(mine.over.margin[at] + mine.over.needed[at]) * 1e3, 1),
        needed_mm=round(float(mine.over.needed[at]) * 1e3, 1),
        push_mm=round(float(mine.over.against_push[at]) * 1e3, 1),
        highest_mbar=round(float(after.case.pressure.max()) / 100.0, 2),
        worst_mm=round(worst.spare * 1e3),
        worst_name=worst.drain.name,
    )
