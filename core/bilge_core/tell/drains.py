"""Drains and breathing over a lap, as everybody reads them."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel

from bilge_core.checks.drains import check_drains
from bilge_core.document.build import Build
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.drains.laid import Drain, Unplaced
from bilge_core.drains.pulled import Pulled
from bilge_core.drains.standing import Load, capacity, held_back_by, stands
from bilge_core.forecast.back_ups import DrainForecast, DrainsForecast
from bilge_core.network.drain_guesses import DRAIN_GUESSES
from bilge_core.pan import Pan
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.axes import standing_gravity, up_from
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.settled import settle
from bilge_core.tell.breathing import BreathingOut, breathing_out
from bilge_core.tell.checks import CheckOut, check_out
from bilge_core.tell.drain_wall import WallOut, wall_out
from bilge_core.tell.drains_cold import ColdOut, cold_out
from bilge_core.tell.drains_pulled import PulledOut, pulled_out
from bilge_core.tell.drains_verdict import back_up_words, drains_verdict, state_of
from bilge_core.tell.drawing import SectionOut, section_out
from bilge_core.tell.heads import HeadOut, heads_out
from bilge_core.tell.numbers import (
    EVERY,
    SpacePoint,
    litres,
    mm,
    space_point,
    space_points,
    thinned,
)
from bilge_core.tell.verdict import DrainsVerdict

_GAINS = 1e-4  # [m] that widening a piece buys at the least to hold its drain back (ours)
_FLOWS = 1e-7  # [m3/s] over what a drain carries that fills its housing at all (ours)


class PieceOut(BaseModel):
    """A piece of a drain, and what widening it by a tenth would buy at the lap's worst."""

    name: str
    bore_mm: float
    length_mm: float
    gains_mm: float


class BackUpOut(BaseModel):
    """One stretch with oil over the seals."""

    rank: int
    start_s: float
    end_s: float
    lasts_s: float
    short_mm: float
    worst_at_s: float
    load_g: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str
    words: str


class DrainSamplesOut(BaseModel):
    """At the moments told: head there is, needed, of that against the crankcase; the entry's depth
    under oil; room under the seals as oil takes its time, what the housing holds."""

    there_mm: list[float]
    needed_mm: list[float]
    push_mm: list[float]
    sealed: list[int]
    under_mm: list[float]
    room_mm: list[float]
    held_ml: list[float]
    flow_l_min: list[float]


class DrainRoseOut(BaseModel):
    """Edge of where it drains, from the front of the car round by its left [g]; null: beyond."""

    edge_g: list[float | None]
    limit_g: float


class DrainOut(BaseModel):
    """One drain: its way, and what it does over the lap. Places in the engine's frame."""

    run: str
    component: str
    kind: Literal["turbo", "head"]
    name: str
    how: Literal["gravity", "scavenged"]
    boss: str
    runs: list[str]
    junction: str
    shared_with: list[str]
    joins_mm: SpacePoint | None
    size: str
    points_mm: list[SpacePoint]
    bores_mm: list[float]
    lengths_mm: list[float]
    outlet_mm: float
    seal_mm: SpacePoint
    room_cm2: float
    foam: float
    density_kg_m3: float
    pieces: list[PieceOut]
    held_by: str
    feed_rpm: list[float]
    feed_l_min: list[float]
    carries_l_min: float
    cold: ColdOut
    floods_in_s: float | None
    spare_mm: float
    spare_at_s: float
    state: Literal["good", "caution", "bad"]
    flooded_s: float
    spilled_ml: float
    back_ups: list[BackUpOut]
    rose: DrainRoseOut
    samples: DrainSamplesOut
    fill: list[list[float]]
    view: Literal["side", "front"]
    section: SectionOut
    guesses: list[str]


class UnplacedOut(BaseModel):
    """A drain that wants something before it can be told."""

    run: str
    component: str
    kind: Literal["turbo", "head"]
    name: str
    wants: list[str]


class DrainGuessOut(BaseModel):
    """A guess that was used, and the range that it is likely to be in."""

    key: str
    words: str
    likely: float
    low: float
    high: float
    unit: str
    source: str


class DrainsOut(BaseModel):
    """All drains of a build over a lap, worst first."""

    verdict: DrainsVerdict
    time_s: list[float]
    up: list[SpacePoint]
    gravity_g: list[float]
    level_mm: list[float]
    in_pan_l: float
    drains: list[DrainOut]
    pulled: list[PulledOut]
    heads: list[HeadOut]
    unplaced: list[UnplacedOut]
    breathing: BreathingOut
    wall: WallOut
    checks: list[CheckOut]
    guesses: list[DrainGuessOut]


