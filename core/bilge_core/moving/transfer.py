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

FAST = {"contract", "reassoc", "nsz", "arcp"}
"""What the compiler may do to sums: all but assume that there is no NaN."""

SOLID, OIL, SHUT_AIR, OPEN_AIR = 0, 1, 2, 3
"""What a cell can be."""

HALF = np.float32(0.5)
ONE = np.float32(1.0)
ZERO = np.float32(0.0)


@njit(inline="always")
def towards(f, h, low, high, shut, axis, stride):  # type: ignore[no-untyped-def]
    """The second cell centre that a particle reaches along an axis.

    Gives the step to it in flat cells (nil when a plate is between), its weight,
    the ways from the particle to its own centre and to that one, and the weight's slope.
    """
    own = (HALF - f) * h
    if f < HALF:
        if shut & (1 << (2 * axis)):
            return 0, ZERO, own, own, ZERO
        apart = HALF * (h + low)
        return -stride, own / apart, own, own - apart, -ONE / apart
    if shut & (2 << (2 * axis)):
        return 0, ZERO, own, own, ZERO
    apart = HALF * (h + high)
    return stride, -own / apart, own, own + apart, ONE / apart


@njit(inline="always")
def _put(field, node, weight, value):  # type: ignore[no-untyped-def]
    at = np.uint64(2 * node)
    field[at] += weight * value
    field[at + np.uint64(1)] += weight


@njit(inline="always")
def _scatter(field, c, s1, s2, s3, w1, w2, w3, volume, base, g1, g2, g3, o1, n1, o2, n2, o3, n3):  # type: ignore[no-untyped-def]
    """One component to its eight faces; each axis: step, weight there, slope, own and other way."""
    a1 = base + g1 * o1
    b1 = base + g1 * n1
    v1 = (ONE - w1) * volume
    w1 = w1 * volume
    v2 = ONE - w2
    v3 = ONE - w3
    p00 = g2 * o2 + g3 * o3
    p10 = g2 * n2 + g3 * o3
    p01 = g2 * o2 + g3 * n3
    p11 = g2 * n2 + g3 * n3
    q00 = v2 * v3
    q10 = w2 * v3
    q01 = v2 * w3
    q11 = w2 * w3
    _put(field, c, v1 * q00, a1 + p00)
    _put(field, c + s2, v1 * q10, a1 + p10)
    _put(field, c + s3, v1 * q01, a1 + p01)
    _put(field, c + s2 + s3, v1 * q11, a1 + p11)
    d = c + s1
    _put(field, d, w1 * q00, b1 + p00)
    _put(field, d + s2, w1 * q10, b1 + p10)
    _put(field, d + s3, w1 * q01, b1 + p01)
    _put(field, d + s2 + s3, w1 * q11, b1 + p11)


@njit(inline="always")
def _add(field, node, weight):  # type: ignore[no-untyped-def]
    field[np.uint64(node)] += weight


@njit(inline="always")
def splat(field, c, s1, s2, s3, w1, w2, w3, volume):  # type: ignore[no-untyped-def]
    """A volume to its eight cell centres."""
    v1 = (ONE - w1) * volume
    u1 = w1 * volume
    v2 = ONE - w2
    v3 = ONE - w3
    _add(field, c, v1 * v2 * v3)
    _add(field, c + s3, v1 * v2 * w3)
    _add(field, c + s2, v1 * w2 * v3)
    _add(field, c + s2 + s3, v1 * w2 * w3)
    d = c + s1
    _add(field, d, u1 * v2 * v3)
    _add(field, d + s3, u1 * v2 * w3)
    _add(field, d + s2, u1 * w2 * v3)
    _add(field, d + s2 + s3, u1 * w2 * w3)


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
        bits = shut[c]
        fx = rows[p, 0]
        fy = rows[p, 1]
        fz = rows[p, 2]
        volume = rows[p, 15]
        dx = hx[i]
        dy = hy[j]
        dz = hz[k]
        ax, wx, ox, nx, _ = towards(fx, dx, hx[i - 1], hx[i + 1], bits, 0, sx)
        ay, wy, oy, my, _ = towards(fy, dy, hy[j - 1], hy[j + 1], bits, 1, nz)
        az, wz, oz, mz, _ = towards(fz, dz, hz[k - 1], hz[k + 1], bits, 2, 1)
        splat(density, c, ax, ay, az, wx, wy, wz, volume)
        lx = -fx * dx
        ly = -fy * dy
        lz = -fz * dz
        q = np.uint64(p)
        _scatter(mu, c, sx, ay, az, fx, wy, wz, volume, rows[q, 3], rows[q, 6], rows[q, 7],
                 rows[q, 8], lx, lx + dx, oy, my, oz, mz)  # fmt: skip
        _scatter(mv, c, nz, ax, az, fy, wx, wz, volume, rows[q, 4], rows[q, 10], rows[q, 9],
                 rows[q, 11], ly, ly + dy, ox, nx, oz, mz)  # fmt: skip
        _scatter(mw, c, 1, ax, ay, fz, wx, wy, volume, rows[q, 5], rows[q, 14], rows[q, 12],
                 rows[q, 13], lz, lz + dz, ox, nx, oy, my)  # fmt: skip


