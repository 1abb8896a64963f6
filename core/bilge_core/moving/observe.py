"""What is read off the moving oil, fifty times a second."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.moving.domain import Domain
from bilge_core.moving.inlet import Inlet, oil_shares
from bilge_core.moving.simulation import Simulation
from bilge_core.moving.transfer import HALF
from bilge_core.physics.arrays import Array

MARCH_STEP = 0.25  # step of the march to the surface, of the smallest cell [-] (ours)
NEAR = 0.06
"""[m] in plan from a mouth within which oil is told to be near it (ours: about two mouths)."""
SURE = 4  # steps beyond a surface that make it one: a hole of less than a cell is none (ours)


@dataclass(frozen=True)
class CrankSweep:
    """The cylinder that the crank's throws sweep, along x.

    y, z : of its axis [m]
    radius : [m]
    start, end : along x [m]
    """

    y: float
    z: float
    radius: float
    start: float
    end: float


@dataclass(frozen=True)
class Sight:
    """One look at the oil.

    oil_share : of each mouth's inlet, 0 to 1, shape (mouths,)
    cover : of each, shape (mouths,), from the mouth to the surface above it along "up" [m];
        negative when bare, and then only its sign tells: the march down ends at the next oil, wall
        or plate
    centre : of mass, shape (3,) [m]
    regions : in each part between plates, shape (r,) [m3]
    crank : that the crank's sweep reaches [m3]
    volume : all of it [m3]
    near : within `NEAR` of the mouth that feeds the gallery, on its side of all plates [m3]
    """

    oil_share: Array
    cover: Array
    centre: Array
    regions: Array
    crank: float
    volume: float
    near: float


@njit(cache=True, error_model="numpy")
def _count(  # type: ignore[no-untyped-def]
    rows, cell, count, where, low_x, low_y, low_z, hx, hy, hz, region, sweep, near, regions, sums
):
    sums[:] = 0.0
    regions[:] = 0.0
    for p in range(count):
        c = cell[p]
        packed = where[c]
        i = packed >> 20
        j = (packed >> 10) & 1023
        k = packed & 1023
        volume = np.float64(rows[p, 15])
        x = low_x[i] + rows[p, 0] * hx[i]
        y = low_y[j] + rows[p, 1] * hy[j]
        z = low_z[k] + rows[p, 2] * hz[k]
        sums[0] += volume
        sums[1] += volume * x
        sums[2] += volume * y
        sums[3] += volume * z
        part = region[c]
        if part >= 0:
            regions[part] += volume
        if part == near[0] and (x - near[1]) ** 2 + (y - near[2]) ** 2 < near[3]:
            sums[5] += volume
        if sweep[3] <= x <= sweep[4]:
            away = (y - sweep[0]) ** 2 + (z - sweep[1]) ** 2
            if away < sweep[2] * sweep[2]:
                sums[4] += volume


@njit(cache=True, error_model="numpy")
def march_to_surface(  # type: ignore[no-untyped-def]
    filling, room, line_x, line_y, line_z, strides, place, up, step, longest, covered, sure
):
    """Way along `up` from a place to where the oil ends; minus, the way down to it, when bare."""
    x = place.copy()
    last = 0.5
    sign = 1.0 if covered else -1.0
    armed = False
    way = 0.0
    beyond = 0
    found = 0.0
    while way <= longest:
        i = np.searchsorted(line_x, x[0], side="right") - 1
        j = np.searchsorted(line_y, x[1], side="right") - 1
        k = np.searchsorted(line_z, x[2], side="right") - 1
        inside = 0 <= i < line_x.size - 1 and 0 <= j < line_y.size - 1 and 0 <= k < line_z.size - 1
        c = (i + 1) * strides[0] + (j + 1) * strides[1] + (k + 1)
        if not inside or room[c] <= 0.0:
            return found if beyond > 0 else sign * way
        # filling between this cell's middle and the next one along z
        middle = HALF * (line_z[k] + line_z[k + 1])
        up_one = x[2] >= middle
        other = c + 1 if up_one else c - 1
        there = k + 1 if up_one else k - 1
        value = np.float64(filling[c])
        if room[other] > 0.0 and 0 <= there < line_z.size - 1:
            next_middle = HALF * (line_z[there] + line_z[there + 1])
            share = (x[2] - middle) / (next_middle - middle)
            value += share * (np.float64(filling[other]) - value)
        if (value < 0.5) != (sign > 0.0):
            armed = True
            beyond = 0
        elif armed or way > sure * step:
            if beyond == 0:
                part = min(1.0, abs(value - 0.5) / max(abs(value - last), 1e-6))
                found = sign * max(0.0, way - step * part)
            beyond += 1
            if beyond >= sure:  # a hole of less than a cell is not the surface
                return found
        last = value
        for a in range(3):
            x[a] += sign * step * up[a]
        way += step
    return sign * longest


class Observer:
    """Looks at a simulation without touching it.

    Parameters
    ----------
    domain : Domain
    inlets : sequence of Inlet
        Of the mouths.
    sweep : CrankSweep or None
    """

    def __init__(self, domain: Domain, inlets: Sequence[Inlet], sweep: CrankSweep | None) -> None:
        self._domain = domain
        self._inlets = tuple(inlets)
        none = CrankSweep(0.0, 0.0, 0.0, 1.0, 0.0)
        s = none if sweep is None else sweep
        self._sweep = np.array([s.y, s.z, s.radius, s.start, s.end])
        first = self._inlets[0]
        part = float(domain.region[first.cells[0]])
        self._near = np.array([part, first.centre[0], first.centre[1], NEAR**2])
        self._lows = low_ends(domain)
        self._shares = [np.zeros(len(inlet.cells), dtype=np.float32) for inlet in inlets]
        x, y, z = domain.lines
        self._longest = math.sqrt((x[-1] - x[0]) ** 2 + (y[-1] - y[0]) ** 2 + (z[-1] - z[0]) ** 2)
        self._step = MARCH_STEP * min(float(size.min()) for size in domain.sizes)

    def inlet_shares(self, oil: Simulation, mouth: int) -> NDArray[np.float32]:
        """Share of oil in each of the cells of a mouth's inlet."""
        domain, shares = self._domain, self._shares[mouth]
        oil_shares(
            self._inlets[mouth].cells, oil.kind_flat, oil.filling_flat, domain.area,
            domain.strides, shares,
        )  # fmt: skip
        return shares

    def look(self, oil: Simulation, up: Array) -> Sight:
        """Read it off as it is now; `up` is square to a settled surface, of length one."""
        domain = self._domain
        regions = np.zeros(domain.region_count)
        sums = np.zeros(6)
        _count(
            oil.rows, oil.cell, oil.count, domain.where, *self._lows, *domain.sizes, domain.region,
            self._sweep, self._near, regions, sums,
        )  # fmt: skip
        share, cover = np.zeros(len(self._inlets)), np.zeros(len(self._inlets))
        for mouth, inlet in enumerate(self._inlets):
            share[mouth] = self.inlet_shares(oil, mouth).astype(np.float64) @ inlet.part
            cover[mouth] = march_to_surface(
                oil.filling_flat, domain.room, *domain.lines, domain.strides, inlet.centre,
                np.asarray(up, dtype=np.float64), self._step, self._longest, share[mouth] >= 0.5,
                SURE,
            )  # fmt: skip
        volume = float(sums[0])
        return Sight(
            share,
            cover,
            sums[1:4] / max(volume, 1e-12),
            regions,
            float(sums[4]),
            volume,
            float(sums[5]),
        )


def low_ends(
    domain: Domain,
) -> tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.float32]]:
    """Low end of each padded cell along each axis [m]."""
    x, y, z = (
        np.concatenate([[line[0] - size[0]], line]).astype(np.float32)
        for line, size in zip(domain.lines, domain.sizes, strict=True)
    )
    return x, y, z
