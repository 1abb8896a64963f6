"""A hard line's bending sheet: how far to push, how far to roll, how far to bend."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.document.circuit.route import Route, turn_between, unit
from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Bender:
    """What a bender does, measured on a trial bend.

    springback : by which a bend comes back, of the angle bent [-]
    stretch : by which the tube grows in a bend of a quarter turn [m]
    flare : of tube that one flare takes [m]
    spare : of tube for a bend gone wrong [m]
    """

    springback: float = 0.03
    stretch: float = 0.0
    flare: float = 3e-3
    spare: float = 0.15


@dataclass(frozen=True)
class Pull:
    """One bend of the sheet.

    straight : from the tube's end, or the bend before, to where this bend begins [m]
    mark : the same from the tube's first end along the cut tube, stretch taken off [m]
    roll : about the tube, seen along it from behind, with the clock [rad]; nil for the first
    turn : as it is to be [rad]
    pulled : as it is bent, springback counted [rad]
    radius : [m]
    """

    straight: float
    mark: float
    roll: float
    turn: float
    pulled: float
    radius: float


@dataclass(frozen=True)
class BendingSheet:
    """All bends of a tube, and what is cut for it.

    pulls : tuple of Pull
    last : the straight after the last bend [m]
    developed : the tube's length along its middle [m]
    cut : what is cut: flares counted, stretch taken off [m]
    stock : the same with a spare for a bend gone wrong [m]
    """

    pulls: tuple[Pull, ...]
    last: float
    developed: float
    cut: float
    stock: float


def _normals(route: Route) -> list[Array]:
    """What each bend turns about, a unit vector each."""
    found = []
    for arc in route.arcs:
        before = unit(route.points[arc.point] - route.points[arc.point - 1])
        after = unit(route.points[arc.point + 1] - route.points[arc.point])
        found.append(unit(np.cross(before, after)))
    return found


def bending_sheet(route: Route, bender: Bender) -> BendingSheet:
    """The sheet of a route.

    Parameters
    ----------
    route : Route
        Every bend with a radius, every leg long enough for its bends.
    bender : Bender

    Returns
    -------
    BendingSheet

    Raises
    ------
    InvalidQuantity
        If a bend has no radius, or a leg is shorter than its bends take.

    References
    ----------
    Elementary geometry; a bend stretches its tube in proportion to its angle (ours).

    Examples
    --------
    >>> from bilge_core.document.circuit.route import laid
    >>> corner = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.05])
    >>> sheet = bending_sheet(corner, Bender(springback=0.0, flare=0.0))
    >>> round(sheet.pulls[0].straight, 3), round(sheet.last, 3), round(sheet.developed, 4)
    (0.25, 0.35, 0.6785)
    """
    for arc in route.arcs:
        if arc.radius <= 0.0:
            raise InvalidQuantity("radius", f"of bend {arc.point}", "given: a tube has no elbows")
    if min(route.straights) < -1e-9:
        raise InvalidQuantity("route", "a leg", "as long as its bends take")
    normals, pulls = _normals(route), []
    mark = bender.flare
    for at, arc in enumerate(route.arcs):
        roll = 0.0
        if at:
            along = unit(route.points[arc.point] - route.points[arc.point - 1])
            before, now = normals[at - 1], normals[at]
            roll = math.atan2(float(along @ np.cross(before, now)), float(before @ now))
        mark += route.straights[at]
        pulled = arc.turn * (1.0 + bender.springback)
        pulls.append(Pull(route.straights[at], mark, roll, arc.turn, pulled, arc.radius))
        mark += arc.length - _stretched(arc.turn, bender)
    stretched = sum(_stretched(arc.turn, bender) for arc in route.arcs)
    cut = route.length + 2.0 * bender.flare - stretched
    return BendingSheet(
        tuple(pulls), route.straights[-1], route.length, cut, cut + bender.spare
    )  # fmt: skip


def _stretched(turn: float, bender: Bender) -> float:
    return bender.stretch * turn / (0.5 * math.pi)


def retraced(sheet: BendingSheet) -> Array:
    """Where a tube bent by a sheet goes: its points from its first end, shape (n, 3) [m].

    The first leg goes along x, the first bend turns toward y. The legs' meeting points, as a route
    has them.

    Examples
    --------
    >>> from bilge_core.document.circuit.route import laid
    >>> corner = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.05])
    >>> retraced(bending_sheet(corner, Bender())).round(6).tolist()
    [[0.0, 0.0, 0.0], [0.3, 0.0, 0.0], [0.3, 0.4, 0.0]]
    """
    along, normal = np.array([1.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0])
    points = [np.zeros(3)]
    left = 0.0
    for pull in sheet.pulls:
        normal = _turned(normal, along, pull.roll)
        taken = pull.radius * math.tan(pull.turn / 2.0)
        points.append(points[-1] + (left + pull.straight + taken) * along)
        along = _turned(along, normal, pull.turn)
        left = taken
    points.append(points[-1] + (left + sheet.last) * along)
    return np.array(points)


def _turned(vector: Array, axis: Array, angle: float) -> Array:
    """A vector turned about a unit axis: Rodrigues."""
    return np.asarray(
        vector * math.cos(angle)
        + np.cross(axis, vector) * math.sin(angle)
        + axis * float(axis @ vector) * (1.0 - math.cos(angle))
    )


def clocking(route: Route, first: Array, last: Array) -> float | None:
    """Angle between two angled hose ends, seen along the hose from its first end [rad].

    Parameters
    ----------
    route : Route
        Of the hose.
    first, last : ndarray, shape (3,)
        Where the two ports face.

    Returns
    -------
    float or None
        With the clock, from the first end's plane to the last's; None where an end goes
        straight on and has no plane.

    Notes
    -----
    A hose is turned along its way as it lies, without twist: each bend carries the plane along.

    Examples
    --------
    >>> from bilge_core.document.circuit.route import laid
    >>> flat = laid([[0, 0, 0], [0.5, 0, 0]], [])
    >>> up, left = np.array([0, 0, 1.0]), np.array([0, 1.0, 0])
    >>> round(math.degrees(clocking(flat, up, left)))
    -90
    """
    points = route.points
    start, end = unit(points[1] - points[0]), unit(points[-1] - points[-2])
    here, there = first - float(first @ start) * start, last - float(last @ end) * end
    if min(float(np.linalg.norm(here)), float(np.linalg.norm(there))) < 1e-6:
        return None
    carried = unit(here)
    for arc in route.arcs:
        before = unit(points[arc.point] - points[arc.point - 1])
        after = unit(points[arc.point + 1] - points[arc.point])
        carried = _turned(carried, unit(np.cross(before, after)), turn_between(before, after))
    there = unit(there)
    return math.atan2(float(end @ np.cross(carried, there)), float(carried @ there))
