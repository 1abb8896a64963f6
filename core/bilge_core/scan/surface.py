"""A placed mesh as zones whose floors are surfaces of triangles: what all of Bilge reckons with.

A pan is a space over its floor: where the mesh has one floor under each place, and a lid over what
is not open to the rail, its own triangles are the floor, or as few as follow them closely enough.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
import trimesh
from numpy.typing import NDArray
from scipy import ndimage
from scipy.spatial import Delaunay
from shapely import Polygon

from bilge_core.physics.arrays import Array
from bilge_core.scan.heights import heights_of
from bilge_core.scan.mesh_file import refused

_STEEP = 0.02  # of a normal's upward part: less is a wall
_FACES_UP = 0.5  # of a normal's downward part: floor that deviations are told of, no wall
_AT_RAIL = 2e-3  # [m] below the rail's plane that is still at it (ours: scans are rough)
_FEW = 400  # triangles of floor that are taken as they are (ours)
_UNDER = 0.01  # of the volume that may lie under a roof and is left out (ours)
_GRID = 160  # samples along the longer side
_FINEST = 2e-3  # [m]
_CLOSE = 0.8e-3  # [m] that the farthest sample but a few may be off (ours)
_FEW_OFF = 0.02  # of the samples: beside steps, where a height is two (ours)
_MOST_POINTS = 260
_SMALL = 2e-6  # [m2] of a piece of floor that is none
_STRAIGHT = 0.3e-3  # [m] by which an outline is simplified
_MOST_CORNERS = 200
_MOST_OFF = 6000  # places that deviations are told of


@dataclass(frozen=True)
class ScannedZone:
    """A zone of a scanned pan [m].

    outline : from above
    places : of its floor, x, y and depth under the rail, shape (n, 3)
    triangles : of rows of `places`, shape (m, 3)
    ceiling : depth of its lid; None: open up to the rail
    """

    outline: Polygon
    places: Array
    triangles: NDArray[np.int64]
    ceiling: float | None


@dataclass(frozen=True)
class Scanned:
    """A mesh as zones, and how near they come.

    zones : the open one first
    volume : of the mesh below its rail [m3]
    kept : of the zones [m3]
    worst, rms : of the mesh's own floor places over or under the zones' [m]
    triangles : of the mesh
    """

    zones: tuple[ScannedZone, ...]
    volume: float
    kept: float
    worst: float
    rms: float
    triangles: int


def zones_of_mesh(mesh: trimesh.Trimesh) -> Scanned:
    """Zones of a mesh that stands in the engine's frame, its rail at nil.

    Parameters
    ----------
    mesh : Trimesh
        Closed, from `placed` or `placed_by`.

    Raises
    ------
    InvalidInput
        If it is nowhere open to the rail, or space lies under a roof that is no flat lid.

    Examples
    --------
    >>> from bilge_core.scan.placed import placed
    >>> box = placed(trimesh.creation.box((0.4, 0.24, 0.14)), "+z")
    >>> found = zones_of_mesh(box)
    >>> len(found.zones), round(found.kept * 1e3, 3), round(found.worst * 1e3, 3)
    (1, 13.44, 0.0)
    """
    floors = mesh.face_normals[:, 2] < -_STEEP
    zones = _as_they_are(mesh, floors) if int(floors.sum()) <= _FEW else _fitted(mesh)
    kept = sum(_volume(zone) for zone in zones)
    off = _off(mesh, mesh.face_normals[:, 2] < -_FACES_UP, zones)
    return Scanned(
        tuple(zones), float(mesh.volume), kept, float(np.quantile(np.abs(off), 0.98)),
        float(np.sqrt((off**2).mean())), len(mesh.faces),
    )  # fmt: skip


def _projected(mesh: trimesh.Trimesh, mask: NDArray[np.bool_]) -> list[Polygon]:
    flat = mesh.triangles[mask][:, :, :2]
    one, other = flat[:, 1] - flat[:, 0], flat[:, 2] - flat[:, 0]
    turned = one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0] < 0.0
    flat[turned] = flat[turned][:, ::-1]
    return [Polygon(each) for each in flat]


def _largest(shape: shapely.Geometry, least: float = _SMALL) -> list[Polygon]:
    """The polygons that a shape is, the largest first."""
    parts = [each for each in shapely.get_parts(shape)
             if isinstance(each, Polygon) and each.area > least]  # fmt: skip
    return sorted(parts, key=lambda each: -each.area)


def _lids(mesh: trimesh.Trimesh) -> list[tuple[float, NDArray[np.bool_]]]:
    """Depths of roofs below the rail and the faces of each.

    Raises
    ------
    InvalidInput
        If one is not flat.
    """
    upward = mesh.face_normals[:, 2] > _STEEP
    heights = mesh.triangles[:, :, 2]
    low = upward & (heights.max(axis=1) < -_AT_RAIL)
    found = []
    while low.any():
        first = int(np.flatnonzero(low)[0])
        level = float(heights[first].mean())
        mine = low & (np.abs(heights - level) < _AT_RAIL).all(axis=1)
        if not mine.any():
            place = mesh.triangles_center[first] * 1e3
            words = (
                f"has a roof that is not level near {place[0]:.0f} mm ahead, {place[1]:.0f} mm "
                "left: draw that part as a zone of its own, or cut it off the mesh"
            )
            raise refused("file", words)
        found.append((-level, mine))
        low &= ~mine
    return found


def _as_they_are(mesh: trimesh.Trimesh, floors: NDArray[np.bool_]) -> list[ScannedZone]:
    """The mesh's own triangles as floors, cut along where lids begin."""
    pieces = _projected(mesh, floors)
    whole = shapely.union_all(pieces, grid_size=1e-7)
    if sum(each.area for each in pieces) > (1.0 + _UNDER) * whole.area:
        raise refused("file", _ROOFED)
    regions: list[tuple[float | None, shapely.Geometry]] = []
    covered: shapely.Geometry = Polygon()
    for depth, mask in _lids(mesh):
        roof = shapely.union_all(_projected(mesh, mask), grid_size=1e-7).intersection(whole)
        regions.append((depth, roof))
        covered = covered.union(roof)
    regions.insert(0, (None, whole.difference(covered)))
    corners = mesh.triangles[floors]
    zones = [
        _cut_out(outline, corners, pieces, ceiling)
        for ceiling, region in regions
        for outline in _largest(region, 1e-4)
    ]
    if not zones or zones[0].ceiling is not None:
        raise refused("file", _SHUT)
    return zones


