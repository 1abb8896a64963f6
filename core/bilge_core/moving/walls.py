"""Where the grid's faces stand on walls and plates, and what that does to the flow there."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from bilge_core.physics.arrays import Array, Single, Whole

_MOSTLY = 0.5  # of a face [-]: covered by more, nothing is felt through the plate (ours)


def blocked_bits(
    share_open: NDArray[Any], hang: NDArray[Any], strides: NDArray[np.int64]
) -> NDArray[np.uint8]:
    """Six bits a cell: across which of its faces nothing is felt, for a plate or a gate."""
    count = share_open.shape[1]
    bits = np.zeros(count, dtype=np.uint8)
    closed = (share_open < _MOSTLY) | (hang != 0)
    for axis in range(3):
        bits |= (closed[axis].astype(np.uint8) << (2 * axis)).astype(np.uint8)
        above = np.ones(count, dtype=bool)
        above[: count - strides[axis]] = closed[axis][strides[axis] :]
        bits |= (above.astype(np.uint8) << (2 * axis + 1)).astype(np.uint8)
    return bits


def behind_walls(
    area: Array,
    solid: Array,
    covered: Array,
    cut: Whole,
    room: Single,
    strides: NDArray[np.int64],
) -> tuple[Whole, Whole]:
    """Faces where nothing passes: those on a wall or plate, and those inside an oblique wall."""
    still, behind = [], []
    for axis in range(3):
        stride = int(strides[axis])
        shut = np.flatnonzero(area[axis] <= 0.0)
        shut = shut[shut >= stride]
        shut = shut[(room[shut] > 0.0) | (room[shut - stride] > 0.0)]
        own, before = cut[shut] >= 0, cut[shut - stride] >= 0
        inside = (own | before) & (solid[axis][shut] <= 0.0) & (covered[axis][shut] <= 0.0)
        still.append(np.column_stack([np.full((~inside).sum(), axis), shut[~inside]]))
        behind.append(np.column_stack([np.full(inside.sum(), axis), shut[inside]]))
    return (
        np.concatenate(still).astype(np.int32),
        np.concatenate(behind).astype(np.int32),
    )


def wall_areas(
    low: Array,
    high: Array,
    area: Array,
    planes: Array,
    cut: Whole,
    room: Single,
    sizes: tuple[Single, ...],
    strides: NDArray[np.int64],
) -> tuple[Whole, Single]:
    """Wall area per volume at each open face, from the walls of the two cells beside it."""
    count = len(room)
    walls = np.zeros((3, count))  # wall area square to each axis
    for axis in range(3):
        stride = int(strides[axis])
        walls[axis] += np.maximum(low[axis] - area[axis], 0.0)
        above = np.zeros(count)
        above[:-stride] = area[axis][stride:]
        walls[axis] += np.maximum(high[axis] - above, 0.0)
    slant = np.zeros((3, count))
    rows = np.flatnonzero(cut >= 0)
    vectors = planes[cut[rows]]
    slant[:, rows] = (vectors[:, 4:5] * np.sqrt(np.maximum(1.0 - vectors[:, :3] ** 2, 0.0))).T
    ny, nz = len(sizes[1]), len(sizes[2])
    thin = np.minimum(
        np.minimum(sizes[0][:, None, None], sizes[1][None, :, None]),
        sizes[2][None, None, :] + np.zeros((len(sizes[0]), ny, nz)),
    ).ravel()
    faces, values = [], []
    for axis in range(3):
        stride = int(strides[axis])
        others = [a for a in range(3) if a != axis]
        felt = walls[others[0]] + walls[others[1]] + slant[axis]
        open_faces = np.flatnonzero(area[axis] > 0.0)
        wall = felt[open_faces] + felt[open_faces - stride]
        space = room[open_faces] + room[open_faces - stride]
        near = wall > 0.0
        open_faces, wall, space = open_faces[near], wall[near], space[near]
        faces.append(np.column_stack([np.full(len(open_faces), axis), open_faces]))
        values.append(np.column_stack([wall / space, 2.0 / thin[open_faces]]))
    return np.concatenate(faces).astype(np.int32), np.concatenate(values).astype(np.float32)


def aligned_walls(low: Array, high: Array, strides: NDArray[np.int64]) -> Array:
    """Inside area that ends on each face, from either side: a wall may stand there."""
    ends = low.copy()
    for axis in range(3):
        stride = int(strides[axis])
        ends[axis, stride:] = np.maximum(low[axis, stride:], high[axis, :-stride])
    return ends
