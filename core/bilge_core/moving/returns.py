"""Drain-backs: where oil comes back into the pan."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.domain import Domain
from bilge_core.moving.simulation import Simulation
from bilge_core.physics.arrays import Array

_SPREAD = 0.4  # of a cell to either side [-], so that particles do not pile up (ours)


@dataclass
class Returns:
    """Cells in which oil comes back, in turn.

    cells : flat numbers
    portion : volume of the particles that come back [m3]
    speed : of the oil that comes, shape (3,) [m/s]
    """

    cells: NDArray[np.int32]
    portion: float
    speed: Array

    def __post_init__(self) -> None:
        self._random = np.random.default_rng(1)
        self._turn = 0

    def put_back(self, oil: Simulation, volume: float) -> float:
        """Put particles into the pan up to a volume [m3]; returns what was put."""
        count = min(int(volume / self.portion), oil.free_rows)
        if count <= 0:
            return 0.0
        rows = np.zeros((count, 16), dtype=np.float32)
        rows[:, :3] = 0.5 + self._random.uniform(-_SPREAD, _SPREAD, (count, 3))
        rows[:, 3:6] = self.speed
        rows[:, 15] = self.portion
        turns = (self._turn + np.arange(count)) % len(self.cells)
        self._turn = (self._turn + count) % len(self.cells)
        oil.add(rows, self.cells[turns])
        return float(rows[:, 15].sum(dtype=np.float64))


def returns_at(domain: Domain, places: Array, portion: float, down: Array) -> Returns:
    """Drain-backs at given places.

    Parameters
    ----------
    domain : Domain
    places : ndarray, shape (n, 3) [m]
    portion : float
        Volume of one particle [m3].
    down : ndarray, shape (3,)
        The way that returned oil falls, of length one; it comes at half a metre a second.

    Returns
    -------
    Returns

    Raises
    ------
    InvalidQuantity
        If none of the places is inside the domain.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.domain import build_domain
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 15)))
    >>> domain = build_domain([box], [], lines)
    >>> len(returns_at(domain, np.array([[0.1, 0.1, 0.1]]), 1e-7, np.array([0, 0, -1.0])).cells)
    1
    """
    at = [
        np.searchsorted(line, places[:, axis], side="right") - 1
        for axis, line in enumerate(domain.lines)
    ]
    nx, ny, nz = domain.shape
    inside = np.ones(len(places), dtype=bool)
    for index, count in zip(at, (nx, ny, nz), strict=True):
        inside &= (index >= 0) & (index < count)
    flat = (((at[0] + 1) * (ny + 2) + at[1] + 1) * (nz + 2) + at[2] + 1)[inside]
    flat = flat[domain.room[flat] > 0.0]
    if not len(flat):
        raise InvalidQuantity("drain-backs", "all outside", "inside the pan or its skirt")
    return Returns(flat.astype(np.int32), portion, 0.5 * np.asarray(down))
