"""The parts of the inside between plates, whatever stands open in them."""

from __future__ import annotations

import numpy as np
import scipy
from numpy.typing import NDArray

_LEAST = 0.01  # of the whole [-]: a smaller part is counted with its neighbour (ours)


def part_regions(
    fluid: NDArray[np.int32],
    area: NDArray[np.generic],
    parts: NDArray[np.generic],
    room: NDArray[np.float32],
    strides: NDArray[np.int64],
) -> tuple[NDArray[np.int32], int]:
    """Number the parts of the inside that plates, gates and openings lie between.

    Parameters
    ----------
    fluid : flat numbers of the cells with room
    area : shape (3, n) [m2], open area of faces
    parts : shape (3, n), bool, faces in the plane of a plate
    room : shape (n,) [m3]
    strides : shape (3,)

    Returns
    -------
    ndarray of int, shape (n,)
        Part of each cell, or -1 for a cell without room; the largest part is 0.
    int
        How many parts there are.

    Notes
    -----
    An upright plate parts the space above its upper edge too. A scrap of a part is counted with
    the largest.

    Examples
    --------
    >>> area = np.zeros((3, 5)); area[2, 2:4] = 1.0
    >>> parts = np.zeros((3, 5), dtype=bool); parts[2, 3] = True
    >>> part_regions(np.array([1, 2, 3]), area, parts, np.ones(5, np.float32), np.array([9, 9, 1]))
    (array([-1,  0,  0,  1, -1], dtype=int32), 2)
    """
    count = len(room)
    ends: list[NDArray[np.int64]] = []
    for axis in range(3):
        faces = np.flatnonzero((np.asarray(area[axis]) > 0.0) & ~parts[axis].astype(bool))
        ends.append(np.stack([faces, faces - strides[axis]]))
    pairs = np.concatenate(ends, axis=1)
    graph = scipy.sparse.coo_array(
        (np.ones(pairs.shape[1]), (pairs[0], pairs[1])), shape=(count, count)
    )
    _, label = scipy.sparse.csgraph.connected_components(graph, directed=False)
    volumes = np.bincount(label[fluid], weights=room[fluid], minlength=int(label.max()) + 1)
    order = [int(n) for n in np.argsort(-volumes, kind="stable") if volumes[n] > 0.0]
    kept = [n for n in order if volumes[n] >= _LEAST * volumes.sum()]
    number = np.zeros(len(volumes), dtype=np.int32)
    number[kept] = np.arange(len(kept), dtype=np.int32)
    region = np.full(count, -1, dtype=np.int32)
    region[fluid] = number[label[fluid]]
    return region, len(kept)
