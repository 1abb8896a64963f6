"""The circuit alone over a lap, and how much each guess in it moves the forecast."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import BilgeError
from bilge_core.forecast.dips import find_dips
from bilge_core.forecast.pressure import PressureOverLap, find_pressure_dips
from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.log import Log
from bilge_core.network import (
    GUESSES,
    Guess,
    Network,
    met_over,
    network_of,
    settled_in,
    steady,
)
from bilge_core.network.held import shares_at
from bilge_core.network.way_back import way_back_of
from bilge_core.pan import Pan, assemble_pan, running_oil
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity
from bilge_core.settled import settle_lap

_STEP = 0.01  # [s] of the circuit alone over a lap (ours)


@dataclass(frozen=True)
class Alone:
    """The circuit over a lap, on a gas share at the mouth that was had elsewhere.

    pressure : PressureOverLap
    held : oil in the engine, mean over the lap [m3]
    """

    pressure: PressureOverLap
    held: float


@dataclass(frozen=True)
class Swing:
    """How far a guess moves a forecast over its likely range: at its low end and at its high.

    guess : Guess
    dry : dry time by settled oil [s]
    lowest : pressure at its worst moment beside what is usual there [-]
    held : oil in the running engine and on a dry sump's way back, level [m3]
    """

    guess: Guess
    dry: tuple[float, float]
    lowest: tuple[float, float]
    held: tuple[float, float]

    @property
    def matters(self) -> float:
        """To put the greatest first: seconds of dry time and shares of pressure, a second as much
        as all of the pressure (ours).
        """
        return abs(self.dry[1] - self.dry[0]) + abs(self.lowest[1] - self.lowest[0])


def circuit_over(
    build: Build, log: Log, gas_share: Array, corners: tuple[Corner, ...], network: Network
) -> Alone:
    """Run a build's circuit over a lap's speeds and loads.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    gas_share : ndarray, shape (n,)
        At the mouth, at the log's samples: from settled oil, or from a run in moving oil.
    corners : tuple of Corner
    network : Network
        Of the build.

    Returns
    -------
    Alone

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> time = np.arange(0.0, 5.0, 0.02)
    >>> log = Log(time, *np.zeros((3, 250)), np.full(250, 500.0))
    >>> alone = circuit_over(build, log, np.zeros(250), (), network_of(build))
    >>> alone.pressure.dips
    ()
    """
    felt = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    met = met_over(log.time, log.engine_speed, felt, log.time, gas_share, _STEP)
    begin = met.settled(network)
    trace = met.run(network, begin)
    pressure = np.interp(log.time - log.time[0], met.time, trace.pressure[:, network.gallery])
    usual = steady(network).gallery_at(log.engine_speed)
    held = begin.held + float(np.mean(trace.held.sum(axis=1)) - begin.in_vessels.sum())
    return Alone(find_pressure_dips(log, pressure, usual, corners), held)


def _once(
    build: Build, pan: Pan, log: Log, corners: tuple[Corner, ...], instead: Mapping[str, float]
) -> tuple[float, float, float]:
    """Dry time [s], worst share of usual pressure, oil held [m3], some guesses being otherwise."""
    network = network_of(build, instead)
    held = settled_in(network, network.running).held
    if (way := way_back_of(build, instead)) is not None:
        held += way.holds(shares_at(way, network, network.running))
    filled = pan  # a dry sump's pan has what its stages leave
    if not build.circuit.is_dry:
        filled = replace(pan, oil_volume=max(running_oil(build) - held, 1e-5))
    lap = settle_lap(filled, build, log)
    dry = find_dips(log, lap.cover, lap.gas_share, corners).dry
    pressure = circuit_over(build, log, lap.gas_share, corners, network).pressure
    return dry, pressure.lowest / max(pressure.usual, 1.0), held


def swings(build: Build, log: Log, corners: tuple[Corner, ...] | None = None) -> tuple[Swing, ...]:
    """How far each guess that a build's circuit rests on moves its forecast, the greatest first.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    corners : tuple of Corner, optional

    Returns
    -------
    tuple of Swing

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.

    Notes
    -----
    Dry time is that of settled oil in a pan that has what the engine leaves it; pressure is the
    circuit's alone on the gas that settled oil lets in. One guess at a time, the others likely.
    """
    corners = find_corners(log) if corners is None else corners
    pan = assemble_pan(build)
    found = []
    way = way_back_of(build)
    back = () if way is None else way.taken
    for key in dict.fromkeys((*network_of(build).taken, *back)):
        guess = GUESSES[key]
        ends = []
        for value in (guess.low, guess.high):
            try:
                ends.append(_once(build, pan, log, corners, {key: value}))
            except BilgeError:
                break
        if len(ends) == 2:
            low, high = ends
            found.append(Swing(guess, (low[0], high[0]), (low[1], high[1]), (low[2], high[2])))
    return tuple(sorted(found, key=lambda swing: -swing.matters))
