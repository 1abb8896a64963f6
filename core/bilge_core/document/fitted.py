"""What is fitted to the pan, as the build document holds it.

Places are in the engine's frame of the document: ahead of the rail's rear face, left of the
crank's centreline, depth below the rail.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Name, Part

BossKind = Literal["drain_plug", "level_sensor", "dipstick", "turbo_drain", "return", "other"]

SignedDepth = Annotated[float, Field(ge=-400, le=600)]


class BoltHole(Part):
    """A hole in the pan's flange."""

    x_mm: Coordinate
    y_mm: Coordinate
    diameter_mm: float = Field(gt=0, le=40)


MOST_BOLTS = 120
"""Of a flange."""


def farthest_apart(bolts: Sequence[BoltHole]) -> tuple[int, int, float] | None:
    """The two holes that are farthest apart: their places in the list, and how far [mm].

    Examples
    --------
    >>> row = [BoltHole(x_mm=x, y_mm=0.0, diameter_mm=6.6) for x in (0.0, 300.0, 120.0)]
    >>> farthest_apart(row), farthest_apart(row[:1])
    ((0, 1, 300.0), None)
    """
    pairs = itertools.combinations(range(len(bolts)), 2)
    apart = (
        (one, other, math.dist((bolts[one].x_mm, bolts[one].y_mm),
                               (bolts[other].x_mm, bolts[other].y_mm)))
        for one, other in pairs
    )  # fmt: skip
    return max(apart, key=lambda each: each[2], default=None)


class Flange(Part):
    """The pan's flange against the block."""

    outline_mm: list[tuple[Coordinate, Coordinate]] = Field(min_length=3, max_length=400)
    thickness_mm: float = Field(gt=0, le=60)
    bolts: list[BoltHole] = Field(default=[], max_length=MOST_BOLTS)


class Boss(Part):
    """An opening through the pan's wall: a plug, a sensor, a dipstick tube, a drain."""

    kind: BossKind
    id: Id = ""
    name: Name
    x_mm: Coordinate
    y_mm: Coordinate
    depth_mm: SignedDepth = Field(description="of its middle below the rail; minus is above")
    bore_mm: float = Field(gt=0, le=80)
    fixing: Literal["tapped", "welded_boss", "through_fitting", "as_made"] = "as_made"
    blocked: bool = Field(default=False, description="plugged and out of use")


class Scraper(Part):
    """A strip along the crank's swept circle, on one side."""

    id: Id = ""
    name: Name
    side: Literal["left", "right"]
    from_x_mm: Coordinate
    to_x_mm: Coordinate
    gap_mm: float = Field(ge=0, le=60, description="to the crank's swept circle")


class DipMark(Part):
    """A mark on the dipstick."""

    name: Name
    level_mm: float = Field(ge=0, le=600, description="straight up from the lowest point inside")
