"""Plates laid onto the grid's faces: what they close, where gates hang, what lies in a hole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import affinity

from bilge_core.moving.openings import Rectangles
from bilge_core.pan.cuts import upright_cut
from bilge_core.pan.plates import PlacedGate, PlacedOpening, PlacedPlate
from bilge_core.pan.solid import Prism
from bilge_core.physics.arrays import Array

_STRAIGHT = 1e-6  # of one [-]: a plate turned by less stands along an axis
_SCRAP = 0.02  # of a face [-]: a hole that covers less of it is not there (ours)
_TALL = 10.0  # [m] above anything


@dataclass(frozen=True)
class Opening:
    """An opening as it came onto the grid.

    plate, name : str
    gate : PlacedGate or None
    area : its own area [m2]
    on_grid : the area that flow can pass [m2], projected onto the plate
    """

    plate: str
    name: str
    gate: PlacedGate | None
    area: float
    on_grid: float


@dataclass
class Sheets:
    """What plates do to faces; three arrays each, shaped like the faces of that axis.

    covered : [m2] closed by a plate
    holes : int, which opening lies there, or -1
    toward : +1 or -1 where what passes an opening along the axis is told as plus or minus
    gate_area : [m2] of gates there
    allowed : +1 or -1 where a gate opens along or against the axis, else 0
    parts : bool, where a plate's plane parts the pan, openings and all
    openings : as they came out
    """

    covered: list[Array]
    holes: list[NDArray[np.int32]]
    toward: list[NDArray[np.int8]]
    gate_area: list[Array]
    allowed: list[NDArray[np.int8]]
    parts: list[NDArray[np.bool_]]
    openings: list[Opening]


def straight_axis(plate: PlacedPlate) -> int | None:
    """The axis that a plate stands square to, or None when it stands obliquely."""
    if plate.kind == "horizontal":
        return 2
    along = plate.axes.first
    if abs(along[1]) > 1.0 - _STRAIGHT:
        return 0
    if abs(along[0]) > 1.0 - _STRAIGHT:
        return 1
    return None


def on_axes(plate: PlacedPlate, flat: shapely.Geometry) -> shapely.Geometry:
    """A shape in a straight plate's coordinates, in the two axes of its face."""
    if plate.kind == "horizontal":
        return flat
    axis = 1 if abs(plate.axes.first[1]) > 0.5 else 0
    sign = float(np.sign(plate.axes.first[axis]))
    moved = affinity.scale(flat, sign, 1.0, origin=(0, 0)) if sign < 0 else flat
    return affinity.translate(moved, float(plate.axes.origin[axis]), 0.0)


def lay_plates(
    plates: Sequence[PlacedPlate],
    prisms: Sequence[Prism],
    lines: tuple[Array, Array, Array],
    area: tuple[Array, Array, Array],
) -> Sheets:
    """Lay plates onto the faces of a grid.

    Parameters
    ----------
    plates : sequence of PlacedPlate
    prisms : sequence of Prism
        The inside that they stand in.
    lines : three arrays
        Faces along each axis [m].
    area : three arrays
        Open area of the faces without plates [m2].

    Returns
    -------
    Sheets
        A plate square to an axis closes the share of each face that it covers; one that stands
        obliquely is a watertight stair of closed faces, its openings' area as on the plate.

    Examples
    --------
    >>> from bilge_core.pan.plates import place_plates
    >>> from bilge_core.document.plates import VerticalPlate
    >>> from bilge_core.moving.openings import inside_shares
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> plates = place_plates([VerticalPlate(kind="vertical", name="P", from_mm=(200, 0),
    ...                        to_mm=(200, 200), top_depth_mm=50)], [box])
    >>> lines = (np.linspace(0, 0.4, 5), np.linspace(0, 0.2, 3), np.linspace(-0.1, 0.0, 3))
    >>> sheets = lay_plates(plates, [box], lines, inside_shares([box], *lines).area)
    >>> round(float(sheets.covered[0][2].sum()), 6)
    0.01
    """
    sheets = Sheets(
        [np.zeros_like(one) for one in area],
        [np.full(one.shape, -1, dtype=np.int32) for one in area],
        [np.zeros(one.shape, dtype=np.int8) for one in area],
        [np.zeros_like(one) for one in area],
        [np.zeros(one.shape, dtype=np.int8) for one in area],
        [np.zeros(one.shape, dtype=np.bool_) for one in area],
        [],
    )
    for plate in plates:
        axis = straight_axis(plate)
        if axis is None:
            _lay_oblique(sheets, plate, prisms, lines, area)
        else:
            _lay_straight(sheets, plate, axis, lines, area)
    return sheets


