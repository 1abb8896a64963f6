"""Drains that a stage pulls for itself alone, as everybody reads them."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel

from bilge_core.forecast.pulled import PulledForecast
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.rules.drains import STAGE_CARRIES, STAGE_SUCTION


class PulledOut(BaseModel):
    """A drain with a stage of its own: by rpm what comes, foam and all, and what is swept."""

    run: str
    component: str
    name: str
    stage: str
    foam: float
    rpm: list[float]
    comes_l_min: list[float]
    sweeps_l_min: list[float]
    share: float
    share_at_rpm: float
    suction_kpa: float
    state: Literal["good", "caution", "bad"]


def pulled_state(told: PulledForecast) -> Literal["good", "caution", "bad"]:
    """Whether its stage takes all that comes, and its line pulls easily."""
    if not STAGE_CARRIES.holds(float(told.share.max())):
        return "bad"
    return "good" if STAGE_SUCTION.holds(told.suction) else "caution"


def pulled_out(told: PulledForecast) -> PulledOut:
    """A drain with a stage of its own."""
    rpm = rpm_of_speed(told.feed.speed)
    worst = int(np.argmax(told.share))
    return PulledOut(
        run=told.pulled.run, component=told.pulled.component, name=told.pulled.name,
        stage=told.pulled.stage.name, foam=round(1.0 - 1.0 / told.oil.swells, 2),
        rpm=rpm.round(0).tolist(),
        comes_l_min=(told.feed.flow * told.oil.swells * 60e3).round(2).tolist(),
        sweeps_l_min=(told.sweeps * 60e3).round(2).tolist(),
        share=round(float(told.share[worst]), 3), share_at_rpm=round(float(rpm[worst]), 0),
        suction_kpa=round(told.suction / 1e3, 1), state=pulled_state(told),
    )  # fmt: skip
