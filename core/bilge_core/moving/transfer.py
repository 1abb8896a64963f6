"""Between particles and grid: momentum and density to the grid, velocity and its gradient back.

Affine particles (APIC; Jiang et al. 2015, from memory) on staggered faces, with hat-shaped weights
along each axis. A weight that would reach across a plate is given to the particle's own side, so
that neither momentum nor density leaks through one.

A particle is a row of sixteen numbers: place in its cell as fractions (0 to 2), velocity (3 to 5),
gradient of velocity row by row (6 to 14), volume (15). Cells and faces are held flat, padded by one
cell on every side; the face ``c`` of an axis is the one at the low end of cell ``c``.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.lanes import scatter, splat

FAST = {"contract", "reassoc", "nsz", "arcp"}
"""What the compiler may do to sums: all but assume that there is no NaN."""

SOLID, OIL, SHUT_AIR, OPEN_AIR = 0, 1, 2, 3
"""What a cell can be."""

HALF = np.float32(0.5)
ONE = np.float32(1.0)
ZERO = np.float32(0.0)


_FIRST, _LAST_BIT = np.uint64(1), np.uint64(31)
_BACK, _ON = np.int64(-1), np.int64(1)
INSIDE = np.float32(1.0 - 1e-5)  # [of a cell] just short of its far face


@njit(inline="always")
def towards(f, h, sizes, at, shut, axis, stride):  # type: ignore[no-untyped-def]
    """The second cell centre that a particle reaches along an axis.

    Gives the step to it in flat cells (nil when a plate is between), its weight,
    the ways from the particle to its own centre and to that one, and the weight's slope.
    Without a branch: which half of its cell a particle is in, no processor foresees.
    """
    high = np.int64(f >= HALF)
    side = 2 * high - 1
    free = 1 - ((shut >> (2 * axis + high)) & 1)
    way = np.float32(free * side)
    own = (HALF - f) * h
    apart = HALF * (h + sizes[np.uint64(at + side)])
    slope = way / apart
    return free * side * stride, -own * slope, own, own + way * apart, slope


@njit(cache=True, fastmath=FAST, error_model="numpy")
def particles_to_grid(rows, cell, count, hx, hy, hz, where, shut, momentum, density):  # type: ignore[no-untyped-def]
    """Momentum and weight to the faces, volume to the centres; both are cleared first."""
    ny = hy.size
    nz = hz.size
    sx = ny * nz
    momentum[:] = ZERO
    density[:] = ZERO
    mu = momentum[0]
    mv = momentum[1]
    mw = momentum[2]
    for p in range(count):
        c = np.int64(cell[p])
        packed = where[np.uint64(c)]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        bits = np.int64(shut[c])
        fx = rows[p, 0]
        fy = rows[p, 1]
        fz = rows[p, 2]
        volume = rows[p, 15]
        dx = hx[i]
        dy = hy[j]
        dz = hz[k]
        ax, wx, ox, nx, _ = towards(fx, dx, hx, i, bits, 0, sx)
        ay, wy, oy, my, _ = towards(fy, dy, hy, j, bits, 1, nz)
        az, wz, oz, mz, _ = towards(fz, dz, hz, k, bits, 2, 1)
        splat(density, c, ax, ay, az, wx, wy, wz, volume)
        lx = -fx * dx
        ly = -fy * dy
        lz = -fz * dz
        q = np.uint64(p)
        scatter(mu, c, np.int64(sx), ay, az, fx, wy, wz, volume, rows[q, 3],
                rows[q, 6], rows[q, 7], rows[q, 8], lx, lx + dx, oy, my, oz, mz)  # fmt: skip
        scatter(mv, c, np.int64(nz), ax, az, fy, wx, wz, volume, rows[q, 4],
                rows[q, 10], rows[q, 9], rows[q, 11], ly, ly + dy, ox, nx, oz, mz)  # fmt: skip
        scatter(mw, c, np.int64(1), ax, ay, fz, wx, wy, volume, rows[q, 5],
                rows[q, 14], rows[q, 12], rows[q, 13], lz, lz + dz, ox, nx, oy, my)  # fmt: skip


@njit(inline="always")
def _at(field, node):  # type: ignore[no-untyped-def]
    return field[np.uint64(node)]


@njit(inline="always")
def _gather(field, c, s1, s2, s3, w1, w2, w3, d1, d2, d3):  # type: ignore[no-untyped-def]
    """Value and slopes along the component's own axis and the two others, from eight faces."""
    d = c + s1
    e = c + s2
    g = d + s2
    a0 = _at(field, c)
    z0 = _at(field, c + s3) - a0
    a1 = _at(field, e)
    z1 = _at(field, e + s3) - a1
    b0 = _at(field, d)
    y0 = _at(field, d + s3) - b0
    b1 = _at(field, g)
    y1 = _at(field, g + s3) - b1
    a0 += w3 * z0
    a1 += w3 * z1 - a0
    b0 += w3 * y0
    b1 += w3 * y1 - b0
    low = a0 + w2 * a1
    rise = b0 + w2 * b1 - low
    z0 += w2 * (z1 - z0)
    y0 += w2 * (y1 - y0)
    return low + w1 * rise, d1 * rise, d2 * (a1 + w1 * (b1 - a1)), d3 * (z0 + w1 * (y0 - z0))


