"""Outlines of what is round the engine, seen along an axis."""

from __future__ import annotations

import numpy as np
from shapely import MultiPoint

from bilge_core.document.keep_outs import BoxKeepOut, CylinderKeepOut
from bilge_core.physics.arrays import Array
from bilge_core.tell.numbers import mm

_ROUND = np.linspace(0.0, 2.0 * np.pi, 24, endpoint=False)


def hull(places: Array, axes: tuple[int, int]) -> list[tuple[float, float]]:
    """Outline of places seen along the third axis [mm]."""
    outline = MultiPoint(places[:, list(axes)]).convex_hull
    ring = outline.exterior.coords if outline.geom_type == "Polygon" else outline.coords
    return [(mm(float(x)), mm(float(y))) for x, y in ring]


def corners_of(keep_out: BoxKeepOut | CylinderKeepOut) -> Array:
    """Corners of a box, or of a bar's two ends, in its own frame, shape (n, 3) [m]."""
    start, end = np.array(keep_out.from_mm) * 1e-3, np.array(keep_out.to_mm) * 1e-3
    if isinstance(keep_out, BoxKeepOut):
        either = [(start[k], end[k]) for k in range(3)]
        return np.array([[x, y, z] for x in either[0] for y in either[1] for z in either[2]])
    along = (end - start) / np.linalg.norm(end - start)
    aside = np.cross(along, [1.0, 0.0, 0.0] if abs(along[0]) < 0.9 else [0.0, 1.0, 0.0])
    aside /= np.linalg.norm(aside)
    over = np.cross(along, aside)
    ring = np.cos(_ROUND)[:, None] * aside + np.sin(_ROUND)[:, None] * over
    ring *= keep_out.diameter_mm * 0.5e-3
    return np.asarray(np.vstack([start + ring, end + ring]))
