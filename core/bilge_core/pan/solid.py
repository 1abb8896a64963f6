"""The space that oil can fill, as a set of tetrahedra: exact for plane-sided pans."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

Plane = tuple[float, float, float]
"""``z = p[0] + p[1] x + p[2] y``."""


@dataclass(frozen=True)
class Prism:
    """A plan outline between two planes, floor and top [m]."""

    outline: Polygon
    floor: Plane
    top: Plane


@dataclass(frozen=True)
class Solid:
    """A plane-sided space cut into tetrahedra.

    vertices : ndarray, shape (v, 3) [m]
    tetrahedra : ndarray of int, shape (t, 4), rows of `vertices`
    volumes : ndarray, shape (t,) [m3]
    """

    vertices: Array
    tetrahedra: NDArray[np.int64]
    volumes: Array

    @property
    def volume(self) -> float:
        """All that it holds [m3]."""
        return float(self.volumes.sum())


def height_on(plane: Plane, x: float | Array, y: float | Array) -> Array:
    """Height [m] of a plane at a place in plan."""
    return np.asarray(plane[0] + plane[1] * np.asarray(x) + plane[2] * np.asarray(y))


def _triangles(outline: Polygon) -> list[Array]:
    cut = shapely.constrained_delaunay_triangles(outline)
    return [np.asarray(piece.exterior.coords)[:3, :2] for piece in cut.geoms]


def solid_from_prisms(prisms: Iterable[Prism]) -> Solid:
    """Cut prisms into tetrahedra; the prisms must not overlap.

    Each plan triangle between its floor and top gives three tetrahedra.
    Prisms that touch hold one common body of liquid: walls that stand where
    two prisms meet are not part of this description.

    Parameters
    ----------
    prisms : iterable of Prism

    Returns
    -------
    Solid

    Raises
    ------
    InvalidQuantity
        If a top lies below its floor anywhere, or nothing encloses a volume.

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> round(solid_from_prisms([box]).volume * 1000, 3)  # litres
    13.44
    """
    corners: list[Array] = []
    for prism in prisms:
        for triangle in _triangles(prism.outline):
            low = height_on(prism.floor, triangle[:, 0], triangle[:, 1])
            high = height_on(prism.top, triangle[:, 0], triangle[:, 1])
            if np.any(high < low - 1e-9):
                raise InvalidQuantity(
                    "top of a zone", f"{(high - low).min():.4f} m", "above its floor everywhere"
                )
            bottom = np.column_stack([triangle, low])
            roof = np.column_stack([triangle, np.maximum(high, low)])
            corners.append(np.array([bottom[0], bottom[1], bottom[2], roof[2]]))
            corners.append(np.array([bottom[0], bottom[1], roof[1], roof[2]]))
            corners.append(np.array([bottom[0], roof[0], roof[1], roof[2]]))
    if not corners:
        raise InvalidQuantity("solid", "empty", "at least one zone with an area")
    points = np.array(corners)
    edges = points[:, 1:] - points[:, :1]
    volumes = np.abs(np.linalg.det(edges)) / 6.0
    kept = volumes > 1e-15
    vertices, rows = np.unique(points[kept].reshape(-1, 3).round(9), axis=0, return_inverse=True)
    return Solid(vertices, rows.reshape(-1, 4).astype(np.int64), volumes[kept])


def ramp_plane(
    outline: Polygon, along: Callable[[Array], Array], start: float, end: float
) -> Plane:
    """The plane at height `start` at an outline's least coordinate, `end` at its greatest.

    `along` picks the coordinate (x or y column) of an array of shape (n, 2).
    """
    coordinates = along(np.asarray(outline.exterior.coords)[:, :2])
    least, greatest = float(coordinates.min()), float(coordinates.max())
    slope = (end - start) / (greatest - least)
    is_x = bool(along(np.array([[1.0, 0.0]]))[0])
    return (start - slope * least, slope if is_x else 0.0, 0.0 if is_x else slope)
