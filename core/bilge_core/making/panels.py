"""The pan's inside as flat panels in their true shape, and which edge of each meets which other."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.pan.assembly import Pan
from bilge_core.pan.faces import Face, inside_faces
from bilge_core.physics.arrays import Array

_PLANE = 1e-5  # [m] and [-] within which two faces are in one plane
_JOIN = 2e-6  # [m] by which faces are grown to close hairlines between them
_SMALL = 1e-6  # [m2] of a sliver that is no panel
_STRAIGHT = 1e-4  # [m] by which a corner may be off a straight edge
_TOUCHES = 1e-3  # [m] of two edges that lie on each other
_STEEP = 0.5  # of a normal's upward part: what is steeper than 60° is a wall (ours)
_ON = 5e-5  # [m] off an edge's line that is on it


@dataclass(frozen=True)
class Meeting:
    """Where an edge of a panel meets another panel, or the rail.

    edge : its number round the panel's outline
    other : number of the other panel; 0: the rail
    start, end : along the edge, in the panel's own coordinates, shape (2,) [m]
    turn : by which the two faces part from flat [rad]; nil at the rail
    inside : the inner faces of a bend there are the pan's inside
    """

    edge: int
    other: int
    start: Array
    end: Array
    turn: float
    inside: bool

    @property
    def length(self) -> float:
        """[m]"""
        return float(np.linalg.norm(self.end - self.start))


@dataclass(frozen=True)
class Panel:
    """A flat piece of the pan's inside.

    number : from 1: floors from the deepest up, then walls from the largest down
    kind : floor, ceiling or wall
    origin, first, second : ``point = origin + u · first + v · second`` [m], seen from inside
    normal : into the pan
    outline : shape, own coordinates [m], inside dimensions
    meetings : where its edges meet others
    """

    number: int
    kind: Literal["floor", "ceiling", "wall"]
    origin: Array
    first: Array
    second: Array
    normal: Array
    outline: Polygon
    meetings: tuple[Meeting, ...] = ()

    @property
    def ring(self) -> Array:
        """Corners of the outline, against the clock, shape (n, 2) [m]."""
        return np.asarray(shapely.orient_polygons(self.outline).exterior.coords)[:-1, :2]

    def in_space(self, flat: Array) -> Array:
        """Places of its own coordinates, shape (n, 2), in the engine's frame, shape (n, 3)."""
        return np.asarray(
            self.origin + np.outer(flat[:, 0], self.first) + np.outer(flat[:, 1], self.second)
        )


def _normal(corners: Array) -> Array:
    """By Newell: sound for any flat outline."""
    rolled = np.roll(corners, -1, axis=0)
    total = np.cross(corners, rolled).sum(axis=0)
    return np.asarray(total / np.linalg.norm(total))


def _axes(normal: Array) -> tuple[Array, Array]:
    """Seen from inside: a floor with the nose up the page, a wall with up up the page."""
    up = np.array([1.0, 0.0, 0.0]) if abs(normal[2]) > _STEEP else np.array([0.0, 0.0, 1.0])
    second = up - float(up @ normal) * normal
    second /= np.linalg.norm(second)
    return np.cross(second, normal), second


def _kind_of(face: Face, normal: Array) -> Literal["floor", "ceiling", "wall"]:
    """A leaning wall is a wall, though it is the floor of the wedge beneath it."""
    if abs(float(normal[2])) <= _STEEP or face.kind in ("wall", "skirt"):
        return "wall"
    return "floor" if face.kind == "floor" else "ceiling"


def _grouped(faces: Sequence[Face]) -> list[tuple[Array, float, list[Face]]]:
    groups: list[tuple[Array, float, list[Face]]] = []
    for face in faces:
        normal = _normal(face.corners)
        offset = float(normal @ face.corners[0])
        for known, where, members in groups:
            if np.abs(known - normal).max() < _PLANE and abs(where - offset) < _PLANE:
                members.append(face)
                break
        else:
            groups.append((normal, offset, [face]))
    return groups


def _shapes(normal: Array, origin: Array, faces: Sequence[Face]) -> list[Polygon]:
    first, second = _axes(normal)
    flat = [
        Polygon(np.column_stack([(f.corners - origin) @ first, (f.corners - origin) @ second]))
        for f in faces
    ]
    grown = shapely.union_all([each.buffer(_JOIN, join_style="mitre") for each in flat])
    whole = grown.buffer(-_JOIN, join_style="mitre").simplify(_STRAIGHT)
    return [each for each in shapely.get_parts(whole) if each.area > _SMALL]


