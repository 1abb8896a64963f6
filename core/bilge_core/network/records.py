"""The network as the compiled loops take it: rows of nodes, elements, vessels, with their fields.

Rows hold what stays and what changes side by side: a loop is handed a few arrays, not fifty, which
is what a step of some microseconds would otherwise be spent on.
"""

from __future__ import annotations

from enum import IntEnum
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from bilge_core.physics.arrays import Array

Rows = NDArray[Any]


class Kind(IntEnum):
    """What an element is: which law it follows."""

    LINE = 0
    VALVE = 1
    SENSED = 2
    STAGE = 3
    SHUT_OFF = 4


MOUTH, AIR = -1, -2
"""Ends by number, where a node's would stand: the pickup's mouth, the air. Further ones are sinks:
`sinks[-3 - end]` is the vessel that oil falls into, or `-1 - way` for a way straight to the pan."""

PARCELS = 256
"""Most of different gas share that the suction tube's plug holds (ours)."""


def _fields(**names: str) -> np.dtype[Any]:
    """A row's fields: words by their type."""
    pairs = [(name, kind) for kind, words in names.items() for name in words.split()]
    return np.dtype(sorted(pairs, key=lambda pair: pair[1] != "f8"), align=True)


NODE = _fields(
    f8="volume pressure liquid gas trial before change misfit capacity per_gas oil_share gas_share",
    i4="bottle",
)
"""A node: its volume [m3] and bottle (-1: none); pressure over the air's [Pa], liquid, gas at the
air's pressure [m3]. The rest is room for a step: pressures tried, what is left over of the volume
and its slope, how gas counts there, what a volume that leaves is made of."""

ELEMENT = _fields(
    f8="laminar turbulent_from extra square inertance opens lowered leak all_open displacement"
    " ratio low switch port flow sensed held_open holds through by_start by_end",
    i4="kind start end at_start at_end senses is_suction",
)
"""An element from node or end `start` to `end`; `at_start`, `at_end` are the matrix's places of
start-end and end-start.

- a line's laminar, turbulent_from, extra, square: see `line_flow`; inertance [kg/m4]
- a valve's opens [Pa], leak [m3/s/Pa], laminar, square; `lowered` is where it opens in the pump's
  low mode, nil where that is the same
- one that is sensed elsewhere, at the node `senses`: all_open [Pa] over its opening
- a stage's displacement a turn [m3], ratio to the crank, that of its low mode (nil: none) under the
  crank speed `switch` [rad/s], leak, port: see `pump_flow`
- an electric valve is a line while held open, for `holds` [s] at least, else a check valve

flow [m3/s], sensed [Pa], held_open [s] change; the rest is room for a step."""

VESSEL = _fields(
    f8="lag more factor length width foam pocket one two level into gas push shut full_speed"
    " density",
    i4="is_floor",
)
"""Oil no longer under pressure: thrown oil's lag at rest [s], more of it with speed [s per rad/s],
a factor on both; or a floor's length, width [m], share of gas, and what its pockets keep [m3]. Oil
in it, in two parts [m3]; its level along "up" from the floor's middle [m]; what came into it in the
step [m3]. Blow-by up through its holes at full power, for each square metre of them [m/s], the
pressure that drives it and that with the holes shut [Pa], the crank's speed of full power [rad/s],
the oil's density [kg/m3]."""

HOLE = _fields(f8="x y bore many", i4="vessel falls")
"""A hole in a floor, from its middle [m]; what falls goes to a vessel, or as -1 - way back."""

BOTTLE = _fields(f8="volume amount gas warmth")
"""A bottle's volume [m3], its gas as ``P V / T`` [J/K], gas volume [m3] and temperature [K]."""

WHOLE = _fields(
    f8="density vapour bulk stays sealing tube bottle_warmth bottle_time drawn_oil drawn_gas",
    i4="first parcels parted failed rounds",
)
"""Of the whole: density [kg/m3], vapour pressure [Pa], bulk modulus [Pa], share of a node's volume
that is gas and stays, oil that seals a gassy pump at least, the tube's volume [m3], what a bottle's
gas comes to [K] and in which time [s]; oil and gas drawn since the start [m3]; the plug's ring;
steps parted, steps failed, iterations."""

STEP = _fields(f8="size speed mouth_gas arriving inlet_gas light", i4="low")
"""What is the same for a whole step: its size [s], crank speed [rad/s], share of gas at the mouth,
at the tube's end, in the pump's inlet, of the tube's weight that is oil; the pump's mode."""

PIVOT = _fields(i4="node first")
MEETS = _fields(i4="other below beside target")


class Kept(NamedTuple):
    """What is kept of a march, a row at each step's end; an array without rows keeps nothing.

    pressures, gases : of nodes, over the air's [Pa], and the share of their space that is gas
    flows : of elements [m3/s]
    held : in vessels [m3]
    charges : oil in bottles [m3]
    """

    pressures: Array
    gases: Array
    flows: Array
    held: Array
    charges: Array


NOTHING_KEPT = Kept(*(np.zeros((0, 0)) for _ in Kept._fields))


class Flowing(NamedTuple):
    """A network, its state and room for its steps. Shapes: one row each."""

    nodes: Rows
    elements: Rows
    vessels: Rows
    holes: Rows
    bottles: Rows
    whole: Rows
    step: Rows
    sinks: Rows
    parcels: Array
    given: Array
    pivots: Rows
    meets: Rows
    targets: Rows
    matrix: Array

    def copy(self) -> Flowing:
        """The same, on its own: what stays is shared."""
        shared = {"sinks", "pivots", "meets", "targets"}
        rows = ((name, getattr(self, name)) for name in self._fields)
        return Flowing(**{name: each if name in shared else each.copy() for name, each in rows})

    @property
    def in_tube(self) -> float:
        """Oil in the suction tube [m3]."""
        whole = self.whole[0]
        rows = self.parcels[(int(whole["first"]) + np.arange(int(whole["parcels"]))) % PARCELS]
        return float((rows[:, 0] * (1.0 - rows[:, 1])).sum())

    @property
    def in_vessels(self) -> Array:
        """Oil in each vessel [m3]."""
        return np.asarray(self.vessels["one"] + self.vessels["two"])

    @property
    def charges(self) -> Array:
        """Oil in each bottle [m3]."""
        return np.asarray(self.bottles["volume"] - self.bottles["gas"])

    @property
    def held(self) -> float:
        """Oil between the mouth and the pan [m3]; with the pan's, constant."""
        pressed = float(self.nodes["liquid"].sum())
        return pressed + float(self.in_vessels.sum() + self.given.sum()) + self.in_tube


def at_rest(network: Flowing) -> Flowing:
    """Everything under pressure full of oil at the air's pressure, nothing flowing, heads empty."""
    still = network.copy()
    nodes, elements, whole = still.nodes, still.elements, still.whole
    nodes["pressure"] = nodes["gas"] = 0.0
    nodes["liquid"] = nodes["volume"] * (1.0 - whole["stays"][0])
    elements["flow"] = elements["sensed"] = elements["held_open"] = 0.0
    still.vessels["one"] = still.vessels["two"] = still.vessels["into"] = 0.0
    still.bottles["gas"] = still.bottles["volume"]
    still.bottles["warmth"] = whole["bottle_warmth"][0]
    for count in ("drawn_oil", "drawn_gas", "first", "parted", "failed", "rounds"):
        whole[count] = 0
    whole["parcels"] = 1
    still.parcels[:] = 0.0
    still.parcels[0, 0] = whole["tube"][0]
    still.given[:] = 0.0
    return still
