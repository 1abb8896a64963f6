"""The oil at the start: particles below a level surface, their volume exact."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.domain import Domain
from bilge_core.physics.arrays import Array

_PATTERN = np.array(  # four a cell, no two in line along an axis
    [[0.25, 0.25, 0.25], [0.75, 0.75, 0.25], [0.75, 0.25, 0.75], [0.25, 0.75, 0.75]]
)
_JITTER = 0.05  # of a cell [-]: another seed is another start, and no other oil (ours)


def seed_oil(
    domain: Domain, volume: float, up: Array, seed: int
) -> tuple[NDArray[np.float32], NDArray[np.int32]]:
    """Particles that fill the domain up to the level that a volume has.

    Parameters
    ----------
    domain : Domain
    volume : float
        Oil [m3].
    up : ndarray, shape (3,)
        Square to the surface, of length one.
    seed : int
        Starts with different seeds differ by a twentieth of a cell.

    Returns
    -------
    ndarray, shape (n, 16), and ndarray of int, shape (n,)
        Rows as in `bilge_core.moving.transfer`, and their cells.

    Raises
    ------
    InvalidQuantity
        If the volume is not positive, or more than the domain holds.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.domain import build_domain
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 8)))
    >>> rows, cell = seed_oil(build_domain([box], [], lines), 0.005, np.array([0.0, 0, 1]), 0)
    >>> round(float(rows[:, 15].sum(dtype=float)), 8)
    0.005
    """
    if not volume > 0.0:
        raise InvalidQuantity("oil", f"{volume * 1e3:.3f} L", "above nil")
    if volume > domain.volume:
        raise InvalidQuantity(
            "oil", f"{volume * 1e3:.2f} L", f"no more than {domain.volume * 1e3:.2f} L"
        )
    random = np.random.default_rng(seed)
    pattern = np.tile(_PATTERN, (len(domain.fluid), 1))
    pattern += random.uniform(-_JITTER, _JITTER, pattern.shape)
    cells = np.repeat(domain.fluid, len(_PATTERN))
    kept = _inside(domain, cells, pattern)
    cells, pattern = cells[kept], pattern[kept]
    per = domain.room[cells].astype(np.float64) / np.bincount(cells, minlength=domain.cells)[cells]
    heights = _heights(domain, cells, pattern, up)
    order = np.argsort(heights, kind="stable")
    filled = np.searchsorted(np.cumsum(per[order]), volume) + 1
    chosen = np.sort(order[:filled])
    rows = np.zeros((len(chosen), 16), dtype=np.float32)
    rows[:, :3] = pattern[chosen]
    volumes = per[chosen] * (volume / per[chosen].sum())
    rows[:, 15] = volumes
    return rows, cells[chosen].astype(np.int32)


def _places(domain: Domain, cells: NDArray[np.int32]) -> tuple[Array, Array]:
    """Low corners and sizes of cells, shapes (n, 3) [m]."""
    nx, ny, nz = domain.shape
    at = np.unravel_index(cells, (nx + 2, ny + 2, nz + 2))
    low = np.stack([line[index - 1] for line, index in zip(domain.lines, at, strict=True)], axis=1)
    size = np.stack(
        [sizes[index].astype(float) for sizes, index in zip(domain.sizes, at, strict=True)], axis=1
    )
    return low, size


def _inside(domain: Domain, cells: NDArray[np.int32], pattern: Array) -> NDArray[np.bool_]:
    kept = np.ones(len(cells), dtype=bool)
    cut = np.flatnonzero(domain.cut[cells] >= 0)
    walls = domain.walls[domain.cut[cells[cut]]].astype(float)
    _, size = _places(domain, cells[cut])
    beyond = (walls[:, :3] * pattern[cut] * size).sum(axis=1) - walls[:, 3]
    kept[cut] = beyond <= 0.0
    lost = np.setdiff1d(cells[cut], cells[kept])  # slivers that the pattern misses keep one
    for c in lost.tolist():
        mine = np.flatnonzero(cells == c)
        best = mine[np.argmin(beyond[np.searchsorted(cut, mine)])]
        kept[best] = True
    return kept


def _heights(domain: Domain, cells: NDArray[np.int32], pattern: Array, up: Array) -> Array:
    low, size = _places(domain, cells)
    return np.asarray((low + pattern * size) @ up)
