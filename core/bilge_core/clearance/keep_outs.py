"""Gaps between the pan and what is round it, and between the oil and the crank."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.keep_outs import BoxKeepOut, CylinderKeepOut, KeepOut, PlaneKeepOut
from bilge_core.pan import Pan, inside_faces
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car

_GRID = 10  # samples along a triangle's edge to begin with
_ROUNDS = 40


@dataclass(frozen=True)
class Clearance:
    """The smallest gap between the pan's outside and one thing round it.

    name : str
    index : int, its place among the keep-outs
    gap : float [m], negative where they are in each other
    wanted : float [m]
    at, to : tuple of float
        The place on the pan's wall and the nearest on the keep-out, engine's frame [m].
    """

    name: str
    index: int
    gap: float
    wanted: float
    at: tuple[float, float, float]
    to: tuple[float, float, float]


def _to_box(places: Array, box: BoxKeepOut) -> tuple[Array, Array]:
    low, high = np.array(box.from_mm) * 1e-3, np.array(box.to_mm) * 1e-3
    nearest = np.clip(places, low, high)
    outside = np.linalg.norm(places - nearest, axis=-1)
    inside = np.minimum(places - low, high - places).min(axis=-1)
    return np.where(outside > 0.0, outside, -np.maximum(inside, 0.0)), nearest


def _to_cylinder(places: Array, bar: CylinderKeepOut) -> tuple[Array, Array]:
    start, end = np.array(bar.from_mm) * 1e-3, np.array(bar.to_mm) * 1e-3
    length = float(np.linalg.norm(end - start))
    along_axis = (end - start) / length
    radius = bar.diameter_mm * 0.5e-3
    along = (places - start) @ along_axis
    away = places - start - along[..., None] * along_axis
    out = np.linalg.norm(away, axis=-1)
    beyond_end = np.maximum(-along, along - length)
    beyond_side = out - radius
    both = np.hypot(np.maximum(beyond_end, 0.0), np.maximum(beyond_side, 0.0))
    distance = np.where(both > 0.0, both, np.maximum(beyond_end, beyond_side))
    outward = away / np.maximum(out, 1e-12)[..., None]
    nearest = (
        start
        + np.clip(along, 0.0, length)[..., None] * along_axis
        + np.minimum(out, radius)[..., None] * outward
    )
    return distance, nearest


def _to_plane(places: Array, plane: PlaneKeepOut) -> tuple[Array, Array]:
    axis = plane.axis
    sign = 1.0 if plane.free in ("ahead", "left", "above") else -1.0
    distance = sign * (places[..., axis] - plane.at_mm * 1e-3)
    nearest = places.copy()
    nearest[..., axis] = plane.at_mm * 1e-3
    return distance, nearest


def distance_to(places: Array, keep_out: KeepOut) -> tuple[Array, Array]:
    """Distance [m] from places to a keep-out, and the nearest places on it.

    Parameters
    ----------
    places : ndarray, shape (..., 3)
        In the keep-out's own frame [m].
    keep_out : KeepOut

    Returns
    -------
    tuple of ndarray, shapes (...) and (..., 3)
        Negative distance inside it.

    Examples
    --------
    >>> box = BoxKeepOut(kind="box", name="rack", frame="car", from_mm=(0, 0, 0),
    ...                  to_mm=(100, 100, 100), wanted_mm=5)
    >>> distance_to(np.array([[0.2, 0.05, 0.05], [0.01, 0.05, 0.05]]), box)[0].round(3).tolist()
    [0.1, -0.01]
    """
    if isinstance(keep_out, BoxKeepOut):
        return _to_box(places, keep_out)
    if isinstance(keep_out, CylinderKeepOut):
        return _to_cylinder(places, keep_out)
    return _to_plane(places, keep_out)


def _wall_triangles(pan: Pan) -> Array:
    """The pan's wall below the rail as triangles, shape (t, 3, 3) [m]."""
    fans = []
    for face in inside_faces(pan):
        if face.kind == "skirt":
            continue
        corners = face.corners
        fans += [corners[[0, i, i + 1]] for i in range(1, len(corners) - 1)]
    return np.array(fans)


