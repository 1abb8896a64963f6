"""The engine above the pan, as the build document holds it."""

from __future__ import annotations

from pydantic import Field, model_validator

from bilge_core.document.parts import Coordinate, Part


class Crank(Part):
    """The crank's centreline and the circle that rods and weights sweep."""

    height_mm: float = Field(ge=-100, le=400, description="of its centreline above the rail")
    swept_radius_mm: float = Field(gt=0, le=250)
    from_x_mm: Coordinate = Field(description="rearmost throw, ahead of the rail's rear face")
    to_x_mm: Coordinate = Field(description="foremost throw")
    assumed: bool = Field(default=False, description="usual figures: nobody measured it")

    @model_validator(mode="after")
    def _has_length(self) -> Crank:
        if self.to_x_mm - self.from_x_mm < 1.0:
            raise ValueError("the foremost throw must lie ahead of the rearmost")
        return self
