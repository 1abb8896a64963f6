"""Gaps between what stands beside the engine, an oil tank or a pump, and what is round it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.keep_outs import distance_to
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.document.drive import BeltDrive
from bilge_core.document.engine import Crank
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.physics.pulleys import radius_of

_STEP = 10e-3  # [m] between places on a skin
_ROUND = 72
_BEHIND = 10e-3  # [m] from a pulley to the body behind it (ours)


@dataclass(frozen=True)
class PartGap:
    """The smallest gap between a part's skin and one thing round it.

    part, name : its id and what it is called
    keep_out : the other's place among the keep-outs
    gap, wanted : [m]; a gap below nil where they are in each other
    at, to : on the part and the nearest on the other, car's frame [m]
    """

    part: str
    name: str
    keep_out: int
    gap: float
    wanted: float
    at: Array
    to: Array


def _along(length: float) -> Array:
    return np.linspace(0.0, length, max(2, int(np.ceil(length / _STEP)) + 1))


def _upright(ring: Array, height: float) -> Array:
    """Places on the skin of a thing of one outline, its floor at nil, shape (n, 3) [m]."""
    heights = _along(height)
    lids = np.linspace(0.0, 1.0, 9)[1:, None, None] * ring[None]
    wall = np.array([(a, b, z) for z in heights for a, b in ring])
    flat = lids.reshape(-1, 2)
    ends = [np.column_stack([flat, np.full(len(flat), z)]) for z in (heights[0], heights[-1])]
    return np.vstack([wall, *ends, [[0.0, 0.0, heights[0]], [0.0, 0.0, heights[-1]]]])


def _circle(diameter: float) -> Array:
    angles = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)
    return 0.5 * diameter * np.stack([np.cos(angles), np.sin(angles)], axis=1)


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
    if tank.diameter_mm is not None:
        ring = _circle(tank.diameter_mm * 1e-3)
    elif tank.length_mm is not None and tank.width_mm is not None:
        x, y = _along(tank.length_mm * 1e-3), _along(tank.width_mm * 1e-3)
        x, y = x - 0.5e-3 * tank.length_mm, y - 0.5e-3 * tank.width_mm
        ring = np.array(
            [(a, b) for a in x for b in (y[0], y[-1])] + [(a, b) for b in y for a in (x[0], x[-1])]
        )
    else:
        return None
    return _upright(ring, tank.height_mm * 1e-3)


def pump_skin(drive: BeltDrive, crank: Crank | None) -> Array | None:
    """Places on an outside pump's pulley and body, engine's frame, shape (n, 3) [m].

    The body lies behind its pulley, along a shaft that is turned and tilted as the drive says;
    half the belt's width and 10 mm lie between them (ours). None where the places of crank and
    pulley are not known.

    Examples
    --------
    >>> from bilge_core.document.drive import PumpBody
    >>> crank = Crank(height_mm=60, swept_radius_mm=80, from_x_mm=50, to_x_mm=400)
    >>> drive = BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48, belt_teeth=90,
    ...     across_mm=-200, up_mm=0, crank_x_mm=450, body=PumpBody(length_mm=150, diameter_mm=110))
    >>> skin = pump_skin(drive, crank)
    >>> skin.min(axis=0).round(4).tolist(), skin.max(axis=0).round(4).tolist()
    ([0.2775, -0.2611, -0.0011], [0.4625, -0.1389, 0.1211])
    """
    if crank is None or drive.crank_x_mm is None:
        return None
    half = 0.5e-3 * drive.width_mm
    pulley = _upright(_circle(2.0 * radius_of(drive.pitch_mm * 1e-3, drive.pump_teeth)), 2.0 * half)
    along = [pulley - [0.0, 0.0, half]]
    if drive.body is not None:
        length = drive.body.length_mm * 1e-3
        body = _upright(_circle(drive.body.diameter_mm * 1e-3), length)
        along.append(body - [0.0, 0.0, half + _BEHIND + length])
    turned, tilted = np.radians([drive.turned_deg, drive.tilted_deg])
    shaft = np.array([np.cos(turned) * np.cos(tilted), np.sin(turned) * np.cos(tilted),
                      np.sin(tilted)])  # fmt: skip
    side = np.array([-np.sin(turned), np.cos(turned), 0.0])
    middle = np.array([drive.crank_x_mm + drive.offset_mm, drive.across_mm,
                       crank.height_mm + drive.up_mm]) * 1e-3  # fmt: skip
    axes = np.stack([side, np.cross(shaft, side), shaft])
    return np.asarray(np.vstack(along) @ axes + middle)


def _skins(build: Build) -> Iterator[tuple[str, str, Array]]:
    """Id, name and skin in the car's frame of every part beside the engine that has a place."""
    turn = engine_to_car(build.car)
    for part in build.circuit.components:
        if not isinstance(part, Tank) or part.place is None:
            continue
        skin = skin_of(part)
        if skin is None:
            continue
        foot = np.array(part.place.at_mm) * 1e-3
        yield part.id, part.name, skin + (turn @ foot if part.place.fixed_to == "engine" else foot)
    if build.drive is not None:
        skin = pump_skin(build.drive, build.car.crank)
        if skin is not None:
            pump = build.circuit.pump
            yield pump.id, pump.name, skin @ turn.T


def part_gaps(build: Build) -> tuple[PartGap, ...]:
    """Gaps of every tank, and of a pump on a belt, to every keep-out, as the car stands.

    Parameters
    ----------
    build : Build

    Notes
    -----
    A tank's place is the middle of its floor, and it stands upright in the car (ours). Places are
    10 mm apart on a skin: a gap is told at most ``s^2 / 8 d`` too wide. What has no place or no
    size has no gap.
    """
    turn = engine_to_car(build.car)
    found = []
    for part, name, skin in _skins(build):
        for index, beside in build.car.measured_keep_outs:
            there = skin if beside.frame == "car" else skin @ turn
            distance, nearest = distance_to(there, beside)
            at = int(distance.argmin())
            to = nearest[at] if beside.frame == "car" else turn @ nearest[at]
            found.append(
                PartGap(part, name, index, float(distance[at]), beside.wanted_mm * 1e-3, skin[at],
                        to)
            )  # fmt: skip
    return tuple(found)
