"""A floor of triangles as prisms: flat pieces that lie in one plane are one."""

from __future__ import annotations

from collections import defaultdict

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.document.floors import SurfaceFloor
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan.solid import Plane, Prism
from bilge_core.physics.arrays import Array

_SAME = 1e-6  # [m] and [-] within which two triangles lie in one plane
_LEAST = 1e-8  # [m2] of a piece that is none
_GRID = 1e-8  # [m]


def surface_prisms(floor: SurfaceFloor, outline: Polygon, top: float) -> tuple[Prism, ...]:
    """A surface under an outline as prisms up to a height, the largest first.

    Parameters
    ----------
    floor : SurfaceFloor
    outline : Polygon
        [m]
    top : float
        [m]

    Raises
    ------
    InvalidInput
        If no part of it is under the outline.

    Examples
    --------
    >>> square = SurfaceFloor(kind="surface", triangles=[(0, 1, 2), (0, 2, 3)], places_mm=[
    ...     (0, 0, 50), (100, 0, 50), (100, 100, 70), (0, 100, 70)])
    >>> prisms = surface_prisms(square, shapely.box(0, 0, 0.1, 0.1), 0.0)
    >>> len(prisms), [round(each, 3) for each in prisms[0].floor]
    (1, [-0.05, 0.0, -0.2])
    """
    places = np.array(floor.places_mm) * 1e-3
    found: dict[tuple[int, ...], list[tuple[Plane, Polygon]]] = defaultdict(list)
    for row in floor.triangles:
        corners = places[list(row)]
        plane = _plane(corners)
        if plane is None:
            continue
        key = tuple(round(each / _SAME) for each in plane)
        found[key].append((plane, Polygon(corners[:, :2])))
    prisms = []
    for pieces in found.values():
        whole = shapely.union_all([each for _, each in pieces], grid_size=_GRID)
        under = shapely.intersection(whole, outline, grid_size=_GRID)
        for part in shapely.get_parts(under):
            if isinstance(part, Polygon) and part.area > _LEAST:
                prisms.append(Prism(shapely.orient_polygons(part), pieces[0][0], (top, 0.0, 0.0)))
    if not prisms:
        raise InvalidInput([Problem("pan.zones", "a surface must lie under its zone's outline")])
    return tuple(sorted(prisms, key=lambda each: -each.outline.area))


def _plane(corners: Array) -> Plane | None:
    """Through three places, their third figure a depth; None where they lie on one line."""
    sides = corners[1:, :2] - corners[:1, :2]
    area = sides[0, 0] * sides[1, 1] - sides[0, 1] * sides[1, 0]
    if abs(area) < _LEAST:
        return None
    slope = np.linalg.solve(sides, -(corners[1:, 2] - corners[0, 2]))
    level = -corners[0, 2] - float(corners[0, :2] @ slope)
    return float(level), float(slope[0]), float(slope[1])