def _start_shares() -> Array:
    steps = [(i, j, _GRID - i - j) for i in range(_GRID + 1) for j in range(_GRID + 1 - i)]
    return np.array(steps, dtype=np.float64) / _GRID


def _nearest_on_wall(triangles: Array, keep_out: KeepOut) -> tuple[float, Array, Array]:
    """The smallest distance from triangles to a convex body: a pattern search in each.

    Distance to a convex body is convex over a triangle: going downhill ends at the smallest.
    """
    shares = _start_shares()
    places = np.einsum("kc,tcx->tkx", shares, triangles)
    distance, _ = distance_to(places, keep_out)
    # distance changes by no more than one goes: what is farther than that cannot be nearest
    between = np.linalg.norm(triangles - np.roll(triangles, 1, axis=1), axis=2).max(axis=1) / _GRID
    near = distance.min(axis=1) - between <= distance.min()
    triangles, distance = triangles[near], distance[near]
    best = shares[distance.argmin(axis=1)]
    turns = np.arange(24) * (2.0 * math.pi / 24)
    offsets = np.stack([np.cos(turns), np.cos(turns - 2.0944), np.cos(turns + 2.0944)], axis=1)
    reach = 1.0 / _GRID
    for _ in range(_ROUNDS):
        tried = np.maximum(best[:, None, :] + reach * np.vstack([offsets, np.zeros((1, 3))]), 0.0)
        tried /= tried.sum(axis=2, keepdims=True)
        places = np.einsum("tkc,tcx->tkx", tried, triangles)
        distance, _ = distance_to(places, keep_out)
        choice = distance.argmin(axis=1)
        best = tried[np.arange(len(best)), choice]
        if (choice == len(offsets)).all() or reach > 0.02:
            reach *= 0.6
    places = np.einsum("tc,tcx->tx", best, triangles)
    distance, nearest = distance_to(places, keep_out)
    at = int(distance.argmin())
    return float(distance[at]), places[at], nearest[at]


def clearances(build: Build, pan: Pan) -> tuple[Clearance, ...]:
    """The smallest gap to each measured keep-out, the tightest against what is wanted first.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.

    Returns
    -------
    tuple of Clearance

    Notes
    -----
    From the outside of the wall, where its thickness is given, else from its
    inside. The car stands still: springs, mounts and a body that rolls come off
    it. Bosses and the flange are left out.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import build_from, read_build
    >>> from bilge_core.pan import assemble_pan
    >>> raw = read_build(Path("demo/dunlin.json").read_text()).model_dump(mode="json")
    >>> raw["car"]["keep_outs"] = [{"kind": "plane", "name": "skid plate", "frame": "engine",
    ...                             "at_mm": -150, "free": "above", "wanted_mm": 10}]
    >>> build = build_from(raw)
    >>> gap = clearances(build, assemble_pan(build))[0]
    >>> round((gap.gap + (build.pan.sheet_mm or 0) * 1e-3) * 1e3, 1)
    12.0
    """
    if not build.car.measured_keep_outs:
        return ()
    triangles = _wall_triangles(pan)
    to_car = engine_to_car(build.car)
    sheet = (build.pan.sheet_mm or 0.0) * 1e-3
    found = []
    for index, keep_out in build.car.measured_keep_outs:
        turn = to_car if keep_out.frame == "car" else np.eye(3)
        distance, at, nearest = _nearest_on_wall(triangles @ turn.T, keep_out)
        here, there = (tuple((place @ turn).tolist()) for place in (at, nearest))
        found.append(
            Clearance(
                keep_out.name, index, distance - sheet, keep_out.wanted_mm * 1e-3, here, there
            )
        )
    return tuple(sorted(found, key=lambda each: each.gap - each.wanted))
