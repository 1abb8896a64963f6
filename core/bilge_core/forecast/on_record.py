"""A circuit over a lap, on the record of what a pickup's mouth drew there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.forecast.pressure import PressureOverLap, find_pressure_dips
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log, at_times
from bilge_core.network import (
    GUESSES,
    Met,
    Network,
    Trace,
    between_looks,
    met_over,
    network_of,
    steady,
)
from bilge_core.network.records import Flowing
from bilge_core.network.running import STEP, slips_on_gas, suction_of
from bilge_core.pan import running_oil
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity
from bilge_core.rules.preview import DRAW_APART, OIL_APART


@dataclass(frozen=True)
class Record:
    """What a mouth drew over a lap: of a run in moving oil, or of settled oil.

    time : shape (n,), the log's own [s]
    gas_share : of what it drew, shape (n,)
    """

    time: Array
    gas_share: Array

    @classmethod
    def of_looks(cls, time: Array, swallowed: Array) -> Record:
        """Of a lap in moving oil: its looks [s], and what was swallowed before each.

        Examples
        --------
        >>> Record.of_looks(np.array([0.0, 0.02]), np.array([0.0, 0.4])).time.tolist()
        [0.0, 0.01, 0.02]
        """
        return cls(*between_looks(time, swallowed))


def meets(build: Build, log: Log, record: Record, step: float = STEP) -> Met:
    """What a build's circuit meets over a log, on a record of the same lap.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    record : Record
    step : float
        [s]

    Returns
    -------
    Met

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 1.01, 0.1), *np.zeros((3, 11)), np.full(11, 400.0))
    >>> len(meets(build, log, Record(log.time, np.zeros(11))).gas)
    200
    """
    felt = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    return met_over(log.time, log.engine_speed, felt, record.time, record.gas_share, step)


@dataclass(frozen=True)
class CircuitLap:
    """A circuit over a lap.

    network : Network
    met : Met, what it met
    begin : Flowing, settled in as the lap begins
    log : Log, at the ends of the trace's steps
    trace : Trace
    usual : what the gallery steadily has at that speed, mouth covered, shape (n,) [Pa]
    pressure : PressureOverLap
    """

    network: Network
    met: Met
    begin: Flowing
    log: Log
    trace: Trace
    usual: Array
    pressure: PressureOverLap

    @property
    def gallery(self) -> Array:
        """Pressure in the main gallery, over the air's, shape (n,) [Pa]."""
        return self.trace.pressure[:, self.network.gallery]

    @property
    def drawn(self) -> Array:
        """Oil and gas at the mouth, shape (n,) [m3/s]."""
        return self.trace.flow[:, suction_of(self.network)]

    @property
    def held(self) -> Array:
        """Oil outside the pan, but for the pickup's tube, shape (n,) [m3]."""
        volume = self.network.still.nodes["volume"]
        pressed = (volume * (1.0 - self.trace.gas)).sum(axis=1)
        return np.asarray(pressed + self.trace.charge.sum(axis=1) + self.trace.held.sum(axis=1))


def circuit_lap(
    build: Build,
    log: Log,
    record: Record,
    corners: tuple[Corner, ...],
    network: Network | None = None,
    step: float = STEP,
    band: bool = True,
) -> CircuitLap:
    """Run a build's circuit over a lap on a record.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    record : Record
        Of the same lap.
    corners : tuple of Corner
    network : Network, optional
        Of the build, where something in it is to be otherwise.
    step : float
        [s]
    band : bool
        Whether to tell the lowest pressure for a pump that slips more on gas, and less.

    Returns
    -------
    CircuitLap

    Raises
    ------
    InvalidInput
        If the circuit cannot be run, with the field named.

    Notes
    -----
    What another circuit would change in the pan is left out: see `apart`.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 5.01, 0.1), *np.zeros((3, 51)), np.full(51, 500.0))
    >>> gas = np.where((log.time > 2.0) & (log.time < 3.0), 0.8, 0.0)
    >>> lap = circuit_lap(build, log, Record(log.time, gas), ())
    >>> len(lap.pressure.dips)
    1
    """
    network = network_of(build) if network is None else network
    met = meets(build, log, record, step)
    begin = met.settled(network)
    trace = met.run(network, begin)
    there = at_times(log, record.time[0] + met.time)
    usual = steady(network).gallery_at(there.engine_speed)
    around = None
    if band:
        slip = GUESSES["sealing_oil"]
        low, high = (slips_on_gas(network, each) for each in (slip.low, slip.high))
        around = (
            met.run(low).pressure[:, network.gallery],
            met.run(high).pressure[:, network.gallery],
        )
    gallery = trace.pressure[:, network.gallery]
    pressure = find_pressure_dips(there, gallery, usual, corners, around)
    return CircuitLap(network, met, begin, there, trace, usual, pressure)


@dataclass(frozen=True)
class Apart:
    """How far two circuits are apart as their pan feels them.

    oil : more in the pan as the lap begins [m3]
    draw : at the mouth, mean of what it differs by over the lap [m3/s]
    """

    oil: float
    draw: float

    @property
    def is_little(self) -> bool:
        """So little that the pan's oil of one stands for that of the other."""
        return OIL_APART.holds(abs(self.oil)) and DRAW_APART.holds(self.draw)


def apart(build: Build, lap: CircuitLap, other: Build, other_lap: CircuitLap) -> Apart:
    """How far a build's circuit is from that of a build with the same pan, over a lap.

    Parameters
    ----------
    build : Build
    lap : CircuitLap
        Of it, on a record of the other's.
    other : Build
        That the record is of.
    other_lap : CircuitLap
        Of that, on its own record, in steps as long.

    Returns
    -------
    Apart

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 2.01, 0.1), *np.zeros((3, 21)), np.full(21, 500.0))
    >>> lap = circuit_lap(build, log, Record(log.time, np.zeros(21)), ())
    >>> apart(build, lap, build, lap)
    Apart(oil=0.0, draw=0.0)
    """
    oil = in_pan(build, lap) - in_pan(other, other_lap)
    return Apart(oil, float(np.mean(np.abs(lap.drawn - other_lap.drawn))))


def in_pan(build: Build, lap: CircuitLap) -> float:
    """Oil in a build's pan as its lap begins [m3]: all, hot, less what the engine holds."""
    return running_oil(build) - lap.begin.held
