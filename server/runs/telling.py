"""A forecast in moving oil as figures to keep."""

from __future__ import annotations

from bilge_core.forecast.moving import MovingForecast
from forecasts.services import dip_out, verdict_out

from runs.schemas import KeptFigures, MovingSamplesOut, Summary


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
        verdict=verdict_out(forecast.verdict, forecast.dry_time),
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
            litres={name: litres[:, n].tolist() for n, name in enumerate(lap.region_names)},
            gates_open={
                name: lap.gates_open[:, n].round(2).tolist()
                for n, name in enumerate(lap.gate_names)
            },
        ),
    )
