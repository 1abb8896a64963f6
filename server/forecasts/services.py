"""Judging builds over laps, and keeping the verdicts."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
from accounts.models import Workshop
from bilge_core import MODEL_VERSION
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import BilgeError
from bilge_core.forecast import Dip, DryTime, SettledForecast, Verdict, forecast_settled
from bilge_core.forecast.settled import model_note
from bilge_core.forecast.verdict import dip_words
from bilge_core.loads.line import distance_driven
from bilge_core.pan import Pan, assemble_pan
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.settled import cover_rose, held_edges, tilt_table
from builds.models import Build, BuildState
from builds.selectors import build_of, builds_of, document_of, invented_parts, state_of
from loads.models import Lap
from loads.selectors import lap_of
from loads.services import corners_of, log_of
from loads.understanding import thinned_line

from forecasts.drawing import (
    drawing_out,
    mouth_out,
    section_out,
    side_section,
    standing_surface,
    surface_out,
)
from forecasts.kept import kept_json
from forecasts.models import Forecast
from forecasts.schemas import (
    CornerOut,
    DipOut,
    HeldOut,
    LapForecastOut,
    RoseOut,
    SamplesOut,
    SectionOut,
    ShelfOut,
    SloshOut,
    TiltOut,
    VerdictOut,
)

_MOST_SAMPLES = 8000

LEAST_PAD_G = 1.6
"""The load pad reaches at least this far."""


def _no_lap() -> VerdictOut:
    return VerdictOut(
        state="no_lap",
        headline="No lap yet",
        sentence="Import a logged lap to see when and where the pickup runs dry.",
        dry_s=None,
        dip_count=None,
    )


def verdict_out(verdict: Verdict, dry_time: DryTime) -> VerdictOut:
    """A verdict as it crosses the boundary."""
    return VerdictOut(
        state=verdict.state,
        headline=verdict.headline,
        sentence=verdict.sentence,
        dry_s=round(dry_time.dry, 3),
        dip_count=len(dry_time.dips),
    )


def _verdict(result: SettledForecast) -> VerdictOut:
    return verdict_out(result.verdict, result.dry_time)


def _keep(build: Build, verdict: VerdictOut) -> None:
    """Keep a verdict; two requests that made the same one do no harm."""
    if build.lap_id is None or build.current_id is None:
        return
    Forecast.objects.bulk_create(
        [
            Forecast(
                state_id=build.current_id,
                lap_id=build.lap_id,
                model=MODEL_VERSION,
                verdict_state=verdict.state,
                headline=verdict.headline,
                sentence=verdict.sentence,
                dry_s=verdict.dry_s or 0.0,
                dip_count=verdict.dip_count or 0,
            )
        ],
        ignore_conflicts=True,
    )


def _over(document: BuildDocument, lap: Lap) -> SettledForecast:
    log = log_of(lap)
    return forecast_settled(document, log, corners_of(lap, log))


def _kept_verdict(build: Build, document: BuildDocument) -> VerdictOut:
    if build.lap is None or build.current is None:
        return _no_lap()
    kept = Forecast.objects.filter(state=build.current, lap=build.lap, model=MODEL_VERSION).first()
    if kept is None:
        verdict = _verdict(_over(document, build.lap))
        _keep(build, verdict)
        return verdict
    return VerdictOut(
        state=kept.verdict_state,  # type: ignore[arg-type]
        headline=kept.headline,
        sentence=kept.sentence,
        dry_s=kept.dry_s,
        dip_count=kept.dip_count,
    )


def _on_shelf(build: Build) -> ShelfOut:
    try:
        document = document_of(build)
        pan: Pan = assemble_pan(document)
        return ShelfOut(
            id=build.pk,
            name=build.name,
            lap_name=build.lap.name if build.lap else None,
            changed_at=build.changed_at,
            invented=invented_parts(build),
            verdict=_kept_verdict(build, document),
            side=side_section(pan),
            mouth=mouth_out(pan),
            standing=surface_out(standing_surface(pan, document)),
        )
    except BilgeError as error:  # one faulty build must not hide the others
        faulty = VerdictOut(
            state="faulty",
            headline="Cannot be read",
            sentence=str(error),
            dry_s=None,
            dip_count=None,
        )
        return ShelfOut(
            id=build.pk,
            name=build.name,
            lap_name=None,
            changed_at=build.changed_at,
            invented=[],
            verdict=faulty,
            side=None,
            mouth=None,
            standing=None,
        )


def shelf(workshop: Workshop) -> list[ShelfOut]:
    """The builds of a workshop with their verdicts, last changed first."""
    return [_on_shelf(build) for build in builds_of(workshop)]


def dip_out(rank: int, dip: Dip) -> DipOut:
    """A dip as it crosses the boundary."""
    return DipOut(
        rank=rank,
        start_s=round(dip.start, 3),
        end_s=round(dip.end, 3),
        dry_s=round(dip.dry, 3),
        worst_s=round(dip.worst, 3),
        cover_mm=round(dip.cover * 1e3, 1),
        load_g=round(dip.load, 3),
        corner=dip.corner,
        hand=dip.hand,  # type: ignore[arg-type]
        place=dip.place,
        words=dip_words(dip),
    )


def _every(result: SettledForecast) -> slice:
    """Which samples go to the screen."""
    return slice(None, None, 1 + len(result.log.time) // _MOST_SAMPLES)


def _samples(result: SettledForecast) -> SamplesOut:
    every = _every(result)
    log, lap = result.log, result.lap
    return SamplesOut(
        time_s=log.time[every].round(3).tolist(),
        side_g=(log.leftward[every] / STANDARD_GRAVITY).round(3).tolist(),
        fore_g=(log.forward[every] / STANDARD_GRAVITY).round(3).tolist(),
        speed_km_h=(log.speed[every] * 3.6).round(1).tolist(),
        cover_mm=(lap.cover[every] * 1e3).round(1).tolist(),
        gas_share=lap.gas_share[every].round(3).tolist(),
        normals=lap.normals[every].round(5).tolist(),
        level_mm=(lap.levels[every] * 1e3).round(2).tolist(),
        to_cover_l=(lap.to_cover[every] * 1e3).round(3).tolist(),
        distance_m=distance_driven(log)[every].round(1).tolist(),
    )


def _lap_forecast(lap: Lap, result: SettledForecast) -> LapForecastOut:
    return LapForecastOut(
        lap_id=lap.pk,
        lap_name=lap.name,
        verdict=_verdict(result),
        duration_s=round(result.log.duration, 3),
        dry_s=round(result.dry_time.dry, 3),
        draws_air_s=round(result.dry_time.draws_air, 3),
        least_cover_mm=round(result.least_cover * 1e3, 1),
        least_cover_at_s=round(result.least_cover_at, 3),
        dips=[dip_out(rank, dip) for rank, dip in enumerate(result.dry_time.dips, start=1)],
        corners=[
            CornerOut(
                number=c.number,
                name=c.name,
                hand=c.hand,
                start_s=round(c.start, 3),
                end_s=round(c.end, 3),
            )
            for c in result.corners
        ],
        samples=_samples(result),
        zones_l=(result.lap.zones[_every(result)].T * 1e3).round(3).tolist(),
        line_m=thinned_line(result.log),
    )


def _edge(edge: Array, limit: float) -> list[float | None]:
    return [round(g, 3) if g <= limit else None for g in edge.tolist()]


def _rose(pan: Pan, document: BuildDocument) -> RoseOut:
    rose = cover_rose(pan, document.car)
    return RoseOut(
        thrown_deg=[i * 360.0 / len(rose.edge) for i in range(len(rose.edge))],
        dry_from_g=_edge(rose.edge, rose.limit),
        limit_g=rose.limit,
    )


def _held(pan: Pan, document: BuildDocument, rose: RoseOut) -> HeldOut:
    held = held_edges(pan, document.car, len(rose.thrown_deg), rose.limit_g)
    return HeldOut(
        zone=held.zone,
        volumes_l=(held.volumes * 1e3).round(3).tolist(),
        dry_from_g=[_edge(edge, rose.limit_g) for edge in held.edges],
    )


def _tilt(pan: Pan, document: BuildDocument, lap: LapForecastOut | None) -> TiltOut:
    """The table behind the load pad; it reaches beyond the highest load of the lap."""
    samples = lap.samples if lap else None
    highest = max(map(abs, [*samples.side_g, *samples.fore_g])) if samples else 0.0
    table = tilt_table(pan, document.car, limit=max(LEAST_PAD_G, math.ceil(11.0 * highest) / 10.0))
    return TiltOut(
        loads_g=table.loads.round(4).tolist(),
        at_rest=tuple(table.up_at_rest.round(7).tolist()),
        per_fore_g=tuple(table.up_per_forward_g.round(7).tolist()),
        per_side_g=tuple(table.up_per_leftward_g.round(7).tolist()),
        height_mm=(table.heights * 1e3).round(2).tolist(),
        to_cover_l=(table.to_cover * 1e3).round(3).tolist(),
        zones_l=(np.moveaxis(table.zones, 2, 0) * 1e3).round(3).tolist(),
    )


def settled_over(state: BuildState, lap: Lap | None) -> SloshOut:
    """Everything for the Slosh screen: drawing, rose, pad table, and the lap settled.

    Raises
    ------
    InvalidInput
        If the document no longer holds together.
    """
    document = BuildDocument.model_validate(state.document)
    over = _lap_forecast(lap, _over(document, lap)) if lap is not None else None
    pan = assemble_pan(document)
    rose = _rose(pan, document)
    return SloshOut(
        state=state.number,
        model=MODEL_VERSION,
        model_note=model_note(pan),
        verdict=over.verdict if over else _no_lap(),
        drawing=drawing_out(pan, document),
        rose=rose,
        held=_held(pan, document, rose),
        tilt=_tilt(pan, document, over),
        lap=over,
    )


def settled_json(state: BuildState, lap: Lap | None) -> bytes:
    """`settled_over` as JSON, kept for the next who asks.

    Raises
    ------
    InvalidInput
    """
    return kept_json("slosh", state, lap, lambda: settled_over(state, lap))


def slosh(workshop: Workshop, build_id: int) -> bytes:
    """A build as it stands over its lap, see `settled_over`, as JSON; its verdict is kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    state = build.current

    def work_out() -> SloshOut:
        found = settled_over(state, build.lap)
        _keep(build, found.verdict)
        return found

    return kept_json("slosh", state, build.lap, work_out)


def section(
    workshop: Workshop, build_id: int, view: Literal["side", "front"], at_mm: float, state: int
) -> SectionOut:
    """A cut through a state of a build anywhere.

    Raises
    ------
    NotFound, InvalidInput
    """
    wanted = state_of(workshop, build_id, state)
    pan = assemble_pan(BuildDocument.model_validate(wanted.document))
    return section_out(cut_pan(pan, "y" if view == "side" else "x", at_mm * 1e-3))


def other_lap(workshop: Workshop, build_id: int, lap_id: int) -> LapForecastOut:
    """The build as it stands over another lap of the workshop, to lay over the first.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    lap = lap_of(workshop, lap_id)
    return _lap_forecast(lap, _over(document_of(build), lap))
