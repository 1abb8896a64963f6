"""A flange traced on a photograph: its perspective taken out by a rectangle that lies on it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array
from bilge_core.scan.drawing_file import FlatDrawing

Spot = tuple[float, float]
_LEAST_AREA = 400.0  # [pixels2] of the rectangle in the picture (ours: 20 by 20)
_LEAST_AREA_MADE = 1e-4  # [m2] of an outline
_FOUR = 4


def homography(seen: Sequence[Spot], lies: Sequence[Spot]) -> Array:
    """What carries four places of a picture to where they lie on a plane.

    Parameters
    ----------
    seen : sequence of four places [pixels]
    lies : sequence of four places [m]

    Returns
    -------
    ndarray, shape (3, 3)
        On homogeneous places; its last element is 1.

    Raises
    ------
    InvalidQuantity
        If three of them are in line.

    Notes
    -----
    Eight linear equations in eight unknowns: the direct linear transformation with four places
    (Hartley and Zisserman, Multiple View Geometry, 4.1; from memory).

    Examples
    --------
    >>> square = [(0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0)]
    >>> there = homography(square, [(0.0, 0.1), (0.1, 0.1), (0.1, 0.0), (0.0, 0.0)])
    >>> (there @ [50.0, 20.0, 1.0]).round(4).tolist()
    [0.05, 0.08, 1.0]
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(seen, lies, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    found = np.asarray(rows, dtype=np.float64)
    if np.linalg.matrix_rank(found) < 2 * _FOUR:
        raise InvalidQuantity("corners", "three in line", "the corners of a rectangle")
    return np.append(np.linalg.solve(found, np.asarray(right)), 1.0).reshape(3, 3)


def laid_flat(there: Array, places: Array, name: str = "corners") -> Array:
    """Places of a picture on the plane [m].

    Parameters
    ----------
    there : ndarray, shape (3, 3)
    places : ndarray, shape (n, 2)
        In pixels.
    name : str
        What they are, in a refusal.

    Returns
    -------
    ndarray, shape (n, 2)

    Raises
    ------
    InvalidQuantity
        If one lies beyond the plane's horizon in the picture.

    Examples
    --------
    >>> laid_flat(np.diag([0.001, 0.001, 1.0]), np.array([[20.0, 30.0]])).tolist()
    [[0.02, 0.03]]
    """
    full = np.column_stack([places, np.ones(len(places))]) @ there.T
    if len(full) and not (full[:, 2] * full[0, 2] > 0.0).all():
        raise InvalidQuantity(name, "beyond the horizon", "on the flange's own plane")
    return np.asarray(full[:, :2] / full[:, 2:])


class Plane:
    """The flange's plane as a picture shows it.

    corners : of the rectangle on the picture, clockwise from its upper left [pixels, y down]
    wide, high : of the rectangle [m]
    """

    def __init__(self, corners: Sequence[Spot], wide: float, high: float) -> None:
        """Find it.

        Raises
        ------
        InvalidQuantity
            If the corners are no rectangle's, or too near each other.
        """
        ring = Polygon(corners)
        turned = shapely.is_ccw(ring.exterior)  # y down: clockwise as it is seen
        if not ring.is_valid or not math.isclose(ring.convex_hull.area, ring.area):
            words = "four that go round without crossing, clockwise from the upper left"
            raise InvalidQuantity("corners", "crossed or bent in", words)
        if not turned:
            words = "clockwise from the upper left, as the picture shows them"
            raise InvalidQuantity("corners", "the other way round", words)
        if ring.area < _LEAST_AREA:
            words = "farther apart: lay a larger rectangle on the flange"
            raise InvalidQuantity("corners", f"{ring.area:.0f} pixels in all", words)
        self._corners = np.asarray(corners, dtype=np.float64)
        self._lies = [(0.0, high), (wide, high), (wide, 0.0), (0.0, 0.0)]
        self._there = homography(corners, self._lies)
        laid_flat(self._there, self._corners)

    def places(self, picked: Sequence[Spot], name: str) -> Array:
        """Where places of the picture lie [m], shape (n, 2); in a refusal they have a name.

        Raises
        ------
        InvalidQuantity
            If one lies beyond the plane's horizon.
        """
        spots = np.asarray(picked, dtype=np.float64).reshape(-1, 2)
        both = laid_flat(self._there, np.vstack([self._corners, spots]), name)
        return both[_FOUR:]

    def spread(self, picked: Sequence[Spot], pixels: float = 1.0) -> float:
        """How far a place moves at most with each corner off by so many pixels, about [m].

        The root of the sum of squares over the corners' eight figures, of the place that moves
        most; what a picture of the lens bends is not in it.
        """
        if not len(picked):
            return 0.0
        own = self.places(picked, "places")
        moved = np.zeros(len(own))
        for corner in range(_FOUR):
            for axis in range(2):
                off = self._corners.copy()
                off[corner, axis] += pixels
                there = homography([(x, y) for x, y in off], self._lies)
                spots = np.asarray(picked, dtype=np.float64)
                moved += ((laid_flat(there, spots) - own) ** 2).sum(axis=1)
        return float(math.sqrt(moved.max()))


def traced(
    plane: Plane,
    outline: Sequence[Spot],
    opening: Sequence[Spot],
    holes: Sequence[tuple[Spot, float]],
) -> FlatDrawing:
    """A flange as it was traced, as if it had been drawn flat.

    Parameters
    ----------
    plane : Plane
    outline, opening : sequences of places [pixels]
        In order round; the opening may be empty.
    holes : sequence of a middle [pixels] and a diameter [m]

    Raises
    ------
    InvalidQuantity
        If a ring crosses itself or is none, or the opening is not inside the outline.

    Examples
    --------
    >>> plane = Plane([(0, 0), (100, 0), (100, 100), (0, 100)], 0.1, 0.1)
    >>> ring = [(0, 0), (400, 0), (400, 200), (0, 200)]
    >>> flat = traced(plane, ring, [], [((20, 20), 7e-3)])
    >>> round(flat.rings[0].area, 6), [round(each, 4) for each in flat.holes[0]]
    (0.08, [0.02, 0.08, 0.007])
    """
    rings = [_ring("outline", plane.places(outline, "outline"))]
    if len(opening):
        inner = _ring("opening", plane.places(opening, "opening"))
        if not rings[0].contains(inner):
            raise InvalidQuantity("opening", "outside", "inside the flange's outline")
        rings.append(inner)
    spots = plane.places([spot for spot, _ in holes], "holes")
    found = tuple((float(x), float(y), d) for (x, y), (_, d) in zip(spots, holes, strict=True))
    return FlatDrawing(tuple(rings), found, "mm")


def _ring(name: str, places: Array) -> Polygon:
    if len(places) < 3:
        raise InvalidQuantity(name, f"{len(places)} points", "three points at least")
    ring = Polygon(places)
    if not ring.is_valid:
        raise InvalidQuantity(name, "crossed", "points in order round, crossing nowhere")
    if ring.area < _LEAST_AREA_MADE:
        raise InvalidQuantity(name, f"{ring.area * 1e6:.0f} mm2", "larger than a thumbnail")
    return shapely.orient_polygons(ring)
