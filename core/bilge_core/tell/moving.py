"""A forecast in moving oil, as everybody reads it."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, model_validator

from bilge_core.forecast.moving import MouthForecast, MovingForecast, moving_name, moving_note
from bilge_core.forecast.windage import Likely, Windage, thrown_against
from bilge_core.moving import Fineness
from bilge_core.moving.seen import MOUTHS, MouthOverLap
from bilge_core.rules.crank import SPLASH
from bilge_core.tell.verdict import (
    DipOut,
    PressureOut,
    VerdictOut,
    dip_out,
    pressure_out,
    verdict_out,
)


class LikelyOut(BaseModel):
    """A guess, and between which it likely lies."""

    low: float
    likely: float
    high: float


class WindageOut(BaseModel):
    """What the crank throws, on average: our own estimate, checked against no measurement."""

    reached_l: float
    """Oil in the crank's sweep."""
    thrown_l_min: LikelyOut
    power_kw: LikelyOut


class Summary(BaseModel):
    """What a run gave, in short."""

    verdict: VerdictOut
    dry_s: float
    least_cover_mm: float
    crank_in_oil_s: float
    lowest_bar: float | None = None
    windage: WindageOut | None = None
    """Null in figures of before it was told, and where the crank's place is not known."""


RECORD = 2
"""Of what is kept of a run: 1 had one mouth, its figures beside all others; it is read still."""


class MouthSamplesOut(BaseModel):
    """What one mouth saw fifty times a second."""

    cover_mm: list[float]
    gas_share: list[float]
    drawn_l_min: list[float] = []
    swallowed: list[float] = []
    """Share of gas in what was drawn since the look before."""


class MouthLapOut(BaseModel):
    """One mouth over the lap, by its place: the one that feeds the gallery first."""

    name: str
    dry_s: float
    draws_air_s: float
    least_cover_mm: float
    least_cover_at_s: float
    dips: list[DipOut]
    samples: MouthSamplesOut


class MovingSamplesOut(BaseModel):
    """What was seen fifty times a second, of all but the mouths."""

    time_s: list[float]
    crank_l: list[float]
    litres: dict[str, list[float]]
    tank_l: list[float] = []
    """In a dry sump's tank; empty for a wet one."""
    centre_ahead_mm: list[float] = []
    centre_left_mm: list[float] = []
    near_l: list[float] = []
    """The oil's middle in the engine's frame, and what of it is near the mouth; empty in figures of
    before.
    """
    pressure_bar: list[float] = []
    usual_bar: list[float] = []
    up_top_l: list[float] = []
    """In heads, chests and off the crank, on its way down."""
    held_l: list[float] = []
    """Empty in figures of before the circuit was run along."""
    gates_open: dict[str, list[float]]


class KeptFigures(Summary):
    """What a run gave, as it is kept."""

    record: int = RECORD
    cells: Fineness
    duration_s: float
    mouths: list[MouthLapOut]
    pressure: PressureOut | None = None
    """Null in figures of before the circuit was run along."""
    passed_l: dict[str, float]
    samples: MovingSamplesOut

    @model_validator(mode="before")
    @classmethod
    def _of_one_mouth(cls, kept: Any) -> Any:
        """A record of before there could be several: its one mouth in a list."""
        if not isinstance(kept, dict) or "mouths" in kept or "samples" not in kept:
            return kept
        samples = dict(kept["samples"])
        seen = {key: samples.pop(key) for key in MouthSamplesOut.model_fields if key in samples}
        found = {key: kept[key] for key in MouthLapOut.model_fields if key in kept}
        mouth = {**found, "name": MOUTHS[0], "samples": seen}
        return {**kept, "record": RECORD, "mouths": [mouth], "samples": samples}


class MovingOut(KeptFigures):
    """What a run gave, with the model's name and what it leaves out."""

    model: str
    note: str


def summary_of(figures: KeptFigures) -> Summary:
    """What lists show of a finished run."""
    return Summary(**figures.model_dump(include=set(Summary.model_fields)))


