"""Faces along one axis of a grid: plates and edges lie on faces, sizes change gently."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

_MERGE = 0.4  # of the wanted size [-]: two wanted faces nearer than this become one (ours)
_STEEPEST = 2.0  # size of a cell over its neighbour's [-] (ours: second order is lost beyond)


def _kept(
    start: float, end: float, wanted: Sequence[Sequence[float]], nearest: float
) -> list[float]:
    """Places that get a face, the more important groups first."""
    kept = [start, end]
    for group in wanted:
        for place in sorted(set(group)):
            inside = start + 1e-9 < place < end - 1e-9
            if inside and min(abs(place - other) for other in kept) >= nearest:
                kept.append(place)
    return sorted(kept)


def graded_faces(start: float, end: float, size: float, wanted: Sequence[Sequence[float]]) -> Array:
    """Faces from start to end, about a size apart, with one on every wanted place.

    Parameters
    ----------
    start, end : float
        Where the axis begins and ends [m].
    size : float
        Wanted distance of faces [m].
    wanted : sequence of sequences of float
        Places that should have a face [m], in groups, the most important first.
        One nearer than 0.4 of a size to a more important one is left out: what
        lies there is then counted by the share of the face that it covers.

    Returns
    -------
    ndarray, shape (n + 1,)
        Rising; neighbouring cells differ by no more than a factor of two.

    Raises
    ------
    InvalidQuantity
        If the size is not positive or the end is not beyond the start.

    Examples
    --------
    >>> graded_faces(0.0, 0.1, 0.02, [[0.03]]).round(4).tolist()
    [0.0, 0.015, 0.03, 0.0475, 0.065, 0.0825, 0.1]
    """
    if not size > 0.0:
        raise InvalidQuantity("cell size", size, "above 0 m")
    if not end > start:
        raise InvalidQuantity("end of the axis", end, f"beyond its start, {start}")
    places = np.array(_kept(start, end, wanted, _MERGE * size))
    lengths = np.diff(places)
    counts = np.maximum(1, np.rint(lengths / size).astype(int))
    for _ in range(64):
        sizes = lengths / counts
        grow = np.zeros(len(sizes), dtype=bool)
        grow[:-1] |= sizes[:-1] > _STEEPEST * sizes[1:]
        grow[1:] |= sizes[1:] > _STEEPEST * sizes[:-1]
        if not grow.any():
            break
        counts[grow] += 1
    pieces = [
        np.linspace(a, b, count, endpoint=False)
        for a, b, count in zip(places[:-1], places[1:], counts.tolist(), strict=True)
    ]
    return np.concatenate([*pieces, places[-1:]])
