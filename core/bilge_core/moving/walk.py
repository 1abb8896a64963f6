"""Particles on their way: cell by cell, stopped by every face that is shut in their direction."""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.transfer import INSIDE, ONE, ZERO

_MOST_FACES = 24  # that a particle crosses in one part of a step: more is a fault, it stays (ours)
_NEVER = np.float32(2.0)  # share of a way at which nothing is met
_MOST_TIMES = 4  # that a particle is turned at walls in a step (ours)


@njit(inline="always")
def _chance(state):  # type: ignore[no-untyped-def]
    """The next number of a fixed sequence, 0 to 1 (xorshift)."""
    x = state[0]
    x ^= x << np.uint64(13)
    x ^= x >> np.uint64(7)
    x ^= x << np.uint64(17)
    state[0] = x
    return np.float32(x >> np.uint64(40)) * np.float32(1.0 / 16777216.0)


@njit(inline="always")
def _share_of_way(at, size, way):  # type: ignore[no-untyped-def]
    """After which share of its way a particle comes to the end of its cell; beyond 1 when never."""
    if way > ZERO:
        return (ONE - at) * size / way
    if way < ZERO:
        return -at * size / way
    return _NEVER


@njit(cache=True, error_model="numpy")
def move_particles(  # type: ignore[no-untyped-def]  # noqa: PLR0912, PLR0915
    rows, cell, listed, count, travel, hx, hy, hz, where, up, down, opening, cut, wall, flow, state
):
    """Move the `listed` particles along `travel` [m]; in a cut cell they end on the wall's
    oil side.

    One loop without calls: handing a compiled function its arrays costs more than the walk.

    `up` and `down`: share of what comes to a face that it lets pass along its axis and against it.
    `cut`: for each cell the row of `wall` (normal out of the oil, offset from the cell's low corner
    [m]), or -1. `opening`: which one lies there, see `Domain`; `flow` gathers
    the volume that passed each.
    """
    ny = hy.size
    nz = hz.size
    sx = ny * nz
    for n in range(count):
        p = np.int64(listed[n])
        c = np.int64(cell[p])
        x = travel[p, 0]
        y = travel[p, 1]
        z = travel[p, 2]
        for _ in range(_MOST_TIMES):
            packed = where[np.uint64(c)]
            i = packed >> 20
            j = (packed >> 10) & 1023
            k = packed & 1023
            fx = rows[p, 0]
            fy = rows[p, 1]
            fz = rows[p, 2]
            for _face in range(_MOST_FACES):
                dx = hx[np.uint64(i)]
                dy = hy[np.uint64(j)]
                dz = hz[np.uint64(k)]
                tx = _share_of_way(fx, dx, x)
                ty = _share_of_way(fy, dy, y)
                tz = _share_of_way(fz, dz, z)
                first = min(tx, ty, tz)
                if first >= ONE:
                    fx += x / dx
                    fy += y / dy
                    fz += z / dz
                    break
                fx += first * x / dx
                fy += first * y / dy
                fz += first * z / dz
                rest = ONE - first
                x *= rest
                y *= rest
                z *= rest
                if first == tx:
                    axis, stride, forward = 0, sx, x > ZERO
                elif first == ty:
                    axis, stride, forward = 1, nz, y > ZERO
                else:
                    axis, stride, forward = 2, 1, z > ZERO
                face = np.uint64(c + stride if forward else c)
                share = up[axis, face] if forward else down[axis, face]
                passes = share >= ONE or (share > ZERO and _chance(state) < share)
                if passes:
                    through = opening[axis, face]
                    if through != 0:
                        plus = forward == (through > 0)
                        flow[abs(through) - 1] += rows[p, 15] if plus else -rows[p, 15]
                    step = 1 if forward else -1
                    c += stride * step
                else:
                    step = 0
                end = ZERO if forward == passes else INSIDE
                if axis == 0:
                    i += step
                    fx = end
                    x = x if passes else ZERO
                elif axis == 1:
                    j += step
                    fy = end
                    y = y if passes else ZERO
                else:
                    k += step
                    fz = end
                    z = z if passes else ZERO
            rows[p, 0] = min(max(fx, ZERO), INSIDE)
            rows[p, 1] = min(max(fy, ZERO), INSIDE)
            rows[p, 2] = min(max(fz, ZERO), INSIDE)
            at = cut[np.uint64(c)]
            if at < 0:
                break
            packed = where[np.uint64(c)]
            i = packed >> 20
            j = (packed >> 10) & 1023
            k = packed & 1023
            beyond = (
                wall[at, 0] * rows[p, 0] * hx[i]
                + wall[at, 1] * rows[p, 1] * hy[j]
                + wall[at, 2] * rows[p, 2] * hz[k]
                - wall[at, 3]
            )
            if beyond <= ZERO:
                break
            x = -beyond * wall[at, 0]
            y = -beyond * wall[at, 1]
            z = -beyond * wall[at, 2]
        cell[p] = c


@njit(cache=True, error_model="numpy")
def order_by_cell(rows, cell, count, cells, to_rows, to_cell):  # type: ignore[no-untyped-def]
    """Particles in the order of their cells, each cell's in the order they had (counting sort)."""
    start = np.zeros(cells + 1, dtype=np.int64)
    for p in range(count):
        start[cell[p] + 1] += 1
    for c in range(cells):
        start[c + 1] += start[c]
    for p in range(count):
        c = cell[p]
        to = start[c]
        start[c] = to + 1
        for k in range(16):
            to_rows[np.uint64(to), np.uint64(k)] = rows[np.uint64(p), np.uint64(k)]
        to_cell[to] = c
