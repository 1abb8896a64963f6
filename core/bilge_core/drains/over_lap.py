"""A drain over a lap: what head it has to spare at each moment, and what stands in its housing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.drains.filling import empty_rows, fill_over
from bilge_core.drains.line import DrainLine, FallingOil
from bilge_core.drains.profile import march_up
from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

STEP = 0.02
"""[s] of the march through a lap; halved, it moves the flooded time by less than 5 %."""
_SETTLES_IN = 6.0  # [s] of the first moment's load before the lap begins (ours)


@dataclass(frozen=True)
class Met:
    """What a drain meets, each a row a moment.

    time : evenly spaced, shape (n,) [s]
    ups : shape (n, 3), of length one, the engine's frame
    gravity : felt, shape (n,) [m/s2]
    surface : of the pan's oil at the entry, along up, shape (n,) [m]
    flow : oil into the housing without its foam, shape (n,) [m3/s]
    pressure : of the crankcase over the housing's, shape (n,) [Pa]
    """

    time: Array
    ups: Array
    gravity: Array
    surface: Array
    flow: Array
    pressure: Array


@dataclass(frozen=True)
class DrainOverLap:
    """A drain over a lap, each of shape (n,).

    time : [s]
    margin : head to spare if each moment's load stayed [m]
    needed : head needed then, over the pan's oil or the entry [m]
    against_push : of that, against the crankcase's pressure [m]
    sealed : whether oil shuts the line then
    under : how deep the entry is under oil [m]; negative above it
    room : under the seal as oil takes its time [m]; negative: it stands over it
    held : oil in the housing [m3]
    spilled : past the seal so far [m3]
    full : share of the line that is full
    """

    time: Array
    margin: Array
    needed: Array
    against_push: Array
    sealed: NDArray[np.bool_]
    under: Array
    room: Array
    held: Array
    spilled: Array
    full: Array

    @property
    def step(self) -> float:
        """From one moment to the next [s]."""
        return float(self.time[1] - self.time[0])


@njit(cache=True, nogil=True)
def _steadily(line, loads, viscosity, out):  # type: ignore[no-untyped-def]
    """Head in the housing with and without push, and whether it is sealed, load by load."""
    heads, fill = np.zeros(line.lengths.size + 1), np.zeros(line.lengths.size + 1)
    for i in range(loads.shape[0]):
        up, gravity, flow = loads[i, :3], loads[i, 3], loads[i, 4]
        out[i, 0], shut = march_up(
            line, up, gravity, flow, viscosity, loads[i, 5], loads[i, 6], heads, fill
        )
        out[i, 1] = out[i, 0]
        out[i, 2] = 1.0 if shut else 0.0
        if shut and loads[i, 6] != 0.0:
            out[i, 1], _ = march_up(
                line, up, gravity, flow, viscosity, loads[i, 5], 0.0, heads, fill
            )


def _loads(met: Met, oil: FallingOil) -> Array:
    push = met.pressure / (oil.density * met.gravity)
    flow = np.maximum(met.flow * oil.swells, 1e-9)
    return np.ascontiguousarray(np.column_stack([met.ups, met.gravity, flow, met.surface, push]))


def drain_over(
    line: DrainLine, room: float, oil: FallingOil, met: Met, step: float = STEP
) -> DrainOverLap:
    """A drain over all that it meets.

    Parameters
    ----------
    line : DrainLine
    room : float
        Floor of the housing [m2].
    oil : FallingOil
    met : Met
    step : float
        Of the march through it [s]; what is told is told at `met.time`.

    Returns
    -------
    DrainOverLap

    Raises
    ------
    InvalidQuantity
        If there are fewer than two moments, or something is not a number.

    Examples
    --------
    >>> from bilge_core.drains.line import Piece, foamed, line_along
    >>> line = line_along([(0, 0, 0.2), (0, 0.1, 0)], [0, 0], [Piece("hose", 0.014)],
    ...                   seal=(0, 0, 0.23))
    >>> time = np.arange(0.0, 5.0, 0.02)
    >>> n = len(time)
    >>> met = Met(time, np.tile([0.0, 0.0, 1.0], (n, 1)), np.full(n, 9.81), np.full(n, -0.05),
    ...           np.full(n, 2 / 60e3), np.zeros(n))
    >>> found = drain_over(line, 12e-4, foamed(820.0, 12e-6, 0.3), met)
    >>> bool(abs(found.margin[-1] - found.room[-1]) < 1e-3)
    True
    """
    count = len(met.time)
    if count < 2:
        raise InvalidQuantity("moments", count, "two or more")
    loads = _loads(met, oil)
    if not np.all(np.isfinite(loads)):
        raise InvalidQuantity("load, flow or pressure", "not a number", "finite")
    steadily = np.zeros((count, 3))
    _steadily(line.falls, loads, oil.viscosity, steadily)
    every = max(1, round((met.time[1] - met.time[0]) / step))
    size = float(met.time[1] - met.time[0]) / every
    fine = np.ascontiguousarray(np.repeat(loads, every, axis=0))
    out = np.zeros((len(fine), 4))
    rows = empty_rows(len(line.falls.lengths))
    first = np.ascontiguousarray(np.repeat(loads[:1], round(_SETTLES_IN / size), axis=0))
    first[:, 6] = 0.0  # gas is shut in by oil that has come to lie there, not by its first wave
    fill_over(
        line.falls, rows, room, line.seal, size, first, oil.viscosity, np.zeros((len(first), 4))
    )
    fill_over(line.falls, rows, room, line.seal, size, fine, oil.viscosity, out)
    ends = out[every - 1 :: every]
    spilled = np.cumsum(out[:, 2])[every - 1 :: every] / oil.swells
    at_entry = met.ups @ line.entry
    base = np.maximum(met.surface, at_entry)
    return DrainOverLap(
        met.time,
        met.ups @ line.seal - steadily[:, 0],
        steadily[:, 0] - base,
        steadily[:, 0] - steadily[:, 1],
        steadily[:, 2] > 0.0,
        met.surface - at_entry,
        ends[:, 0],
        ends[:, 1] / oil.swells,
        spilled,
        ends[:, 3],
    )
