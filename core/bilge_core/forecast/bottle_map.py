"""The lowest gallery pressure of a lap over size and pre-charge of its accumulator."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.forecast.on_record import Record, meets
from bilge_core.forecast.pressure import find_pressure_dips
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log, at_times
from bilge_core.network import Network, network_of, steady
from bilge_core.network.laws import AIR_PRESSURE, CHARGED_AT
from bilge_core.network.records import Flowing
from bilge_core.physics.arrays import Array

MAP_STEP = 0.02
"""[s] of the circuit over a lap for each cell of a map: a plug of the tube's oil allows it, and the
best cell is that of a quarter of it."""


def with_bottle(network: Network, volume: float, precharge: float, bottle: int = 0) -> Network:
    """The same network with another bottle: its volume [m3], pre-charge at 20 °C [Pa]."""
    still = network.still.copy()
    row = still.bottles[bottle]
    row["volume"] = row["gas"] = volume
    row["amount"] = (precharge + AIR_PRESSURE) * volume / CHARGED_AT
    return Network(**{**network.__dict__, "still": still})


def charged(network: Network, like: Flowing) -> Flowing:
    """A state with the bottles of a network, charged to the pressures that they stand at.

    Parameters
    ----------
    network : Network
    like : Flowing
        Settled in, of the same network with other bottles.

    Returns
    -------
    Flowing
    """
    state = like.copy()
    for name in ("volume", "amount"):
        state.bottles[name] = network.still.bottles[name]
    state.bottles["warmth"] = state.whole["bottle_warmth"][0]
    before = like.charges
    for at, row in enumerate(state.bottles):
        node = int(np.flatnonzero(state.nodes["bottle"] == at)[0])
        absolute = float(state.nodes["pressure"][node]) + AIR_PRESSURE
        row["gas"] = min(float(row["amount"]) * float(row["warmth"]) / absolute, row["volume"])
        state.nodes["liquid"][node] += float(row["volume"] - row["gas"]) - before[at]
    return state


@dataclass(frozen=True)
class BottleMap:
    """The lowest gallery pressure of a lap over size and pre-charge of its bottle.

    volumes : rising, shape (m,) [m3]
    precharges : at 20 °C, over the air's, rising, shape (n,) [Pa]
    lowest : at the worst moment beside what is usual there, shape (m, n) [Pa]
    share : of the usual pressure, shape (m, n)
    under : time in pressure dips, shape (m, n) [s]
    """

    volumes: Array
    precharges: Array
    lowest: Array
    share: Array
    under: Array

    @property
    def best(self) -> tuple[int, int]:
        """The cell with the greatest share of the usual pressure: row, column."""
        row, column = np.unravel_index(int(np.argmax(self.share)), self.share.shape)
        return int(row), int(column)


def bottle_map(
    build: Build,
    log: Log,
    record: Record,
    corners: tuple[Corner, ...],
    volumes: Sequence[float],
    precharges: Sequence[float],
    step: float = MAP_STEP,
) -> BottleMap:
    """Run a build's circuit over a lap with each of some bottles in the place of its first.

    Parameters
    ----------
    build : Build
        With an accumulator.
    log : Log
        Prepared.
    record : Record
        Of the same lap.
    corners : tuple of Corner
    volumes : sequence of float
        [m3]
    precharges : sequence of float
        At 20 °C, over the air's [Pa].
    step : float
        [s]

    Returns
    -------
    BottleMap

    Notes
    -----
    Each bottle is taken as filled up with: the pan keeps its oil.
    """
    base = network_of(build)
    met = meets(build, log, record, step)
    begin = met.settled(base)
    there = at_times(log, record.time[0] + met.time)
    usual = steady(base).gallery_at(there.engine_speed)

    def cell(size: float, precharge: float) -> tuple[float, float, float]:
        network = with_bottle(base, size, precharge)
        trace = met.run(network, charged(network, begin))
        found = find_pressure_dips(there, trace.pressure[:, base.gallery], usual, corners)
        return found.lowest, found.lowest / found.usual, found.under

    cells = [(size, each) for size in volumes for each in precharges]
    with ThreadPoolExecutor() as pool:  # the loops are compiled and hold no lock
        found = np.array(list(pool.map(lambda pair: cell(*pair), cells)))
    lowest, share, under = found.T.reshape(3, len(volumes), len(precharges))
    return BottleMap(np.array(volumes), np.array(precharges), lowest, share, under)
