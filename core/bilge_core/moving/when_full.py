"""What a cell is given by particles when everything is full: the measure of its filling."""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.moving.lanes import splat
from bilge_core.moving.transfer import towards

_POINTS = 4  # along each axis of a cell: evenly spread particles stand for a full one (ours)


@njit(cache=True, error_model="numpy")
def _add_up(hx, hy, hz, where, blocked, fluid, room, cut, walls, points, out):  # type: ignore[no-untyped-def]
    ny = hy.size
    nz = hz.size
    sx = ny * nz
    kept = np.empty((points**3, 3), dtype=np.float32)
    for n in range(fluid.size):
        c = np.int64(fluid[n])
        packed = where[np.uint64(c)]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        count = 0
        at = cut[c]
        for a in range(points):
            for b in range(points):
                for d in range(points):
                    x = (a + 0.5) / points
                    y = (b + 0.5) / points
                    z = (d + 0.5) / points
                    if at >= 0:
                        beyond = (
                            walls[at, 0] * x * hx[i]
                            + walls[at, 1] * y * hy[j]
                            + walls[at, 2] * z * hz[k]
                            - walls[at, 3]
                        )
                        if beyond > 0.0:
                            continue
                    kept[count, 0] = x
                    kept[count, 1] = y
                    kept[count, 2] = z
                    count += 1
        if count == 0:
            kept[0] = 0.5
            count = 1
        volume = np.float32(room[c] / count)
        bits = np.int64(blocked[c])
        for p in range(count):
            ax, wx, _, _, _ = towards(kept[p, 0], hx[i], hx, i, bits, 0, sx)
            ay, wy, _, _, _ = towards(kept[p, 1], hy[j], hy, j, bits, 1, nz)
            az, wz, _, _, _ = towards(kept[p, 2], hz[k], hz, k, bits, 2, 1)
            splat(out, c, ax, ay, az, wx, wy, wz, volume)


def volumes_when_full(
    sizes: tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.float32]],
    where: NDArray[np.int32],
    blocked: NDArray[np.uint8],
    fluid: NDArray[np.int32],
    room: NDArray[np.float32],
    cut: NDArray[np.int32],
    walls: NDArray[np.float32],
) -> NDArray[np.float32]:
    """Volume [m3] that evenly spread particles give each cell when all the inside is full.

    Parameters
    ----------
    sizes, where, blocked, fluid, room, cut, walls
        As in `Domain`.

    Returns
    -------
    ndarray, shape (n,)
        What a particle's volume, shared out with the weights of `towards`, adds up to.

    Examples
    --------
    >>> sizes = tuple(np.ones(4, dtype=np.float32) for _ in range(3))
    >>> room = np.zeros((4, 4, 4), dtype=np.float32); room[1:3, 1:3, 1:3] = 1
    >>> i, j, k = np.indices((4, 4, 4), dtype=np.int32)
    >>> where = ((i << 20) | (j << 10) | k).ravel()
    >>> full = volumes_when_full(sizes, where, np.full(64, 63, np.uint8),
    ...                    np.flatnonzero(room).astype(np.int32),
    ...                    room.ravel(), np.full(64, -1, np.int32), np.zeros((0, 4), np.float32))
    >>> full.sum()
    np.float32(8.0)
    """
    out = np.zeros(len(room), dtype=np.float32)
    x, y, z = sizes
    _add_up(x, y, z, where, blocked, fluid, room, cut, walls, _POINTS, out)
    return out
