"""Working arrays of the solver: on the grid, and on its list of cells with oil."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.domain import Domain
from bilge_core.physics.arrays import Single


@dataclass
class Fields:
    """Working arrays on the grid and on its list of cells."""

    momentum: Single
    density: Single
    velocity: Single
    shift: Single
    air: Single
    conductance: Single
    carried: NDArray[np.bool_]
    settled: NDArray[np.bool_]
    filling: Single
    kind: NDArray[np.uint8]
    place: NDArray[np.int32]
    sink: Single  # nothing drawn anywhere
    pressure: Single  # of the last step, on the grid
    listed: NDArray[np.int32]
    stack: NDArray[np.int32]
    mended: NDArray[np.int32]
    values: Single


def fields_of(domain: Domain) -> Fields:
    """Empty arrays for a domain."""
    n = domain.cells
    rows = len(domain.fluid) + 1

    def single(*shape: int) -> Single:
        return np.zeros(shape, dtype=np.float32)

    return Fields(
        single(3, 2 * n), single(n), single(3, n), single(3, n), single(3, n), single(3, n),
        np.zeros((3, n), dtype=np.bool_), np.zeros((3, n), dtype=np.bool_),
        single(n), np.zeros(n, dtype=np.uint8), np.full(n, -1, dtype=np.int32), single(n),
        single(n), np.zeros(rows, dtype=np.int32), np.zeros(8 * rows, dtype=np.int32),
        np.zeros((3 * rows, 2), dtype=np.int32), single(3 * rows),
    )  # fmt: skip


@dataclass
class System:
    """The equations' arrays, one row more than cells."""

    upper: Single
    lower: Single
    links: NDArray[np.int32]
    diagonal: Single
    pivot: Single
    steps: Single
    vectors: Single

    @classmethod
    def of(cls, rows: int) -> System:
        """Room for so many rows."""

        def wide(columns: int) -> Single:
            return np.zeros((rows, columns), dtype=np.float32)

        flat = np.zeros((3, rows), dtype=np.float32)
        return cls(
            wide(3), wide(3), np.zeros((rows, 6), dtype=np.int32),
            flat[0], flat[1], wide(3), np.zeros((6, rows), dtype=np.float32),
        )  # fmt: skip
