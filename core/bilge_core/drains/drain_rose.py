"""The drain rose: for each direction, the steady load at which a drain backs up."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.document.car import Car
from bilge_core.drains.line import DrainLine, FallingOil
from bilge_core.drains.profile import march_up
from bilge_core.errors import InvalidQuantity
from bilge_core.pan import Pan
from bilge_core.pan.levels import solve_level
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.physics.gravity import STANDARD_GRAVITY

LIMIT = 1.75
"""[g] up to which a rose looks (ours: what the quickest cars on treaded tyres reach)."""
_SCAN = 14  # loads looked at on the way out, an eighth of a g apart (ours)
_HALVINGS = 6
_NOWHERE = -1e3  # [m]: no oil stands at the line's end


class _PanOil(NamedTuple):
    vertices: Array
    tetrahedra: NDArray[np.int64]
    volumes: Array
    oil: float


class _Falling(NamedTuple):
    flow: float
    viscosity: float
    density: float
    pressure: float


class _Work(NamedTuple):
    up: Array
    corners: Array
    heads: Array
    fill: Array


@dataclass(frozen=True)
class DrainRose:
    """Edge of the region in which a drain drains.

    directions : where oil is thrown in the car, shape (n,) [rad]: see `CoverRose`
    edge : steady load at which oil comes to stand over the seal, shape (n,) [g]; infinite where it
        drains up to `limit`, nil where it backs up at rest
    limit : highest load looked at [g]
    """

    directions: Array
    edge: Array
    limit: float


@njit
def _margin(pan, line, seal, oil, throw, down, load, guess, work):  # type: ignore[no-untyped-def]
    """Head to spare [m] under a steady load, and the level that the pan's oil then has."""
    length = math.sqrt(1.0 + load * load)
    up = work.up
    for k in range(3):
        up[k] = -(down[k] + load * throw[k]) / length
    level = _NOWHERE
    if pan.oil > 0.0:
        level = solve_level(
            pan.vertices, pan.tetrahedra, pan.volumes, up, pan.oil, guess, work.corners
        )
    gravity = length * STANDARD_GRAVITY
    push = oil.pressure / (oil.density * gravity)
    head, _ = march_up(
        line, up, gravity, oil.flow, oil.viscosity, level, push, work.heads, work.fill
    )
    return seal[0] * up[0] + seal[1] * up[1] + seal[2] * up[2] - head, level


@njit(cache=True)
def _edges(pan, line, seal, oil, throws, down, limit, work, out):  # type: ignore[no-untyped-def]
    for i in range(throws.shape[0]):
        margin, level = _margin(pan, line, seal, oil, throws[i], down, 0.0, np.nan, work)
        out[i] = np.inf
        if margin < 0.0:
            out[i] = 0.0
            continue
        for step in range(1, _SCAN + 1):
            high = limit * step / _SCAN
            margin, level = _margin(pan, line, seal, oil, throws[i], down, high, level, work)
            if margin >= 0.0:
                continue
            low = limit * (step - 1) / _SCAN
            for _ in range(_HALVINGS):
                middle = 0.5 * (low + high)
                margin, level = _margin(pan, line, seal, oil, throws[i], down, middle, level, work)
                if margin >= 0.0:
                    low = middle
                else:
                    high = middle
            out[i] = 0.5 * (low + high)
            break


def _oil_of(pan: Pan | None) -> _PanOil:
    if pan is None:
        return _PanOil(np.empty((0, 3)), np.empty((0, 4), dtype=np.int64), np.empty(0), 0.0)
    solid = pan.solid
    return _PanOil(solid.vertices, solid.tetrahedra, solid.volumes, pan.oil_volume)


def drain_rose(
    line: DrainLine,
    pan: Pan | None,
    car: Car,
    flow: float,
    oil: FallingOil,
    pressure: float,
    directions: int = 72,
    limit: float = LIMIT,
) -> DrainRose:
    """Steady load at which a drain backs up, for directions all round the car.

    Parameters
    ----------
    line : DrainLine
    pan : Pan or None
        Whose oil stands at its entry; None: none stands there, as a stage takes it.
    car : Car
    flow : float
        Oil without its foam [m3/s].
    oil : FallingOil
    pressure : float
        Of the crankcase over the housing's [Pa].
    directions : int
        At least 4.
    limit : float
        [g]

    Returns
    -------
    DrainRose

    Raises
    ------
    InvalidQuantity
        If there are fewer than 4 directions, or limit or flow are not above nil.

    Notes
    -----
    The first load at which it backs up, an eighth of a g between two that are looked at.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.drains.line import Piece, foamed, line_along
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> line = line_along([(0.3, 0.2, 0.2), (0.3, 0.107, -0.02)], [0, 0], [Piece("hose", 0.014)])
    >>> rose = drain_rose(line, assemble_pan(build), build.car, 1 / 60e3, foamed(820.0, 12e-6, 0.3),
    ...                   0.0)
    >>> bool(rose.edge[54] < rose.edge[18])  # oil thrown to the right leaves a drain on the left
    False
    """
    if directions < 4:
        raise InvalidQuantity("directions", directions, "at least 4")
    for name, value in (("limit", limit), ("flow", flow)):
        if not (math.isfinite(value) and value > 0.0):
            raise InvalidQuantity(name, value, "above 0")
    angles = np.arange(directions) * (2.0 * math.pi / directions)
    to_car = engine_to_car(car)
    throws = np.column_stack([np.cos(angles), np.sin(angles), np.zeros(directions)]) @ to_car
    down = np.array([0.0, 0.0, -1.0]) @ to_car
    cells, oil_there = len(line.falls.lengths), _oil_of(pan)
    edge = np.empty(directions)
    _edges(
        oil_there,
        line.falls, line.seal, 
        _Falling(flow * oil.swells, oil.viscosity, oil.density, pressure),
        np.ascontiguousarray(throws), down, limit,
        _Work(np.empty(3), np.empty((len(oil_there.volumes), 4)), np.zeros(cells + 1),
              np.zeros(cells + 1)),
        edge,
    )  # fmt: skip
    return DrainRose(np.asarray(angles, dtype=np.float64), edge, limit)
