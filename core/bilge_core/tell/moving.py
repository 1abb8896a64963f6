"""A forecast in moving oil, as everybody reads it."""

from __future__ import annotations

from pydantic import BaseModel

from bilge_core.forecast.moving import MovingForecast, moving_name, moving_note
from bilge_core.moving import Fineness
from bilge_core.tell.verdict import (
    DipOut,
    PressureOut,
    VerdictOut,
    dip_out,
    pressure_out,
    verdict_out,
)


class Summary(BaseModel):
    """What a run gave, in short."""

    verdict: VerdictOut
    dry_s: float
    least_cover_mm: float
    crank_in_oil_s: float
    lowest_bar: float | None = None


class MovingSamplesOut(BaseModel):
    """What was seen fifty times a second."""

    time_s: list[float]
    cover_mm: list[float]
    gas_share: list[float]
    crank_l: list[float]
    litres: dict[str, list[float]]
    pressure_bar: list[float] = []
    usual_bar: list[float] = []
    drawn_l_min: list[float] = []
    swallowed: list[float] = []
    """Share of gas in what was drawn since the look before."""
    up_top_l: list[float] = []
    """In heads, chests and off the crank, on its way down."""
    held_l: list[float] = []
    """Empty in figures of before the circuit was run along."""
    gates_open: dict[str, list[float]]


class KeptFigures(Summary):
    """What a run gave, as it is kept."""

    cells: Fineness
    duration_s: float
    draws_air_s: float
    least_cover_at_s: float
    dips: list[DipOut]
    pressure: PressureOut | None = None
    """Null in figures of before the circuit was run along."""
    passed_l: dict[str, float]
    samples: MovingSamplesOut


class MovingOut(KeptFigures):
    """What a run gave, with the model's name and what it leaves out."""

    model: str
    note: str


def summary_of(figures: KeptFigures) -> Summary:
    """What lists show of a finished run."""
    return Summary(**figures.model_dump(include=set(Summary.model_fields)))


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
        draws_air_s=round(forecast.dry_time.draws_air, 3),
        least_cover_mm=round(forecast.least_cover * 1e3, 1),
        least_cover_at_s=round(forecast.least_cover_at, 3),
        crank_in_oil_s=round(lap.crank_time(), 2),
        dips=[dip_out(rank, dip) for rank, dip in enumerate(forecast.dry_time.dips, start=1)],
        passed_l={name: round(float(passed[n]), 3) for n, name in enumerate(lap.opening_names)},
        samples=MovingSamplesOut(
            time_s=lap.time.round(3).tolist(),
            cover_mm=(lap.cover * 1e3).round(1).tolist(),
            gas_share=lap.gas_share.round(3).tolist(),
            crank_l=(lap.crank * 1e3).round(3).tolist(),
            pressure_bar=(lap.pressure / 1e5).round(2).tolist(),
            usual_bar=(lap.usual / 1e5).round(2).tolist(),
            drawn_l_min=(lap.drawn * 60e3).round(1).tolist(),
            swallowed=lap.swallowed.round(4).tolist(),
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