def _grid_of(axis: int, lines: tuple[Array, Array, Array]) -> tuple[Array, Array]:
    others = [line for at, line in enumerate(lines) if at != axis]
    return others[0], others[1]


def told_way(plate: PlacedPlate, opening: PlacedOpening) -> Array:
    """The way that flow through an opening is told as plus: its gate's, else up or left."""
    if opening.gate is not None:
        return opening.gate.opens
    if plate.kind == "horizontal":
        return np.array([0.0, 0.0, 1.0])
    return np.array([-plate.axes.first[1], plate.axes.first[0], 0.0])


def _note_gate(
    sheets: Sheets, axis: int, at: tuple[Any, ...], gate: PlacedGate, shares: Array
) -> None:
    sheets.gate_area[axis][at] += shares
    shares = np.where(sheets.holes[axis][at] >= 0, shares, 0.0)
    sign = np.int8(1 if gate.opens[axis] > 0 else -1)
    here = sheets.allowed[axis][at]
    sheets.allowed[axis][at] = np.where(shares > 0.0, sign, here)


def _parting(plate: PlacedPlate) -> shapely.Geometry:
    """Where the plate parts the pan: all of it with its openings, and above an upright one too."""
    hull = shapely.convex_hull(plate.sheet)
    if plate.kind == "horizontal":
        return hull
    first, low, last, _ = hull.bounds
    return shapely.box(first, low, last, low + _TALL)


def _lay_straight(
    sheets: Sheets,
    plate: PlacedPlate,
    axis: int,
    lines: tuple[Array, Array, Array],
    area: tuple[Array, Array, Array],
) -> None:
    place = float(plate.axes.origin[axis])
    index = int(np.argmin(np.abs(lines[axis] - place)))
    at: tuple[Any, ...] = tuple(index if a == axis else slice(None) for a in range(3))
    us, vs = _grid_of(axis, lines)
    solid = on_axes(plate, plate.sheet)
    grid = Rectangles(us, vs)
    closed = grid.covered_by(solid) * (1.0 - plate.open_share)
    free = area[axis][at]
    sheets.covered[axis][at] = np.minimum(sheets.covered[axis][at] + closed, free)
    cell = np.outer(np.diff(us), np.diff(vs))
    sheets.parts[axis][at] |= grid.covered_by(on_axes(plate, _parting(plate))) > 0.5 * cell
    for opening in plate.openings:
        shares = np.minimum(grid.covered_by(on_axes(plate, opening.hole)), free)
        shares[shares < _SCRAP * cell] = 0.0
        number = len(sheets.openings)
        sheets.holes[axis][at] = np.where(shares > _SCRAP * cell, number, sheets.holes[axis][at])
        way = np.int8(1 if told_way(plate, opening)[axis] > 0 else -1)
        sheets.toward[axis][at] = np.where(shares > 0.0, way, sheets.toward[axis][at])
        if opening.gate is not None:
            _note_gate(sheets, axis, at, opening.gate, shares)
        sheets.openings.append(
            Opening(plate.name, opening.name, opening.gate, opening.hole.area, float(shares.sum()))
        )


@dataclass(frozen=True)
class _Crossing:
    """Faces of an axis that lie between cells on opposite sides of an oblique plate."""

    axis: int
    faces: tuple[NDArray[np.int64], ...]
    points: Array  # on the plate: along, height
    projected: Array  # [m2] of open face seen square to the plate


