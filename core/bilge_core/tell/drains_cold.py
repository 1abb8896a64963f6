"""Drains just after a cold start, as everybody reads them."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.drains.feeds import feeds_of
from bilge_core.drains.laid import Drains
from bilge_core.drains.standing import Load, capacity
from bilge_core.network import network_of
from bilge_core.network.conditions import at_temperature
from bilge_core.physics.turns import speed_of_rpm

_COLD_C = 20.0  # [°C] of a start on a mild day (ours)
_IDLE, _REVVED = (float(speed_of_rpm(rpm)) for rpm in (900.0, 3000.0))
"""[rad/s] of a cold engine that idles, and of one that somebody revs (ours)."""


class ColdOut(BaseModel):
    """A drain just after a cold start, standing: what is fed at idle and when it is first revved,
    and what it carries, without foam."""

    temperature_c: float
    idle_l_min: float
    revved_l_min: float
    carries_l_min: float


def cold_out(build: Build, drains: Drains, standing: Load) -> dict[str, ColdOut]:
    """Every drain just after a cold start, by its first run's id."""
    cold = at_temperature(build, _COLD_C)
    network = network_of(cold)
    feeds = feeds_of(cold, drains, network)
    told = {}
    for drain in drains.placed:
        if drain.run in feeds:
            idle, revved = feeds[drain.run].at(np.array([_IDLE, _REVVED])) * 60e3
            carries = capacity(drain.line, drain.oil(network, 0.0), drain.under(standing)) * 60e3
            told[drain.run] = ColdOut(
                temperature_c=_COLD_C, idle_l_min=round(float(idle), 2),
                revved_l_min=round(float(revved), 2), carries_l_min=round(carries, 2),
            )  # fmt: skip
    return told
