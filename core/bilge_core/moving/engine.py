"""The circuit behind the moving oil: its network, run step by step with the pan's."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from bilge_core.moving.exchange import Drawn
from bilge_core.network import Network
from bilge_core.network.march import march
from bilge_core.network.records import NOTHING_KEPT, Flowing
from bilge_core.network.running import STEP
from bilge_core.physics.arrays import Array


class CircuitEngine:
    """A build's network as the engine of its moving oil.

    Parameters
    ----------
    network : Network
    speed : callable
        From time since the start [s] to the crank's speed [rad/s].
    state : Flowing
        It begins from; run on from here.

    Notes
    -----
    It draws by one mouth. The pan says what that finds at the start of a step, the network draws
    accordingly over it: so each feels the other a step later, 5 to 20 ms. A step longer than 5 ms
    is run in parts.
    """

    def __init__(self, network: Network, speed: Callable[[float], float], state: Flowing) -> None:
        self._network = network
        self._speed = speed
        self._state = state

    def draw(self, start: float, step: float, load: Array, oil_shares: Array) -> Drawn:
        """Run the network over a step."""
        parts = max(1, math.ceil(step / STEP - 1e-9))
        size = step / parts
        speed = np.array([self._speed(start + (n + 0.5) * size) for n in range(parts)])
        before = self.fed
        march(
            self._state, size, speed, np.tile(load, (parts, 1)),
            np.full(parts, 1.0 - oil_shares[0]), NOTHING_KEPT,
        )  # fmt: skip
        drawn = self.fed - before
        return Drawn(drawn.sum(axis=1) / step, drawn[:, 0])

    def give(self) -> Array:
        """What has come back by each way since last asked [m3]."""
        given = self._state.given.copy()
        self._state.given[:] = 0.0
        return given

    @property
    def state(self) -> Flowing:
        """Of the circuit now."""
        return self._state.copy()

    @property
    def held(self) -> float:
        """Oil between its mouth and the drain-backs [m3]."""
        return self._state.held

    @property
    def drawn(self) -> Array:
        """Oil and gas that each mouth has drawn since the start, shape (mouths, 2) [m3]; less where
        oil ran back.
        """
        return self.fed

    @property
    def fed(self) -> Array:
        """The same of what feeds the pump, shape (1, 2) [m3]."""
        whole = self._state.whole[0]
        return np.array([[whole["drawn_oil"], whole["drawn_gas"]]])

    @property
    def pressure(self) -> float:
        """In the main gallery, over the air's [Pa]."""
        return float(self._state.nodes["pressure"][self._network.gallery])

    @property
    def vessels(self) -> Array:
        """Oil in heads, chests and off the crank, shape (vessels,) [m3]."""
        return self._state.in_vessels
