"""Oil that has left the bearings and lies or falls: heads with their drains, oil off the crank."""

from __future__ import annotations

import math

from numba import njit

from bilge_core.network.laws import DISCHARGE

_ALONG, _ACROSS = 6, 3  # parts of a floor's length and width (ours: drains are a sixth apart)
_STEEPEST = 0.05  # cosine at which a floor is taken to stand on its edge (ours)
_MOST_ROUNDS = 24
_WALLIS = 0.8
_GAS_DENSITY = 1.0  # [kg/m3] of blow-by (from memory)
_WEIR = 0.544
"""``q = 0.544 √g π D h^1.5``: a hole's rim as a weir (from memory)."""


@njit(inline="always")
def hole_flow(depth, bore, gravity):  # type: ignore[no-untyped-def]
    """Oil [m3/s] that falls through a hole of a bore [m] under a depth [m] of it.

    The lesser of what its rim lets over as a weir and what it lets through as an orifice.
    """
    if depth <= 0.0:
        return 0.0
    weir = _WEIR * math.sqrt(gravity) * math.pi * bore * depth * math.sqrt(depth)
    area = 0.25 * math.pi * bore * bore
    return min(weir, DISCHARGE * area * math.sqrt(2.0 * gravity * depth))


@njit(inline="always")
def flooded_flow(bore, gravity, density, gas):  # type: ignore[no-untyped-def]
    """The most oil [m3/s] that falls through a hole of a bore [m] while gas goes up through it.

    `density` of the oil with its foam [kg/m3], `gas` [m3/s]. Wallis (1969):
    ``√j*_g + √j*_l = C`` with ``j* = j √(ρ / (g D Δρ))``, C 0.8 for square edges (from memory).
    """
    area = 0.25 * math.pi * bore * bore
    rising = gas / area * math.sqrt(_GAS_DENSITY / (gravity * bore * density))
    left = _WALLIS - math.sqrt(rising)
    if left <= 0.0:
        return 0.0
    return left * left * math.sqrt(gravity * bore) * area


@njit(inline="always")
def hole_flow_with_gas(depth, bore, gravity, density, gas, push, shut):  # type: ignore[no-untyped-def]
    """Oil [m3/s] through a hole under a depth [m], gas going up against it, under its pressure.

    `gas` through this hole [m3/s], nil: none has to; `push` of what lies below over what lies above
    [Pa], and that with the hole shut, `shut`: oil that is heavy enough for it stops the gas.
    """
    if gas <= 0.0:
        return hole_flow(depth, bore, gravity)
    falls = hole_flow(depth - push / (density * gravity), bore, gravity)
    stops = hole_flow(depth - shut / (density * gravity), bore, gravity)
    return max(min(falls, flooded_flow(bore, gravity, density, gas)), stops)


@njit
def floor_level(volume, length, width, ux, uy, uz):  # type: ignore[no-untyped-def]
    """Height [m] along "up", from the floor's middle, at which a volume lies on a floor with walls.

    The floor is cut into columns with no lid; volume against height is then convex, so that
    Newton's method from the height at which every column is wet comes down to it.
    """
    area = length * width / (_ALONG * _ACROSS)
    if volume <= 0.0:
        return -0.5 * (abs(ux) * length + abs(uy) * width)
    level = volume / (length * width) * uz
    for _ in range(_MOST_ROUNDS):
        total = 0.0
        wet = 0
        for i in range(_ALONG):
            along = level - ux * length * ((i + 0.5) / _ALONG - 0.5)
            for j in range(_ACROSS):
                high = along - uy * width * ((j + 0.5) / _ACROSS - 0.5)
                if high > 0.0:
                    total += high
                    wet += 1
        over = total * area / uz - volume
        if wet == 0 or over <= 1e-12:
            break
        level -= over * uz / (area * wet)
    return level


@njit(inline="always")
def _fall(vessels, given, to, volume):  # type: ignore[no-untyped-def]
    """Oil [m3] that falls into another vessel, or as -1 - way back to the pan."""
    if to >= 0:
        vessels[to].into += volume
    else:
        given[-1 - to] += volume


@njit(inline="always")
def _step_thrown(vessels, given, at, step, speed):  # type: ignore[no-untyped-def]
    """Oil off the crank: two equal lags on its way back along the skirt, way 0."""
    row = vessels[at]
    lag = 0.5 * (row.lag + row.more * speed) * row.factor
    keep = 1.0 / (1.0 + step / lag)
    kept = min(row.one + row.into, row.pocket)
    first = row.one + row.into - kept
    row.one = kept + first * keep
    second = row.two + first * (1.0 - keep)
    row.two = second * keep
    given[0] += second - row.two


@njit
def _step_floor(vessels, holes, given, at, step, speed, gx, gy, gz):  # type: ignore[no-untyped-def]
    """Oil on a floor with holes. Gravity [m/s2] is the felt one.

    Blow-by that goes up through the holes rises with the crank's speed up to that of full power,
    its pressure with the square; it takes a hole that is dry before one that oil goes down.
    """
    row = vessels[at]
    held = row.one + row.into
    solid = 1.0 - row.foam
    gravity = max(math.sqrt(gx * gx + gy * gy + gz * gz), 1e-3)
    ux, uy, uz = -gx / gravity, -gy / gravity, max(-gz / gravity, _STEEPEST)
    over = max(held - row.pocket, 0.0)
    share = min(speed / row.full_speed, 1.0) if row.full_speed > 0.0 else 0.0
    push, shut = row.push * share * share, row.shut * share * share
    row.level = floor_level(over / solid, row.length, row.width, ux, uy, uz)
    dry = 0.0
    for hole in range(holes.size):
        if holes[hole].vessel == at:
            depth = row.level - ux * holes[hole].x - uy * holes[hole].y
            if depth <= 0.0:
                dry += holes[hole].many
    for hole in range(holes.size):
        if holes[hole].vessel == at:
            depth = row.level - ux * holes[hole].x - uy * holes[hole].y
            bore = holes[hole].bore
            # by area; where a hole is dry all gas goes up there
            gas = 0.0 if dry > 0.0 else row.gas * share * 0.25 * math.pi * bore * bore
            through = holes[hole].many * hole_flow_with_gas(
                depth, bore, gravity, row.density * solid, gas, push, shut
            )
            fallen = min(through * solid * step, over)
            over -= fallen
            held -= fallen
            _fall(vessels, given, holes[hole].falls, fallen)
    row.one = held


@njit
def step_vessels(vessels, holes, given, step, speed, gravity):  # type: ignore[no-untyped-def]
    """All vessels over a step, those that others fall into after them."""
    for at in range(vessels.size):
        if vessels[at].is_floor == 0:
            _step_thrown(vessels, given, at, step, speed)
        else:
            _step_floor(vessels, holes, given, at, step, speed, gravity[0], gravity[1], gravity[2])
        vessels[at].into = 0.0
