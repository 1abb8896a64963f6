"""Where a particle can go straight to its end: nothing about it that could stop or turn it."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.domain import Domain
from bilge_core.physics.arrays import Single


class Ways(NamedTuple):
    """What tells of a way without walking it.

    clear : for each cell how many cells a particle may cross along every axis at once, all faces
        on the way open and no wall in the way: 1, or 0 where it must not leave its cell, or -1
        where it is to be walked in any case, shape (n,)
    x, y, z : for each cell along the axis and a step of -1, 0 or 1, by what a place beyond its end
        is to be multiplied and what added, so that it is one of the next cell, shape (m, 3, 2)
    """

    clear: NDArray[np.int8]
    x: Single
    y: Single
    z: Single


def _ends(sizes: Single) -> Single:
    table = np.ones((len(sizes), 3, 2), dtype=np.float32)
    table[:, 1, 1] = 0.0
    table[:-1, 2, 0] = sizes[:-1] / sizes[1:]
    table[:, 2, 1] = 0.0
    table[1:, 0, 0] = sizes[1:] / sizes[:-1]
    table[:, 0, 1] = 1.0 - table[:, 0, 0]
    return table


def ways_in(domain: Domain, passes: Single) -> Ways:
    """What tells of ways in a domain.

    Parameters
    ----------
    domain : Domain
    passes : ndarray, shape (3, n)
        Of what comes to each face, the share that is let pass.
    """
    shape = tuple(count + 2 for count in domain.shape)
    walked = ((domain.room <= 0.0) | (domain.cut >= 0)).reshape(shape)
    open_faces = ((passes >= 1.0) & (domain.opening_at == 0)).reshape(3, *shape)
    shut = walked.copy()  # the cell itself, or a face at its low or high end
    for axis in range(3):
        low = ~open_faces[axis]
        shut |= low | np.roll(low, -1, axis=axis)
    around = shut.copy()
    for axis in range(3):
        around = around | np.roll(around, 1, axis=axis) | np.roll(around, -1, axis=axis)
    clear = np.where(walked, -1, np.where(around, 0, 1)).astype(np.int8)
    return Ways(clear.ravel(), *(_ends(size) for size in domain.sizes))
