"""A mesh turned into the engine's frame: up, the nose ahead, its rail at nil."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, get_args

import numpy as np
import trimesh

from bilge_core.physics.arrays import Array
from bilge_core.scan.mesh_file import refused

Axis = Literal["guess", "+x", "-x", "+y", "-y", "+z", "-z"]
AXES: tuple[Axis, ...] = get_args(Axis)
_LEVEL = 0.7  # of a normal's upward part: what faces up
_ROUGH = 5e-3  # [m] below a mesh's highest place that its lid may be (ours)
_FLAT = 0.02  # of the whole surface that the rail's lid is at least (ours)


def axis_of(words: str) -> Array:
    """A direction by its name.

    Examples
    --------
    >>> axis_of("-y").tolist()
    [0.0, -1.0, 0.0]
    """
    found = np.zeros(3)
    found["xyz".index(words[1])] = -1.0 if words[0] == "-" else 1.0
    return found


def guessed_up(mesh: trimesh.Trimesh) -> Array:
    """Square to the largest flat piece of a mesh: the lid where the rail is.

    Raises
    ------
    InvalidInput
        If no piece of it is flat enough to be one.

    Examples
    --------
    >>> guessed_up(trimesh.creation.box((0.4, 0.24, 0.14))).round().tolist() in (
    ...     [[0.0, 0.0, 1.0], [0.0, 0.0, -1.0]])
    True
    """
    areas = mesh.facets_area
    if len(areas) and float(max(areas)) > _FLAT * float(mesh.area):
        return np.asarray(mesh.facets_normal[int(np.argmax(areas))], dtype=np.float64)
    best = max((_lid_area(mesh, axis_of(name)), name) for name in AXES[1:])
    if best[0] < _FLAT * float(mesh.area):
        words = "cannot be guessed: no piece of the mesh is flat. Say which way is up"
        raise refused("up", words)
    return axis_of(best[1])


def _lid_area(mesh: trimesh.Trimesh, way: Array) -> float:
    """Of what faces a way and lies at its end: a scan's lid is rough [m2]."""
    ahead = mesh.triangles_center @ way
    facing = (mesh.face_normals @ way > _LEVEL) & (ahead > float(ahead.max()) - _ROUGH)
    return float(mesh.area_faces[facing].sum())


def _ahead(mesh: trimesh.Trimesh, up: Array, nose: Axis) -> Array:
    """Where the nose is, square to up; the longest way along an axis where nobody says."""
    if nose != "guess":
        way = axis_of(nose)
        way = way - float(way @ up) * up
        if np.linalg.norm(way) < 0.5:
            raise refused("nose", "must be another way than up")
        return np.asarray(way / np.linalg.norm(way))
    best, length = None, -1.0
    for name in ("+x", "+y", "+z"):
        way = axis_of(name)
        way = way - float(way @ up) * up
        if np.linalg.norm(way) < 0.5:
            continue
        way /= np.linalg.norm(way)
        reach = float(np.ptp(mesh.vertices @ way))
        if reach > length:
            best, length = way, reach
    assert best is not None
    return np.asarray(best)


def _lid(mesh: trimesh.Trimesh) -> float:
    """Height of what faces up near a mesh's top: a scan's is rough, its highest place is none."""
    up = mesh.face_normals[:, 2] > _LEVEL
    heights, areas = mesh.triangles_center[:, 2], mesh.area_faces
    near = up & (heights > float(mesh.bounds[1][2]) - _ROUGH)
    if not near.any():
        return float(mesh.bounds[1][2])
    order = np.argsort(heights[near])
    weight = np.cumsum(areas[near][order])
    return float(heights[near][order][np.searchsorted(weight, 0.5 * weight[-1])])


def placed(mesh: trimesh.Trimesh, up: Axis = "guess", nose: Axis = "guess") -> trimesh.Trimesh:
    """A mesh in the engine's frame [m]: its lid at the rail, its rear end at nil.

    Parameters
    ----------
    mesh : Trimesh
        In its own frame [m].
    up, nose : directions of its own frame
        Which way is up from the pan's floor to its rail, and where the crank's nose is.

    Raises
    ------
    InvalidInput
        If up cannot be guessed, or is the nose's own way.

    Notes
    -----
    Left and right by its middle: a pan that is not symmetric is moved by hand afterwards, or placed
    by three points of its rail, see `placed_by`.

    Examples
    --------
    >>> box = trimesh.creation.box((140, 400, 240)); box.apply_scale(1e-3)
    <trimesh.Trimesh(vertices.shape=(8, 3), faces.shape=(12, 3))>
    >>> stands = placed(box, "+x", "-y")
    >>> stands.bounds.round(3).tolist()
    [[0.0, -0.12, -0.14], [0.4, 0.12, 0.0]]
    """
    upward = guessed_up(mesh) if up == "guess" else axis_of(up)
    ahead = _ahead(mesh, upward, nose)
    axes = np.array([ahead, np.cross(upward, ahead), upward])
    places = mesh.vertices @ axes.T
    low, high = places.min(axis=0), places.max(axis=0)
    lid = _lid(trimesh.Trimesh(places, mesh.faces, process=False))
    origin = np.array([low[0], 0.5 * (low[1] + high[1]), lid])
    return trimesh.Trimesh(places - origin, mesh.faces, process=False)


def placed_by(mesh: trimesh.Trimesh, points: Sequence[Sequence[float]]) -> trimesh.Trimesh:
    """A mesh in the engine's frame by three points of its rail [m].

    Parameters
    ----------
    mesh : Trimesh
    points : three places of its own frame [m]
        On the rail's rear face, right and left of the crank as far from it, and anywhere ahead.

    Raises
    ------
    InvalidInput
        If they lie on one line, or the pan is on both sides of their plane.

    Examples
    --------
    >>> box = trimesh.creation.box((0.4, 0.24, 0.14))
    >>> stands = placed_by(box, [(-0.2, -0.12, 0.07), (-0.2, 0.12, 0.07), (0.2, 0.0, 0.07)])
    >>> stands.bounds.round(3).tolist()
    [[0.0, -0.12, -0.14], [0.4, 0.12, 0.0]]
    """
    right, left, front = (np.asarray(each, dtype=np.float64) for each in points)
    across = left - right
    origin = 0.5 * (left + right)
    up = np.cross(front - origin, across)
    if np.linalg.norm(across) < 1e-3 or np.linalg.norm(up) < 1e-6:
        raise refused("points", "must be three places that lie on no line")
    across /= np.linalg.norm(across)
    up /= np.linalg.norm(up)
    axes = np.array([np.cross(across, up), across, up])
    places = (mesh.vertices - origin) @ axes.T
    below, above = max(0.0, -float(places[:, 2].min())), float(places[:, 2].max())
    if above > 0.25 * (above + below):
        words = (
            f"has {above * 1e3:.0f} mm of the pan over their plane and {below * 1e3:.0f} mm under "
            "it: on the rail, the right one first, then the left one, then one ahead"
        )
        raise refused("points", words)
    return trimesh.Trimesh(places, mesh.faces, process=False)
