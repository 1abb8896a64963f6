"""A flat drawing from elsewhere as everybody reads it, in the engine's frame."""

from __future__ import annotations

from typing import Annotated, Any

import numpy as np
from pydantic import BaseModel, Field, ValidationError

from bilge_core.acts.act import figures_named
from bilge_core.acts.registry import figures_read
from bilge_core.document.fitted import MOST_BOLTS, BoltHole, farthest_apart
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan import Pan
from bilge_core.quantities import UnitSystem
from bilge_core.scan.drawing_file import Ahead, FlatDrawing, read_drawing, turned
from bilge_core.scan.mesh_file import Unit
from bilge_core.scan.traced import Plane, traced
from bilge_core.tell.numbers import Ring, mm

_MOST_RINGS = 40
_Pixel = Annotated[float, Field(ge=-20_000, le=20_000)]
Spot = tuple[_Pixel, _Pixel]


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
    off_mm: float | None = None
    """Of a traced one: how far a place is off at most with each corner off by a pixel, about."""


def flat_drawing_out(
    data: bytes, pan: Pan, unit: Unit | None, ahead: Ahead, mirrored: bool
) -> FlatDrawingOut:
    """A DXF laid over a pan: its largest outline's middle on that of the rail.

    Raises
    ------
    InvalidInput
    """
    return _laid(read_drawing(data, unit), pan, ahead, mirrored)


def _laid(drawing: FlatDrawing, pan: Pan, ahead: Ahead, mirrored: bool) -> FlatDrawingOut:
    left, low, right, high = pan.rail.bounds
    middle = np.array([0.5 * (left + right), 0.5 * (low + high)])
    found = turned(drawing, ahead, mirrored, middle)
    x0, y0, x1, y1 = found.rings[0].bounds
    holes = [HoleOut(x_mm=mm(x), y_mm=mm(y), diameter_mm=mm(d)) for x, y, d in found.holes]
    few = holes if len(holes) <= MOST_BOLTS else []
    far = farthest_apart([BoltHole.model_validate(each.model_dump()) for each in few])
    return FlatDrawingOut(
        unit=found.unit,
        rings_mm=[
            [(mm(x), mm(y)) for x, y in list(ring.exterior.coords)[:-1]]
            for ring in found.rings[:_MOST_RINGS]
        ],
        holes=holes, long_mm=mm(x1 - x0, 1), wide_mm=mm(y1 - y0, 1),
        farthest=FarthestOut(between=far[:2], apart_mm=round(far[2], 2)) if far else None,
    )  # fmt: skip


class HolePicked(BaseModel):
    """A hole's middle on the picture, and its diameter."""

    at: Spot
    diameter_mm: float = Field(gt=0, le=60)


class TracedAsked(BaseModel):
    """Places picked on a picture [pixels, down from its upper left], and what they are.

    corners : of a rectangle that lies on the flange, clockwise from its upper left
    """

    corners: list[Spot] = Field(min_length=4, max_length=4)
    wide_mm: float = Field(gt=5, le=3000)
    high_mm: float = Field(gt=5, le=3000)
    outline: list[Spot] = Field(min_length=3, max_length=400)
    opening: list[Spot] = Field(default=[], max_length=200)
    holes: list[HolePicked] = Field(default=[], max_length=MOST_BOLTS)
    ahead: Ahead = "up"
    mirrored: bool = False


def traced_asked(raw: dict[str, Any], system: UnitSystem) -> TracedAsked:
    """What was traced, its figures as typed.

    Raises
    ------
    InvalidInput
        Naming each figure that cannot be read or is none.

    Examples
    --------
    >>> square = [[0, 0], [90, 0], [90, 90], [0, 90]]
    >>> asked = {"corners": square, "outline": square, "wide_mm": "8 in", "high_mm": 200}
    >>> traced_asked(asked, "metric").wide_mm
    203.2
    """
    read = figures_read(raw, system, "trace")
    try:
        return TracedAsked.model_validate(read)
    except ValidationError as error:
        raise InvalidInput([Problem(e.field, e.message) for e in problems_of(error)]) from None


def traced_out(asked: TracedAsked, pan: Pan) -> FlatDrawingOut:
    """A flange that was traced on a picture, laid over a pan like a drawing.

    Raises
    ------
    InvalidInput
        Naming what was picked and cannot be.
    """
    with figures_named():
        plane = Plane(asked.corners, asked.wide_mm * 1e-3, asked.high_mm * 1e-3)
        holes = [(each.at, each.diameter_mm * 1e-3) for each in asked.holes]
        found = traced(plane, asked.outline, asked.opening, holes)
        off = plane.spread([*asked.outline, *asked.opening, *(spot for spot, _ in holes)])
    return _laid(found, pan, asked.ahead, asked.mirrored).model_copy(update={"off_mm": mm(off, 1)})