@njit(inline="always")
def _gather_value(field, c, s1, s2, s3, w1, w2, w3):  # type: ignore[no-untyped-def]
    d = c + s1
    e = c + s2
    g = d + s2
    a0 = _at(field, c)
    a0 += w3 * (_at(field, c + s3) - a0)
    a1 = _at(field, e)
    a1 += w3 * (_at(field, e + s3) - a1)
    b0 = _at(field, d)
    b0 += w3 * (_at(field, d + s3) - b0)
    b1 = _at(field, g)
    b1 += w3 * (_at(field, g + s3) - b1)
    a0 += w2 * (a1 - a0)
    return a0 + w1 * (b0 + w2 * (b1 - b0) - a0)


@njit(inline="always")
def _end_of_way(at, size, way, per, ends, index):  # type: ignore[no-untyped-def]
    """Cells crossed along an axis and the place in the last, all sizes known: see `Ways`."""
    place = at + way * per
    crossed = np.int64(np.floor(place))
    step = min(max(crossed, _BACK), _ON)
    row = np.uint64(index)
    column = np.uint64(step + 1)
    inside = (place - np.float32(step)) * ends[row, column, 0] + ends[row, column, 1]
    return crossed, min(max(inside, ZERO), INSIDE)


@njit(cache=True, fastmath=FAST, error_model="numpy")
def grid_to_particles(  # type: ignore[no-untyped-def]  # noqa: PLR0915
    rows, cell, count, hx, hy, hz, where, shut, kind, velocity, shift, step, ways, travel, listed
):
    """Velocity and gradient from the faces; each particle goes its way over the step.

    The way is that of the midpoint rule, with the gradient in the place of a second look-up,
    plus the shift that keeps the density even. Where nothing can stop it a particle is put at its
    end at once; what is left, its ways in `travel` [m], is `listed`. `ways` is a `Ways`.
    Returns the most cells per second that any particle in the oil crosses along an axis, drops
    apart, and how many are left.
    """
    ny = hy.size
    nz = hz.size
    sx = ny * nz
    half = HALF * step
    vu = velocity[0]
    vv = velocity[1]
    vw = velocity[2]
    su = shift[0]
    sv = shift[1]
    sw = shift[2]
    clear = ways.clear
    fastest = ZERO
    left = 0
    for p in range(count):
        c = np.int64(cell[p])
        packed = where[np.uint64(c)]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        bits = np.int64(shut[c])
        fx = rows[p, 0]
        fy = rows[p, 1]
        fz = rows[p, 2]
        dx = hx[i]
        dy = hy[j]
        dz = hz[k]
        px = ONE / dx
        py = ONE / dy
        pz = ONE / dz
        ax, wx, _, _, ex = towards(fx, dx, hx, i, bits, 0, sx)
        ay, wy, _, _, ey = towards(fy, dy, hy, j, bits, 1, nz)
        az, wz, _, _, ez = towards(fz, dz, hz, k, bits, 2, 1)
        u, ux, uy, uz = _gather(vu, c, sx, ay, az, fx, wy, wz, px, ey, ez)
        v, vy, vx, vz = _gather(vv, c, nz, ax, az, fy, wx, wz, py, ex, ez)
        w, wz_, wx_, wy_ = _gather(vw, c, 1, ax, ay, fz, wx, wy, pz, ex, ey)
        if kind[c] == OIL:
            fastest = max(fastest, abs(u) * px, abs(v) * py, abs(w) * pz)
        q = np.uint64(p)
        rows[q, 3] = u
        rows[q, 4] = v
        rows[q, 5] = w
        rows[q, 6] = ux
        rows[q, 7] = uy
        rows[q, 8] = uz
        rows[q, 9] = vx
        rows[q, 10] = vy
        rows[q, 11] = vz
        rows[q, 12] = wx_
        rows[q, 13] = wy_
        rows[q, 14] = wz_
        x = step * (u + half * (ux * u + uy * v + uz * w)) + _gather_value(
            su, c, sx, ay, az, fx, wy, wz
        )
        y = step * (v + half * (vx * u + vy * v + vz * w)) + _gather_value(
            sv, c, nz, ax, az, fy, wx, wz
        )
        z = step * (w + half * (wx_ * u + wy_ * v + wz_ * w)) + _gather_value(
            sw, c, 1, ax, ay, fz, wx, wy
        )
        by_x, fx = _end_of_way(fx, dx, x, px, ways.x, i)
        by_y, fy = _end_of_way(fy, dy, y, py, ways.y, j)
        by_z, fz = _end_of_way(fz, dz, z, pz, ways.z, k)
        far = max(abs(by_x), abs(by_y), abs(by_z))
        bit = np.uint64(13 + by_x + 3 * by_y + 9 * by_z) & _LAST_BIT
        if far <= 1 and (np.uint64(clear[np.uint64(c)]) >> bit) & _FIRST:
            rows[q, 0] = fx
            rows[q, 1] = fy
            rows[q, 2] = fz
            cell[q] = c + by_x * sx + by_y * nz + by_z
        else:
            travel[q, 0] = x
            travel[q, 1] = y
            travel[q, 2] = z
            listed[np.uint64(left)] = p
            left += 1
    return fastest, left