@njit(inline="always")
def _at(field, node):  # type: ignore[no-untyped-def]
    return field[np.uint64(node)]


@njit(inline="always")
def _gather(field, c, s1, s2, s3, w1, w2, w3, d1, d2, d3):  # type: ignore[no-untyped-def]
    """Value and slopes along the component's own axis and the two others, from eight faces."""
    d = c + s1
    t = c + s2
    v3 = ONE - w3
    a0 = v3 * _at(field, c) + w3 * _at(field, c + s3)
    a1 = v3 * _at(field, t) + w3 * _at(field, t + s3)
    b0 = v3 * _at(field, d) + w3 * _at(field, d + s3)
    b1 = v3 * _at(field, d + s2) + w3 * _at(field, d + s2 + s3)
    v1 = ONE - w1
    v2 = ONE - w2
    low = v2 * a0 + w2 * a1
    high = v2 * b0 + w2 * b1
    slope2 = d2 * (v1 * (a1 - a0) + w1 * (b1 - b0))
    c0 = _at(field, c + s3) - _at(field, c)
    c1 = _at(field, t + s3) - _at(field, t)
    e0 = _at(field, d + s3) - _at(field, d)
    e1 = _at(field, d + s2 + s3) - _at(field, d + s2)
    slope3 = d3 * (v1 * (v2 * c0 + w2 * c1) + w1 * (v2 * e0 + w2 * e1))
    return v1 * low + w1 * high, d1 * (high - low), slope2, slope3


@njit(inline="always")
def _gather_value(field, c, s1, s2, s3, w1, w2, w3):  # type: ignore[no-untyped-def]
    d = c + s1
    t = c + s2
    v3 = ONE - w3
    v2 = ONE - w2
    low = v2 * (v3 * _at(field, c) + w3 * _at(field, c + s3)) + w2 * (
        v3 * _at(field, t) + w3 * _at(field, t + s3)
    )
    high = v2 * (v3 * _at(field, d) + w3 * _at(field, d + s3)) + w2 * (
        v3 * _at(field, d + s2) + w3 * _at(field, d + s2 + s3)
    )
    return (ONE - w1) * low + w1 * high


@njit(cache=True, fastmath=FAST, error_model="numpy")
def grid_to_particles(  # type: ignore[no-untyped-def]
    rows, cell, count, hx, hy, hz, where, shut, kind, velocity, shift, step, travel
):
    """Velocity and gradient from the faces; the way of each particle over the step into `travel`.

    The way is that of the midpoint rule, with the gradient in the place of a second look-up,
    plus the shift that keeps the density even. Rows of `travel` are metres. Returns the most
    cells per second that any particle in the oil crosses along an axis; drops fly as they will.
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
    fastest = ZERO
    for p in range(count):
        c = np.int64(cell[p])
        packed = where[np.uint64(c)]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        bits = shut[c]
        fx = rows[p, 0]
        fy = rows[p, 1]
        fz = rows[p, 2]
        dx = hx[i]
        dy = hy[j]
        dz = hz[k]
        ax, wx, _, _, ex = towards(fx, dx, hx[i - 1], hx[i + 1], bits, 0, sx)
        ay, wy, _, _, ey = towards(fy, dy, hy[j - 1], hy[j + 1], bits, 1, nz)
        az, wz, _, _, ez = towards(fz, dz, hz[k - 1], hz[k + 1], bits, 2, 1)
        u, ux, uy, uz = _gather(vu, c, sx, ay, az, fx, wy, wz, ONE / dx, ey, ez)
        v, vy, vx, vz = _gather(vv, c, nz, ax, az, fy, wx, wz, ONE / dy, ex, ez)
        w, wz_, wx_, wy_ = _gather(vw, c, 1, ax, ay, fz, wx, wy, ONE / dz, ex, ey)
        if kind[c] == OIL:
            fastest = max(fastest, abs(u) / dx, abs(v) / dy, abs(w) / dz)
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
        travel[p, 0] = step * (u + half * (ux * u + uy * v + uz * w)) + _gather_value(
            su, c, sx, ay, az, fx, wy, wz
        )
        travel[p, 1] = step * (v + half * (vx * u + vy * v + vz * w)) + _gather_value(
            sv, c, nz, ax, az, fy, wx, wz
        )
        travel[p, 2] = step * (w + half * (wx_ * u + wy_ * v + wz_ * w)) + _gather_value(
            sw, c, 1, ax, ay, fz, wx, wy
        )
    return fastest
