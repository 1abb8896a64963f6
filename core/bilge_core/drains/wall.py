"""The pan's wall unrolled: at every place of it, how far from the oil it stays over a lap."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from bilge_core.clearance.keep_outs import distance_to
from bilge_core.document.build import Build
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car

_STEP = 8e-3  # [m] from one place to the next, along and down (ours: an entry is a bore wide)
_INSIDE = 3e-3  # [m] inside the wall at which the floor below it is looked up (ours)
_REACH = 0.03  # [m] outside the wall that a fitting takes (ours: a hose end and its nut)
_SIDES = ("front", "left", "rear", "right")


@dataclass(frozen=True)
class Wall:
    """The wall, walked round outside from its first corner.

    along : way round, shape (n,) [m]
    places : of each step at the rail, shape (n, 2) [m]
    outward : shape (n, 2), of length one
    sides : which side of the car each faces: front, left, rear, right
    heights : over the rail, rising, shape (k,) [m]
    clear : least height over the oil at each place, shape (n, k) [m]; negative: how deep it comes
        to lie under it; not a number where there is no wall
    in_the_way : whether a keep-out leaves no room for a fitting, shape (n, k)
    around : whole way round [m]
    """

    along: Array
    places: Array
    outward: Array
    sides: tuple[str, ...]
    heights: Array
    clear: Array
    in_the_way: NDArray[np.bool_]
    around: float


def _outline(pan: Pan) -> Polygon:
    plan = shapely.union_all([pan.plan], grid_size=1e-6)
    if not isinstance(plan, Polygon):
        plan = max(plan.geoms, key=lambda each: each.area)
    return shapely.orient_polygons(plan)


def _sides(outward: Array, to_car: Array) -> tuple[str, ...]:
    in_car = np.column_stack([outward, np.zeros(len(outward))]) @ to_car.T
    turns = np.round(np.arctan2(in_car[:, 1], in_car[:, 0]) / (0.5 * math.pi)).astype(int) % 4
    return tuple(_SIDES[turn] for turn in turns.tolist())


def clear_of_oil(places: Array, ups: Array, levels: Array) -> Array:
    """Least height of places over a surface that lies at many levels [m], shape (n,).

    Parameters
    ----------
    places : ndarray, shape (n, 3) [m]
    ups : ndarray, shape (m, 3)
    levels : ndarray, shape (m,)
        Along up [m].

    Examples
    --------
    >>> clear_of_oil(np.array([[0, 0, 0.1]]), np.array([[0, 0, 1.0]] * 2), np.array([0.02, 0.05]))
    array([0.05])
    """
    rows = np.column_stack([places, np.full(len(places), -1.0)])
    moments = np.column_stack([ups, levels])
    least: Array = np.asarray((rows @ moments.T).min(axis=1))
    return least


def unrolled(build: Build, pan: Pan, ups: Array, levels: Array) -> Wall:
    """The wall of a build's pan over a lap of settled oil.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.
    ups, levels : ndarray, shapes (m, 3) and (m,)
        Of the oil at each moment.

    Returns
    -------
    Wall

    Notes
    -----
    The outline of the pan in plan, each place with the floor beside it; a side box's wall begins
    under its lid. Up to the top of the skirt.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> wall = unrolled(build, assemble_pan(build), np.array([[0, 0, 1.0]]), np.array([-0.07]))
    >>> sorted(set(wall.sides)), bool(np.nanmin(wall.clear) < -0.04)
    (['front', 'left', 'rear', 'right'], True)
    """
    outline = _outline(pan)
    ring = outline.exterior
    # walked clockwise from above: with the wall at one's right hand, as one goes round outside
    count = max(8, round(ring.length / _STEP))
    along = (np.arange(count) + 0.5) * ring.length / count
    at = np.array([ring.interpolate(ring.length - each).coords[0] for each in along])
    ahead = np.array(
        [ring.interpolate((ring.length - each - 1e-4) % ring.length).coords[0] for each in along]
    )
    way = (ahead - at) / np.linalg.norm(ahead - at, axis=1)[:, None]
    outward = np.column_stack([-way[:, 1], way[:, 0]])
    inside = at - _INSIDE * outward
    floors = [pan.floor_at(float(x), float(y)) for x, y in inside]
    top = build.pan.skirt_height_mm * 1e-3
    lowest = min(floor for floor in floors if floor is not None)
    steps = np.arange(math.floor(lowest / _STEP), math.ceil(top / _STEP) + 1)
    heights: Array = steps.astype(np.float64) * _STEP
    lids = np.array([_lid(pan, float(x), float(y), top) for x, y in inside])
    grid = np.concatenate(
        [np.repeat(at, len(heights), axis=0), np.tile(heights, count)[:, None]], axis=1
    )
    clear = clear_of_oil(grid, ups, levels).reshape(count, len(heights))
    low = np.array([math.inf if floor is None else floor for floor in floors])
    is_wall = (heights[None, :] > low[:, None]) & (heights[None, :] < lids[:, None])
    clear = np.where(is_wall, clear, np.nan)
    room = np.concatenate([np.repeat(outward, len(heights), axis=0), np.zeros((len(grid), 1))], 1)
    blocked = _blocked(build, grid + _REACH * room).reshape(clear.shape)
    to_car = engine_to_car(build.car)
    return Wall(
        along, at, outward, _sides(outward, to_car), heights, clear, blocked, float(ring.length)
    )


def _lid(pan: Pan, x: float, y: float, top: float) -> float:
    zone = pan.zone_at(x, y)
    if zone is None or pan.zones[zone].is_open:
        return top
    plane = pan.zones[zone].prism.top
    return plane[0] + plane[1] * x + plane[2] * y


def _blocked(build: Build, places: Array) -> NDArray[np.bool_]:
    found = np.zeros(len(places), dtype=bool)
    to_car = engine_to_car(build.car)
    for _, keep_out in build.car.measured_keep_outs:
        there = places @ to_car.T if keep_out.frame == "car" else places
        distance, _ = distance_to(there, keep_out)
        found |= distance < keep_out.wanted_mm * 1e-3
    return found


def place_on_wall(wall: Wall, place: Array) -> float:
    """How far round the wall a place lies: where it is nearest to it [m].

    Examples
    --------
    >>> square = np.array([[0.1, 0.0], [0.2, 0.0]])
    >>> wall = Wall(np.array([0.05, 0.15]), square, square, ("rear", "rear"), np.zeros(1),
    ...             np.zeros((2, 1)), np.zeros((2, 1), dtype=bool), 0.2)
    >>> place_on_wall(wall, np.array([0.19, 0.01, 0.0]))
    0.15
    """
    return float(wall.along[int(np.argmin(np.linalg.norm(wall.places - place[:2], axis=1)))])
