"""How oil stands in a drain under a load: head needed and there, what it carries, what holds it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.drains.line import DrainLine, FallingOil
from bilge_core.drains.profile import march_up
from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Stands:
    """How oil stands in a drain under a load.

    head : in the housing, along "up" [m]
    seal : up to which it may [m]
    surface : of the pan's oil at the entry [m]
    sealed : whether oil shuts the line to gas
    needed : over what it falls to: the pan's oil, or the entry where that lies above [m]
    against_push : of that, against the crankcase's pressure [m]
    heads : along it, from the outlet, shape (n + 1,) [m]
    fill : share of the bore that is wet, shape (n + 1,)
    """

    head: float
    seal: float
    surface: float
    sealed: bool
    needed: float
    against_push: float
    heads: Array
    fill: Array

    @property
    def margin(self) -> float:
        """Head to spare [m]; negative: oil stands over the seal."""
        return self.seal - self.head

    @property
    def there(self) -> float:
        """Head that there is, over what it falls to [m]."""
        return self.margin + self.needed


@dataclass(frozen=True)
class Load:
    """What a drain is judged under.

    up : shape (3,), of length one, the engine's frame
    gravity : felt [m/s2]
    surface : of the pan's oil at the entry, along up [m]
    pressure : of the crankcase, over the housing's [Pa]
    """

    up: Array
    gravity: float
    surface: float
    pressure: float = 0.0


def stands(line: DrainLine, flow: float, oil: FallingOil, load: Load) -> Stands:
    """How high oil stands in a drain and its housing when a flow comes in.

    Parameters
    ----------
    line : DrainLine
    flow : float
        Oil without its foam [m3/s].
    oil : FallingOil
    load : Load

    Returns
    -------
    Stands

    Raises
    ------
    InvalidQuantity
        If the flow is not above nil.

    Examples
    --------
    >>> from bilge_core.drains.line import Piece, foamed, line_along
    >>> line = line_along([(0, 0, 0.2), (0, 0.1, 0)], [0, 0], [Piece("hose", 0.014)])
    >>> level = Load(np.array([0, 0, 1.0]), 9.81, -0.05)
    >>> found = stands(line, 2 / 60e3, foamed(820.0, 12e-6, 0.0), level)
    >>> found.sealed, round(float(found.fill.max()), 1)
    (False, 0.7)
    """
    if not (math.isfinite(flow) and flow > 0.0):
        raise InvalidQuantity("flow", flow, "above 0")
    count = len(line.falls.lengths) + 1
    heads, fill = np.zeros(count), np.zeros(count)
    up = np.ascontiguousarray(load.up)
    push = load.pressure / (oil.density * load.gravity)
    figures = (up, load.gravity, flow * oil.swells, oil.viscosity, load.surface)
    bare, _ = march_up(line.falls, *figures, 0.0, heads, fill)
    head, sealed = march_up(line.falls, *figures, push, heads, fill)
    base = max(load.surface, float(line.entry @ up))
    seal = float(line.seal @ up)
    return Stands(
        head, seal, load.surface, bool(sealed), head - base, head - bare, heads, fill
    )  # fmt: skip


_MOST = 40.0 / 60e3  # [m3/s] of a drain that is looked for (ours: no turbo takes as much)
_SEARCHES = 24


def capacity(line: DrainLine, oil: FallingOil, load: Load) -> float:
    """The most oil [m3/s] that goes down a drain before it stands over the seal; nil: none.

    Examples
    --------
    >>> from bilge_core.drains.line import Piece, foamed, line_along
    >>> line = line_along([(0, 0, 0.2), (0, 0.1, 0)], [0, 0], [Piece("hose", 0.014)])
    >>> level = Load(np.array([0, 0, 1.0]), 9.81, -0.05)
    >>> capacity(line, foamed(820.0, 12e-6, 0.0), level) > capacity(
    ...     line, foamed(820.0, 12e-6, 0.5), level)
    True
    """
    low, high = 0.0, _MOST
    for _ in range(_SEARCHES):
        middle = 0.5 * (low + high)
        if stands(line, middle, oil, load).margin >= 0.0:
            low = middle
        else:
            high = middle
    return low


@dataclass(frozen=True)
class HeldBack:
    """What widening one piece by a tenth would buy: its number in `pieces`, and head [m]."""

    piece: int
    gains: float


def held_back_by(line: DrainLine, flow: float, oil: FallingOil, load: Load) -> tuple[HeldBack, ...]:
    """What holds a drain back: its pieces, those whose widening gains most first.

    Examples
    --------
    >>> from bilge_core.drains.line import Piece, foamed, line_along
    >>> hose = [Piece("hose", 0.014, 0.2)]
    >>> line = line_along([(0, 0, 0.2), (0, 0, 0)], [0, 0], hose, [Piece("gasket", 0.008)])
    >>> level = Load(np.array([0, 0, 1.0]), 9.81, -0.05)
    >>> first = held_back_by(line, 2 / 60e3, foamed(820.0, 12e-6, 0.3), level)[0]
    >>> line.pieces[first.piece].name
    'gasket'
    """
    now = stands(line, flow, oil, load).head
    found = [
        HeldBack(at, now - stands(line.widened(at), flow, oil, load).head)
        for at in range(len(line.pieces))
    ]
    return tuple(sorted(found, key=lambda each: -each.gains))
