"""Floors of zones: flat, a ramp, or a surface of triangles as a scan gives it."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, TypeAdapter, model_validator

from bilge_core.document.ids import Document
from bilge_core.document.parts import Coordinate, Depth, Part


class FlatFloor(Part):
    """A floor parallel to the pan rail."""

    kind: Literal["flat"]
    depth_mm: Depth

    @property
    def shallowest_mm(self) -> float:
        """Depth where it is least."""
        return self.depth_mm

    @property
    def deepest_mm(self) -> float:
        """Depth where it is most."""
        return self.depth_mm


class RampFloor(Part):
    """A floor that falls or rises evenly between two opposite edges of its zone."""

    kind: Literal["ramp"]
    runs: Literal["lengthways", "sideways"]
    from_depth_mm: Depth = Field(description="at the rear edge, or the right edge when sideways")
    to_depth_mm: Depth = Field(description="at the front edge, or the left edge when sideways")

    @property
    def shallowest_mm(self) -> float:
        """Depth where it is least."""
        return min(self.from_depth_mm, self.to_depth_mm)

    @property
    def deepest_mm(self) -> float:
        """Depth where it is most."""
        return max(self.from_depth_mm, self.to_depth_mm)


class SurfaceFloor(Part):
    """A floor of triangles: a scan's, or a drawing's from elsewhere."""

    kind: Literal["surface"]
    places_mm: list[tuple[Coordinate, Coordinate, Depth]] = Field(
        min_length=3, max_length=1500, description="ahead, left, and depth below the rail"
    )
    triangles: list[tuple[int, int, int]] = Field(
        min_length=1, max_length=1500, description="each of three places, by their numbers"
    )

    @model_validator(mode="after")
    def _of_its_places(self) -> Self:
        most = len(self.places_mm)
        for at, triangle in enumerate(self.triangles):
            if min(triangle) < 0 or max(triangle) >= most or len(set(triangle)) < 3:
                raise ValueError(
                    f"triangle {at + 1} must be three of its {most} places (it is {triangle})"
                )
        return self

    @property
    def shallowest_mm(self) -> float:
        """Depth where it is least."""
        return min(depth for _, _, depth in self.places_mm)

    @property
    def deepest_mm(self) -> float:
        """Depth where it is most."""
        return max(depth for _, _, depth in self.places_mm)


Floor = Annotated[FlatFloor | RampFloor | SurfaceFloor, Field(discriminator="kind")]

FLOORS: TypeAdapter[FlatFloor | RampFloor | SurfaceFloor] = TypeAdapter(Floor)
"""Reads one from plain data."""


def lowered(floor: Document, by: float) -> Document:
    """A floor as plain data, lower by so much [mm] all over.

    Examples
    --------
    >>> lowered({"kind": "flat", "depth_mm": 76.0}, 6.0)
    {'kind': 'flat', 'depth_mm': 82.0}
    >>> lowered({"kind": "surface", "places_mm": [[0, 0, 50.0]], "triangles": []}, 6.0)["places_mm"]
    [[0, 0, 56.0]]
    """
    found = {
        key: round(value + by, 6) if key.endswith("depth_mm") else value
        for key, value in floor.items()
    }
    if "places_mm" in found:
        found["places_mm"] = [[x, y, round(depth + by, 6)] for x, y, depth in found["places_mm"]]
    return found