def _mouth_lap_out(found: MouthForecast, seen: MouthOverLap) -> MouthLapOut:
    return MouthLapOut(
        name=found.name,
        dry_s=round(found.dry_time.dry, 3),
        draws_air_s=round(found.dry_time.draws_air, 3),
        least_cover_mm=round(found.least_cover * 1e3, 1),
        least_cover_at_s=round(found.least_cover_at, 3),
        dips=[dip_out(rank, dip) for rank, dip in enumerate(found.dry_time.dips, start=1)],
        samples=MouthSamplesOut(
            cover_mm=(seen.cover * 1e3).round(1).tolist(),
            gas_share=seen.gas_share.round(3).tolist(),
            drawn_l_min=(seen.drawn * 60e3).round(1).tolist(),
            swallowed=seen.swallowed.round(4).tolist(),
        ),
    )


def _likely_out(found: Likely, scale: float, digits: int) -> LikelyOut:
    low, likely, high = (
        round(each * scale, digits) for each in (found.low, found.likely, found.high)
    )
    return LikelyOut(low=low, likely=likely, high=high)


def windage_out(found: Windage) -> WindageOut:
    """Rounded to what a guess is worth."""
    return WindageOut(
        reached_l=round(found.reached * 1e3, 3),
        thrown_l_min=_likely_out(found.thrown, 60e3, 1),
        power_kw=_likely_out(found.power, 1e-3, 2),
    )


def throws_any(windage: WindageOut) -> bool:
    """Whether the crank reaches more than a splash."""
    return windage.reached_l * 1e-3 > SPLASH.most


def thrown_beside(here: WindageOut, there: WindageOut, name: str) -> str:
    """What the crank throws beside what it throws of another; empty where neither throws any."""
    return thrown_against(here.reached_l * 1e-3, there.reached_l * 1e-3, name) or ""


def figures_of(forecast: MovingForecast) -> KeptFigures:
    """What is kept of a finished run."""
    lap = forecast.lap
    litres = (lap.regions * 1e3).round(3)
    passed = lap.passed[-1] * 1e3
    return KeptFigures(
        cells=forecast.fineness,
        verdict=verdict_out(forecast.verdict, forecast.dry_time, forecast.pressure),
        lowest_bar=round(forecast.pressure.lowest / 1e5, 2),
        pressure=pressure_out(forecast.pressure),
        duration_s=round(forecast.log.duration, 3),
        dry_s=round(forecast.dry_time.dry, 3),
        least_cover_mm=round(forecast.mouth.least_cover * 1e3, 1),
        crank_in_oil_s=round(lap.crank_time(), 2),
        windage=windage_out(forecast.windage) if forecast.windage else None,
        mouths=[
            _mouth_lap_out(found, seen)
            for found, seen in zip(forecast.mouths, lap.mouths, strict=True)
        ],
        passed_l={name: round(float(passed[n]), 3) for n, name in enumerate(lap.opening_names)},
        samples=MovingSamplesOut(
            time_s=lap.time.round(3).tolist(),
            crank_l=(lap.crank * 1e3).round(3).tolist(),
            tank_l=(lap.in_tank * 1e3).round(3).tolist() if lap.in_tank.any() else [],
            near_l=(lap.near * 1e3).round(2).tolist(),
            centre_ahead_mm=(lap.centre[:, 0] * 1e3).round().tolist(),
            centre_left_mm=(lap.centre[:, 1] * 1e3).round().tolist(),
            pressure_bar=(lap.pressure / 1e5).round(2).tolist(),
            usual_bar=(lap.usual / 1e5).round(2).tolist(),
            up_top_l=(lap.vessels.sum(axis=1) * 1e3).round(2).tolist(),
            held_l=(lap.held * 1e3).round(3).tolist(),
            litres={name: litres[:, n].tolist() for n, name in enumerate(lap.region_names)},
            gates_open={
                name: lap.gates_open[:, n].round(2).tolist()
                for n, name in enumerate(lap.gate_names)
            },
        ),
    )


def moving_out(kept: KeptFigures) -> MovingOut:
    """The same with the model's name and note."""
    return MovingOut(
        **kept.model_dump(), model=moving_name(kept.cells), note=moving_note(kept.cells)
    )
