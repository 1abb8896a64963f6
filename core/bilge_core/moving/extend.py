"""Velocity carried on: beyond the surface for what clings to it, and behind slanting walls."""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.transfer import ZERO


@njit(cache=True, error_model="numpy")
def pass_on(velocity, settled, carried, blocked, cells, fluid, strides, mended):  # type: ignore[no-untyped-def]
    """Faces just beyond the surface take the mean velocity of those the pressure rules.

    Only faces that particles reach. `mended` is room for the list of such faces (axis, face).
    Returns how many there were; their values wait in place until all are known.
    """
    count = 0
    for n in range(fluid.size):
        c = fluid[n]
        for a in range(3):
            if settled[a, c] or not carried[a, c] or count >= mended.shape[0]:
                continue
            total = ZERO
            found = ZERO
            for b in range(3):
                s = strides[b]
                for side in range(2):
                    other = c + s if side else c - s
                    if b != a and (blocked[c] >> (2 * b + side)) & 1:
                        continue
                    if settled[a, other]:
                        total += velocity[a, other]
                        found += np.float32(1.0)
            if found > ZERO:
                mended[count, 0] = a
                mended[count, 1] = c
                cells[count] = total / found
                count += 1
    for n in range(count):
        velocity[mended[n, 0], mended[n, 1]] = cells[n]
    return count


@njit(cache=True, error_model="numpy")
def fill_behind(velocity, settled, behind, strides):  # type: ignore[no-untyped-def]
    """Faces inside a slanting wall take the mean of the ruled faces round them: oil slides."""
    for n in range(behind.shape[0]):
        a = behind[n, 0]
        c = behind[n, 1]
        total = ZERO
        found = ZERO
        for b in range(3):
            s = strides[b]
            if settled[a, c + s]:
                total += velocity[a, c + s]
                found += np.float32(1.0)
            if settled[a, c - s]:
                total += velocity[a, c - s]
                found += np.float32(1.0)
        velocity[a, c] = total / found if found > ZERO else ZERO
