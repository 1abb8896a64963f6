"""A dry sump behind the moving oil: stages that draw from the pan, and the tank that feeds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.moving.engine import CircuitEngine
from bilge_core.moving.exchange import Drawn
from bilge_core.network import Network
from bilge_core.network.on_the_way import OnTheWay
from bilge_core.network.records import Flowing
from bilge_core.network.way_back import WayBack, way_back_of
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.scavenge.lap import mouth_in_air, mouth_row, settled_share, stages_of
from bilge_core.scavenge.stages import DrawnMouth, Stage, scavenged
from bilge_core.scavenge.tank import FULLEST, TankSpace, tank_of, tank_space, up_in_car


@dataclass(frozen=True)
class DrySide:
    """What a dry-sumped build has beside its network.

    stages : tuple of Stage
    mouths : tuple of DrawnMouth, as the pan has them
    tank : TankSpace
    build : Build
    way : WayBack, from the stages to the tank
    """

    stages: tuple[Stage, ...]
    mouths: tuple[DrawnMouth, ...]
    tank: TankSpace
    build: Build
    way: WayBack

    @classmethod
    def of(cls, build: Build, pan: Pan) -> DrySide | None:
        """Of a build; None where it is wet.

        Raises
        ------
        InvalidInput
            If a mouth is outside the pan, or no stage draws from it.
        """
        if not build.circuit.is_dry:
            return None
        stages, mouths = scavenged(build, pan)
        way = way_back_of(build)
        assert way is not None  # its stages draw
        return cls(stages, mouths, tank_space(tank_of(build)), build, way)


@dataclass(frozen=True)
class TankSeen:
    """A tank at a look: oil in it [m3], over its outlet [m], the gas that the pump draws by it, and
    what has been drawn since the start, oil and gas [m3].
    """

    volume: float
    cover: float
    gas: float
    drawn: Array


class DryEngine(CircuitEngine):
    """A build's network drawing from a tank that scavenge stages fill.

    Parameters
    ----------
    network : Network
    speed : callable
        From time since the start [s] to the crank's speed [rad/s].
    state : Flowing
    side : DrySide
    in_tank : float
        Oil in the tank to begin with [m3].
    on_way : OnTheWay
        Between stages and tank.

    Notes
    -----
    The tank's oil lies at once as the load would have it; the pan's moves. A stage brings what its
    mouths find, gas too; it is in the tank once what was ahead of it in lines, cooler and separator
    has gone in. What a full tank has no room for is gone by its vent, and told.
    """

    def __init__(
        self, network: Network, speed: Callable[[float], float], state: Flowing, side: DrySide,
        in_tank: float, on_way: OnTheWay,
    ) -> None:  # fmt: skip
        super().__init__(network, speed, state)
        self._side, self._stage_of = side, stages_of(side.stages, len(side.mouths))
        self._outlet = mouth_row(side.tank.outlet)
        self._in_tank, self._on_way = in_tank, on_way
        self._flow = 0.0
        self.lost = 0.0
        self._scavenged = np.zeros((len(side.mouths), 2))

    def draw(self, start: float, step: float, load: Array, oil_shares: Array) -> Drawn:
        """Run the network on what the tank's outlet finds, and the stages on what the pan has."""
        gas = self._looked(load)[1]
        fed = super().draw(start, step, load, np.array([1.0 - gas]))
        self._flow = float(max(fed.flow[0], 0.0))
        self._in_tank -= float(fed.oil[0])
        speed = self._speed(start + 0.5 * step)
        swept = np.array([float(each.swept(speed)) for each in self._side.stages])
        drawn = np.array([
            self._by_mouths(number, flow, 1.0 - oil_shares) for number, flow in enumerate(swept)
        ])  # fmt: skip
        flows = drawn.sum(axis=0)
        oil = flows * oil_shares * step
        self._scavenged += np.column_stack([oil, flows * step - oil])
        self._in_tank += self._on_way.brings(swept * step, drawn @ oil_shares * step)
        over = self._in_tank - FULLEST * self._side.tank.volume
        if over > 0.0:
            self._in_tank -= over
            self.lost += over
        return Drawn(flows, oil)

    def _by_mouths(self, stage: int, swept: float, gas: Array) -> Array:
        """Flow of a stage by each of the mouths: one that sucks air has all of it."""
        mine = self._stage_of == stage
        if not mine.any():
            return np.zeros(len(gas))
        has_all = mouth_in_air(gas, self._stage_of, stage)
        if has_all >= 0:
            return np.where(np.arange(len(gas)) == has_all, swept, 0.0)
        return np.where(mine, swept / mine.sum(), 0.0)

    def _looked(self, load: Array) -> tuple[float, float]:
        strength = float(np.linalg.norm(load))
        up = up_in_car(self._side.build, -load / strength)
        cover = self._side.tank.cover(self._in_tank, up)
        if self._in_tank <= 0.0:
            return cover, 1.0
        return cover, float(settled_share(cover, up, strength, self._flow, self._outlet))

    def tank(self, load: Array) -> TankSeen:
        """The tank as it is under a load."""
        cover, gas = self._looked(load)
        return TankSeen(max(self._in_tank, 0.0), cover, gas, self.fed[0])

    @property
    def held(self) -> float:
        """Oil between the pan's mouths and its drain-backs, the tank's and what ran over [m3]."""
        return super().held + self._in_tank + self._on_way.held + self.lost

    @property
    def drawn(self) -> Array:
        """Oil and gas that each of the pan's mouths has drawn since the start [m3]."""
        return self._scavenged.copy()