def _view(drain: Drain) -> Literal["side", "front"]:
    """Which way to look so that most of its run is seen: along the engine, or across it."""
    way = np.abs(drain.line.outlet - drain.line.entry)
    return "side" if way[0] > way[1] else "front"


def _size(build: Build, drain: Drain) -> str:
    run = next(run for run in build.circuit.runs if run.id == drain.run)
    dash = getattr(run.line, "dash", None)
    return f"size {dash}" if dash else f"{min(drain.line.falls.bores) * 1e3:.0f} mm"


def _name(build: Build, component_id: str) -> str:
    component = build.circuit.component(component_id)
    return "" if component is None else component.name


def _shared_with(build: Build, drain: Drain) -> list[str]:
    """Names of the drains that some of its line is shared with."""
    others = {each for runs in drain.shares.values() for each in runs}
    return [run.name for run in build.circuit.runs if run.id in others]


def _joins(drain: Drain) -> SpacePoint | None:
    """Where others first come into its line; None: nowhere."""
    falls = drain.line.falls
    shared = np.flatnonzero(falls.carries > 1.0)
    return space_point(falls.points[shared[0]]) if len(shared) else None


def _fill_at_moments(told: DrainForecast) -> list[list[float]]:
    """Share of the bore that is wet, point by point, if each moment's load stayed."""
    rows = []
    for at in range(0, len(told.met.time), EVERY):
        load, flow = _load_at(told, at)
        rows.append(stands(told.drain.line, flow, told.oil, load).fill.round(2).tolist())
    return rows


def _pieces_out(told: DrainForecast, worst: Load, flow: float) -> tuple[list[PieceOut], str]:
    """A drain's pieces, and the one whose widening gains most at the lap's worst."""
    line = told.drain.line
    gains = {each.piece: each.gains for each in held_back_by(line, flow, told.oil, worst)}
    best = max(gains, key=lambda at: gains[at])
    pieces = [
        PieceOut(
            name=piece.name, bore_mm=mm(piece.bore, 1), length_mm=mm(piece.length, 0),
            gains_mm=mm(gains[at], 1),
        )
        for at, piece in enumerate(line.pieces)
    ]  # fmt: skip
    return pieces, line.pieces[best].name if gains[best] > _GAINS else ""


def _back_ups_out(told: DrainForecast) -> list[BackUpOut]:
    return [
        BackUpOut(
            rank=rank, start_s=round(each.start, 2), end_s=round(each.end, 2),
            lasts_s=round(each.lasts, 2), short_mm=mm(each.short, 0),
            worst_at_s=round(each.worst_at, 2), load_g=round(each.load, 2), corner=each.corner,
            hand=each.hand, place=each.place, words=back_up_words(each),
        )
        for rank, each in enumerate(told.back_ups, start=1)
    ]  # fmt: skip


def _samples_out(told: DrainForecast) -> DrainSamplesOut:
    over = told.over
    return DrainSamplesOut(
        there_mm=thinned(over.margin + over.needed, 1e3, 1),
        needed_mm=thinned(over.needed, 1e3, 1),
        push_mm=thinned(over.against_push, 1e3, 1),
        sealed=over.sealed[::EVERY].astype(int).tolist(),
        under_mm=thinned(over.under, 1e3, 1),
        room_mm=thinned(over.room, 1e3, 1),
        held_ml=thinned(over.held, 1e6, 1),
        flow_l_min=thinned(told.met.flow, 60e3, 2),
    )


def _load_at(told: DrainForecast, at: int) -> tuple[Load, float]:
    """What a drain meets at a moment, and its flow."""
    met = told.met
    load = Load(
        met.ups[at], float(met.gravity[at]), float(met.surface[at]), float(met.pressure[at])
    )
    return load, max(float(met.flow[at]), 1e-9)


def _standing(build: Build, pan: Pan, pressure: float) -> Load:
    """The car at rest on level ground."""
    gravity = standing_gravity(build.car)
    level = settle(pan, gravity).level
    return Load(up_from(gravity), float(np.linalg.norm(gravity)), level, pressure)


