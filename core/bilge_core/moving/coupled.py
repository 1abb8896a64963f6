"""Oil in the pan and the engine that draws it and gives it back, stepped together.

Any number of mouths share the pan, each with its own demand, gas share and account.
"""

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
    """A simulation with its mouths and its drain-backs.

    oil : Simulation
    inlets : tuple of Inlet, one for each mouth that the engine draws by
    engine : Engine
    returns : tuple of Returns, one for each way that the engine gives oil back by
    observer : Observer
    """

    oil: Simulation
    inlets: tuple[Inlet, ...]
    engine: Engine
    returns: tuple[Returns, ...]
    observer: Observer

    def __post_init__(self) -> None:
        domain = self.oil.domain
        self._sink = np.zeros(domain.cells, dtype=np.float32)
        self._reached = np.unique(np.concatenate([inlet.cells for inlet in self.inlets]))
        self._flags = np.zeros((len(self.inlets), domain.cells), dtype=np.bool_)
        for flags, inlet in zip(self._flags, self.inlets, strict=True):
            flags[inlet.cells] = True
        self._lows = low_ends(domain)
        self._list = np.zeros(len(self.oil.rows), dtype=np.int64)
        self._least = np.float32(_SCRAP * self.returns[0].portion)
        self._owed = np.zeros(len(self.inlets))
        self._to_come = np.zeros(len(self.returns))
        self.flows = np.zeros(len(self.inlets))
        self._spaces = [
            (inlet.centre.astype(np.float32), inlet.half.astype(np.float32), inlet.is_round)
            for inlet in self.inlets
        ]

    @property
    def held(self) -> float:
        """Oil outside the pan [m3]; with what is in the pan, constant.

        Less what is drawn on account: oil leaves the pan by whole particles.
        """
        return self.engine.held + float(self._to_come.sum()) - float(self._owed.sum())

    def advance(self, step: float, load: Array) -> None:
        """One step: draw, move, take out, give back."""
        oil = self.oil
        shares = [
            self.observer.inlet_shares(oil, mouth).astype(np.float64)
            for mouth in range(len(self.inlets))
        ]
        found = [
            float(share @ inlet.part) for share, inlet in zip(shares, self.inlets, strict=True)
        ]
        oil_shares = np.clip(np.array(found), 0.0, 1.0)
        oil_shares[self._owed > _MOST_OWED * self.returns[0].portion] = 0.0
        drawn = self.engine.draw(oil.time, step, load, oil_shares)
        self.flows = drawn.flow
        self._sink[self._reached] = 0.0
        for inlet, share, flow in zip(self.inlets, shares, drawn.flow.tolist(), strict=True):
            kinds = oil.kind_flat[inlet.cells]
            swallowed = np.where(kinds == SHUT_AIR, 1.0, share)  # shut-in air is drawn too
            self._sink[inlet.cells] += (max(flow, 0.0) * inlet.part * swallowed).astype(np.float32)
        oil.advance(step, load, self._sink)
        self._owed += np.maximum(drawn.oil, 0.0)
        self._to_come[0] += float(np.maximum(-drawn.oil, 0.0).sum())
        self._take_out()
        self._to_come += self.engine.give()
        for way, returns in enumerate(self.returns):
            self._to_come[way] -= returns.put_back(oil, float(self._to_come[way]))

    def _take_out(self) -> None:
        oil, domain = self.oil, self.oil.domain
        for mouth, space in enumerate(self._spaces):
            if self._owed[mouth] <= 0.0:
                continue
            oil.count, taken = take_out(
                oil.rows, oil.cell, oil.count, float(self._owed[mouth]), self._least,
                self._flags[mouth], domain.where, *self._lows, *domain.sizes, *space, self._list,
            )  # fmt: skip
            self._owed[mouth] -= taken
        oil.measure_again()
