"""What each cell is now: oil, air that is open to the crankcase, or air shut in by oil."""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.transfer import FAST, HALF, OIL, ONE, OPEN_AIR, SHUT_AIR, ZERO

OIL_FROM = np.float32(0.6)
"""Filling from which a cell counts as oil [-]. Ours: at one half, tilted oil at rest simmers."""

AIR_PASSES = np.float32(0.3)
"""Filling up to which air finds its way through a cell [-]; denser spray seals an opening. Ours:
fixed by the sealed U-tube, which keeps its oil, and the open one, which does not.
"""

LIGHT = np.float32(0.03)
"""Density of shut-in air over that of oil [-]: heavier than air is (0.0014), light enough not to
push oil. Ours: fixed by the sealed U-tube.
"""

_LEAST_POCKET = np.float32(2.5)
"""Empty cells from which shut-in air is a pocket that lasts [cells]; fewer are a hole that closes.
Ours: single holes that hold pressure are noise.
"""
_JUDGED = 4
"""A mark while a pocket is looked at; kinds go up to 3."""
_NEAREST = np.float32(0.1)
"""Least distance of a surface from a cell's middle [of a cell]: nearer, and the matrix is lopsided
(ghost fluid, Gibou et al. 2002, from memory).
"""


@njit(cache=True, error_model="numpy")
def fillings(density, kernel, fluid, filling):  # type: ignore[no-untyped-def]
    """Volume that the particles give each cell over what a full one would be given."""
    for n in range(fluid.size):
        c = fluid[n]
        filling[c] = density[c] / kernel[c]


@njit(cache=True, error_model="numpy")
def sort_cells(  # type: ignore[no-untyped-def]  # noqa: PLR0912
    filling, fluid, area, vent, strides, kind, stack
):
    """Oil from the filling; air by whether it is connected to a vent through air.

    `area` are the faces' openings now; `vent` flags cells that are open to the outside.
    """
    top = 0
    for n in range(fluid.size):
        c = fluid[n]
        if filling[c] >= OIL_FROM:
            kind[c] = OIL
        else:
            kind[c] = SHUT_AIR
            if vent[c]:
                kind[c] = OPEN_AIR
                if filling[c] < AIR_PASSES:
                    stack[top] = c
                    top += 1
    while top > 0:
        top -= 1
        c = stack[top]
        for a in range(3):
            s = strides[a]
            for side in range(2):
                face = c + s if side else c
                other = c + s if side else c - s
                if kind[other] == SHUT_AIR and area[a, face] > ZERO:
                    kind[other] = OPEN_AIR
                    if filling[other] < AIR_PASSES:
                        stack[top] = other
                        top += 1
    for n in range(fluid.size):
        if kind[fluid[n]] == SHUT_AIR:
            _judge_pocket(filling, area, strides, kind, stack, fluid[n])
    for n in range(fluid.size):
        if kind[fluid[n]] == _JUDGED:
            kind[fluid[n]] = SHUT_AIR


@njit(cache=True, error_model="numpy")
def _judge_pocket(filling, area, strides, kind, stack, first):  # type: ignore[no-untyped-def]
    """A pocket of shut-in air from one of its cells on: kept, or a hole in the oil that will close.

    Particles are never quite even: less than a few cells' worth of air is no air.
    """
    stack[0] = first
    kind[first] = _JUDGED
    end = 1
    at = 0
    empty = ZERO
    while at < end:
        c = stack[at]
        at += 1
        empty += max(ZERO, ONE - filling[c])
        for a in range(3):
            s = strides[a]
            for side in range(2):
                face = c + s if side else c
                other = c + s if side else c - s
                if kind[other] == SHUT_AIR and area[a, face] > ZERO:
                    kind[other] = _JUDGED
                    stack[end] = other
                    end += 1
    if empty < _LEAST_POCKET:
        for n in range(end):
            kind[stack[n]] = OIL


@njit(inline="always")
def surface_share(oil, air):  # type: ignore[no-untyped-def]
    """How far from an oil cell's centre to the next one the surface lies, 0.1 to 1."""
    inside = ONE - np.sqrt(max(ZERO, np.float32(2.0) - np.float32(2.0) * oil))
    if air < HALF:
        outside = np.sqrt(np.float32(2.0) * max(air, ZERO)) - ONE
    else:
        outside = ONE - np.sqrt(np.float32(2.0) - np.float32(2.0) * air)
    share = inside / (inside - outside)
    return min(max(share, _NEAREST), np.float32(1.5))


