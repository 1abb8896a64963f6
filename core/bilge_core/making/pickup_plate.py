"""The plate between a pickup's tube and the block: port, groove, bolts."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
import trimesh
from shapely import Polygon

from bilge_core.errors import InvalidInput, Problem
from bilge_core.making.flat import FlatPart, Note
from bilge_core.making.solids import extruded, whole

_LAND = 2e-3  # [m] between port and groove, and groove and edge (ours)
_ROUND_BOLT = 5e-3  # [m] of metal round a bolt's hole (ours)
_STEEPEST = 60.0  # [deg]


@dataclass(frozen=True)
class Groove:
    """A groove in a face for an O-ring, sealed from outside against suction.

    section : of the ring [m]
    inner, outer : diameters [m]; the ring lies on the inner one, its own inner diameter
    depth : [m]
    """

    section: float
    inner: float
    outer: float
    depth: float


_SECTIONS = (
    (20e-3, 1.78e-3, 1.32e-3, 2.65e-3), (50e-3, 2.62e-3, 1.96e-3, 3.75e-3),
    (math.inf, 3.53e-3, 2.64e-3, 4.65e-3),
)  # fmt: skip
"""Bores up to which a ring's section is taken (ours), the section, a face groove's depth and width
[m]: of handbooks of O-rings for faces and liquids (from memory)."""


def groove_for(bore: float) -> Groove:
    """The groove round a port of a bore [m].

    Examples
    --------
    >>> groove = groove_for(19e-3)
    >>> round(groove.section * 1e3, 2), round(groove.inner * 1e3, 1), round(groove.depth * 1e3, 2)
    (1.78, 23.0, 1.32)
    """
    _, section, depth, width = next(row for row in _SECTIONS if bore <= row[0])
    inner = bore + 2.0 * _LAND
    return Groove(section, inner, inner + 2.0 * width, depth)


@dataclass(frozen=True)
class PickupPlate:
    """A plate with two bolts [m]; its tube comes in at an angle from square [deg]."""

    bore: float
    between: float
    hole: float
    thickness: float
    tube: float = 0.0

    def __post_init__(self) -> None:
        groove = groove_for(self.bore)
        least = groove.outer + self.hole + 2.0 * _LAND
        problems = []
        if self.between < least:
            words = f"must be {least * 1e3:.1f} mm at least: the bolts come into the groove"
            problems.append(Problem("between_mm", words))
        if self.thickness < groove.depth + _LAND:
            words = f"must be {(groove.depth + _LAND) * 1e3:.1f} mm at least under the groove"
            problems.append(Problem("thickness_mm", words))
        if not 0.0 <= self.tube <= _STEEPEST:
            problems.append(Problem("tube_deg", f"must be from 0 to {_STEEPEST:g} from square"))
        if problems:
            raise InvalidInput(problems)

    @property
    def outline(self) -> Polygon:
        """Round the groove and both bolts, the tube leaning along the first axis."""
        groove = groove_for(self.bore)
        port = shapely.Point(0.0, 0.0).buffer(0.5 * groove.outer + 2.0 * _LAND, quad_segs=24)
        ears = [
            shapely.Point(0.0, side * 0.5 * self.between).buffer(
                0.5 * self.hole + _ROUND_BOLT, quad_segs=24
            )
            for side in (-1.0, 1.0)
        ]
        hull = shapely.union_all([port, *ears]).convex_hull
        assert isinstance(hull, Polygon)
        return hull


def plate_part(plate: PickupPlate) -> FlatPart:
    """The plate flat: its outline, port, holes, and the groove's edges scribed.

    Examples
    --------
    >>> part = plate_part(PickupPlate(19e-3, 44e-3, 6.6e-3, 10e-3))
    >>> len(part.circles), part.about.split(";")[0]
    (3, 'O-ring of 1.78 mm, 23.0 mm inside')
    """
    groove = groove_for(plate.bore)
    edges = ((0.0, 0.0, groove.inner), (0.0, 0.0, groove.outer))
    circles = [(0.0, 0.0, plate.bore)]
    circles += [(0.0, side * 0.5 * plate.between, plate.hole) for side in (-1.0, 1.0)]
    lean = f" The tube comes in at {plate.tube:g}° from square." if plate.tube else ""
    return FlatPart(
        "pickup-plate", "plate", "pickup's plate", plate.outline, tuple(circles), (), (),
        (Note("groove", (0.5 * groove.outer + 1e-3, 0.0)),), np.zeros(2), plate.thickness, False,
        f"O-ring of {groove.section * 1e3:.2f} mm, {groove.inner * 1e3:.1f} mm inside; groove "
        f"{groove.inner * 1e3:.1f} to {groove.outer * 1e3:.1f} mm, {groove.depth * 1e3:.2f} deep "
        f"(from memory: hold it against the ring's own sheet).{lean}", edges,
    )  # fmt: skip


def plate_body(plate: PickupPlate) -> trimesh.Trimesh:
    """The plate as a solid, its groove up, its port bored at the tube's angle.

    Examples
    --------
    >>> body = plate_body(PickupPlate(19e-3, 44e-3, 6.6e-3, 10e-3, 30.0))
    >>> body.is_watertight, body.body_count
    (True, 1)
    """
    groove, thick = groove_for(plate.bore), plate.thickness
    body = extruded(plate.outline, (0.0, 0.0, 0.0), (thick, 0.0, 0.0))
    ring = shapely.Point(0.0, 0.0).buffer(0.5 * groove.outer, quad_segs=48).difference(
        shapely.Point(0.0, 0.0).buffer(0.5 * groove.inner, quad_segs=48)
    )  # fmt: skip
    taken = [extruded(ring, (thick - groove.depth, 0.0, 0.0), (thick + 1e-3, 0.0, 0.0))]
    for side in (-1.0, 1.0):
        hole = shapely.Point(0.0, side * 0.5 * plate.between).buffer(0.5 * plate.hole, quad_segs=24)
        taken.append(extruded(hole, (-1e-3, 0.0, 0.0), (thick + 1e-3, 0.0, 0.0)))
    port = trimesh.creation.cylinder(0.5 * plate.bore, 6.0 * thick + 2.0 * plate.bore, sections=96)
    lean = math.radians(plate.tube)
    turn = trimesh.transformations.rotation_matrix(lean, [0, 1, 0])  # type: ignore[no-untyped-call]
    port.apply_transform(turn)
    port.apply_translation([0.0, 0.0, thick])  # its middle in the face that seals
    taken.append(port)
    return whole(trimesh.boolean.difference([body, *taken], engine="manifold"))
