"""The pan as polygons to draw: from above, and cut by the planes through the mouth."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import LineString, Polygon

from bilge_core.errors import InvalidQuantity
from bilge_core.pan.assembly import Pan
from bilge_core.pan.cuts import span_of
from bilge_core.pan.zone_shape import ZoneShape
from bilge_core.physics.arrays import Array

DRAWN_SHEET = 4e-3
"""Thickness [m] of the sheet as drawn, whatever the wall is: a real one would be a hairline."""


@dataclass(frozen=True)
class CutGate:
    """A gate where a cut goes through it: hinge and lower edge [m], and which way it opens.

    plate : of which it is a gate
    opens : 1 toward greater places along the cut, -1 toward smaller ones
    """

    plate: str
    name: str
    hinge: Array
    edge: Array
    opens: int


@dataclass(frozen=True)
class Section:
    """A cut through the pan, upright in the engine's frame.

    across : "y" for a cut along the engine at one y, "x" for one across it at one x
    at : where [m]
    inside : polygons of the space below the rail [m], shape (k, 2): place along the cut, height
    skirt : the same above the rail
    metal : the sheet round the inside, `DRAWN_SHEET` thick, each polygon as its rings:
        the outer one, then those of holes
    plates : where plates cross the cut, as lines of shape (2, 2) [m]
    gates : gates that cross it
    """

    across: Literal["x", "y"]
    at: float
    inside: tuple[Array, ...]
    skirt: tuple[Array, ...]
    metal: tuple[tuple[Array, ...], ...]
    plates: tuple[Array, ...]
    gates: tuple[CutGate, ...]


def _stretches(outline: Polygon, across: Literal["x", "y"], at: float) -> list[tuple[float, float]]:
    """Where a line at x or y = `at` runs inside an outline, along the other coordinate."""
    low_x, low_y, high_x, high_y = outline.bounds
    cut = (
        LineString([(low_x - 1.0, at), (high_x + 1.0, at)])
        if across == "y"
        else LineString([(at, low_y - 1.0), (at, high_y + 1.0)])
    )
    column = 0 if across == "y" else 1
    pieces = shapely.get_parts(outline.intersection(cut))
    spans = [np.asarray(piece.coords)[:, column] for piece in pieces if piece.length > 1e-9]
    return [(float(span.min()), float(span.max())) for span in spans]


def _zone_polygons(zone: ZoneShape, across: Literal["x", "y"], at: float) -> list[Polygon]:
    start, along = ([0.0, at], [1.0, 0.0]) if across == "y" else ([at, 0.0], [0.0, 1.0])
    return [
        span_of(prism, np.array(start), np.array(along), first, last)
        for prism in zone.prisms
        for first, last in _stretches(prism.outline, across, at)
    ]


def _rings(shape: shapely.Geometry) -> tuple[Array, ...]:
    parts = [part for part in shapely.get_parts(shape) if part.area > 1e-9]
    return tuple(np.asarray(part.exterior.coords)[:-1] for part in parts)


def _sheet(inside: shapely.Geometry, open_above: shapely.Geometry) -> tuple[tuple[Array, ...], ...]:
    """The sheet round the inside, below the rail."""
    grown = inside.buffer(DRAWN_SHEET, join_style="mitre", mitre_limit=3.0)
    left, low, right, _ = grown.bounds
    below_rail = shapely.box(left, low, right, 0.0)
    metal = shapely.difference(grown, shapely.union(inside, open_above)).intersection(below_rail)
    return tuple(
        tuple(np.asarray(ring.coords)[:-1] for ring in (part.exterior, *part.interiors))
        for part in shapely.get_parts(metal)
        if part.area > 1e-8
    )


def _crossings(rings: list[Array], normal: Array, level: float) -> list[tuple[Array, Array]]:
    """Where a plane crosses a flat polygon with holes: pairs of points in space."""
    hits = []
    for ring in rings:
        away = ring @ normal - level
        for i, j in zip(range(len(ring)), [*range(1, len(ring)), 0], strict=True):
            if (away[i] <= 0.0) != (away[j] <= 0.0):
                share = away[i] / (away[i] - away[j])
                hits.append(ring[i] + share * (ring[j] - ring[i]))
    if len(hits) < 2:
        return []
    line = hits[1] - hits[0]
    hits.sort(key=lambda hit: float(hit @ line))
    return list(zip(hits[::2], hits[1::2], strict=False))


def _cut_plates(
    pan: Pan, across: Literal["x", "y"], at: float
) -> tuple[tuple[Array, ...], tuple[CutGate, ...]]:
    normal = np.array([1.0, 0.0, 0.0] if across == "x" else [0.0, 1.0, 0.0])
    kept = [1, 2] if across == "x" else [0, 2]
    lines, gates = [], []
    for plate in pan.plates:
        for rings in plate.pieces():
            lines += [np.array(pair)[:, kept] for pair in _crossings(rings, normal, at)]
        for gate in plate.gates:
            for one, two in _crossings([gate.corners], normal, at):
                hinge, edge = (one, two) if one[2] > two[2] else (two, one)
                way = 1 if gate.opens[kept[0]] >= 0.0 else -1
                gates.append(CutGate(plate.name, gate.name, hinge[kept], edge[kept], way))
    return tuple(lines), tuple(gates)


def cut_pan(pan: Pan, across: Literal["x", "y"], at: float) -> Section:
    """Cut the pan by an upright plane of the engine's frame.

    Parameters
    ----------
    pan : Pan
    across : {"y", "x"}
        "y": a side section, at a distance left of the centreline; "x": a
        front section, at a distance ahead of the rear face.
    at : float
        That distance [m].

    Returns
    -------
    Section
        Zones that touch are one polygon: no line where there is no wall.

    Raises
    ------
    InvalidQuantity
        If the distance is not finite.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> section = cut_pan(pan, "y", 0.0)
    >>> len(section.inside), round(float(section.inside[0][:, 1].min()), 3)
    (1, -0.138)
    """
    if not np.isfinite(at):
        raise InvalidQuantity("at", at, "a finite distance")
    below = shapely.union_all(
        [polygon for zone in pan.zones for polygon in _zone_polygons(zone, across, at)],
        grid_size=1e-6,
    )
    above = [
        shapely.box(start, 0.0, end, pan.skirt_height)
        for start, end in _stretches(pan.rail, across, at)
        if pan.skirt_height > 0.0
    ]
    open_above = shapely.union_all(above)
    plates, gates = _cut_plates(pan, across, at)
    return Section(
        across,
        at,
        _rings(below),
        _rings(open_above),
        _sheet(below, open_above),
        plates,
        gates,
    )
