"""Walls that lean inward toward the floor, as a casting's do: cut into a core and wedges.

A zone with draft is a core with upright sides over the floor's own outline, and a wedge along each
leaning wall: a strip in plan whose floor is the wall itself. All are prisms, so that everything
that works on zones works on them, exactly.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.errors import InvalidQuantity
from bilge_core.pan.solid import Plane, Prism
from bilge_core.physics.arrays import Array

_THIN = 1e-7  # [m2] of a wedge that is none


def _floor_corner(corner: Array, normals: Array, leans: Array, floor: Plane, top: float) -> Array:
    """Where two walls through a corner of the outline meet the floor, in plan [m]."""
    # n · (p - v) = lean * (top - floor(p)), for both walls
    slope = np.array(floor[1:])
    matrix = normals + leans[:, None] * slope
    right = normals @ corner + leans * (top - floor[0])
    return np.asarray(np.linalg.solve(matrix, right))


def drafted_prisms(
    outline: Polygon, floor: Plane, top: float, leaning: Sequence[bool], draft: float
) -> tuple[Prism, tuple[Prism, ...]]:
    """A zone's core and its wedges.

    Parameters
    ----------
    outline : Polygon
        At the top, corners anticlockwise from above [m].
    floor : Plane
    top : float
        Height of its top [m].
    leaning : sequence of bool
        For each edge from its corner on: whether the wall under it leans.
    draft : float
        From upright [rad], above nil.

    Returns
    -------
    tuple of Prism, and tuple of Prism
        Together the space between outline and floor.

    Raises
    ------
    InvalidQuantity
        If walls meet before they reach the floor.

    Examples
    --------
    >>> from bilge_core.pan.solid import solid_from_prisms
    >>> cup = shapely.box(0, 0, 0.2, 0.2)
    >>> core, wedges = drafted_prisms(
    ...     shapely.orient_polygons(cup), (0, 0, 0), 0.1, [True] * 4, math.atan(0.5))
    >>> round(solid_from_prisms([core, *wedges]).volume * 1e3, 4)  # h/3 (A1 + A2 + sqrt(A1 A2))
    2.3333
    """
    corners = np.asarray(outline.exterior.coords)[:-1, :2]
    along = np.roll(corners, -1, axis=0) - corners
    along /= np.hypot(*along.T)[:, None]
    inward = np.column_stack([-along[:, 1], along[:, 0]])
    lean = math.tan(draft)
    leans = np.where(np.asarray(leaning), lean, 0.0)
    count = len(corners)
    try:
        feet = np.array(
            [
                _floor_corner(corners[i], inward[[i - 1, i]], leans[[i - 1, i]], floor, top)
                for i in range(count)
            ]
        )
    except np.linalg.LinAlgError:
        raise InvalidQuantity("draft", f"{math.degrees(draft):.1f}°", "less here") from None
    core = Polygon(feet)
    if not core.is_valid or not core.exterior.is_ccw or core.area < _THIN:
        raise InvalidQuantity(
            "draft", f"{math.degrees(draft):.1f}°", "less: its walls meet above the floor"
        )
    wedges = []
    for i in range(count):
        if leans[i] == 0.0:
            continue
        j = (i + 1) % count
        strip = Polygon([corners[i], corners[j], feet[j], feet[i]])
        if strip.area < _THIN:
            continue
        slope = -inward[i] / lean
        wall: Plane = (top - float(slope @ corners[i]), float(slope[0]), float(slope[1]))
        wedges.append(Prism(shapely.orient_polygons(strip), wall, (top, 0.0, 0.0)))
    return Prism(shapely.orient_polygons(core), floor, (top, 0.0, 0.0)), tuple(wedges)
