"""How high the moving oil stands at a place of the pan, read off its record."""

from __future__ import annotations

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.observe import MARCH_STEP, SURE, march_to_surface
from bilge_core.moving.record import Frames
from bilge_core.physics.arrays import Array


@njit(cache=True, nogil=True)
def _over_frames(  # type: ignore[no-untyped-def]
    filling, cells, flat, room, line_x, line_y, line_z, strides, place, at, ups, step, longest,
    sure, out,
):  # fmt: skip
    whole = np.zeros(room.size, dtype=np.float32)
    for frame in range(filling.shape[0]):
        for cell in range(cells.size):
            whole[flat[cell]] = filling[frame, cell]
        covered = whole[at] >= 0.5
        out[frame] = march_to_surface(
            whole, room, line_x, line_y, line_z, strides, place, ups[frame], step, longest,
            covered, sure,
        )  # fmt: skip


def heights_over(frames: Frames, place: Array, ups: Array) -> Array:
    """How deep a place lies under the moving oil at each frame [m]; negative above it.

    Parameters
    ----------
    frames : Frames
    place : ndarray, shape (3,)
        In the engine's frame [m]; where it lies in no cell, the nearest cell's middle stands in,
        its own height counted.
    ups : ndarray, shape (frames, 3)
        Square to a settled surface at each frame, of length one.

    Returns
    -------
    ndarray, shape (frames,)

    Raises
    ------
    InvalidQuantity
        If there are not as many ups as frames.

    Notes
    -----
    Above the oil it is the way down to the next of it, or to a floor or plate between: how far a
    splash would have to climb, no more.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.moving.domain import build_domain
    >>> from bilge_core.moving.record import FrameWriter, read_frames
    >>> from bilge_core.pan.solid import Prism
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 15)))
    >>> domain = build_domain([box], [], lines)
    >>> heights = (np.arange(14) + 0.5) * 0.01
    >>> full = np.zeros(domain.cells, dtype=np.float32)
    >>> k = np.arange(domain.cells) % (14 + 2) - 1
    >>> full[(k >= 0) & (k < 7)] = 1.0  # oil 70 mm deep
    >>> writer = FrameWriter(domain)
    >>> writer.add(0.0, full, np.zeros(0, dtype=bool))
    >>> frames = read_frames(writer.finish())
    >>> under = heights_over(frames, np.array([0.2, 0.1, 0.05]), np.array([[0, 0, 1.0]]))
    >>> abs(float(under[0]) - 0.02) < 0.006
    True
    >>> higher = heights_over(frames, np.array([0.2, 0.1, 0.053]), np.array([[0, 0, 1.0]]))
    >>> round(float(under[0] - higher[0]), 4)
    0.003
    """
    if ups.shape != (len(frames.time), 3):
        raise InvalidQuantity("ups", f"{ups.shape}", f"one for each of {len(frames.time)} frames")
    x, y, z = (np.asarray(line, dtype=np.float64) for line in frames.faces)
    nx, ny, nz = len(x) - 1, len(y) - 1, len(z) - 1
    i, j, k = np.unravel_index(frames.cells, (nx, ny, nz))
    strides = np.array([(ny + 2) * (nz + 2), nz + 2, 1], dtype=np.int64)
    flat = ((i + 1) * strides[0] + (j + 1) * strides[1] + (k + 1)).astype(np.int64)
    room = np.zeros((nx + 2) * (ny + 2) * (nz + 2))
    room[flat] = 1.0
    middles = np.column_stack(
        [0.5 * (line[at] + line[at + 1]) for line, at in ((x, i), (y, j), (z, k))]
    )
    nearest = int(np.argmin(np.linalg.norm(middles - place, axis=1)))
    start = middles[nearest]
    step = MARCH_STEP * min(float(np.diff(line).min()) for line in (x, y, z))
    longest = math.sqrt(sum(float(line[-1] - line[0]) ** 2 for line in (x, y, z)))
    out = np.zeros(len(frames.time))
    rows: NDArray[np.float64] = np.ascontiguousarray(ups, dtype=np.float64)
    _over_frames(
        frames.filling, frames.cells, flat, room, x, y, z, strides, start, int(flat[nearest]),
        rows, step, longest, SURE, out,
    )  # fmt: skip
    return np.asarray(out + ups @ (start - place))
