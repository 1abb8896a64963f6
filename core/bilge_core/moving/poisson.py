"""The pressure's equations over the cells that hold oil or shut-in air, and their solution.

Unknown is ``φ = p Δt / ρ`` [m2/s]. A row is a cell's balance of volume, so that the matrix is
symmetric whatever the sizes of the cells. Rows rise along z first: a cell's neighbours there are
the rows before and after its own, or its coefficient to them is nil. Solved by conjugate gradients,
preconditioned with a modified incomplete Cholesky factor without fill (Bridson 2008, from memory).
"""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.cells import lightness
from bilge_core.moving.transfer import FAST, HALF, OIL, ONE, OPEN_AIR, SHUT_AIR, ZERO
from bilge_core.physics.arrays import Single

_MODIFIED = np.float32(0.97)
"""Share of the dropped fill-in that goes to the diagonal [-]: modified incomplete Cholesky
(Bridson, Fluid Simulation for Computer Graphics, from memory).
"""
_SAFE = np.float32(0.25)
"""Of the diagonal [-]: a smaller pivot is not modified (the same)."""
_SHIFT = np.float32(1e-6)
"""Added to the diagonal, of itself [-]: a pocket without a surface has no level (ours)."""


@njit(cache=True, error_model="numpy")
def list_cells(kind, fluid, cells, place):  # type: ignore[no-untyped-def]
    """Cells of the equations in rising order, and each one's row or -1; returns how many."""
    count = 0
    for n in range(fluid.size):
        c = fluid[n]
        if kind[c] == OIL or kind[c] == SHUT_AIR:
            cells[count] = c
            place[c] = count
            count += 1
        else:
            place[c] = -1
    return count


@njit(cache=True, error_model="numpy")
def conductances(kind, filling, cells, count, strides, area_most, nearness, conductance):  # type: ignore[no-untyped-def]
    """``1 / (density · distance)`` [1/m] on every face of the cells that can ever be open.

    `nearness` is one over the distance of the two cells' middles [1/m].
    """
    for n in range(count):
        c = np.int64(cells[n])
        own = kind[np.uint64(c)]
        full = filling[np.uint64(c)]
        for a in range(3):
            s = strides[a]
            here = np.uint64(c)
            there = np.uint64(c - s)
            g = ZERO
            if area_most[a, here] > ZERO:
                light = lightness(own, kind[there], full, filling[there])
                g = light * nearness[a, here]
            conductance[a, here] = g
            d = np.uint64(c + s)
            if kind[d] == OPEN_AIR or area_most[a, d] <= ZERO:
                g = ZERO
                if area_most[a, d] > ZERO:
                    light = lightness(own, kind[d], full, filling[d])
                    g = light * nearness[a, d]
                conductance[a, d] = g


def nearness_of(sizes: tuple[Single, Single, Single]) -> Single:
    """One over the distance of the middles of the two cells at each face, shape (3, n) [1/m].

    Parameters
    ----------
    sizes : of the padded cells along each axis [m]

    Examples
    --------
    >>> sizes = tuple(np.full(4, h, dtype=np.float32) for h in (0.1, 0.2, 0.5))
    >>> nearness_of(sizes)[:, 30].tolist()
    [10.0, 5.0, 2.0]
    """
    shape = tuple(len(size) for size in sizes)
    found = np.empty((3, *shape), dtype=np.float32)
    for axis, size in enumerate(sizes):
        ways = 0.5 * (size + np.roll(size, 1))
        along = [1, 1, 1]
        along[axis] = len(size)
        found[axis] = np.broadcast_to((1.0 / ways).reshape(along), shape)
    return found.reshape(3, -1)


