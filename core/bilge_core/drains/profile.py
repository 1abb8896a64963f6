"""One march up a line that falls: how high oil stands in it, from its entry to its housing.

Heights are along "up", against the gravity felt, so that any load is as good as any other. A line
is points from the outlet of a housing to its entry into the pan, with a bore between two of them.
"""

from __future__ import annotations

import math

from numba import njit

from bilge_core.drains.round_line import (
    depth_at_brink,
    friction_slope,
    head_at_hole,
    head_through_hole,
    wetted,
)

_LEAST_TILT = 0.15
"""A line steeper than 81° is taken to lie at 81°: depth across it has no height else (ours)."""
_BUBBLE = 0.35
_HALVINGS = 16  # to a micrometre or so
_THINNEST = 1e-3  # of a bore


@njit
def tilt_of(tangents, at, up):  # type: ignore[no-untyped-def]
    """How much of a depth across a piece of line is height."""
    along = tangents[at, 0] * up[0] + tangents[at, 1] * up[1] + tangents[at, 2] * up[2]
    return max(math.sqrt(max(1.0 - along * along, 0.0)), _LEAST_TILT)


@njit
def height_of(points, at, up):  # type: ignore[no-untyped-def]
    """Height [m] of one of many points along "up"."""
    return points[at, 0] * up[0] + points[at, 1] * up[1] + points[at, 2] * up[2]


@njit
def holds_gas(line, at, flow, up, gravity):  # type: ignore[no-untyped-def]
    """Whether a full cell keeps gas from rising through it.

    It lies level or rises on its way down, or its oil is faster than a long bubble rises in it:
    ``0.35 √(g D)``, Davies and Taylor (1950).
    """
    along = 0.0
    for k in range(3):
        along += line.tangents[at, k] * up[k]
    if along >= 0.0:
        return True
    bore = line.bores[at]
    area, _ = wetted(bore, bore)
    return flow >= _BUBBLE * math.sqrt(gravity * bore) * area


@njit
def _part_full(invert, tilt, bore, below, length, flow, viscosity, gravity):  # type: ignore[no-untyped-def]
    """Depth at which what lies below and friction are just met; it is known not to be full."""
    low, high = _THINNEST * bore, bore
    for _ in range(_HALVINGS):
        depth = 0.5 * (low + high)
        over = invert + depth * tilt - below
        if over > length * friction_slope(flow, depth, bore, viscosity, gravity):
            high = depth
        else:
            low = depth
    return 0.5 * (low + high)


@njit(cache=True)
def march_up(line, up, gravity, flow, viscosity, surface, push, heads, fill):  # type: ignore[no-untyped-def]
    """Head [m] along "up" that oil stands at in the housing, and whether it seals the line.

    Parameters
    ----------
    line : `Falls`
    up : shape (3,), of length one
    gravity : felt [m/s2]
    flow : oil and foam out of the housing [m3/s]
    viscosity : kinematic [m2/s]
    surface : height of the pan's oil at the entry [m]
    push : head of the crankcase's pressure [m]; it counts where oil shuts the line
    heads, fill : shape (n + 1,), filled: height of the oil, and share of the bore that is wet

    Notes
    -----
    Each cell's upper end stands as much over its lower one as friction takes; where the line is
    full, bends and speed count besides. What a falling stretch would have in speed is left out, so
    that a steep line comes to its normal depth.
    """
    points, tangents, lengths = line.points, line.tangents, line.lengths
    bores, losses, carries = line.bores, line.losses, line.carries
    last = lengths.size
    bore = bores[last - 1]
    tilt = tilt_of(tangents, last - 1, up)
    invert = height_of(points, last, up) - 0.5 * bore * tilt
    brink = depth_at_brink(flow * carries[last - 1], bore, gravity)
    head = max(invert + brink * tilt, surface)
    fill[last] = min(max((head - invert) / (bore * tilt), 0.0), 1.0)
    heads[last] = head
    sealed = head >= invert + bore * tilt
    if sealed:
        head += push
    for at in range(last - 1, -1, -1):
        bore, length, here = bores[at], lengths[at], flow * carries[at]
        tilt = tilt_of(tangents, at, up)
        invert = height_of(points, at, up) - 0.5 * bore * tilt
        full = friction_slope(here, bore, bore, viscosity, gravity)
        if invert + bore * tilt <= head + length * full:
            area, _ = wetted(bore, bore)
            speed = here / area
            head += length * full + losses[at] * speed * speed / (2.0 * gravity)
            if not sealed and holds_gas(line, at, here, up, gravity):
                head += push
                sealed = True
            fill[at] = 1.0
        else:
            depth = _part_full(invert, tilt, bore, head, length, here, viscosity, gravity)
            head = invert + depth * tilt
            fill[at] = depth / bore
        wider = line.outlet if at == 0 else bores[at - 1]
        if at > 0 and wider > bore:
            down = -(tangents[at, 0] * up[0] + tangents[at, 1] * up[1] + tangents[at, 2] * up[2])
            head = max(head, invert + head_at_hole(here, bore, gravity, down))
        heads[at] = head
    down = -(tangents[0, 0] * up[0] + tangents[0, 1] * up[1] + tangents[0, 2] * up[2])
    leans = math.sqrt(max(1.0 - down * down, 0.0))
    rim = height_of(points, 0, up) - 0.5 * line.outlet * leans
    free = rim + head_at_hole(flow, line.outlet, gravity, down)
    if fill[0] >= 1.0:
        head += head_through_hole(flow, line.outlet, gravity)
    return max(head, free), sealed
