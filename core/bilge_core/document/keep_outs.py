"""What is round the pan in the car, as the build document holds it.

Places are measured from the pan rail's rear face on the crank's centreline: ahead, to the left and
up, along the car's own axes, or along the engine's for what is fixed to the engine.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Name, Part

Frame = Literal["car", "engine"]
Place = tuple[Coordinate, Coordinate, Coordinate]
Wanted = Annotated[float, Field(ge=0, le=500)]
Assumed = Annotated[bool, Field(description="at a usual place: nobody measured where it is")]


class BoxKeepOut(Part):
    """A box, its sides along the axes: a subframe, a starter, a bell housing."""

    kind: Literal["box"]
    id: Id = ""
    name: Name
    frame: Frame
    from_mm: Place
    to_mm: Place
    wanted_mm: Wanted = Field(description="gap wanted")
    assumed: Assumed = False

    @model_validator(mode="after")
    def _has_size(self) -> BoxKeepOut:
        sizes = [b - a for a, b in zip(self.from_mm, self.to_mm, strict=True)]
        if min(sizes) < 0.5:
            raise ValueError("a box must reach from its rear, right, lower corner to its other one")
        return self


class CylinderKeepOut(Part):
    """A round bar or pipe with flat ends: a rack, an exhaust, a crank damper."""

    kind: Literal["cylinder"]
    id: Id = ""
    name: Name
    frame: Frame
    from_mm: Place
    to_mm: Place
    diameter_mm: float = Field(gt=0, le=1000)
    wanted_mm: Wanted = Field(description="gap wanted")
    assumed: Assumed = False

    @model_validator(mode="after")
    def _has_length(self) -> CylinderKeepOut:
        square = sum((b - a) ** 2 for a, b in zip(self.from_mm, self.to_mm, strict=True))
        if square < 0.25:
            raise ValueError("a cylinder's two ends must not lie on each other")
        return self


_AXIS = {"ahead": 0, "behind": 0, "left": 1, "right": 1, "above": 2, "below": 2}


class PlaneKeepOut(Part):
    """A flat limit: a bonnet, a bulkhead, a skid plate."""

    kind: Literal["plane"]
    id: Id = ""
    name: Name
    frame: Frame
    at_mm: Coordinate = Field(description="where it lies along the axis that it stands across")
    free: Literal["ahead", "behind", "left", "right", "above", "below"] = Field(
        description="the side of it on which the pan may be"
    )
    wanted_mm: Wanted = Field(description="gap wanted")
    assumed: Assumed = False

    @property
    def axis(self) -> int:
        """Which axis it stands across: 0 ahead, 1 to the left, 2 up."""
        return _AXIS[self.free]


KeepOut = Annotated[BoxKeepOut | CylinderKeepOut | PlaneKeepOut, Field(discriminator="kind")]