def _crossings(
    plate: PlacedPlate, lines: tuple[Array, Array, Array], area: tuple[Array, Array, Array]
) -> list[_Crossing]:
    centres = [0.5 * (line[1:] + line[:-1]) for line in lines]
    start, along = plate.axes.origin[:2], plate.axes.first[:2]
    across = np.array([-along[1], along[0]])
    x, y = np.meshgrid(centres[0], centres[1], indexing="ij")
    side = (x - start[0]) * across[0] + (y - start[1]) * across[1]
    way = (x - start[0]) * along[0] + (y - start[1]) * along[1]
    found = []
    for axis in (0, 1):
        one = side[:-1] if axis == 0 else side[:, :-1]
        other = side[1:] if axis == 0 else side[:, 1:]
        first = way[:-1] if axis == 0 else way[:, :-1]
        last = way[1:] if axis == 0 else way[:, 1:]
        i, j = np.nonzero((one >= 0.0) != (other >= 0.0))
        share = one[i, j] / (one[i, j] - other[i, j])
        u = first[i, j] + share * (last[i, j] - first[i, j])
        count = len(centres[2])
        k = np.tile(np.arange(count), len(i))
        i, j, u = (np.repeat(array, count) for array in (i, j, u))
        faces = (i + 1, j, k) if axis == 0 else (i, j + 1, k)
        projected = area[axis][faces] * abs(across[axis])
        found.append(_Crossing(axis, faces, np.column_stack([u, centres[2][k]]), projected))
    return found


def _lay_oblique(
    sheets: Sheets,
    plate: PlacedPlate,
    prisms: Sequence[Prism],
    lines: tuple[Array, Array, Array],
    area: tuple[Array, Array, Array],
) -> None:
    margin = 2.0 * max(float(np.diff(line).max()) for line in lines)
    start, along = plate.axes.origin[:2], plate.axes.first[:2]
    inside = upright_cut(prisms, start, along, -margin, plate.length + margin)
    holes = shapely.union_all([opening.hole for opening in plate.openings])
    beyond = shapely.difference(inside, shapely.union(plate.sheet, holes))
    parting = _parting(plate)
    shapely.prepare(beyond)
    shapely.prepare(parting)
    first = len(sheets.openings)
    sizes = np.zeros(len(plate.openings))
    crossings = _crossings(plate, lines, area)
    inner: list[list[NDArray[np.bool_]]] = []
    for crossing in crossings:
        points = shapely.points(crossing.points)
        near = (crossing.points[:, 0] > -margin) & (crossing.points[:, 0] < plate.length + margin)
        above = shapely.covers(parting, points)
        sheets.parts[crossing.axis][tuple(index[above] for index in crossing.faces)] = True
        shut = near & ~shapely.covers(beyond, points)
        within = [shapely.covers(opening.hole, points) & shut for opening in plate.openings]
        for number, mask in enumerate(within):
            sizes[number] += crossing.projected[mask].sum()
            shut &= ~mask
        faces = tuple(index[shut] for index in crossing.faces)
        sheets.covered[crossing.axis][faces] = area[crossing.axis][faces]
        sheets.parts[crossing.axis][faces] = True
        inner.append(within)
    for number, opening in enumerate(plate.openings):
        fit = min(1.0, opening.hole.area / sizes[number]) if sizes[number] > 0.0 else 0.0
        for crossing, within in zip(crossings, inner, strict=True):
            way = told_way(plate, opening)
            _lay_hole(sheets, crossing, within[number], opening, way, fit, first + number, area)
        sheets.openings.append(
            Opening(
                plate.name,
                opening.name,
                opening.gate,
                opening.hole.area,
                float(fit * sizes[number]),
            )
        )


def _lay_hole(
    sheets: Sheets,
    crossing: _Crossing,
    mask: NDArray[np.bool_],
    opening: PlacedOpening,
    way: Array,
    fit: float,
    number: int,
    area: tuple[Array, Array, Array],
) -> None:
    axis = crossing.axis
    faces = tuple(index[mask] for index in crossing.faces)
    free = area[axis][faces]
    sheets.covered[axis][faces] = free * (1.0 - fit)
    sheets.parts[axis][faces] = True
    sheets.holes[axis][faces] = number
    sheets.toward[axis][faces] = 1 if way[axis] > 0 else -1
    if opening.gate is not None:
        _note_gate(sheets, axis, faces, opening.gate, free * fit)
