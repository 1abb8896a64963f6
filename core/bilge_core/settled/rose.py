"""The cover rose: for each direction, the steady g at which the mouth goes dry."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit

from bilge_core.document.car import Car
from bilge_core.errors import InvalidQuantity
from bilge_core.pan import Pan, Solid, column_of
from bilge_core.pan.levels import solve_level
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car


@dataclass(frozen=True)
class CoverRose:
    """Edge of the covered region.

    directions : ndarray, shape (n,)
        Where the oil is thrown in the car [rad]: 0 forward (braking), a
        quarter turn is left (right-hand corner), counted anticlockwise from above.
    edge : ndarray, shape (n,)
        Steady load in g at which the mouth's centre comes bare; infinite
        where it holds to `limit`; 0 where it is bare at rest.
    limit : float
        Highest load looked at, in g.
    """

    directions: Array
    edge: Array
    limit: float


@njit(cache=True)
def _edges(vertices, tetrahedra, volumes, volume, mouth, throws, down, limit, scan, out):  # type: ignore[no-untyped-def]
    heights = np.empty((volumes.size, 4))
    normal = np.empty(3)

    def cover(load, throw, guess):  # type: ignore[no-untyped-def]
        length = math.sqrt(1.0 + load * load)
        for k in range(3):
            normal[k] = -(down[k] + load * throw[k]) / length
        level = solve_level(vertices, tetrahedra, volumes, normal, volume, guess, heights)
        at_mouth = normal[0] * mouth[0] + normal[1] * mouth[1] + normal[2] * mouth[2]
        return level - at_mouth, level

    for i in range(throws.shape[0]):
        throw = throws[i]
        before, guess = cover(0.0, throw, np.nan)
        out[i] = np.inf
        if before < 0.0:
            out[i] = 0.0
            continue
        for step in range(1, scan + 1):
            high = limit * step / scan
            now, guess = cover(high, throw, guess)
            if now < 0.0:
                low = limit * (step - 1) / scan
                for _ in range(30):  # regula falsi with halving (Illinois)
                    middle = low + (high - low) * before / (before - now)
                    value, guess = cover(middle, throw, guess)
                    if abs(value) < 1e-7 or high - low < 1e-6:
                        break
                    if value > 0.0:
                        low, before = middle, value
                        now *= 0.5
                    else:
                        high, now = middle, value
                        before *= 0.5
                out[i] = middle
                break
            before = now


def cover_rose(pan: Pan, car: Car, directions: int = 72, limit: float = 2.5) -> CoverRose:
    """Steady load at which the mouth goes dry, for directions all round the car.

    Parameters
    ----------
    pan : Pan
    car : Car
        How the engine sits; the rose is in the car's frame.
    directions : int
        How many, at least 4.
    limit : float
        Highest load looked at, in g.

    Returns
    -------
    CoverRose

    Raises
    ------
    InvalidQuantity
        If there are fewer than 4 directions or the limit is not positive.

    Notes
    -----
    The first load at which the mouth comes bare, searched in steps of 0.1 g:
    a dip and return inside one step is not seen.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> rose = cover_rose(assemble_pan(build), build.car)
    >>> rose.edge.shape
    (72,)
    """
    return _rose(pan.solid, pan.oil_volume, pan.mouth.centre, car, directions, limit)


def _rose(
    solid: Solid, volume: float, mouth: Array, car: Car, directions: int, limit: float
) -> CoverRose:
    if directions < 4:
        raise InvalidQuantity("directions", directions, "at least 4")
    if not (math.isfinite(limit) and limit > 0.0):
        raise InvalidQuantity("limit", limit, "a positive load in g")
    angles = np.arange(directions) * (2.0 * math.pi / directions)
    to_car = engine_to_car(car)
    throws = np.column_stack([np.cos(angles), np.sin(angles), np.zeros(directions)]) @ to_car
    down = np.array([0.0, 0.0, -1.0]) @ to_car
    edge = np.empty(directions)
    _edges(
        solid.vertices,
        solid.tetrahedra,
        solid.volumes,
        volume,
        mouth,
        np.ascontiguousarray(throws),
        down,
        limit,
        max(1, round(limit / 0.1)),
        edge,
    )
    return CoverRose(np.asarray(angles, dtype=np.float64), edge, limit)


@dataclass(frozen=True)
class HeldEdges:
    """Edges of the covered region with a given volume kept in the mouth's own zone.

    zone : int
        The mouth's zone, as in `Pan.zones`.
    volumes : ndarray, shape (k,) [m3], rising from nil
    directions : ndarray, shape (n,) [rad], as in `CoverRose`
    edges : ndarray, shape (k, n) [g]
    """

    zone: int
    volumes: Array
    directions: Array
    edges: Array


def held_edges(
    pan: Pan, car: Car, directions: int = 72, limit: float = 2.5, volumes: int = 13
) -> HeldEdges:
    """Edges of the cover rose if what lies in the mouth's zone now were all there is.

    Oil that has run off to a shelf or a side box comes back late. This asks how
    far the load may go before the mouth comes bare if none of it were back yet:
    between this edge and the steady one the pickup depends on oil on its way.

    Parameters
    ----------
    pan : Pan
    car : Car
    directions, limit
        As for `cover_rose`.
    volumes : int
        How many volumes to tabulate, at least 2: from nil to all the oil, or all the zone holds.

    Returns
    -------
    HeldEdges

    Raises
    ------
    InvalidQuantity
        As `cover_rose`, or with fewer than 2 volumes.

    Notes
    -----
    The zone is taken with upright walls all round, up to the top of the skirt.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> held = held_edges(assemble_pan(build), build.car)
    >>> pan_zone = assemble_pan(build).zones[held.zone]
    >>> pan_zone.name, bool(held.edges[0].max() == 0.0)  # with nothing left it is dry at once
    ('deep sump', True)
    """
    if volumes < 2:
        raise InvalidQuantity("volumes", volumes, "at least 2")
    zone = pan.zone_at(float(pan.mouth.centre[0]), float(pan.mouth.centre[1]))
    if zone is None:
        raise InvalidQuantity("mouth", pan.mouth.centre, "inside the pan")
    column = column_of(pan, pan.zones[zone])
    steps = np.linspace(0.0, min(pan.oil_volume, column.volume * (1.0 - 1e-9)), volumes)
    roses = [_rose(column, float(v), pan.mouth.centre, car, directions, limit) for v in steps]
    return HeldEdges(zone, steps, roses[0].directions, np.array([rose.edge for rose in roses]))