@njit(inline="always")
def lightness(kind, other, fill, fill_other):  # type: ignore[no-untyped-def]
    """Inverse density on the face between two cells of the equations, or one and open air."""
    if kind == OIL and other == OIL:
        return ONE
    if OIL in (kind, other):
        oil = fill if kind == OIL else fill_other
        air = fill_other if kind == OIL else fill
        share = surface_share(oil, air)
        if OPEN_AIR in (kind, other):
            return ONE / share
        return ONE / (share + (ONE - share) * LIGHT)
    if SHUT_AIR in (kind, other):
        mixed = min(max(HALF * (fill + fill_other), ZERO), ONE)
        return ONE / (mixed + (ONE - mixed) * LIGHT)
    return ZERO


@njit(cache=True, fastmath=FAST, error_model="numpy")
def start_velocities(momentum, velocity, carried):  # type: ignore[no-untyped-def]
    """Velocities from the particles' momentum [m/s]; `carried` flags faces that particles reach."""
    for a in range(3):
        field = momentum[a]
        out = velocity[a]
        flags = carried[a]
        for c in range(out.size):
            weight = field[np.uint64(2 * c + 1)]
            if weight > np.float32(1e-14):
                out[np.uint64(c)] = field[np.uint64(2 * c)] / weight
                flags[np.uint64(c)] = True
            else:
                out[np.uint64(c)] = ZERO
                flags[np.uint64(c)] = False


@njit(cache=True, fastmath=FAST, error_model="numpy")
def push_velocities(velocity, carried, push, still):  # type: ignore[no-untyped-def]
    """Add what the load gives over the step; `still` faces (rows: axis, face) stay at nil.

    After the drag, not before: oil at rest is pushed evenly, and so stays at rest.
    """
    for a in range(3):
        added = push[a]
        field = velocity[a]
        flags = carried[a]
        for c in range(field.size):
            if flags[np.uint64(c)]:
                field[np.uint64(c)] += added
    for n in range(still.shape[0]):
        velocity[still[n, 0], still[n, 1]] = ZERO


@njit(cache=True, fastmath=FAST, error_model="numpy")
def wall_drag(velocity, speed_of, drag_faces, drag_walls, step, laminar, turbulent, viscous):  # type: ignore[no-untyped-def]
    """Slow the flow along walls: `drag_walls` is wall area per volume [1/m] at each drag face.

    The laminar part is that of an oscillating boundary layer, or where that is thicker than half a
    cell the cell's own shear ``2 ν / h``; the turbulent one half a friction factor times speed.
    """
    for n in range(drag_faces.shape[0]):
        a = drag_faces[n, 0]
        c = drag_faces[n, 1]
        u = velocity[a, c]
        per = drag_walls[n, 0]
        rate = max(laminar, viscous * drag_walls[n, 1]) + turbulent * abs(u)
        speed_of[n] = u / (ONE + step * per * rate)
    for n in range(drag_faces.shape[0]):
        velocity[drag_faces[n, 0], drag_faces[n, 1]] = speed_of[n]


@njit(cache=True, fastmath=FAST, error_model="numpy")
def opening_loss(velocity, faces, per_length, step):  # type: ignore[no-untyped-def]
    """What a jet loses in a sharp-edged opening that the cells are too coarse to contract.

    `per_length`: half the loss coefficient over the way from cell to cell [1/m].
    """
    for n in range(faces.shape[0]):
        u = velocity[faces[n, 0], faces[n, 1]]
        velocity[faces[n, 0], faces[n, 1]] = u / (ONE + step * per_length[n] * abs(u))


@njit(cache=True, fastmath=FAST, error_model="numpy")
def mix_with_air(velocity, air, carried, filling, kind, cells, count, strides, push, area):  # type: ignore[no-untyped-def]
    """On faces beside shut-in air: the velocity of oil and air together, by mass."""
    for n in range(count):
        c = cells[n]
        if kind[c] != SHUT_AIR:
            continue
        for a in range(3):
            s = strides[a]
            for side in range(2):
                face = c + s if side else c
                other = c + s if side else c - s
                if area[a, face] <= ZERO or (side == 1 and kind[other] == SHUT_AIR):
                    continue
                k = kind[other]
                if k == OIL:
                    fill = surface_share(filling[other], filling[c])
                else:
                    fill = min(max(HALF * (filling[c] + filling[other]), ZERO), ONE)
                if not carried[a, face]:
                    fill = ZERO
                gas = (ONE - fill) * LIGHT
                velocity[a, face] = (fill * velocity[a, face] + gas * (air[a, face] + push[a])) / (
                    fill + gas
                )