_ROOFED = (
    "has floor over floor: space lies under a roof. Draw that part as a zone of its own, or cut it "
    "off the mesh"
)
_SHUT = "is nowhere open to the rail: say which way is up"


def _cut_out(
    outline: Polygon, corners: Array, pieces: Sequence[Polygon], ceiling: float | None
) -> ScannedZone:
    """One region's floor: every triangle under it, cut to it."""
    places: list[Array] = []
    for corner, piece in zip(corners, pieces, strict=True):
        plane = np.linalg.lstsq(
            np.column_stack([np.ones(3), corner[:, :2]]), corner[:, 2], rcond=None
        )[0]
        for part in _largest(piece.intersection(outline), 1e-8):
            for cut in shapely.constrained_delaunay_triangles(part).geoms:
                flat = np.asarray(cut.exterior.coords)[:3, :2]
                heights = plane[0] + flat @ plane[1:]
                places.append(np.column_stack([flat, -heights]))
    joined, rows = np.unique(np.vstack(places).round(6), axis=0, return_inverse=True)
    return ScannedZone(_simple(outline), joined, _flat_ones(joined, rows.reshape(-1, 3)), ceiling)


def _flat_ones(places: Array, triangles: NDArray[np.int64]) -> NDArray[np.int64]:
    """Triangles that have an area from above."""
    corners = places[triangles][:, :, :2]
    sides = corners[:, 1:] - corners[:, :1]
    area = np.abs(sides[:, 0, 0] * sides[:, 1, 1] - sides[:, 0, 1] * sides[:, 1, 0])
    return np.asarray(triangles[area > 1e-8], dtype=np.int64)