def _drain_out(
    build: Build, pan: Pan, told: DrainForecast, standing: Load, cold: ColdOut
) -> DrainOut:
    drain, line = told.drain, told.drain.line
    standing = drain.under(standing)
    worst, flow = _load_at(told, int(np.argmin(np.abs(told.met.time - told.spare_at))))
    pieces, held_by = _pieces_out(told, worst, flow)
    over_flow = flow - capacity(line, told.oil, worst)
    room = float((line.seal - line.outlet) @ worst.up) * drain.room / told.oil.swells
    rose = drain_rose(
        line, None if drain.junction else pan, build.car, told.feed.most, told.oil,
        standing.pressure,
    )  # fmt: skip
    view = _view(drain)
    cut = line.entry[1] if view == "side" else line.entry[0]
    return DrainOut(
        run=drain.run, component=drain.component, kind=drain.kind, name=drain.name, how=drain.how,
        boss=drain.boss, runs=list(drain.runs), junction=_name(build, drain.junction),
        shared_with=_shared_with(build, drain), joins_mm=_joins(drain), size=_size(build, drain),
        points_mm=space_points(line.falls.points),
        bores_mm=(line.falls.bores * 1e3).round(1).tolist(),
        lengths_mm=(line.falls.lengths * 1e3).round(1).tolist(),
        outlet_mm=mm(line.falls.outlet, 1), seal_mm=space_point(line.seal),
        room_cm2=round(drain.room * 1e4, 1), foam=round(1.0 - 1.0 / told.oil.swells, 2),
        density_kg_m3=round(told.oil.density, 0), pieces=pieces, held_by=held_by,
        feed_rpm=rpm_of_speed(told.feed.speed).round(0).tolist(),
        feed_l_min=(told.feed.flow * 60e3).round(2).tolist(),
        carries_l_min=round(capacity(line, told.oil, standing) * 60e3, 2), cold=cold,
        floods_in_s=round(room / over_flow, 1) if over_flow > _FLOWS and room > 0.0 else None,
        spare_mm=mm(told.spare, 0), spare_at_s=round(told.spare_at, 2), state=state_of(told),
        flooded_s=round(told.flooded, 2), spilled_ml=round(float(told.over.spilled[-1]) * 1e6, 1),
        back_ups=_back_ups_out(told),
        rose=DrainRoseOut(
            edge_g=[round(float(g), 3) if np.isfinite(g) else None for g in rose.edge],
            limit_g=rose.limit,
        ),
        samples=_samples_out(told), fill=_fill_at_moments(told), view=view,
        section=section_out(cut_pan(pan, "y" if view == "side" else "x", float(cut))),
        guesses=list(drain.guessed),
    )  # fmt: skip


def _unplaced_out(each: Unplaced) -> UnplacedOut:
    return UnplacedOut(
        run=each.run, component=each.component, kind=each.kind, name=each.name,
        wants=list(each.wants),
    )  # fmt: skip


def _guesses_out(forecast: DrainsForecast) -> list[DrainGuessOut]:
    told: tuple[Drain | Pulled, ...] = (*forecast.drains.placed, *forecast.drains.pulled)
    keys = dict.fromkeys(key for each in told for key in each.guessed)
    return [
        DrainGuessOut(
            key=key, words=guess.words, likely=round(guess.likely * guess.scale, 2),
            low=round(guess.low * guess.scale, 2), high=round(guess.high * guess.scale, 2),
            unit=guess.unit, source=guess.source,
        )
        for key, guess in DRAIN_GUESSES.items()
        if key in keys or key in ("mist", "behind_baffle", "turbo_foam")
    ]  # fmt: skip


def drains_out(
    build: Build, pan: Pan, forecast: DrainsForecast, tried_blow_by: bool = False
) -> DrainsOut:
    """All drains of a build over a lap.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.
    forecast : DrainsForecast
        Of it.
    tried_blow_by : bool
        Whether the blow-by is one that somebody tries.
    """
    standing = _standing(build, pan, float(np.median(forecast.case.pressure)))
    cold = cold_out(build, forecast.drains, standing)
    gravity = np.linalg.norm(np.column_stack([forecast.log.forward, forecast.log.leftward]), axis=1)
    return DrainsOut(
        verdict=drains_verdict(forecast),
        time_s=thinned(forecast.log.time, 1.0, 3),
        up=[tuple(row) for row in forecast.ups[::EVERY].round(4).tolist()],
        gravity_g=thinned(gravity, 1.0 / 9.80665, 3),
        level_mm=thinned(forecast.levels, 1e3, 1),
        in_pan_l=litres(pan.oil_volume, 2),
        drains=[
            _drain_out(build, pan, each, standing, cold[each.drain.run])
            for each in forecast.forecasts
        ],
        pulled=[pulled_out(each) for each in forecast.pulled],
        heads=heads_out(build, forecast.log, forecast.corners),
        unplaced=[_unplaced_out(each) for each in forecast.drains.unplaced],
        breathing=breathing_out(build, forecast, tried_blow_by),
        wall=wall_out(build, pan, forecast),
        checks=[check_out(build, each) for each in check_drains(build, pan, forecast)],
        guesses=_guesses_out(forecast),
    )
