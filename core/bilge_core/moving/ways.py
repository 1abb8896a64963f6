"""Where a particle can go straight to its end: nothing about it that could stop or turn it."""

from __future__ import annotations

import itertools
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.domain import Domain
from bilge_core.physics.arrays import Single

Flags = NDArray[np.bool_]


class Ways(NamedTuple):
    """What tells of a way without walking it.

    clear : for each cell a bit for each of the 27 about it, itself among them, shape (n,): whether
        a particle gets there past nothing that could stop or turn it. Bit ``x + 3 y + 9 z``, each
        0 for one cell back, 1 for none, 2 for one on.
    x, y, z : for each cell along the axis and a step of -1, 0 or 1, by what a place beyond its end
        is to be multiplied and what added, so that it is one of the next cell, shape (m, 3, 2)
    """

    clear: NDArray[np.uint32]
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


def _moved(flags: Flags, axis: int, by: int) -> Flags:
    """What the flags of the cell so far on along an axis are, at each cell."""
    return np.roll(flags, -by, axis=axis)


def ways_in(domain: Domain, passes: Single) -> Ways:
    """What tells of ways in a domain.

    Parameters
    ----------
    domain : Domain
    passes : ndarray, shape (3, n)
        Of what comes to each face, the share that is let pass.

    Notes
    -----
    A way over an edge or a corner is clear where it is by whichever face it goes first.
    """
    shape = tuple(count + 2 for count in domain.shape)
    free = ((domain.room > 0.0) & (domain.cut < 0)).reshape(shape)
    faces = ((passes >= 1.0) & (domain.opening_at == 0)).reshape(3, *shape)
    clear = np.zeros(shape, dtype=np.uint32)
    for steps in itertools.product((-1, 0, 1), repeat=3):
        way = free
        for axis, step in enumerate(steps):
            if step == 0:
                continue
            face = faces[axis] if step < 0 else _moved(faces[axis], axis, 1)
            # all that is crossed so far, here and in the next row of cells, and the faces between
            for other, by in enumerate(steps[:axis]):
                if by != 0:
                    face = face & _moved(face, other, by)
            way = way & _moved(way, axis, step) & face
        bit = (steps[0] + 1) + 3 * (steps[1] + 1) + 9 * (steps[2] + 1)
        clear |= way.astype(np.uint32) << np.uint32(bit)
    return Ways(clear.ravel(), *(_ends(size) for size in domain.sizes))
