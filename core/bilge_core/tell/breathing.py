"""Blow-by and where it goes, as everybody reads it."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.forecast.back_ups import DrainsForecast
from bilge_core.network.drain_guesses import DRAIN_GUESSES
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.tell.numbers import thinned


class GasWayOut(BaseModel):
    """A way for gas: what goes through it at full power, and for how long oil is over its port."""

    run: str
    name: str
    start: str
    end: str
    flow_l_min: float
    placed: bool
    under_s: float


class BreathingOut(BaseModel):
    """Blow-by and where it goes."""

    blow_by_l_min: float
    at_rpm: float
    measured: bool
    highest_mbar: float
    usual_mbar: float
    case_mbar: list[float]
    ways: list[GasWayOut]
    carried_ml: float
    mist_ml_h: float
    mist_band_ml_h: tuple[float, float]
    baffled_ml_h: float
    baffled_band_ml_h: tuple[float, float]


_HOUR = 3600.0
_OIL_DENSITY = 850.0  # [kg/m3] of what settles in a can, cold (from memory)


def breathing_out(build: Build, forecast: DrainsForecast, tried: bool) -> BreathingOut:
    """A build's breathing over a lap; `tried`: its blow-by is one that somebody tries."""
    highest = float(forecast.blow_by.max())
    out = float(forecast.let_out.max())
    flows = forecast.breathing.flows(out, forecast.breathing.pressures(out))
    step = float(forecast.log.time[1] - forecast.log.time[0])
    case = next((each for each in build.circuit.components if each.kind == "crankcase"), None)
    measured = not tried and getattr(case, "blow_by_l_min", None) is not None
    mist, baffle = DRAIN_GUESSES["mist"], DRAIN_GUESSES["behind_baffle"]
    mean = float(forecast.blow_by.mean()) * _HOUR / _OIL_DENSITY * 1e6
    fastest = int(np.argmax(forecast.blow_by))
    return BreathingOut(
        blow_by_l_min=round(highest * 60e3, 1),
        at_rpm=round(float(rpm_of_speed(forecast.log.engine_speed[fastest])), 0),
        measured=measured,
        highest_mbar=round(float(forecast.case.pressure.max()) / 100.0, 2),
        usual_mbar=round(float(np.median(forecast.case.pressure)) / 100.0, 2),
        case_mbar=thinned(forecast.case.pressure, 0.01, 2),
        ways=[
            GasWayOut(
                run=way.run, name=way.name, start=way.start, end=way.end,
                flow_l_min=round(flows[way.run] * 60e3, 1), placed=way.port is not None,
                under_s=round(float((forecast.under[way.run] > 0.0).sum()) * step, 2)
                if way.run in forecast.under else 0.0,
            )
            for way in forecast.breathing.ways
        ],
        carried_ml=round(float(forecast.case.carried[-1]) * 1e6, 0),
        mist_ml_h=round(mean * mist.likely, 1),
        mist_band_ml_h=(round(mean * mist.low, 1), round(mean * mist.high, 1)),
        baffled_ml_h=round(mean * mist.likely * baffle.likely, 1),
        baffled_band_ml_h=(
            round(mean * mist.likely * baffle.low, 1), round(mean * mist.likely * baffle.high, 1)
        ),
    )  # fmt: skip