@njit(cache=True, error_model="numpy")
def assemble(cells, count, place, strides, area, conductance, upper, lower, links, diagonal):  # type: ignore[no-untyped-def]
    """Off-diagonal sizes toward higher and lower neighbours and their rows; `count` is no row."""
    for n in range(count):
        c = cells[n]
        total = ZERO
        for a in range(3):
            s = strides[a]
            low = area[a, c] * conductance[a, c]
            high = area[a, c + s] * conductance[a, c + s]
            before = place[c - s]
            after = place[c + s]
            total += low + high
            lower[n, a] = low if before >= 0 else ZERO
            upper[n, a] = high if after >= 0 else ZERO
            links[n, a] = before if before >= 0 else count
            links[n, 3 + a] = after if after >= 0 else count
        diagonal[n] = total * (ONE + _SHIFT) + np.float32(1e-12)


@njit(cache=True, error_model="numpy")
def factorise(count, upper, lower, links, diagonal, pivot, steps):  # type: ignore[no-untyped-def]
    """The modified incomplete factor; `steps` are the scaled lower coefficients."""
    pivot[count] = ZERO
    for n in range(count):
        e = diagonal[n]
        for a in range(3):
            m = links[n, a]
            if m < count:
                q = pivot[m] * pivot[m]
                rest = upper[m, 0] + upper[m, 1] + upper[m, 2] - upper[m, a]
                e -= lower[n, a] * q * (lower[n, a] + _MODIFIED * rest)
        if e < _SAFE * diagonal[n]:
            e = diagonal[n]
        pivot[n] = ONE / np.sqrt(e)
        for a in range(3):
            steps[n, a] = lower[n, a] * pivot[links[n, a]] * pivot[n]


@njit(cache=True, fastmath=FAST, error_model="numpy")
def _precondition(count, upper, links, pivot, steps, residual, half, out):  # type: ignore[no-untyped-def]
    half[count] = ZERO
    out[count] = ZERO
    near = ZERO
    for n in range(count):
        m = np.uint64(n)
        near = (
            residual[m] * pivot[m]
            + steps[m, 0] * half[np.uint64(links[m, 0])]
            + steps[m, 1] * half[np.uint64(links[m, 1])]
        ) + steps[m, 2] * near
        half[m] = near
    total = 0.0
    near = ZERO
    for n in range(count - 1, -1, -1):
        m = np.uint64(n)
        own = pivot[m]
        near = own * half[m] + own * own * (
            (upper[m, 0] * out[np.uint64(links[m, 3])] + upper[m, 1] * out[np.uint64(links[m, 4])])
            + upper[m, 2] * near
        )
        out[m] = near
        total += np.float64(near) * np.float64(residual[m])
    return total


@njit(cache=True, fastmath=FAST, error_model="numpy")
def _apply(count, upper, lower, links, diagonal, x, out):  # type: ignore[no-untyped-def]
    x[count] = ZERO
    total = 0.0
    before = ZERO
    own = x[0]
    for n in range(count):
        m = np.uint64(n)
        after = x[m + np.uint64(1)]
        value = diagonal[m] * own - (
            lower[m, 0] * x[np.uint64(links[m, 0])]
            + lower[m, 1] * x[np.uint64(links[m, 1])]
            + lower[m, 2] * before
            + upper[m, 0] * x[np.uint64(links[m, 3])]
            + upper[m, 1] * x[np.uint64(links[m, 4])]
            + upper[m, 2] * after
        )
        out[m] = value
        total += np.float64(value) * np.float64(own)
        before = own
        own = after
    return total


