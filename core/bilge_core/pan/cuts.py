"""Flat cuts through the pan's inside, exact: upright along a line, or level at a height."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import LineString, Polygon

from bilge_core.pan.solid import Prism, height_on
from bilge_core.physics.arrays import Array


def span_of(prism: Prism, start: Array, along: Array, first: float, last: float) -> Polygon:
    """A prism's height over a stretch of a line in plan: place along it and height [m].

    Where floor and top meet, their heights may differ by the last digit, either way: the top is
    never taken to lie below the floor, or the span would cross itself.

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> round(span_of(box, np.array([0.1, 0.0]), np.array([0.0, 1.0]), 0.0, 0.2).area, 6)
    0.02
    """
    places = [start + along * first, start + along * last]
    low = [float(height_on(prism.floor, *place)) for place in places]
    high = [
        max(float(height_on(prism.top, *place)), bottom)
        for place, bottom in zip(places, low, strict=True)
    ]
    return Polygon([(first, low[0]), (last, low[1]), (last, high[1]), (first, high[0])])


def upright_cut(
    prisms: Sequence[Prism], start: Array, along: Array, first: float, last: float
) -> shapely.Geometry:
    """The inside of prisms in an upright plane.

    Parameters
    ----------
    prisms : sequence of Prism
    start, along : ndarray, shape (2,)
        A place in plan [m] and a direction of length one.
    first, last : float
        From where to where along it [m].

    Returns
    -------
    Polygon or MultiPolygon
        Place along the line and height [m].

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> cut = upright_cut([box], np.array([0.1, -0.5]), np.array([0.0, 1.0]), 0.0, 1.0)
    >>> round(cut.area, 6), [round(edge, 6) for edge in cut.bounds]
    (0.02, [0.5, -0.1, 0.7, 0.0])
    """
    line = LineString([start + along * first, start + along * last])
    spans = []
    for prism in prisms:
        for piece in shapely.get_parts(prism.outline.intersection(line)):
            if piece.length < 1e-6:
                continue
            ends = (np.asarray(piece.coords)[[0, -1], :2] - start) @ along
            near, far = float(ends.min()), float(ends.max())
            spans.append(span_of(prism, start, along, near, far))
    return shapely.union_all(spans, grid_size=1e-6)


def _level_part(prism: Prism, height: float) -> shapely.Geometry:
    """The part of a prism's outline in which a height lies between floor and top."""
    part: shapely.Geometry = prism.outline
    for plane, sign in ((prism.floor, 1.0), (prism.top, -1.0)):
        part = part.intersection(_half_plane(plane, height, sign))
    return part


def _half_plane(plane: tuple[float, float, float], height: float, sign: float) -> shapely.Geometry:
    """Where ``sign · (height − plane)`` is not negative, out to 100 m."""
    constant, slope = sign * (height - plane[0]), -sign * np.array(plane[1:])
    steep = float(np.hypot(*slope))
    far = 100.0
    if steep < 1e-9:
        return shapely.box(-far, -far, far, far) if constant >= -1e-9 else Polygon()
    if abs(constant) > 0.5 * far * steep:  # all but level: its edge is farther out than any pan
        return shapely.box(-far, -far, far, far) if constant > 0.0 else Polygon()
    up = slope / steep
    foot = -up * constant / steep
    across = np.array([-up[1], up[0]])
    return Polygon(
        [
            foot - far * across,
            foot + far * across,
            foot + far * (across + up),
            foot - far * (across - up),
        ]
    )


def level_cut(prisms: Sequence[Prism], height: float) -> shapely.Geometry:
    """The inside of prisms at a height [m], in plan.

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.2), (-0.1, 0, 0), (0, 0, 0))
    >>> round(level_cut([box], -0.05).area, 6)
    0.08
    """
    return shapely.union_all([_level_part(prism, height) for prism in prisms], grid_size=1e-6)
