"""What the engine holds while it runs: what is not in the pan."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.remembered import remembered
from bilge_core.network.assembly import Network, network_of
from bilge_core.network.oil import learned_up_top
from bilge_core.network.running import settled_in, steady
from bilge_core.network.way_back import WayBack, way_back_of
from bilge_core.physics.arrays import Array

_FELT: dict[str, Any] = {
    "circuit": True,
    "pickup": True,
    "car": {"top_rpm"},
    "oil": {"grade", "temperature_c", "away_l"},
    "learned": True,
}


@dataclass(frozen=True)
class Held:
    """Oil outside the pan, running level and steadily.

    speed : of the crank [rad/s]
    pressed : under pressure: filter, cooler, galleries, lines, bottle, the pickup's tube [m3]
    up_top : in heads and chests, on their way down [m3]
    thrown : off the crank, on its way down [m3]
    builders : what the builder says is away [m3]
    learned : up top beyond what the circuit tells of, by the track book [m3]
    coming_back : in a dry sump's lines, coolers and separator between pan and tank [m3]
    """

    speed: float
    pressed: float
    up_top: float
    thrown: float
    builders: float
    learned: float = 0.0
    coming_back: float = 0.0

    @property
    def aloft(self) -> float:
        """On its way down or lying up top: what comes back when the engine stops [m3]."""
        return self.up_top + self.thrown + self.learned

    @property
    def total(self) -> float:
        """All of it [m3]."""
        return self.pressed + self.aloft + self.coming_back


def held_words(held: Held) -> str:
    """What the engine holds and where, beside what its builder says.

    Examples
    --------
    >>> held_words(Held(400.0, 1.4e-3, 0.8e-3, 0.5e-3, 2.1e-3))
    '2.7 L: 1.4 under pressure, 0.8 in the heads, 0.5 off the crank; its builder says 2.1'
    """
    litres = [each * 1e3 for each in (held.total, held.pressed, held.up_top, held.thrown)]
    gap = f"; its builder says {held.builders * 1e3:.1f}" if held.builders else ""
    learned = f", {held.learned * 1e3:+.1f} by the track book" if held.learned else ""
    back = f", {held.coming_back * 1e3:.1f} coming back to the tank" if held.coming_back else ""
    return (
        f"{litres[0]:.1f} L: {litres[1]:.1f} under pressure, {litres[2]:.1f} in the heads, "
        f"{litres[3]:.1f} off the crank{back}{learned}{gap}"
    )


def shares_at(way: WayBack, network: Network, speed: float) -> Array:
    """Share of oil in each section of a way back at a speed [rad/s], run steadily, shape (k,)."""
    return way.steady_shares(float(steady(network).drawn_at(np.array(speed))), speed)


def running_shares(build: Build, way: WayBack) -> Array:
    """Share of oil in each section of a build's way back at its usual running speed, shape (k,)."""
    network = network_of(build)
    return shares_at(way, network, network.running)


@remembered(lambda build: build.model_dump_json(include=_FELT), most=256)
def held_running(build: Build, speed: float | None = None) -> Held:
    """What a build's engine holds running steadily, level, oil hot.

    Parameters
    ----------
    build : Build
    speed : float, optional
        Of the crank [rad/s]; the usual running speed when not given.

    Returns
    -------
    Held

    Raises
    ------
    InvalidInput
        If its circuit cannot be run, with the field named.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> held = held_running(read_build(Path("demo/dunlin.json").read_text()))
    >>> 2.0e-3 < held.total < 2.5e-3
    True
    """
    network = network_of(build)
    speed = network.running if speed is None else speed
    state = settled_in(network, speed)
    thrown = state.vessels["is_floor"] == 0
    vessels = state.in_vessels
    pressed = float(state.nodes["liquid"].sum()) + state.in_tube
    way = way_back_of(build)
    return Held(
        speed,
        pressed,
        float(vessels[~thrown].sum()),
        float(vessels[thrown].sum()),
        build.oil.away_l * 1e-3,
        learned_up_top(build),
        0.0 if way is None else way.holds(shares_at(way, network, speed)),
    )
