"""A build's oil over the windows of a lap: moving in them, its circuit alone between them.

What the mouth draws between windows is the record's of the build that the windows are of: there is
hardly any gas in it. So the oil in the pan as a window begins is what the build's own circuit
leaves there at that moment.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.document.build import Build
from bilge_core.forecast.dips import DryTime, find_dips
from bilge_core.forecast.on_record import Record, meets
from bilge_core.forecast.pressure import PressureOverLap, find_pressure_dips
from bilge_core.forecast.windows import Window
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log, at_times
from bilge_core.moving.basin import Resolution
from bilge_core.moving.lap import MovingOil
from bilge_core.moving.seen import RATE, MovingLap
from bilge_core.network import run
from bilge_core.network.records import Flowing
from bilge_core.network.running import STEP
from bilge_core.pan import assemble_pan
from bilge_core.physics.arrays import Array
from bilge_core.rules.air import SHORTEST_DIP


@dataclass(frozen=True)
class WindowRun:
    """What a window gave.

    window : Window
    log : Log, one sample a look, from the window's start on
    gas_share, cover : at the mouth that feeds the gallery, shape (n,) [m]
    pressure, usual : in the gallery, over the air's, shape (n,) [Pa]
    begins_with : oil in the pan as its lead begins [m3]
    dry_time : DryTime
    over : PressureOverLap
    lap : MovingLap
        Its lead too.
    counts : ndarray of bool, a look of that each
        From the window's start on.
    """

    window: Window
    log: Log
    gas_share: Array
    cover: Array
    pressure: Array
    usual: Array
    begins_with: float
    dry_time: DryTime
    over: PressureOverLap
    lap: MovingLap
    counts: NDArray[np.bool_]


class InWindows:
    """A build over windows of a lap, one at a time in any order.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    record : Record
        Of the build that the windows are of, in moving oil over the same lap.
    windows : tuple of Window
    resolution : Resolution
    corners : tuple of Corner
    seed : int

    Raises
    ------
    InvalidInput
        If the build cannot hold together or has not the oil, with the field named.

    Notes
    -----
    The circuit is marched over the whole lap once, on the record's gas: each window begins from its
    state there. In a window what the mouth finds is the build's own.
    """

    def __init__(
        self,
        build: Build,
        log: Log,
        record: Record,
        windows: tuple[Window, ...],
        resolution: Resolution,
        corners: tuple[Corner, ...],
        seed: int = 0,
    ) -> None:
        self.windows = windows
        self._log, self._corners = log, corners
        self._oil = MovingOil(build, assemble_pan(build), log, resolution, seed)
        if build.circuit.is_dry:  # what a wet mouth swallowed is none of its tank's
            record = Record(record.time, np.zeros_like(record.gas_share))
        self._met = meets(build, log, record)
        self._states = self._marched()

    def _marched(self) -> list[Flowing]:
        """The circuit's state as each window's lead begins."""
        state, done, found = self._met.settled(self._oil.network), 0, []
        for window in self.windows:
            upto = min(round(window.begin / STEP), len(self._met.time))
            state = self.on(state, done, upto)
            done = max(done, upto)
            found.append(state)
        return found

    def on(self, state: Flowing, first: int, last: int) -> Flowing:
        """A state of the circuit run on over steps of the lap, on the record's gas."""
        if last <= first:
            return state
        met = self._met
        rows = slice(first, last)
        return run(
            self._oil.network, state, met.speed[rows], met.gravity[rows], met.gas[rows], met.step
        ).end

    def run(self, number: int) -> WindowRun:
        """One of the windows, by its place.

        Raises
        ------
        InvalidInput
            If the engine holds more oil then than there is.
        """
        return self.run_from(number, self._states[number])

    def run_from(self, number: int, state: Flowing) -> WindowRun:
        """The same from a state of the circuit that its lead begins with."""
        window, oil = self.windows[number], self._oil
        oil.begin_at(round(window.begin * RATE) / RATE, state)
        begins_with = oil.coupled.oil.volume
        looks = list(oil.run(until=window.end))
        lap = oil.lap(looks)
        counts = lap.time - self._log.time[0] >= window.start - 1e-9
        seen = at_times(self._log, lap.time[counts])
        gas, cover = lap.mouth.gas_share[counts], lap.mouth.cover[counts]
        pressure, usual = lap.pressure[counts], lap.usual[counts]
        return WindowRun(
            window, seen, gas, cover, pressure, usual, begins_with,
            find_dips(seen, cover, gas, self._corners, SHORTEST_DIP.least),
            find_pressure_dips(seen, pressure, usual, self._corners), lap, counts,
        )  # fmt: skip

    @property
    def engine_state(self) -> Flowing:
        """The circuit's as the last window ended."""
        return self._oil.engine.state