MOST_PIECES = 60
"""Pieces of a scanned floor that are still panels (ours: a drawing's are some dozens)."""


def pieces_of_scan(pan: Pan) -> int:
    """How many pieces the scanned floors of a pan are; nil where it is drawn in zones.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pieces_of_scan(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    0
    """
    return sum(len(zone.prisms) for zone in pan.zones if zone.is_surface)


def panels_of(pan: Pan) -> tuple[Panel, ...]:
    """All flat panels of the pan's inside below the rail, numbered, with what each edge meets.

    Parameters
    ----------
    pan : Pan

    Returns
    -------
    tuple of Panel

    Notes
    -----
    None of a scanned pan of many pieces: it is no sheet that is bent. Faces in one plane that touch
    are one panel. The shapes are true: a leaning wall is as long as
    it leans. They are the oil's side of the metal: what the metal adds is its own thickness,
    outside.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> panels = panels_of(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    >>> [panel.kind for panel in panels]
    ['floor', 'wall', 'wall', 'wall', 'wall']
    """
    if pieces_of_scan(pan) > MOST_PIECES:
        return ()
    faces = [face for face in inside_faces(pan) if face.kind != "skirt"]
    bare: list[Panel] = []
    for normal, offset, members in _grouped(faces):
        origin = offset * normal
        first, second = _axes(normal)
        kind = _kind_of(members[0], normal)
        bare += [
            Panel(0, kind, origin, first, second, normal, shape)
            for shape in _shapes(normal, origin, members)
        ]
    ranks = {"floor": 0, "ceiling": 1, "wall": 2}
    bare.sort(key=lambda each: (ranks[each.kind], _height(each), -each.outline.area))
    numbered = [
        Panel(n, p.kind, p.origin, p.first, p.second, p.normal, p.outline)
        for n, p in enumerate(bare, start=1)
    ]
    return tuple(
        Panel(p.number, p.kind, p.origin, p.first, p.second, p.normal, p.outline,
              _meetings(p, numbered))
        for p in numbered
    )  # fmt: skip


def _height(panel: Panel) -> float:
    """Of a floor, so that the deepest comes first; walls by their size alone."""
    if panel.kind == "wall":
        return 0.0
    return round(float(panel.in_space(panel.ring)[:, 2].mean()), 6)


def _overlap(a: Array, b: Array, c: Array, d: Array) -> tuple[float, float] | None:
    """Which part of the segment a b another lies on, as lengths from a; None: no part."""
    along = b - a
    length = float(np.linalg.norm(along))
    way = along / length
    for point in (c, d):
        if np.linalg.norm((point - a) - float((point - a) @ way) * way) > _ON:
            return None
    near, far = sorted(float((point - a) @ way) for point in (c, d))
    near, far = max(near, 0.0), min(far, length)
    return (near, far) if far - near > _TOUCHES else None


def _meetings(panel: Panel, panels: Sequence[Panel]) -> tuple[Meeting, ...]:
    ring = panel.ring
    space = panel.in_space(ring)
    found = []
    for edge in range(len(ring)):
        a, b = space[edge], space[(edge + 1) % len(ring)]
        way = (ring[(edge + 1) % len(ring)] - ring[edge]) / np.linalg.norm(b - a)
        for other in panels:
            if other.number == panel.number:
                continue
            theirs = other.in_space(other.ring)
            for at in range(len(theirs)):
                part = _overlap(a, b, theirs[at], theirs[(at + 1) % len(theirs)])
                if part is None:
                    continue
                turn = math.acos(max(-1.0, min(1.0, float(panel.normal @ other.normal))))
                beyond = float((theirs.mean(axis=0) - a) @ panel.normal)
                found.append(
                    Meeting(edge, other.number, ring[edge] + part[0] * way,
                            ring[edge] + part[1] * way, turn, beyond > 0.0)
                )  # fmt: skip
        if max(abs(float(a[2])), abs(float(b[2]))) < _ON:
            found.append(Meeting(edge, 0, ring[edge], ring[(edge + 1) % len(ring)], 0.0, True))
    return tuple(found)
