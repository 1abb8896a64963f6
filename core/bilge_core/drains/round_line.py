"""A round line that runs part full: what is wet of it, and what friction takes."""

from __future__ import annotations

import math

from numba import njit

_LAMINAR_TO, _TURBULENT_FROM = 2040.0, 4000.0
"""Reynolds numbers between which friction goes straight from the one law to the other (ours)."""
_CRITICAL_TO = 0.95  # of the bore: the closed form's critical depth ends there (ours)
ORIFICE = 0.6
"""Of a hole that stands under oil: handbooks give 0.60 to 0.62 for a sharp one (from memory)."""
_WEIR = 0.544
"""``q = 0.544 √g π D h^1.5``: the rim of a hole in a floor as a weir (from memory)."""
_SIDE_HOLE = 1.37  # critical depths that stand before a hole in a wall (from memory)
_LIES_FROM, _HANGS_FROM = 0.5, 0.87
"""Cosines of 60° and 30°: a hole that faces down more than the second is one in a floor, less than
the first one in a wall (ours)."""


@njit
def wetted(depth, bore):  # type: ignore[no-untyped-def]
    """Area [m2] and wetted perimeter [m] of a round line of a bore [m] filled to a depth [m]."""
    if depth >= bore:
        return 0.25 * math.pi * bore * bore, math.pi * bore
    if depth <= 0.0:
        return 0.0, 0.0
    half = math.acos(1.0 - 2.0 * depth / bore)
    return 0.25 * bore * bore * (half - math.sin(half) * math.cos(half)), bore * half


@njit
def friction(reynolds):  # type: ignore[no-untyped-def]
    """Darcy's friction factor of a smooth line.

    64 over Reynolds' number where flow is laminar; Haaland's explicit form (1983) without roughness
    where it is turbulent.
    """
    if reynolds <= _LAMINAR_TO:
        return 64.0 / max(reynolds, 1e-9)
    high = max(reynolds, _TURBULENT_FROM)
    turbulent = (1.8 * math.log10(high / 6.9)) ** -2.0
    if reynolds >= _TURBULENT_FROM:
        return turbulent
    share = (reynolds - _LAMINAR_TO) / (_TURBULENT_FROM - _LAMINAR_TO)
    return (1.0 - share) * 64.0 / _LAMINAR_TO + share * turbulent


@njit
def _slope_at(flow, depth, bore, viscosity, gravity):  # type: ignore[no-untyped-def]
    area, perimeter = wetted(depth, bore)
    wide = 4.0 * area / perimeter
    speed = flow / area
    factor = friction(speed * wide / viscosity)
    return factor * speed * speed / (2.0 * gravity * wide)


@njit
def friction_slope(flow, depth, bore, viscosity, gravity):  # type: ignore[no-untyped-def]
    """Head [m] that friction takes a metre of a line filled to a depth.

    `flow` [m3/s], `viscosity` kinematic [m2/s], `gravity` felt [m/s2]. A line nearly full would
    carry a little more than a full one; it is not let, or two depths would carry the same.
    """
    part = _slope_at(flow, depth, bore, viscosity, gravity)
    return max(part, _slope_at(flow, bore, bore, viscosity, gravity))


@njit
def depth_at_brink(flow, bore, gravity):  # type: ignore[no-untyped-def]
    """Critical depth [m] of a flow [m3/s] in a round line: how deep it stands where it falls out.

    Hager's ``(q / √(g D))^½``, right to 3 % from a fifth of the bore to nine tenths (from memory).
    """
    depth = math.sqrt(flow / math.sqrt(gravity * bore))
    return min(depth, _CRITICAL_TO * bore)


@njit
def head_through_hole(flow, bore, gravity):  # type: ignore[no-untyped-def]
    """Head [m] across a hole with oil on both sides of it, as an orifice's."""
    speed = flow / (ORIFICE * 0.25 * math.pi * bore * bore)
    return speed * speed / (2.0 * gravity)


@njit
def head_at_hole(flow, bore, gravity, facing_down):  # type: ignore[no-untyped-def]
    """Oil [m] that stands over a hole's lowest rim so that a flow goes into it.

    `facing_down` is the cosine between the way into the hole and down: 1 in a floor, 0 in a wall.
    Of a hole in a floor the greater of rim and orifice, of one in a wall what stands before it.
    """
    rim = (flow / (_WEIR * math.sqrt(gravity) * math.pi * bore)) ** (2.0 / 3.0)
    under = head_through_hole(flow, bore, gravity)
    in_floor = max(rim, under)
    before = _SIDE_HOLE * depth_at_brink(flow, bore, gravity)
    in_wall = max(before, 0.5 * bore + under)
    if before < 0.9 * bore:
        in_wall = before
    share = (facing_down - _LIES_FROM) / (_HANGS_FROM - _LIES_FROM)
    share = min(max(share, 0.0), 1.0)
    return share * in_floor + (1.0 - share) * in_wall
