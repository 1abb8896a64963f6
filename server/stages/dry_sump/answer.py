"""What Dry sump asks, worked out."""

from __future__ import annotations

import numpy as np
from accounts.models import Workshop
from bilge_core.checks.dry import check_dry
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.moving import moving_name
from bilge_core.pan import assemble_pan
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.tell.checks import check_out
from bilge_core.tell.dry_sump import (
    DryOver,
    DryOverLapOut,
    DrySumpOut,
    drawn_by_stages,
    dry_sump_out,
    over_lap_out,
)
from builds.models import Build
from builds.selectors import build_of, document_of
from forecasts.verdicts import forecast_over
from loads.services import corners_of, log_of
from runs.felt import felt_in
from runs.selectors import figures_kept, finished_of

from stages.dry_sump.schemas import DrySumpStageOut

_WET = "The pump draws from the pan."
_STANDING = "No lap: sizes alone. Import a lap to see which stage draws air, and where."
_SETTLED = "On settled oil: a first look until a run in moving oil is finished."
_MOVING = "Stages on the build's own run in moving oil; the tank's oil lies at once."


def dry_sump(workshop: Workshop, build_id: int) -> DrySumpStageOut:
    """A build's dry sump as it stands, over its lap.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    document = document_of(build)
    assert build.current is not None
    dry, moving = None, None
    if document.circuit.is_dry:
        forecast = None if build.lap is None else forecast_over(document, build.lap)
        dry = dry_sump_out(document, assemble_pan(document), forecast)
        moving = _moving(build, document, dry)
    words = _WET if dry is None else _STANDING if build.lap is None else _SETTLED
    return DrySumpStageOut(
        state=build.current.number,
        has_lap=build.lap is not None,
        lap_name=None if build.lap is None else build.lap.name,
        dry=dry,
        moving=moving,
        checks=[check_out(document, each) for each in check_dry(document)],
        words=words if moving is None else _MOVING,
    )


def _moving(build: Build, document: BuildDocument, dry: DrySumpOut) -> DryOverLapOut | None:
    """The stages by the build's own finished run over its lap; None where there is none."""
    if build.lap is None or build.current is None:
        return None
    run = finished_of(build, felt_in(build.current, build.lap))
    if run is None:
        return None
    kept = figures_kept(run)
    feed, *scavenged = kept.mouths
    if len(scavenged) != len(dry.mouths) or not kept.samples.tank_l:
        return None
    samples, log = kept.samples, log_of(build.lap)
    time = np.array(samples.time_s)
    rpm = np.interp(time, log.time, rpm_of_speed(log.engine_speed))
    gas = [np.array(each.samples.swallowed) for each in scavenged]
    swept, oil = drawn_by_stages(dry.stages, rpm, gas)
    in_pan = np.sum([np.array(each) for each in samples.litres.values()], axis=0) * 1e-3
    over = DryOver(
        time, swept, oil, in_pan, np.array(samples.tank_l) * 1e-3,
        np.array(feed.samples.cover_mm) * 1e-3,
    )  # fmt: skip
    corners = corners_of(build.lap, log)
    return over_lap_out(document, moving_name(kept.cells), over, corners)
