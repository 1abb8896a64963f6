"""A flat drawing from elsewhere as everybody reads it, in the engine's frame."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from bilge_core.document.fitted import MOST_BOLTS, BoltHole, farthest_apart
from bilge_core.pan import Pan
from bilge_core.scan.drawing_file import Ahead, read_drawing, turned
from bilge_core.scan.mesh_file import Unit
from bilge_core.tell.numbers import Ring, mm

_MOST_RINGS = 40


class HoleOut(BaseModel):
    """A round hole: ahead, left, across."""

    x_mm: float
    y_mm: float
    diameter_mm: float


class FarthestOut(BaseModel):
    """The two holes that are farthest apart, by their places among the holes."""

    between: tuple[int, int]
    apart_mm: float


class FlatDrawingOut(BaseModel):
    """Outlines, the largest first, and round holes; in the engine's frame."""

    unit: Unit
    rings_mm: list[Ring]
    holes: list[HoleOut]
    long_mm: float
    wide_mm: float
    farthest: FarthestOut | None
    """To be measured on the engine; null with fewer than two holes, or more than a flange has."""


def flat_drawing_out(
    data: bytes, pan: Pan, unit: Unit | None, ahead: Ahead, mirrored: bool
) -> FlatDrawingOut:
    """A DXF laid over a pan: its largest outline's middle on that of the rail.

    Raises
    ------
    InvalidInput
    """
    left, low, right, high = pan.rail.bounds
    middle = np.array([0.5 * (left + right), 0.5 * (low + high)])
    found = turned(read_drawing(data, unit), ahead, mirrored, middle)
    x0, y0, x1, y1 = found.rings[0].bounds
    holes = [HoleOut(x_mm=mm(x), y_mm=mm(y), diameter_mm=mm(d)) for x, y, d in found.holes]
    bolts = [BoltHole.model_validate(each.model_dump()) for each in holes[: MOST_BOLTS + 1]]
    far = farthest_apart(bolts) if len(bolts) <= MOST_BOLTS else None
    return FlatDrawingOut(
        unit=found.unit,
        rings_mm=[
            [(mm(x), mm(y)) for x, y in list(ring.exterior.coords)[:-1]]
            for ring in found.rings[:_MOST_RINGS]
        ],
        holes=holes, long_mm=mm(x1 - x0, 1), wide_mm=mm(y1 - y0, 1),
        farthest=FarthestOut(between=far[:2], apart_mm=round(far[2], 2)) if far else None,
    )  # fmt: skip
