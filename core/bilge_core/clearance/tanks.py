"""Gaps between an oil tank and what is round it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.keep_outs import distance_to
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car

_STEP = 10e-3  # [m] between places on a tank's skin
_ROUND = 72


@dataclass(frozen=True)
class TankGap:
    """The smallest gap between a tank's skin and one thing round it.

    tank, name : ids and names of the tank
    keep_out : its place among them
    gap, wanted : [m]; a gap below nil where they are in each other
    at, to : on the tank and the nearest on the other, car's frame [m]
    """

    tank: str
    name: str
    keep_out: int
    gap: float
    wanted: float
    at: Array
    to: Array


def _along(length: float) -> Array:
    return np.linspace(0.0, length, max(2, int(np.ceil(length / _STEP)) + 1))


def skin_of(tank: Tank) -> Array | None:
    """Places on a tank's skin about the middle of its floor, shape (n, 3) [m].

    A round one by its diameter, else a box by its length and width; None where its sizes are not
    known.

    Examples
    --------
    >>> can = Tank(kind="tank", name="tank", volume_l=8, diameter_mm=160, height_mm=380)
    >>> skin_of(can).max(axis=0).round(3).tolist()
    [0.08, 0.08, 0.38]
    """
    if tank.height_mm is None:
        return None
    heights = _along(tank.height_mm * 1e-3)
    if tank.diameter_mm is not None:
        angles = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)
        ring = 0.5e-3 * tank.diameter_mm * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    elif tank.length_mm is not None and tank.width_mm is not None:
        x, y = _along(tank.length_mm * 1e-3), _along(tank.width_mm * 1e-3)
        x, y = x - 0.5e-3 * tank.length_mm, y - 0.5e-3 * tank.width_mm
        ring = np.array(
            [(a, b) for a in x for b in (y[0], y[-1])] + [(a, b) for b in y for a in (x[0], x[-1])]
        )
    else:
        return None
    lids = np.linspace(0.0, 1.0, 9)[1:, None, None] * ring[None]
    wall = np.array([(a, b, z) for z in heights for a, b in ring])
    flat = lids.reshape(-1, 2)
    ends = [np.column_stack([flat, np.full(len(flat), z)]) for z in (heights[0], heights[-1])]
    return np.vstack([wall, *ends, [[0.0, 0.0, heights[0]], [0.0, 0.0, heights[-1]]]])


def tank_gaps(build: Build) -> tuple[TankGap, ...]:
    """Gaps of every tank that has a place and a size to every keep-out, as the car stands.

    Parameters
    ----------
    build : Build

    Notes
    -----
    A tank's place is the middle of its floor, and it stands upright in the car (ours). Places are
    10 mm apart on its skin: a gap is told at most ``s^2 / 8 d`` too wide.
    """
    turn = engine_to_car(build.car)
    found = []
    for part in build.circuit.components:
        if not isinstance(part, Tank) or part.place is None:
            continue
        skin = skin_of(part)
        if skin is None:
            continue
        foot = np.array(part.place.at_mm) * 1e-3
        if part.place.fixed_to == "engine":
            foot = turn @ foot
        skin = skin + foot
        for index, beside in enumerate(build.car.keep_outs):
            there = skin if beside.frame == "car" else skin @ turn
            distance, nearest = distance_to(there, beside)
            at = int(distance.argmin())
            to = nearest[at] if beside.frame == "car" else turn @ nearest[at]
            found.append(
                TankGap(part.id, part.name, index, float(distance[at]), beside.wanted_mm * 1e-3,
                        skin[at], to)
            )  # fmt: skip
    return tuple(found)
