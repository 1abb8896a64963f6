"""Plates and gates as the build document holds them.

Plates have no thickness here. A vertical plate stands on a straight line in plan; "its left" is the
side on the left hand of someone who walks that line from its start to its end, seen from above.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Depth, Name, Part


class Gate(Part):
    """A one-way door hung by its upper edge in an opening of a vertical plate."""

    id: Id = ""
    swings: Literal["left", "right"] = Field(description="the side of the plate it opens toward")
    leaf: Literal["rubber", "metal"]
    leak_pct: float = Field(ge=0, le=100, description="of the opening's area, when shut")


class Opening(Part):
    """A rectangular opening in a vertical plate, bare or with a gate."""

    id: Id = ""
    name: Name
    from_start_mm: float = Field(ge=0, le=3000, description="its near edge along the plate")
    width_mm: float = Field(ge=1, le=1000)
    lower_depth_mm: float = Field(
        ge=-400, le=600, description="its lower edge below the rail; minus is above"
    )
    height_mm: float = Field(ge=1, le=600)
    gate: Gate | None = None


class VerticalPlate(Part):
    """An upright plate from one place in plan to another."""

    kind: Literal["vertical"]
    id: Id = ""
    name: Name
    from_mm: tuple[Coordinate, Coordinate]
    to_mm: tuple[Coordinate, Coordinate]
    top_depth_mm: float = Field(
        ge=-400, le=600, description="its upper edge below the rail; minus is above"
    )
    bottom_depth_mm: Depth | None = Field(
        default=None, description="its lower edge below the rail; null when it stands on the floor"
    )
    openings: list[Opening] = Field(default=[], max_length=20)

    def side_of(self, x_mm: float, y_mm: float) -> Literal["left", "right"]:
        """Which side of it a place in plan is on, as one walks it from its start to its end.

        Examples
        --------
        >>> plate = VerticalPlate(kind="vertical", name="P", from_mm=(200, -50), to_mm=(200, 50),
        ...                       top_depth_mm=40)
        >>> plate.side_of(300, 0)  # walked to the engine's left, ahead is on the right hand
        'right'
        """
        (ax, ay), (bx, by) = self.from_mm, self.to_mm
        return "left" if (bx - ax) * (y_mm - ay) - (by - ay) * (x_mm - ax) >= 0.0 else "right"


class Hatch(Part):
    """A rectangular opening in a horizontal plate, its sides along and across the engine."""

    id: Id = ""
    name: Name
    x_mm: Coordinate
    y_mm: Coordinate
    length_mm: float = Field(ge=1, le=1000)
    width_mm: float = Field(ge=1, le=1000)


class HorizontalPlate(Part):
    """A plate parallel to the rail, cut to the pan where it is larger."""

    kind: Literal["horizontal"]
    id: Id = ""
    name: Name
    outline_mm: list[tuple[Coordinate, Coordinate]] = Field(min_length=3, max_length=200)
    depth_mm: float = Field(ge=-400, le=600, description="below the rail; minus is above")
    role: Literal["baffle", "windage_tray"] = "baffle"
    open_pct: float = Field(
        default=0.0, ge=0, le=95, description="of its area that louvres, holes or mesh leave open"
    )
    openings: list[Hatch] = Field(default=[], max_length=20)


Plate = Annotated[VerticalPlate | HorizontalPlate, Field(discriminator="kind")]
