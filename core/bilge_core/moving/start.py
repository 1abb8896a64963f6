"""Oil at rest below a level surface, ready to move."""

from __future__ import annotations

import numpy as np

from bilge_core.moving.domain import Domain
from bilge_core.moving.seed import seed_oil
from bilge_core.moving.simulation import Simulation
from bilge_core.moving.viscosity import Wetting
from bilge_core.physics.arrays import Array


def start_simulation(
    domain: Domain,
    volume: float,
    up: Array,
    wetting: Wetting,
    longest_step: float,
    seed: int = 0,
    spare_rows: int = 0,
) -> Simulation:
    """Oil at rest below a level surface.

    Parameters
    ----------
    domain : Domain
    volume : float
        [m3]
    up : ndarray, shape (3,)
        Square to the surface, of length one.
    wetting : Wetting
    longest_step : float
        [s]
    seed : int
        Starts with different seeds differ a little, for an ensemble.
    spare_rows : int
        Particles that may be put in beyond those there at the start.

    Returns
    -------
    Simulation

    Raises
    ------
    InvalidQuantity
        If the domain cannot hold the volume.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.domain import build_domain
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 8)))
    >>> domain = build_domain([box], [], lines)
    >>> oil = start_simulation(domain, 0.005, np.array([0, 0, 1.0]), Wetting(1.2e-5, 850.0), 0.01)
    >>> oil.advance(0.01, np.array([0.0, 0.0, -9.81]))
    >>> round(oil.volume * 1e3, 6)
    5.0
    """
    rows, cell = seed_oil(domain, volume, up, seed)
    count = len(cell)
    spare = spare_rows + count // 8
    rows = np.concatenate([rows, np.zeros((spare, 16), dtype=np.float32)])
    cell = np.concatenate([cell, np.zeros(spare, dtype=np.int32)])
    return Simulation(domain, rows, cell, count, wetting, longest_step)