def _simple(outline: Polygon) -> Polygon:
    """An outline with few corners, its holes filled."""
    bare = Polygon(outline.exterior)
    for tolerance in (1e-6, _STRAIGHT, 2 * _STRAIGHT, 4 * _STRAIGHT, 10 * _STRAIGHT):
        found = bare.simplify(tolerance)
        if len(found.exterior.coords) <= _MOST_CORNERS:
            return shapely.orient_polygons(found)
    raise refused("file", "has an outline of too many corners: smooth the mesh first")


def _fitted(mesh: trimesh.Trimesh) -> list[ScannedZone]:
    """Floors of few triangles that follow a mesh of many."""
    low, high = mesh.bounds
    step = max(float((high - low)[:2].max()) / _GRID, _FINEST)
    long, wide = (int(each) for each in np.ceil((high - low)[:2] / step) + 1)
    origin = low[:2] + 0.5 * step
    floor, top = heights_of(np.asarray(mesh.triangles), origin, step, (long, wide))
    inside = ~np.isnan(floor)
    columns = float((top - floor)[inside].sum()) * step**2
    if columns > (1.0 + 3.0 * _UNDER) * float(mesh.volume):
        raise refused("file", _ROOFED)
    is_open = inside & (top > -_AT_RAIL)
    if not is_open.any():
        raise refused("file", _SHUT)
    zones = [_zone(_rail(mesh), is_open, floor, origin, step, None)]
    parts, count = ndimage.label(inside & ~is_open)
    for number in range(1, count + 1):
        mask = parts == number
        if mask.sum() * step**2 < 4e-4:  # a row of places beside the rail
            continue
        depth = -float(np.median(top[mask]))
        if float(np.quantile(np.abs(top[mask] + depth), 0.9)) > _AT_RAIL:
            raise refused("file", "has a roof that is not level: draw that part as a zone")
        outline = _of_mask(mask, origin, step, zones[0].outline)
        zones.append(_zone(outline, mask, floor, origin, step, depth))
    return zones


def _rail(mesh: trimesh.Trimesh) -> Polygon:
    """The opening at the rail: the mesh cut just under it."""
    cut = mesh.section(plane_origin=[0, 0, -_AT_RAIL], plane_normal=[0, 0, 1])
    if cut is None:
        raise refused("file", _SHUT)
    flat, _ = cut.to_2D(to_2D=np.diag([1.0, 1.0, 1.0, 1.0]))
    rings = [Polygon(each) for each in flat.discrete if len(each) > 3]
    parts = _largest(shapely.union_all([each.buffer(0) for each in rings]), 1e-4)
    if not parts:
        raise refused("file", _SHUT)
    return _simple(parts[0])


def _of_mask(mask: NDArray[np.bool_], origin: Array, step: float, rail: Polygon) -> Polygon:
    """The outline of a part under a lid: from the samples in it, along the rail where it meets."""
    cells = [
        shapely.box(
            *(origin + (np.array(at) - 0.5) * step), *(origin + (np.array(at) + 0.5) * step)
        )
        for at in np.argwhere(mask)
    ]
    grown = shapely.union_all(cells)
    smooth = grown.buffer(step).buffer(-step).simplify(0.8 * step)
    parts = _largest(smooth.union(grown.buffer(step).intersection(rail.buffer(step))), 1e-5)
    outside = _largest(_simple(parts[0]).difference(rail), 1e-5)
    return _simple(outside[0])


