"""A mesh sampled from above: its lowest and highest place over each point of a grid."""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.physics.arrays import Array


@njit(cache=True)
def _heights(triangles, low, step, floor, top):  # type: ignore[no-untyped-def]
    """The lowest and the highest of a mesh at every place of a grid, nan where it is not."""
    for t in range(triangles.shape[0]):
        a, b, c = triangles[t, 0], triangles[t, 1], triangles[t, 2]
        area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
        if abs(area) < 1e-14:
            continue
        first = int(np.ceil((min(a[0], b[0], c[0]) - low[0]) / step - 1e-9))
        last = int(np.floor((max(a[0], b[0], c[0]) - low[0]) / step + 1e-9))
        near = int(np.ceil((min(a[1], b[1], c[1]) - low[1]) / step - 1e-9))
        far = int(np.floor((max(a[1], b[1], c[1]) - low[1]) / step + 1e-9))
        for i in range(max(first, 0), min(last, floor.shape[0] - 1) + 1):
            x = low[0] + i * step
            for j in range(max(near, 0), min(far, floor.shape[1] - 1) + 1):
                y = low[1] + j * step
                u = ((b[0] - x) * (c[1] - y) - (c[0] - x) * (b[1] - y)) / area
                v = ((c[0] - x) * (a[1] - y) - (a[0] - x) * (c[1] - y)) / area
                w = 1.0 - u - v
                if u < -1e-9 or v < -1e-9 or w < -1e-9:
                    continue
                z = u * a[2] + v * b[2] + w * c[2]
                if not floor[i, j] <= z:  # nan too
                    floor[i, j] = z
                if not top[i, j] >= z:
                    top[i, j] = z


def heights_of(
    triangles: Array, origin: Array, step: float, shape: tuple[int, int]
) -> tuple[Array, Array]:
    """The lowest and the highest of a mesh at every place of a grid.

    Parameters
    ----------
    triangles : ndarray, shape (n, 3, 3)
        [m]
    origin : ndarray, shape (2,)
        Of the grid [m].
    step : float
        [m]
    shape : of the grid

    Returns
    -------
    ndarray, shape `shape`, twice
        [m]; nan where it is not.

    Examples
    --------
    >>> slope = np.array([[[0.0, 0.0, 0.0], [1.0, 0.0, 2.0], [0.0, 1.0, 0.0]]])
    >>> low, high = heights_of(slope, np.zeros(2), 0.5, (3, 2))
    >>> low[:, 0].tolist(), high[2, 1].tolist()
    ([0.0, 1.0, 2.0], nan)
    """
    low, high = np.full(shape, np.nan), np.full(shape, np.nan)
    _heights(np.ascontiguousarray(triangles), origin, step, low, high)
    return low, high
