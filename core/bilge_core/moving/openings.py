"""How much of each face and each cell is inside: exact areas of the pan's cuts over the grid."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from bilge_core.pan.cuts import level_cut, upright_cut
from bilge_core.pan.solid import Prism
from bilge_core.physics.arrays import Array

_ASIDE = 1e-5  # [m] to either side of a face, so that a wall on it belongs to one side (ours)
_SNAP = 1e-7  # [m] to which cuts that cannot be laid over each other are rounded (ours)
_X, _Y = np.array([1.0, 0.0]), np.array([0.0, 1.0])


@dataclass(frozen=True)
class Shares:
    """Areas and volumes of the inside on a grid of (nx, ny, nz) cells.

    area : three arrays [m2]
        Open area of each face, shapes (nx + 1, ny, nz), (nx, ny + 1, nz), (nx, ny, nz + 1).
    low, high : three arrays each, shape (nx, ny, nz) [m2]
        Inside area of each cell's own low and high end along each axis: where a wall lies on the
        face, that of the wall.
    room : ndarray, shape (nx, ny, nz) [m3]
    """

    area: tuple[Array, Array, Array]
    low: tuple[Array, Array, Array]
    high: tuple[Array, Array, Array]
    room: Array


class Rectangles:
    """The rectangles between grid lines, and how much of each flat shapes cover.

    What a shape covers is remembered: a pan with upright walls has the same cut at many heights.

    Parameters
    ----------
    us, vs : ndarray
        Grid lines [m].

    Examples
    --------
    >>> grid = Rectangles(np.array([0.0, 1, 2]), np.array([0.0, 1]))
    >>> grid.covered_by(shapely.box(0, 0, 1.5, 1)).tolist()
    [[1.0], [0.5]]
    """

    def __init__(self, us: Array, vs: Array) -> None:
        u, v = np.meshgrid(us, vs, indexing="ij")
        self._boxes = shapely.box(u[:-1, :-1], v[:-1, :-1], u[1:, 1:], v[1:, 1:])
        self._sizes = shapely.area(self._boxes)
        self._known: dict[bytes, Array] = {}

    def covered_by(self, shape: shapely.Geometry) -> Array:
        """Area [m2] of a shape in each, shape (len(us) - 1, len(vs) - 1); not to be changed."""
        key = shapely.to_wkb(shape)
        if key not in self._known:
            self._known[key] = self._areas(shape)
        return self._known[key]

    def _areas(self, shape: shapely.Geometry) -> Array:
        areas = np.zeros(self._boxes.shape)
        if shape.is_empty:
            return areas
        shapely.prepare(shape)
        touched = shapely.intersects(shape, self._boxes)
        whole = np.zeros_like(touched)
        whole[touched] = shapely.covers(shape, self._boxes[touched])
        areas[whole] = self._sizes[whole]
        part = touched & ~whole
        areas[part] = shapely.area(shapely.intersection(self._boxes[part], shape))
        return areas


def _between(one: shapely.Geometry, other: shapely.Geometry) -> shapely.Geometry:
    if shapely.symmetric_difference(one, other).area < 1e-9:
        return one
    try:
        return shapely.intersection(one, other)
    except shapely.GEOSException:  # slivers of a scan's many pieces
        return shapely.intersection(one, other, grid_size=_SNAP)


def inside_shares(prisms: Sequence[Prism], xs: Array, ys: Array, zs: Array) -> Shares:
    """Cut the inside of prisms along every face of a grid.

    Parameters
    ----------
    prisms : sequence of Prism
        They must not overlap; where they touch, they are open to each other.
    xs, ys, zs : ndarray
        Faces along each axis [m].

    Returns
    -------
    Shares
        Exact where no corner of the inside lies within a cell; room is that of Simpson's rule
        over height, exact for plane walls within a cell.

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> shares = inside_shares([box], np.linspace(0, 0.4, 5), np.linspace(0, 0.2, 3),
    ...                        np.linspace(-0.1, 0.0, 3))
    >>> [round(float(one.sum()), 6) for one in (shares.room, shares.area[0][0], shares.area[0][1])]
    [0.008, 0.0, 0.02]
    """
    grids = (Rectangles(ys, zs), Rectangles(xs, zs), Rectangles(xs, ys))
    lines = (xs, ys, zs)

    def cut(axis: int, place: float) -> shapely.Geometry:
        if axis == 2:
            return level_cut(prisms, place)
        first, last = (ys[0], ys[-1]) if axis == 0 else (xs[0], xs[-1])
        start, along = (_X * place, _Y) if axis == 0 else (_Y * place, _X)
        return upright_cut(prisms, start, along, float(first), float(last))

    area, low, high = [], [], []
    for axis in range(3):
        covered_by = grids[axis].covered_by
        befores, afters, opens = [], [], []
        for place in lines[axis].tolist():
            before, after = cut(axis, place - _ASIDE), cut(axis, place + _ASIDE)
            between = _between(before, after)
            befores.append(covered_by(before))
            afters.append(covered_by(after))
            opens.append(covered_by(between))
        opens[0], opens[-1] = np.zeros_like(opens[0]), np.zeros_like(opens[-1])
        area.append(np.stack(opens, axis=axis))
        low.append(np.stack(afters[:-1], axis=axis))
        high.append(np.stack(befores[1:], axis=axis))
    middles = np.stack(
        [grids[2].covered_by(cut(2, place)) for place in (0.5 * (zs[1:] + zs[:-1])).tolist()],
        axis=2,
    )
    room = (low[2] + 4.0 * middles + high[2]) / 6.0 * np.diff(zs)
    return Shares(
        (area[0], area[1], area[2]), (low[0], low[1], low[2]), (high[0], high[1], high[2]), room
    )
