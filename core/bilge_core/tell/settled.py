"""The settled oil: the lap, the rose, the table behind the load pad."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
from pydantic import BaseModel

from bilge_core.document.car import Car
from bilge_core.forecast import SettledForecast
from bilge_core.loads.line import distance_driven, thinned_line
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.settled import cover_rose, held_edges, tilt_table
from bilge_core.tell.numbers import Ring
from bilge_core.tell.verdict import DipOut, VerdictOut, dip_out, verdict_out

_MOST_SAMPLES = 8000

LEAST_PAD_G = 1.6
"""The load pad reaches at least this far."""


class CornerOut(BaseModel):
    """One corner."""

    number: int
    name: str | None
    hand: Literal["left", "right"]
    start_s: float
    end_s: float


class SamplesOut(BaseModel):
    """The lap sample by sample; all lists are of one length.

    `to_cover_l`: what the pan would have to hold for the mouth to be covered.
    """

    time_s: list[float]
    side_g: list[float]
    fore_g: list[float]
    speed_km_h: list[float]
    cover_mm: list[float]
    gas_share: list[float]
    normals: list[tuple[float, float, float]]
    level_mm: list[float]
    to_cover_l: list[float]
    distance_m: list[float]


class SettledLapOut(BaseModel):
    """A lap in settled oil; `zones_l` holds for each zone what lies in it, sample by sample."""

    verdict: VerdictOut
    duration_s: float
    dry_s: float
    draws_air_s: float
    least_cover_mm: float
    least_cover_at_s: float
    dips: list[DipOut]
    corners: list[CornerOut]
    samples: SamplesOut
    zones_l: list[list[float]]
    line_m: Ring


class RoseOut(BaseModel):
    """Steady g at which the mouth goes dry, by where oil is thrown; null: holds to the limit."""

    thrown_deg: list[float]
    dry_from_g: list[float | None]
    limit_g: float


class HeldOut(BaseModel):
    """Edges of the rose if what lies in the mouth's zone were all: one for each volume."""

    zone: int
    volumes_l: list[float]
    dry_from_g: list[list[float | None]]


class TiltOut(BaseModel):
    """The settled oil over a grid of loads, to be interpolated for the load pad.

    Rows go by forward, columns by leftward acceleration, both at `loads_g`. "Up" in the engine's
    frame is ``at_rest + fore_g · per_fore_g + side_g · per_side_g``, and the surface where
    ``point · up`` is the height.
    """

    loads_g: list[float]
    at_rest: tuple[float, float, float]
    per_fore_g: tuple[float, float, float]
    per_side_g: tuple[float, float, float]
    height_mm: list[list[float]]
    to_cover_l: list[list[float]]
    zones_l: list[list[list[float]]]


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


def lap_out(result: SettledForecast) -> SettledLapOut:
    """A lap in settled oil."""
    return SettledLapOut(
        verdict=verdict_out(result.verdict, result.dry_time),
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


def rose_out(pan: Pan, car: Car) -> RoseOut:
    """The cover rose."""
    rose = cover_rose(pan, car)
    return RoseOut(
        thrown_deg=[i * 360.0 / len(rose.edge) for i in range(len(rose.edge))],
        dry_from_g=_edge(rose.edge, rose.limit),
        limit_g=rose.limit,
    )


def held_out(pan: Pan, car: Car, rose: RoseOut) -> HeldOut:
    """The edges with what lies in the mouth's zone alone, at the directions of a rose."""
    held = held_edges(pan, car, len(rose.thrown_deg), rose.limit_g)
    return HeldOut(
        zone=held.zone,
        volumes_l=(held.volumes * 1e3).round(3).tolist(),
        dry_from_g=[_edge(edge, rose.limit_g) for edge in held.edges],
    )


def tilt_out(pan: Pan, car: Car, lap: SettledLapOut | None) -> TiltOut:
    """The table behind the load pad; it reaches beyond the highest load of the lap."""
    samples = lap.samples if lap else None
    highest = max(map(abs, [*samples.side_g, *samples.fore_g])) if samples else 0.0
    table = tilt_table(pan, car, limit=max(LEAST_PAD_G, math.ceil(11.0 * highest) / 10.0))
    return TiltOut(
        loads_g=table.loads.round(4).tolist(),
        at_rest=tuple(table.up_at_rest.round(7).tolist()),
        per_fore_g=tuple(table.up_per_forward_g.round(7).tolist()),
        per_side_g=tuple(table.up_per_leftward_g.round(7).tolist()),
        height_mm=(table.heights * 1e3).round(2).tolist(),
        to_cover_l=(table.to_cover * 1e3).round(3).tolist(),
        zones_l=(np.moveaxis(table.zones, 2, 0) * 1e3).round(3).tolist(),
    )
