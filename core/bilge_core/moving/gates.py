"""Gates: faces that let oil pass one way, decided together with the pressure.

A pressure with one-way faces is a complementarity problem: at each gate either it is open and oil
runs the way it may, or it is shut and the pressure on its back is the higher. Solved as an active
set: solve, look which gates would move, turn them, solve again from where one stands.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.moving.transfer import ONE, ZERO

SLACK = np.float32(0.01)
"""Speed at which a gate opens [m/s]: with none they chatter, and pump oil by themselves. Ours."""


@njit(cache=True, error_model="numpy")
def hang_gates(  # type: ignore[no-untyped-def]
    axis, face, sign, area_open, area_shut, open_now, share_open, leak, area, share, up, down
):
    """Put the gates' states onto the faces: area, share that passes, which way is free."""
    for n in range(face.size):
        a = axis[n]
        f = face[n]
        if open_now[n]:
            area[a, f] = area_open[a, f]
            share[a, f] = share_open[a, f]
            onward = ONE
            back = ZERO
        else:
            area[a, f] = area_shut[a, f]
            share[a, f] = leak[n]
            onward = ONE if area_shut[a, f] > ZERO else ZERO
            back = onward
        up[a, f] = onward if sign[n] > ZERO else back
        down[a, f] = back if sign[n] > ZERO else onward


@njit(cache=True, error_model="numpy")
def turn_gates(  # type: ignore[no-untyped-def]
    axis, face, sign, open_now, before, conductance, place, strides, x, stiff
):
    """Open and shut gates by the velocity that each would have if open; how many turned.

    `before`: the faces' velocities ahead of the pressure; `stiff`: the speed that each has to have.
    """
    turned = 0
    for n in range(face.size):
        a = axis[n]
        f = face[n]
        high = place[f]
        low = place[f - strides[a]]
        drop = (x[high] if high >= 0 else ZERO) - (x[low] if low >= 0 else ZERO)
        onward = sign[n] * (before[n] - conductance[a, f] * drop)
        if open_now[n]:
            if onward < ZERO:
                open_now[n] = False
                turned += 1
        elif onward > SLACK + stiff[n]:
            open_now[n] = True
            turned += 1
    return turned


@njit(cache=True, error_model="numpy")
def hold_back(axis, face, sign, open_now, velocity):  # type: ignore[no-untyped-def]
    """No open gate lets oil back: what would run so stands."""
    for n in range(face.size):
        if open_now[n] and sign[n] * velocity[axis[n], face[n]] < ZERO:
            velocity[axis[n], face[n]] = ZERO
