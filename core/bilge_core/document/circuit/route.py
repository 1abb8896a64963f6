"""A route as it is laid: straight legs that meet in arcs, from point to point."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

_NONE = 1e-9  # [rad] of a bend that is none
_TOGETHER = 1e-6  # [m] within which two points are one


@dataclass(frozen=True)
class Arc:
    """A bend of a route.

    point : number of the route's point where its legs would meet
    turn : by which the line turns [rad]
    radius : of its middle [m]; nil: an elbow, turned on the spot
    taken : of each leg, from where they would meet to where the bend begins [m]
    """

    point: int
    turn: float
    radius: float
    taken: float

    @property
    def length(self) -> float:
        """Along its middle [m]."""
        return self.radius * self.turn


@dataclass(frozen=True)
class Route:
    """Points, the bends at the inner ones, and the straight pieces between bends.

    points : shape (n, 3) [m]
    arcs : tuple of Arc, n - 2 of them at most, in order; a point on a straight has none
    straights : between one bend (or end) and the next [m]; below nil where a leg is too short
    """

    points: Array
    arcs: tuple[Arc, ...]
    straights: tuple[float, ...]

    @property
    def length(self) -> float:
        """Along its middle, bends counted [m]."""
        return sum(self.straights) + sum(arc.length for arc in self.arcs)

    @property
    def tightest(self) -> Arc | None:
        """The bend of the smallest radius, elbows left out; None where there is none."""
        bent = [arc for arc in self.arcs if arc.radius > 0.0]
        return min(bent, key=lambda arc: arc.radius, default=None)

    def sampled(self, step: float) -> Array:
        """Places along its middle, no further apart than a step, shape (m, 3) [m]."""
        return _sampled(self, step)


def unit(vector: Array) -> Array:
    """A direction of length one.

    >>> unit(np.array([0.0, 3.0, 4.0])).tolist()
    [0.0, 0.6, 0.8]
    """
    return np.asarray(vector / np.linalg.norm(vector))


def turn_between(before: Array, after: Array) -> float:
    """Angle between two directions [rad], sound near nil and half a turn.

    Examples
    --------
    >>> math.degrees(turn_between(np.array([1.0, 0, 0]), np.array([0.0, 1, 0])))
    90.0
    """
    return float(2.0 * math.atan2(np.linalg.norm(after - before), np.linalg.norm(after + before)))


def laid(points: Array | Sequence[Sequence[float]], radii: Sequence[float]) -> Route:
    """A route through points with a bend at each inner one.

    Parameters
    ----------
    points : array_like, shape (n, 3)
        [m], at least two.
    radii : sequence of float
        Of the bends at the inner points, n - 2 of them [m]; nil is an elbow.

    Returns
    -------
    Route

    Raises
    ------
    InvalidQuantity
        If there are too few points, two that follow each other are one, a line turns back on
        itself, or a radius is below nil.

    References
    ----------
    Elementary geometry: a bend of radius r and turn t takes ``r tan(t / 2)`` of both legs and is
    ``r t`` long.

    Examples
    --------
    >>> corner = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.1])
    >>> [round(each, 3) for each in corner.straights], round(corner.length, 4)
    ([0.2, 0.3], 0.6571)
    """
    places = np.asarray(points, dtype=np.float64)
    if len(places) < 2 or len(radii) != len(places) - 2:
        raise InvalidQuantity("route", len(places), "two points at least, a radius an inner one")
    steps = np.diff(places, axis=0)
    lengths = np.linalg.norm(steps, axis=1)
    if lengths.min() < _TOGETHER:
        at = int(lengths.argmin())
        raise InvalidQuantity("route", f"points {at + 1} and {at + 2}", "apart from each other")
    ways = steps / lengths[:, None]
    arcs, straights, used = [], [], 0.0
    for at, radius in enumerate(radii):
        turn = turn_between(ways[at], ways[at + 1])
        if radius < 0.0:
            raise InvalidQuantity("radius", radius, "nil or more")
        if turn > math.pi - 1e-6:
            raise InvalidQuantity("route", f"point {at + 2}", "no turn back on itself")
        if turn < _NONE:  # goes straight on: its legs are one
            used -= float(lengths[at])
            continue
        taken = radius * math.tan(turn / 2.0)
        straights.append(float(lengths[at]) - used - taken)
        arcs.append(Arc(at + 1, turn, float(radius), taken))
        used = taken
    straights.append(float(lengths[-1]) - used)
    return Route(places, tuple(arcs), tuple(straights))


def _line(start: Array, end: Array, step: float) -> Array:
    count = max(1, math.ceil(float(np.linalg.norm(end - start)) / step))
    return np.asarray(start + np.linspace(0.0, 1.0, count + 1)[:, None] * (end - start))


def _sampled(route: Route, step: float) -> Array:
    points = route.points
    here, pieces = points[0], []
    for arc in route.arcs:
        corner = points[arc.point]
        before = unit(corner - points[arc.point - 1])
        after = unit(points[arc.point + 1] - corner)
        begins, ends = corner - arc.taken * before, corner + arc.taken * after
        pieces.append(_line(here, begins, step))
        if arc.radius > 0.0:
            side = unit(after - float(after @ before) * before)
            count = max(2, math.ceil(arc.length / step))
            turned = np.linspace(0.0, arc.turn, count + 1)[:, None]
            pieces.append(
                begins + arc.radius * (np.sin(turned) * before + (1.0 - np.cos(turned)) * side)
            )
        here = ends
    pieces.append(_line(here, points[-1], step))
    return np.vstack(pieces)
