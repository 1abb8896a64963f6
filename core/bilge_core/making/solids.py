"""The pan and its spacer as closed solids: for a printer, or to lay beside a scan.

Booleans are a kept library's (`trimesh` on `manifold3d`); lengths are metres until written.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
import trimesh
from numpy.typing import NDArray
from shapely import Polygon

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan.assembly import Pan
from bilge_core.pan.solid import Plane, Prism, height_on

Format = Literal["stl", "3mf", "glb"]
_HAIR = 0.06e-3  # [m] by which zones are grown into each other: no wall of drawing accuracy
_ABOVE = 0.05  # [m] over the rail that the inside is cut through
_LEAST = 1e-9  # [m2] of a piece of plan that is none
_PLAY = 0.15e-3  # [m] between a tongue and what it goes into (ours)
LAP = 6e-3
"""[m] that one printed piece goes into the next (ours)."""


def _below(outline: Polygon, plane: Plane, top: float) -> Polygon | None:
    """The part of a plan over which a plane stays under a height; None: no part."""
    if plane[1] == plane[2] == 0.0:
        return outline if plane[0] < top else None
    away = np.array([plane[1], plane[2]])
    steep = float(np.linalg.norm(away))
    reach, edge = 10.0, (top - 1e-6 - plane[0]) / steep
    along = away / steep
    aside = np.array([-along[1], along[0]])
    corners = [
        edge * along + reach * aside,
        edge * along - reach * aside,
        (edge - reach) * along - reach * aside,
        (edge - reach) * along + reach * aside,
    ]
    kept = [each for each in shapely.get_parts(outline.intersection(Polygon(corners)))
            if each.area > _LEAST]  # fmt: skip
    return max(kept, key=lambda each: each.area, default=None)


def extruded(outline: Polygon, low: Plane, high: Plane) -> trimesh.Trimesh:
    """A closed solid over a plan outline between two planes.

    Raises
    ------
    InvalidQuantity
        If the upper one is not above the lower everywhere.

    Examples
    --------
    >>> box = extruded(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> box.is_watertight, round(float(box.volume) * 1e3, 6)
    (True, 8.0)
    """
    outline = shapely.orient_polygons(outline)
    cut = shapely.constrained_delaunay_triangles(outline)
    triangles = np.array([np.asarray(each.exterior.coords)[:3, :2] for each in cut.geoms])
    plan, rows = np.unique(triangles.reshape(-1, 2).round(9), axis=0, return_inverse=True)
    faces = rows.reshape(-1, 3).astype(np.int64)
    edges = plan[faces[:, 1:]] - plan[faces[:, :1]]
    turned = edges[:, 0, 0] * edges[:, 1, 1] - edges[:, 0, 1] * edges[:, 1, 0] < 0.0
    faces[turned] = faces[turned][:, ::-1]
    bottom, top = (height_on(each, plan[:, 0], plan[:, 1]) for each in (low, high))
    if np.any(top <= bottom):
        raise InvalidQuantity("solid", f"{(top - bottom).min():.4f} m", "its top above its floor")
    count = len(plan)
    sides = _boundary(faces)
    a, b = sides[:, 0], sides[:, 1]
    walls = np.vstack([np.column_stack([a, b, b + count]),
                       np.column_stack([a, b + count, a + count])])  # fmt: skip
    vertices = np.vstack([np.column_stack([plan, bottom]), np.column_stack([plan, top])])
    skin = np.vstack([faces[:, ::-1], faces + count, walls])
    return trimesh.Trimesh(vertices, skin, process=False)


def _boundary(faces: NDArray[np.int64]) -> NDArray[np.int64]:
    """Directed edges that only one triangle has, shape (n, 2)."""
    edges = np.vstack([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]])
    both = np.sort(edges, axis=1)
    _, first, counts = np.unique(both, axis=0, return_index=True, return_counts=True)
    return np.asarray(edges[first[counts == 1]], dtype=np.int64)


def whole(made: object) -> trimesh.Trimesh:
    """What a boolean made, which is one mesh."""
    assert isinstance(made, trimesh.Trimesh)
    return made


def _united(bodies: Iterable[trimesh.Trimesh]) -> trimesh.Trimesh:
    found = list(bodies)
    return whole(trimesh.boolean.union(found, engine="manifold")) if len(found) > 1 else found[0]


def _less(body: trimesh.Trimesh, *others: trimesh.Trimesh) -> trimesh.Trimesh:
    return whole(trimesh.boolean.difference([body, *others], engine="manifold"))


def _common(*bodies: trimesh.Trimesh) -> trimesh.Trimesh:
    return whole(trimesh.boolean.intersection(list(bodies), engine="manifold"))


def _grown(prism: Prism, by: float, above: float, hair: float) -> trimesh.Trimesh | None:
    """A prism with metal round it: out by its thickness, down by it square to the floor."""
    outline = prism.outline.buffer(by + hair, join_style="mitre", mitre_limit=4.0)
    floor = prism.floor
    drop = by * math.sqrt(1.0 + floor[1] ** 2 + floor[2] ** 2)
    low = (floor[0] - drop, floor[1], floor[2])
    is_open = prism.top == (0.0, 0.0, 0.0)
    top = above if is_open else prism.top[0] + by
    kept = _below(outline, low, top)
    return None if kept is None else extruded(kept, low, (top, 0.0, 0.0))


def body_round(pan: Pan, by: float, above: float = 0.0) -> trimesh.Trimesh:
    """The inside of a pan below its rail grown by a thickness, up to a height over the rail.

    Parameters
    ----------
    pan : Pan
    by : float
        [m]; nil: the inside itself.
    above : float
        [m]

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/curlew.json").read_text()))
    >>> body = body_round(pan, 0.0)
    >>> body.is_watertight, bool(abs(body.volume / pan.capacity_to_rail - 1) < 2e-3)
    (True, True)
    """
    prisms = [prism for zone in pan.zones for prism in zone.prisms]
    hair = _HAIR if len(prisms) > 1 else 0.0
    grown = [_grown(prism, by, above, hair) for prism in prisms]
    return _united(each for each in grown if each is not None)


def flange_body(build: Build, pan: Pan) -> trimesh.Trimesh | None:
    """The flange as a plate under the rail with its holes; None where none is laid out."""
    flange = build.pan.flange
    if flange is None:
        return None
    return _ring_plate(build, pan, flange.thickness_mm * 1e-3)


def _ring_plate(build: Build, pan: Pan, thickness: float) -> trimesh.Trimesh:
    flange = build.pan.flange
    assert flange is not None
    outline = Polygon(np.array(flange.outline_mm) * 1e-3).difference(pan.rail)
    for bolt in flange.bolts:
        hole = shapely.Point(bolt.x_mm * 1e-3, bolt.y_mm * 1e-3)
        outline = outline.difference(hole.buffer(bolt.diameter_mm * 0.5e-3, quad_segs=16))
    parts = [each for each in shapely.get_parts(outline) if each.area > 1e-6]
    low, high = (-thickness, 0.0, 0.0), (0.0, 0.0, 0.0)
    return _united(extruded(each, low, high) for each in parts)


def pan_body(build: Build, pan: Pan, wall: float) -> trimesh.Trimesh:
    """A pan of a wall thickness as one closed solid, its flange with it where one is laid out.

    Parameters
    ----------
    build : Build
    pan : Pan
        As assembled from it.
    wall : float
        [m]

    Raises
    ------
    InvalidQuantity
        If the wall is not from 0.4 to 20 mm.

    Notes
    -----
    Bosses are left out: drill them. Holes of the flange's bolts go through.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> shell = pan_body(build, assemble_pan(build), 2.4e-3)
    >>> shell.is_watertight
    True
    """
    if not 0.4e-3 <= wall <= 20e-3:
        raise InvalidQuantity("wall", f"{wall * 1e3:g} mm", "from 0.4 to 20 mm")
    shell = _less(body_round(pan, wall), body_round(pan, 0.0, _ABOVE))
    flange = flange_body(build, pan)
    return shell if flange is None else _united([shell, flange])


def spacer_body(build: Build, pan: Pan) -> trimesh.Trimesh:
    """The spacer between block and pan as a plate of its own.

    Raises
    ------
    InvalidInput
        If there is no spacer, or no flange that says its outline.
    """
    problems = []
    if build.pan.spacer_mm <= 0.0:
        problems.append(Problem("what", "there is no spacer in this pan: fit one first"))
    if build.pan.flange is None:
        problems.append(Problem("what", "needs the flange's outline: lay it out first"))
    if problems:
        raise InvalidInput(problems)
    return _ring_plate(build, pan, build.pan.spacer_mm * 1e-3)


@dataclass(frozen=True)
class Bed:
    """What a printer can print in one piece [m]."""

    long: float
    wide: float
    high: float


@dataclass(frozen=True)
class Piece:
    """A printed piece and where it belongs: along and across, from 1."""

    body: trimesh.Trimesh
    along: int
    across: int


def _slab(body: trimesh.Trimesh, axis: int, low: float, high: float) -> trimesh.Trimesh:
    """A box that takes all of a body between two places of an axis."""
    lows, highs = body.bounds[0] - 1.0, body.bounds[1] + 1.0
    lows[axis], highs[axis] = low, high
    return whole(trimesh.creation.box(bounds=np.array([lows, highs])))


def _cut(
    body: trimesh.Trimesh, axis: int, places: Sequence[float], inner: trimesh.Trimesh,
    snug: trimesh.Trimesh,
) -> list[trimesh.Trimesh]:  # fmt: skip
    """A thin-walled body cut across an axis, the inner half of each wall going into the next."""
    far = [float(body.bounds[0][axis]) - 1.0, *places, float(body.bounds[1][axis]) + 1.0]
    pieces = []
    for at in range(len(far) - 1):
        piece = _common(body, _slab(body, axis, far[at], far[at + 1]))
        if at > 0:
            piece = _less(piece, _common(inner, _slab(body, axis, far[at], far[at] + LAP)))
        if at < len(far) - 2:
            tongue = _common(body, snug, _slab(body, axis, far[at + 1], far[at + 1] + LAP))
            piece = _united([piece, tongue])
        pieces.append(piece)
    return pieces


def in_pieces(build: Build, pan: Pan, wall: float, bed: Bed) -> list[Piece]:
    """A pan in pieces that a bed takes, each with a lip into the next: half the wall, 6 mm long.

    Parameters
    ----------
    build : Build
    pan : Pan
    wall : float
        [m]
    bed : Bed

    Returns
    -------
    list of Piece
        One where it fits whole.

    Raises
    ------
    InvalidInput
        If it is higher than the bed, or would be more than 24 pieces.
    """
    body = pan_body(build, pan, wall)
    size = body.bounds[1] - body.bounds[0]
    if size[2] > bed.high:
        words = f"must be {size[2] * 1e3:.0f} mm at least: the pan is not cut in height"
        raise InvalidInput([Problem("bed_high_mm", words)])
    counts = [math.ceil(each / (room - LAP) - 1e-9) if each > room else 1
              for each, room in zip(size, (bed.long, bed.wide), strict=False)]  # fmt: skip
    if counts[0] * counts[1] > _MOST_PIECES:
        words = f"makes {counts[0] * counts[1]} pieces; at most {_MOST_PIECES}"
        raise InvalidInput([Problem("bed_long_mm", words)])
    if counts == [1, 1]:
        return [Piece(body, 1, 1)]
    inner = body_round(pan, 0.5 * wall, _ABOVE)
    snug = body_round(pan, max(0.5 * wall - _PLAY, 0.1e-3), _ABOVE)
    pieces = []
    for along, row in enumerate(_cut(body, 0, _places(body, 0, counts[0]), inner, snug), start=1):
        for across, piece in enumerate(
            _cut(row, 1, _places(body, 1, counts[1]), inner, snug), start=1
        ):
            if not piece.is_empty:
                pieces.append(Piece(piece, along, across))
    return pieces


_MOST_PIECES = 24


def _places(body: trimesh.Trimesh, axis: int, count: int) -> list[float]:
    low, high = (float(each[axis]) for each in body.bounds)
    return [low + (high - low) * (at + 1) / count for at in range(count - 1)]


def written(bodies: Sequence[tuple[str, trimesh.Trimesh]], form: Format) -> bytes:
    """Solids in one file, in millimetres (GLB in metres, as its standard wants).

    Parameters
    ----------
    bodies : sequence of name and solid
        STL holds one alone.
    form : stl, 3mf or glb

    Raises
    ------
    InvalidQuantity
        If an STL is to hold more than one.

    Examples
    --------
    >>> box = extruded(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> len(written([("box", box)], "stl"))
    684
    """
    if form == "stl" and len(bodies) != 1:
        raise InvalidQuantity("solids", len(bodies), "one alone in an STL")
    scale = 1.0 if form == "glb" else 1e3
    scene = trimesh.Scene()
    for name, body in bodies:
        scaled = trimesh.Trimesh(body.vertices * scale, body.faces, process=False)
        if form == "stl":
            return _as_bytes(scaled.export(file_type="stl"))
        scene.add_geometry(scaled, geom_name=name, node_name=name)
    if form == "3mf":
        scene.units = "millimeter"
    return _as_bytes(scene.export(file_type=form))  # type: ignore[no-untyped-call]


def _as_bytes(made: object) -> bytes:
    assert isinstance(made, bytes)
    return made
