"""The gap between the oil and the circle that the crank sweeps."""

from __future__ import annotations

import numpy as np

from bilge_core.document.engine import Crank
from bilge_core.physics.arrays import Array


def crank_gap(crank: Crank, normals: Array, levels: Array) -> Array:
    """How far the oil's surface is from the circle that the crank sweeps [m].

    Parameters
    ----------
    crank : Crank
    normals : ndarray, shape (n, 3)
        "Up", engine's frame.
    levels : ndarray, shape (n,)
        Of the surface along it [m].

    Returns
    -------
    ndarray, shape (n,)
        Negative where the crank touches the oil.

    Examples
    --------
    >>> crank = Crank(height_mm=60, swept_radius_mm=80, from_x_mm=50, to_x_mm=400)
    >>> crank_gap(crank, np.array([[0.0, 0.0, 1.0]]), np.array([-0.05])).round(4).tolist()
    [0.03]
    """
    ends = np.array(
        [[x * 1e-3, 0.0, crank.height_mm * 1e-3] for x in (crank.from_x_mm, crank.to_x_mm)]
    )
    lowest = (normals @ ends.T).min(axis=1)
    reach = crank.swept_radius_mm * 1e-3 * np.hypot(normals[:, 1], normals[:, 2])
    return np.asarray(lowest - reach - levels)
