"""A mouth in the moving oil: what it finds, and what it takes out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.domain import Domain
from bilge_core.moving.transfer import OIL, ONE, ZERO
from bilge_core.physics.arrays import Array, Single
from bilge_core.pickup.mouth import Mouth

_POINTS = 5  # along each axis of a cell, to measure what of it the inlet takes (ours)
_JUST = np.float32(1.001)  # [-] what lies on the floor is within reach
_LEAST_HALF, _MOST_HALF = 0.004, 0.015
"""Half the height of the space that a mouth draws from [m]. Ours: a mouth on the floor still draws,
one high above it does not reach farther than it is wide.
"""


@dataclass(frozen=True)
class Inlet:
    """The space that the mouth draws from: its outline, as high above its plane as below it.

    So half of it lies in oil when the surface stands at the mouth's plane, as in settled oil.

    centre : shape (3,) [m]
    half : half sizes, shape (3,) [m]
    is_round : whether an ellipse in plan
    cells : flat numbers of the cells that it reaches
    part : of its whole that lies in each of them
    volume : all of it inside the domain [m3]
    """

    centre: Array
    half: Array
    is_round: bool
    cells: NDArray[np.int32]
    part: Single
    volume: float


def inlet_of(mouth: Mouth, floor: float, domain: Domain) -> Inlet:
    """The inlet of a mouth in a domain.

    Parameters
    ----------
    mouth : Mouth
    floor : float
        Height of the floor under it [m].
    domain : Domain

    Returns
    -------
    Inlet
        It reaches as far up and down from the mouth's plane as the floor is away, between 4 and
        15 mm.

    Raises
    ------
    InvalidQuantity
        If no part of it is inside the domain.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.domain import build_domain
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 15)))
    >>> mouth = Mouth(np.array([0.2, 0.12, 0.008]), 0.02, 0.02, False)
    >>> inlet = inlet_of(mouth, 0.0, build_domain([box], [], lines))
    >>> round(inlet.volume * 1e6, 1)  # 40 x 40 x 16 mm, by points in cells of 40 x 40 x 10 mm
    25.6
    """
    deep = float(np.clip(mouth.centre[2] - floor, _LEAST_HALF, _MOST_HALF))
    half = np.array([mouth.half_length, mouth.half_width, deep])
    low, high = mouth.centre - half, mouth.centre + half
    spans = [
        np.arange(
            max(0, int(np.searchsorted(line, a, side="right")) - 1),
            min(len(line) - 1, int(np.searchsorted(line, b, side="left"))),
        )
        for line, a, b in zip(domain.lines, low, high, strict=True)
    ]
    i, j, k = (index.ravel() for index in np.meshgrid(*spans, indexing="ij"))
    offsets = (np.arange(_POINTS) + 0.5) / _POINTS
    _, ny, nz = domain.shape
    flat = ((i + 1) * (ny + 2) + j + 1) * (nz + 2) + k + 1
    inside = np.zeros(len(flat))
    for a in offsets:
        for b in offsets:
            for c in offsets:
                point = np.stack(
                    [
                        line[index] + share * np.diff(line)[index]
                        for line, index, share in zip(
                            domain.lines, (i, j, k), (a, b, c), strict=True
                        )
                    ],
                    axis=1,
                )
                inside += _within(point, mouth.centre, half, mouth.is_round)
    part = inside / _POINTS**3 * domain.room[flat]
    kept = part > 0.0
    if not kept.any():
        raise InvalidQuantity("mouth", mouth.centre.round(3).tolist(), "inside the domain")
    volume = float(part.sum())
    return Inlet(
        mouth.centre,
        half,
        mouth.is_round,
        flat[kept].astype(np.int32),
        (part[kept] / volume).astype(np.float32),
        volume,
    )


def _within(points: Array, centre: Array, half: Array, is_round: bool) -> NDArray[np.bool_]:
    away = np.abs(points - centre) / half
    level = (
        away[:, 0] ** 2 + away[:, 1] ** 2 <= 1.0 if is_round else (away[:, :2] <= 1.0).all(axis=1)
    )
    return np.asarray(level & (away[:, 2] <= 1.0))


@njit(cache=True, error_model="numpy")
def oil_shares(cells, kind, filling, area, strides, out):  # type: ignore[no-untyped-def]
    """Share of oil in each cell: one inside the oil, the filling where the surface is beside it."""
    for n in range(cells.size):
        c = cells[n]
        share = min(max(filling[c], ZERO), ONE)
        if kind[c] == OIL:
            inside = True
            for a in range(3):
                s = strides[a]
                if (area[a, c] > ZERO and kind[c - s] != OIL) or (
                    area[a, c + s] > ZERO and kind[c + s] != OIL
                ):
                    inside = False
            if inside:
                share = ONE
        out[n] = share


@njit(cache=True, error_model="numpy")
def take_out(  # type: ignore[no-untyped-def]
    rows, cell, count, wanted, least, flags, where, low_x, low_y, low_z, hx, hy, hz, centre, half,
    is_round, mine,
):  # fmt: skip
    """Take `wanted` [m3] evenly from all particles in the inlet; new count and what was taken.

    Each gives up the same share of its volume, so that no holes are torn; one left with less than
    `least` is taken whole. `flags` marks the inlet's cells, `mine` is room for a list.
    """
    if wanted <= 0.0:
        return count, 0.0
    found = 0
    inside = 0.0
    for p in range(count):
        c = cell[p]
        if not flags[c]:
            continue
        packed = where[c]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        x = abs(low_x[i] + rows[p, 0] * hx[i] - centre[0]) / half[0]
        y = abs(low_y[j] + rows[p, 1] * hy[j] - centre[1]) / half[1]
        z = abs(low_z[k] + rows[p, 2] * hz[k] - centre[2]) / half[2]
        level = x * x + y * y <= _JUST if is_round else (x <= _JUST and y <= _JUST)
        if level and z <= _JUST:
            mine[found] = p
            found += 1
            inside += rows[p, 15]
    if found == 0:
        return count, 0.0
    left = np.float32(max(0.0, 1.0 - wanted / inside))
    taken = 0.0
    for n in range(found - 1, -1, -1):
        p = mine[n]
        before = np.float64(rows[p, 15])
        after = rows[p, 15] * left
        if after < least:
            taken += before
            count -= 1
            rows[p] = rows[count]
            cell[p] = cell[count]
        else:
            rows[p, 15] = after
            taken += before - np.float64(after)
    return count, taken
