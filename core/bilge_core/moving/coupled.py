"""Oil in the pan and the engine that draws it and gives it back, stepped together."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.moving.exchange import Engine
from bilge_core.moving.inlet import Inlet, take_out
from bilge_core.moving.observe import Observer, low_ends
from bilge_core.moving.returns import Returns
from bilge_core.moving.simulation import Simulation
from bilge_core.moving.transfer import SHUT_AIR
from bilge_core.physics.arrays import Array

_MOST_OWED = 8.0
"""Of a returned particle's volume [-]: what is drawn on account. Beyond it the mouth is said to
find nothing until it is paid (ours): where no particle lies near the mouth, oil said to be there is
not.
"""
_SCRAP = 0.1
"""Of a returned particle's volume [-]: one left with less is taken whole. Ours: rows are freed, and
volume stays exact, as the tests of conserved volume say.
"""


@dataclass
class Coupled:
    """A simulation with its pickup and its drain-backs.

    oil : Simulation
    inlet : Inlet
    engine : Engine
    returns : tuple of Returns, one for each way that the engine gives oil back by
    observer : Observer
    """

    oil: Simulation
    inlet: Inlet
    engine: Engine
    returns: tuple[Returns, ...]
    observer: Observer

    def __post_init__(self) -> None:
        domain = self.oil.domain
        self._sink = np.zeros(domain.cells, dtype=np.float32)
        self._flags = np.zeros(domain.cells, dtype=np.bool_)
        self._flags[self.inlet.cells] = True
        self._lows = low_ends(domain)
        self._list = np.zeros(len(self.oil.rows), dtype=np.int64)
        self._least = np.float32(_SCRAP * self.returns[0].portion)
        self._owed = 0.0
        self._to_come = np.zeros(len(self.returns))
        self.flow = 0.0
        self._centre = self.inlet.centre.astype(np.float32)
        self._half = self.inlet.half.astype(np.float32)

    @property
    def held(self) -> float:
        """Oil outside the pan [m3]; with what is in the pan, constant.

        Less what is drawn on account: oil leaves the pan by whole particles.
        """
        return self.engine.held + float(self._to_come.sum()) - self._owed

    def advance(self, step: float, load: Array) -> None:
        """One step: draw, move, take out, give back."""
        shares = self.observer.inlet_shares(self.oil).astype(np.float64)
        oil_share = min(max(float(shares @ self.inlet.part), 0.0), 1.0)
        if self._owed > _MOST_OWED * self.returns[0].portion:
            oil_share = 0.0
        drawn = self.engine.draw(self.oil.time, step, load, oil_share)
        self.flow = drawn.flow
        flow = max(drawn.flow, 0.0)
        kinds = self.oil.kind_flat[self.inlet.cells]
        swallowed = np.where(kinds == SHUT_AIR, 1.0, shares)  # shut-in air goes up the pickup too
        self._sink[self.inlet.cells] = (flow * self.inlet.part * swallowed).astype(np.float32)
        self.oil.advance(step, load, self._sink)
        if drawn.oil >= 0.0:
            self._owed += drawn.oil
        else:
            self._to_come[0] -= drawn.oil
        self._take_out()
        self._to_come += self.engine.give()
        for way, returns in enumerate(self.returns):
            self._to_come[way] -= returns.put_back(self.oil, float(self._to_come[way]))

    def _take_out(self) -> None:
        oil, domain = self.oil, self.oil.domain
        oil.count, taken = take_out(
            oil.rows, oil.cell, oil.count, self._owed, self._least, self._flags, domain.where,
            *self._lows, *domain.sizes, self._centre, self._half, self.inlet.is_round, self._list,
        )  # fmt: skip
        self._owed -= taken
        oil.measure_again()
