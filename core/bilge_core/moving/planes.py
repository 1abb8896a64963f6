"""Walls that cut a cell slantwise, each as the plane that leaves the cell its room."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.openings import Shares
from bilge_core.physics.arrays import Array

_UPRIGHT = 1e-3  # of a cell's smallest face [-]: less slanting wall is none (ours)


def volume_below(normal: Array, offset: Array) -> Array:
    """Volume of a unit cube on the low side of planes ``n · x = offset``.

    Parameters
    ----------
    normal : ndarray, shape (n, 3)
        None negative.
    offset : ndarray, shape (n,)

    Returns
    -------
    ndarray, shape (n,)

    References
    ----------
    Scardovelli and Zaleski (2000), from memory.

    Examples
    --------
    >>> volume_below(np.array([[1.0, 1.0, 1.0]]), np.array([1.0])).round(6).tolist()
    [0.166667]
    """
    n = np.maximum(normal, 1e-5)
    total = np.zeros(len(n))
    for corner in range(8):
        bits = np.array([corner & 1, (corner >> 1) & 1, (corner >> 2) & 1], dtype=float)
        sign = -1.0 if bits.sum() % 2 else 1.0
        total += sign * np.maximum(offset - n @ bits, 0.0) ** 3
    return np.asarray(np.clip(total / (6.0 * n.prod(axis=1)), 0.0, 1.0))


def cut_planes(
    shares: Shares, lines: tuple[Array, Array, Array], room: Array
) -> tuple[NDArray[np.int32], Array]:
    """The plane of the slanting wall in each cell that one cuts.

    Parameters
    ----------
    shares : Shares
    lines : three arrays
        Faces along each axis [m].
    room : ndarray, shape (nx, ny, nz) [m3]

    Returns
    -------
    ndarray of int, shape (nx, ny, nz)
        Row of the planes, or -1.
    ndarray, shape (rows, 5)
        Normal out of the oil (3), offset from the cell's low corner [m], area of wall [m2].

    Notes
    -----
    The wall's area and normal follow from the end areas of the cell (they close to nil with it);
    the offset from its room. Where two slanting walls meet in a cell, one plane stands for both.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.openings import inside_shares
    >>> ramp = Prism(shapely.box(0, 0, 1, 1), (-1.0, 1.0, 0.0), (0.0, 0, 0))  # 45 degrees
    >>> lines = (np.linspace(0, 1, 3), np.linspace(0, 1, 3), np.linspace(-1, 0, 3))
    >>> shares = inside_shares([ramp], *lines)
    >>> cut, planes = cut_planes(shares, lines, shares.room)
    >>> planes[cut[0, 0, 0]].round(3).tolist()  # from corner to corner of a cell of 0.5 m
    [0.707, 0.0, -0.707, 0.0, 0.354]
    """
    sizes = np.stack(np.meshgrid(*(np.diff(line) for line in lines), indexing="ij"), axis=-1)
    whole = sizes.prod(axis=-1)
    vectors = np.stack([shares.low[a] - shares.high[a] for a in range(3)], axis=-1)
    length = np.linalg.norm(vectors, axis=-1)
    least = (whole[..., None] / sizes).min(axis=-1)
    slanting = (room > 0.0) & (room < (1.0 - 1e-6) * whole) & (length > _UPRIGHT * least)
    rows = np.full(whole.shape, -1, dtype=np.int32)
    rows[slanting] = np.arange(slanting.sum())
    unit = vectors[slanting] / length[slanting][:, None]
    scaled = unit * sizes[slanting]
    turned = np.abs(scaled)
    low, high = np.zeros(len(unit)), turned.sum(axis=1)
    target = room[slanting] / whole[slanting]
    for _ in range(60):
        middle = 0.5 * (low + high)
        under = volume_below(turned, middle) < target
        low, high = np.where(under, middle, low), np.where(under, high, middle)
    offset = 0.5 * (low + high) + np.minimum(scaled, 0.0).sum(axis=1)
    return rows, np.column_stack([unit, offset, length[slanting]])
