"""All that `bilge check --json` tells."""

from __future__ import annotations

from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.forecast import SettledForecast
from bilge_core.forecast.moving import MovingForecast, Spread, moving_note
from bilge_core.forecast.settled import circuit_note, model_note
from bilge_core.loads.facts import LogFacts
from bilge_core.settled import VERSION as SETTLED
from bilge_core.tell.moving import MovingOut, figures_of, moving_out
from bilge_core.tell.numbers import SpacePoint, litres, mm, space_points
from bilge_core.tell.settled import RoseOut, SettledLapOut, lap_out, rose_out
from bilge_core.tell.verdict import DrainsVerdict, VerdictOut, with_drains


class ReadOut(BaseModel):
    """How the log was read, and what is to be doubted."""

    how: list[str]
    sentences: list[str]
    doubts: list[str]


class SpreadOut(BaseModel):
    """Starts that differ a little: dry time with its mean and the sample's deviation, and time in
    pressure dips; it holds when no start has one.
    """

    dry_s: list[float]
    under_s: list[float]
    holds: bool
    mean_s: float
    deviation_s: float


class CheckedOut(BaseModel):
    """A build over a lap: verdict, rose, and every sample; `moving` where it was asked for."""

    build: str
    model: str
    model_note: str
    circuit_note: str
    """What the forecast leaves out of the circuit; empty where there is nothing to say."""
    verdict: VerdictOut
    drains: DrainsVerdict | None
    """On settled oil; null where nothing drains by a line."""
    oil_in_pan_l: float
    capacity_to_rail_l: float
    standing_cover_mm: float
    log: ReadOut
    rose: RoseOut
    settled: SettledLapOut
    moving: MovingOut | None
    starts: SpreadOut | None
    centre_mm: list[SpacePoint]
    """Of the moving oil's mass, look by look."""


def spread_out(spread: Spread) -> SpreadOut:
    """Dry time over starts."""
    return SpreadOut(
        dry_s=[round(dry, 3) for dry in spread.dry],
        under_s=[round(under, 3) for under in spread.under],
        holds=spread.holds,
        mean_s=round(spread.mean, 3),
        deviation_s=round(spread.deviation, 3),
    )


def checked_out(
    build: Build,
    settled: SettledForecast,
    moving: tuple[MovingForecast, Spread] | None,
    facts: LogFacts,
    how: tuple[str, ...],
    drains: DrainsVerdict | None,
) -> CheckedOut:
    """A build over a lap; the verdict is that of moving oil where it moves, drains weighed in."""
    pan = settled.pan
    lap = lap_out(settled)
    told = moving_out(figures_of(moving[0])) if moving else None
    oil = told.verdict if told else lap.verdict
    return CheckedOut(
        build=build.name,
        model=told.model if told else SETTLED,
        circuit_note=circuit_note(build),
        model_note=moving_note(moving[0].fineness) if moving else model_note(build),
        verdict=oil if drains is None else with_drains(oil, drains),
        drains=drains,
        oil_in_pan_l=litres(pan.oil_volume),
        capacity_to_rail_l=litres(pan.capacity_to_rail),
        standing_cover_mm=mm(settled.standing.cover, 1),
        log=ReadOut(how=list(how), sentences=list(facts.sentences), doubts=list(facts.doubts)),
        rose=rose_out(pan, build.car),
        settled=lap,
        moving=told,
        starts=spread_out(moving[1]) if moving else None,
        centre_mm=space_points(moving[0].lap.centre) if moving else [],
    )