def _zone(
    outline: Polygon, mask: NDArray[np.bool_], floor: Array, origin: Array, step: float,
    ceiling: float | None,
) -> ScannedZone:  # fmt: skip
    """A surface of few triangles over a region, through samples of a mesh's floor."""
    rows = np.argwhere(mask)
    samples = np.column_stack([origin + rows * step, floor[mask]])
    within = shapely.contains_xy(outline.buffer(-0.3 * step), samples[:, 0], samples[:, 1])
    samples = samples[within]
    rim = shapely.segmentize(outline, 40e-3)
    ring = np.asarray(rim.exterior.coords)[:-1, :2]
    nearest = ((samples[None, :, :2] - ring[:, None]) ** 2).sum(axis=2).argmin(axis=1)
    places = np.column_stack([ring, samples[nearest, 2]])
    chosen: set[int] = set()
    while True:
        mesh = Delaunay(places[:, :2])
        off = samples[:, 2] - _on(mesh, places[:, 2], samples[:, :2])
        error = np.abs(np.nan_to_num(off))
        if len(places) >= _MOST_POINTS or float(np.quantile(error, 1.0 - _FEW_OFF)) < _CLOSE:
            break
        more = _worst(error, samples, chosen, step)
        if not more:
            break
        chosen |= set(more)
        places = np.vstack([places, samples[more]])
    kept = [
        row for row in mesh.simplices
        if outline.intersection(Polygon(places[row, :2])).area > 0.5 * Polygon(places[row, :2]).area
    ]  # fmt: skip
    depths = np.column_stack([places[:, :2], -places[:, 2]])
    return ScannedZone(outline, depths, _flat_ones(depths, np.array(kept, dtype=np.int64)), ceiling)


def _worst(error: Array, samples: Array, chosen: set[int], step: float) -> list[int]:
    """The samples that are farthest off, none near another of this round."""
    found: list[int] = []
    for at in np.argsort(-error)[:200]:
        if error[at] < _CLOSE or len(found) >= 12:
            break
        place = samples[at, :2]
        if int(at) in chosen or any(
            np.hypot(*(samples[other, :2] - place)) < 3.0 * step for other in found
        ):
            continue
        found.append(int(at))
    return found


def _on(mesh: Delaunay, heights: Array, where: Array) -> Array:
    """Height of a surface of triangles at places, nan outside."""
    simplex = mesh.find_simplex(where)
    away = where - mesh.transform[simplex, 2]
    part = np.einsum("nij,nj->ni", mesh.transform[simplex, :2], away)
    weights = np.column_stack([part, 1.0 - part.sum(axis=1)])
    found = (weights * heights[mesh.simplices[simplex]]).sum(axis=1)
    return np.where(simplex < 0, np.nan, found)


def _volume(zone: ScannedZone) -> float:
    corners = zone.places[zone.triangles]
    sides = corners[:, 1:, :2] - corners[:, :1, :2]
    area = 0.5 * np.abs(sides[:, 0, 0] * sides[:, 1, 1] - sides[:, 0, 1] * sides[:, 1, 0])
    return float((area * (corners[:, :, 2].mean(axis=1) - (zone.ceiling or 0.0))).sum())


def _off(
    mesh: trimesh.Trimesh, floors: NDArray[np.bool_], zones: Sequence[ScannedZone]
) -> Array:  # fmt: skip
    """How far the middles of a mesh's floor triangles are over the zones' floors [m]."""
    middles, weights = mesh.triangles_center[floors], mesh.area_faces[floors]
    if len(middles) > _MOST_OFF:
        order = np.argsort(-weights)[:_MOST_OFF]
        middles = middles[order]
    found = np.full(len(middles), np.nan)
    for zone in zones:
        corners = zone.places[zone.triangles]
        tree = shapely.STRtree([Polygon(each[:, :2]) for each in corners])
        points = shapely.points(middles[:, :2])
        mine, row = tree.query(points, predicate="intersects")
        for at, triangle in zip(mine, row, strict=True):
            three = corners[triangle]
            plane = np.linalg.lstsq(
                np.column_stack([np.ones(3), three[:, :2]]), -three[:, 2], rcond=None
            )[0]
            here = float(middles[at, 2] - plane[0] - middles[at, :2] @ plane[1:])
            if np.isnan(found[at]) or abs(here) < abs(found[at]):
                found[at] = here
    known = found[~np.isnan(found)]
    return known if len(known) else np.zeros(1)
