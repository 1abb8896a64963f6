"""Tubes that run beside each other: what becomes of the distance between them round a bend."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.document.circuit.route import Arc, Route, turn_between, unit
from bilge_core.document.circuit.run import HardLine
from bilge_core.lines.laid import Line
from bilge_core.physics.arrays import Array

_BESIDE = 60e-3  # [m] between middles, beyond which nobody sees two tubes as a pair (ours)
_ASKEW = math.radians(3.0)  # between legs that are parallel (ours)
_EVEN = 4e-3  # [m] by which their distances on both legs may differ (ours)


@dataclass(frozen=True)
class Beside:
    """A bend that a tube shares with another.

    name : the other's
    apart : between middles, on the straight [m]
    between : between middles, in the middle of the bend [m]
    gap : between outsides there [m]; below nil: in each other
    keeps : radius of this one that keeps them parallel [m]; None: none would
    """

    name: str
    apart: float
    between: float
    gap: float
    keeps: float | None


@dataclass(frozen=True)
class _Bend:
    """A corner, the ways in and out, turn and radius."""

    corner: Array
    before: Array
    after: Array
    turn: float
    radius: float


def _bend(route: Route, arc: Arc) -> _Bend:
    before, here, after = route.points[arc.point - 1 : arc.point + 2]
    return _Bend(here, unit(here - before), unit(after - here), arc.turn, arc.radius)


def between_in_bend(apart: float, turn: float, inner: float, outer: float) -> float:
    """Between the middles of two tubes, in the middle of a bend that both make [m].

    Parameters
    ----------
    apart : float
        On the straight [m].
    turn : float
        Of the bend [rad].
    inner, outer : float
        Radii of the one on the inside and of the other [m].

    References
    ----------
    Elementary geometry: corners lie ``d / cos(t/2)`` apart, each arc's middle
    ``r (1 / cos(t/2) - 1)`` inside its corner.

    Examples
    --------
    >>> [round(between_in_bend(0.02, math.pi / 2, 0.04, outer), 4) for outer in (0.06, 0.04, 0.1)]
    [0.02, 0.0283, 0.0034]
    """
    half = math.cos(turn / 2.0)
    return (apart - (outer - inner) * (1.0 - half)) / half


def _pair(one: _Bend, other: _Bend) -> float | None:
    """How far a bend lies outside (below nil: inside) another that it goes along with [m]."""
    for before, after in ((other.before, other.after), (-other.after, -other.before)):
        if max(turn_between(one.before, before), turn_between(one.after, after)) < _ASKEW:
            break
    else:
        return None
    normal = unit(np.cross(one.before, one.after))
    out_before, out_after = np.cross(one.before, normal), np.cross(one.after, normal)
    off = other.corner - one.corner
    first, last = float(off @ out_before), float(off @ out_after)
    mean = 0.5 * (first + last)
    level = abs(float(off @ normal)) <= 0.3 * abs(mean)  # else they lie over each other
    if not level or abs(first - last) > _EVEN or not 1e-3 < abs(mean) <= _BESIDE:
        return None
    return mean


def beside(line: Line, others: Sequence[Line]) -> Iterator[Beside]:
    """Each bend of a tube that another tube makes beside it.

    Parameters
    ----------
    line : Line
    others : sequence of Line
        Of the same build, itself left out.
    """
    if line.route is None or not isinstance(line.run.line, HardLine):
        return
    for other in others:
        if other.route is None or not isinstance(other.run.line, HardLine) or other is line:
            continue
        for arc in line.route.arcs:
            for there in other.route.arcs:
                one, two = _bend(line.route, arc), _bend(other.route, there)
                outside = _pair(one, two) if one.radius > 0.0 and two.radius > 0.0 else None
                if outside is None:
                    continue
                apart = abs(outside)
                inner, outer = (one, two) if outside > 0.0 else (two, one)
                between = between_in_bend(apart, one.turn, inner.radius, outer.radius)
                keeps = two.radius - outside
                wide = 0.5 * ((line.outside or 0.0) + (other.outside or 0.0))
                yield Beside(
                    other.run.name, apart, between, between - wide, keeps if keeps > 0.0 else None
                )
