"""An engine that stops: what its accumulator gives back, and how high the oil then stands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.crank import crank_gap
from bilge_core.document.build import Build
from bilge_core.network import Network, held_running, run
from bilge_core.network.records import Flowing
from bilge_core.network.running import LEVEL
from bilge_core.pan import assemble_pan, hot_oil, level_of_volume
from bilge_core.pan.filling import LYING
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_up

_STOPS_IN = 60.0  # [s] after the engine has stopped that are looked at (ours)
_STOP_STEP = 0.02  # [s]


@dataclass(frozen=True)
class Stopped:
    """What becomes of a bottle's oil when the engine stops with its valve open.

    kept_at_speed : oil in it at the usual running speed: what a valve shut there keeps [m3]
    kept_at_idle : at idle [m3]
    time : since the engine stands, shape (n,) [s]
    left : oil in it, shape (n,) [m3]
    through_pump : of it that went back through the pump to the pan in that time [m3]
    """

    kept_at_speed: float
    kept_at_idle: float
    time: Array
    left: Array
    through_pump: float

    @property
    def lands(self) -> float:
        """Oil that lands in the sump beside what is there with the valve shut at speed [m3]."""
        return self.kept_at_speed - float(self.left[-1])


def stopped(network: Network, at_speed: Flowing, at_idle: Flowing, bottle: int = 0) -> Stopped:
    """Stop an engine at idle with its bottle's valve open.

    Parameters
    ----------
    network : Network
    at_speed, at_idle : Flowing
        Settled in at the usual running speed, and at idle.
    bottle : int

    Returns
    -------
    Stopped
    """
    steps = round(_STOPS_IN / _STOP_STEP)
    drawn = at_idle.whole["drawn_oil"][0]
    trace = run(
        network, at_idle, np.zeros(steps), np.tile(LEVEL, (steps, 1)), np.zeros(steps), _STOP_STEP
    )
    back = float(drawn - trace.end.whole["drawn_oil"][0])
    return Stopped(
        float(at_speed.charges[bottle]), float(at_idle.charges[bottle]), trace.time,
        trace.charge[:, bottle], max(back, 0.0),
    )  # fmt: skip


@dataclass(frozen=True)
class Standing:
    """How high oil stands in the pan of a car at rest, its engine stopped.

    volume : in the pan [m3]
    level : above the pan's lowest point [m]; None: more than pan and skirt hold
    over_mark : above where it stands at the mark [m]; None: no mark is known
    under_crank : below the circle that the crank sweeps [m], negative in it; None: not given
    """

    volume: float
    level: float | None
    over_mark: float | None
    under_crank: float | None


def standing(build: Build, more: float = 0.0) -> Standing:
    """Where the oil of a stopped engine stands, what is under pressure staying where it is.

    Parameters
    ----------
    build : Build
    more : float
        In the pan besides, such as what a bottle gives back [m3].

    Returns
    -------
    Standing

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.

    Notes
    -----
    Heads and crankcase have drained; filter, cooler, lines and bottle have not. Oil is hot. Of a
    dry sump what was up top and on its way back to the tank has come down: the tank keeps its own.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> stands, higher = standing(build), standing(build, 0.5e-3)
    >>> 0.005 < higher.level - stands.level < 0.02
    True
    """
    pan = assemble_pan(build)
    up = standing_up(build.car)
    lowest = float((pan.solid.vertices @ up).min())
    room = pan.solid.volume
    hot, held = hot_oil(build), held_running(build)
    stays, mark = held.pressed, None
    volume = hot - stays + more
    if build.circuit.is_dry:
        volume = LYING + held.aloft + held.coming_back + more

    def height(litres: float) -> float | None:
        return level_of_volume(pan.solid, up, litres) if 0.0 < litres < room else None

    level = height(volume)
    if build.oil.mark_l is not None and not build.circuit.is_dry:
        mark = height(hot * build.oil.mark_l / build.oil.volume_l - stays)
    crank = build.car.crank
    under = None
    if crank is not None and level is not None:
        under = float(crank_gap(crank, up[None, :], np.array([level]))[0])
    return Standing(
        volume,
        None if level is None else level - lowest,
        None if level is None or mark is None else level - mark,
        under,
    )
