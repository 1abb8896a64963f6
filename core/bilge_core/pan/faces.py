"""The faces of the space that oil can fill, as flat polygons to draw in three dimensions."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import LineString, Polygon

from bilge_core.pan.assembly import Pan
from bilge_core.pan.cuts import span_of
from bilge_core.pan.solid import height_on
from bilge_core.pan.zone_shape import ZoneShape
from bilge_core.physics.arrays import Array

_NEAR = 0.2e-3  # [m] within which two edges are the same edge
_SMALL = 1e-7  # [m2] below which a piece of wall is drawing error


@dataclass(frozen=True)
class Face:
    """A flat piece of the inside.

    kind : floor, ceiling, wall, or skirt (wall above the rail)
    corners : ndarray, shape (k, 3) [m]
        In order, so that the right-hand normal points into the space.
    """

    kind: Literal["floor", "ceiling", "wall", "skirt"]
    corners: Array


def _ring(outline: Polygon) -> Array:
    """Corners of an outline, anticlockwise from above, the first not repeated."""
    return np.asarray(shapely.orient_polygons(outline).exterior.coords)[:-1, :2]


def _flat(kind: Literal["floor", "ceiling"], zone: ZoneShape) -> Face:
    ring = _ring(zone.prism.outline)
    plane = zone.prism.floor if kind == "floor" else zone.prism.top
    corners = np.column_stack([ring, height_on(plane, ring[:, 0], ring[:, 1])])
    return Face(kind, corners if kind == "floor" else corners[::-1])


def _own_wall(zone: ZoneShape, a: Array, b: Array, along: Array, outward: Array) -> Polygon:
    """The wall under one edge of a zone; of a smooth surface, under all its pieces along it."""
    if not zone.is_smooth:
        return span_of(zone.prism, a, along, 0.0, float(np.hypot(*(b - a))))
    inside = LineString([a - outward * _NEAR, b - outward * _NEAR])
    spans = []
    for prism in zone.prisms:
        for piece in shapely.get_parts(prism.outline.intersection(inside)):
            if piece.length < 1e-6:
                continue
            ends = (np.asarray(piece.coords)[[0, -1], :2] - a) @ along
            spans.append(span_of(prism, a, along, float(ends.min()), float(ends.max())))
    return shapely.union_all(spans, grid_size=1e-6)


def _walls_of_edge(zone: ZoneShape, others: list[ZoneShape], a: Array, b: Array) -> list[Face]:
    """The wall under one edge, less the openings to zones on its other side."""
    length = float(np.hypot(*(b - a)))
    along = (b - a) / length
    outward = np.array([along[1], -along[0]])
    own = _own_wall(zone, a, b, along, outward)
    if own.area <= _SMALL:  # the edge of a wedge that runs out to nothing
        return []
    cuts, stretches = [], {0.0, length}
    for other in others:
        just_outside = LineString([a + outward * _NEAR, b + outward * _NEAR])
        for piece in shapely.get_parts(other.prism.outline.intersection(just_outside)):
            if piece.length < 5.0 * _NEAR:
                continue
            ends = (np.asarray(piece.coords)[[0, -1], :2] - a) @ along
            first, last = float(ends.min()), float(ends.max())
            cuts.append(span_of(other.prism, a, along, first, last))
            stretches |= {first, last}
    wall = shapely.difference(own, shapely.union_all(cuts)) if cuts else own
    pieces = [part for part in shapely.get_parts(wall) if part.area > _SMALL]
    if any(piece.interiors for piece in pieces):  # an opening in the middle: draw it in stretches
        bands = [
            shapely.box(first, -10.0, last, 10.0)
            for first, last in itertools.pairwise(sorted(stretches))
        ]
        pieces = [
            part
            for band in bands
            for part in shapely.get_parts(wall.intersection(band))
            if part.area > _SMALL
        ]
    faces = []
    for piece in pieces:
        ring = np.asarray(shapely.orient_polygons(piece).exterior.coords)[:-1]
        places = a + np.outer(ring[:, 0], along)
        # seen from inside an anticlockwise outline the edge runs to the right: turn the ring round
        faces.append(Face("wall", np.column_stack([places, ring[:, 1]])[::-1]))
    return faces


def inside_faces(pan: Pan) -> tuple[Face, ...]:
    """All faces of the pan's inside and of the skirt above it.

    Parameters
    ----------
    pan : Pan

    Returns
    -------
    tuple of Face
        They close the space on all sides but its top.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> faces = inside_faces(assemble_pan(read_build(Path("demo/dunlin.json").read_text())))
    >>> sorted({face.kind for face in faces})
    ['ceiling', 'floor', 'skirt', 'wall']
    """
    faces: list[Face] = []
    # a core and the wedges under its leaning walls are drawn as zones that are open to each other
    cells = [
        ZoneShape(zone.name, prism, zone.is_open)
        for zone in pan.zones
        for prism in zone.prisms
        if not zone.is_smooth
    ]
    for zone in pan.zones:
        if zone.is_smooth:
            faces += _of_smooth(pan, zone)
    if not cells:
        return (*faces, *_skirt(pan))
    tree = shapely.STRtree([cell.prism.outline for cell in cells])
    for index, zone in enumerate(cells):
        near = tree.query(zone.prism.outline, predicate="dwithin", distance=2.0 * _NEAR)
        others = [cells[at] for at in sorted(near) if at != index]
        faces.append(_flat("floor", zone))
        if not zone.is_open:
            faces.append(_flat("ceiling", zone))
        ring = _ring(zone.prism.outline)
        for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
            faces += _walls_of_edge(zone, others, a, b)
    return (*faces, *_skirt(pan))


def _of_smooth(pan: Pan, zone: ZoneShape) -> list[Face]:
    """Faces of a zone over a smooth surface: its floor's pieces, its lid, walls round it alone."""
    faces = [_flat("floor", ZoneShape(zone.name, prism, zone.is_open)) for prism in zone.prisms]
    ring = _ring(zone.outline)
    if not zone.is_open:
        corners = np.column_stack([ring, np.full(len(ring), zone.prism.top[0])])
        faces.append(Face("ceiling", corners[::-1]))
    others = [
        ZoneShape(other.name, prism, other.is_open)
        for other in pan.zones
        if other is not zone
        for prism in other.prisms
        if prism.outline.distance(zone.outline) < 2.0 * _NEAR
    ]
    for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        faces += _walls_of_edge(zone, others, a, b)
    return faces


def _skirt(pan: Pan) -> list[Face]:
    """The walls above the rail."""
    if pan.skirt_height <= 0.0:
        return []
    ring = _ring(pan.rail)
    heights = np.array([0.0, 0.0, pan.skirt_height, pan.skirt_height])
    return [
        Face("skirt", np.column_stack([np.array([b, a, a, b]), heights]))
        for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True)
    ]