@njit(cache=True, fastmath=FAST, error_model="numpy")
def solve(  # type: ignore[no-untyped-def]
    count, upper, lower, links, diagonal, pivot, steps, right, x, residual, search, half, out,
    tolerance, most,
):  # fmt: skip
    """Conjugate gradients from the `x` given; returns iterations, or -1 after `most`.

    `tolerance` is the root mean square of the residual that is small enough, in the units of
    `right`. All vectors have one place more than there are rows.
    """
    if count == 0:
        return 0
    _apply(count, upper, lower, links, diagonal, x, residual)
    square = 0.0
    for n in range(count):
        m = np.uint64(n)
        residual[m] = right[m] - residual[m]
        square += np.float64(residual[m]) * np.float64(residual[m])
    enough = tolerance * tolerance * count
    if square <= enough:
        return 0
    gain = _precondition(count, upper, links, pivot, steps, residual, half, search)
    for iteration in range(most):
        curve = _apply(count, upper, lower, links, diagonal, search, out)
        if not curve > 0.0:
            return iteration
        move = np.float32(gain / curve)
        square = 0.0
        for n in range(count):
            m = np.uint64(n)
            x[m] += move * search[m]
            residual[m] -= move * out[m]
            square += np.float64(residual[m]) * np.float64(residual[m])
        if square <= enough:
            return iteration + 1
        fresh = _precondition(count, upper, links, pivot, steps, residual, half, out)
        turn = np.float32(fresh / gain)
        gain = fresh
        for n in range(count):
            m = np.uint64(n)
            search[m] = out[m] + turn * search[m]
    return -1


@njit(cache=True, error_model="numpy")
def balance(cells, count, strides, area, velocity, sink, right):  # type: ignore[no-untyped-def]
    """Right-hand side [m3/s]: what flows into each cell more than out, less what a sink takes."""
    for n in range(count):
        c = cells[n]
        total = -sink[c]
        for a in range(3):
            d = c + strides[a]
            total += area[a, c] * velocity[a, c] - area[a, d] * velocity[a, d]
        right[n] = total


@njit(cache=True, error_model="numpy")
def correct(cells, count, place, strides, area, conductance, x, velocity, settled):  # type: ignore[no-untyped-def]
    """Take the pressure's gradient off the velocities; `settled` flags the faces that it rules."""
    settled[:] = False
    for n in range(count):
        c = cells[n]
        own = x[n]
        for a in range(3):
            s = strides[a]
            if area[a, c] > ZERO and conductance[a, c] > ZERO:
                before = place[c - s]
                other = x[before] if before >= 0 else ZERO
                velocity[a, c] -= conductance[a, c] * (own - other)
                settled[a, c] = True
            d = c + s
            if place[d] < 0 and area[a, d] > ZERO and conductance[a, d] > ZERO:
                velocity[a, d] += conductance[a, d] * own
                settled[a, d] = True


@njit(cache=True, error_model="numpy")
def crowding(  # type: ignore[no-untyped-def]
    cells, count, strides, kind, filling, room, area, relax, most, right
):
    """Right-hand side [m3] of the shift that evens the density: cells too full are to expand.

    A cell with air beside it counts only when it is over-full: below that it is the surface.
    """
    for n in range(count):
        c = cells[n]
        right[n] = ZERO
        if kind[c] != OIL:
            continue
        error = filling[c] - ONE
        if error < ZERO:
            for a in range(3):
                s = strides[a]
                if (kind[c - s] != OIL and area[a, c] > ZERO) or (
                    kind[c + s] != OIL and area[a, c + s] > ZERO
                ):
                    error = ZERO
        right[n] = relax * min(max(error, -most), most) * room[c]


@njit(cache=True, error_model="numpy")
def scale_partly_open(velocity, share, area, faces):  # type: ignore[no-untyped-def]
    """Through a face that is mostly shut the jet is fast but carries little: its mean is kept.

    `faces` are those that ever can be, rows of axis and face.
    """
    for n in range(faces.shape[0]):
        a = faces[n, 0]
        c = faces[n, 1]
        if share[a, c] < HALF and area[a, c] > ZERO:
            velocity[a, c] *= share[a, c]


@njit(cache=True, error_model="numpy")
def limit_shift(shift, cells, count, hx, hy, hz, where, strides, most):  # type: ignore[no-untyped-def]
    """No shift is longer than a share of its cell."""
    for n in range(count):
        c = cells[n]
        packed = where[np.uint64(c)]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        for a in range(3):
            size = hx[i] if a == 0 else (hy[j] if a == 1 else hz[k])
            longest = most * size
            d = c + strides[a]
            shift[a, c] = min(max(shift[a, c], -longest), longest)
            shift[a, d] = min(max(shift[a, d], -longest), longest)
