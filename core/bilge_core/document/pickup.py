"""The pickup's mouth; its tube and its joint are the circuit's."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bilge_core.document.parts import Coordinate, Part


class RoundMouth(Part):
    """A round bell or screen."""

    kind: Literal["round"]
    diameter_mm: float = Field(ge=5, le=200)

    @property
    def half_mm(self) -> tuple[float, float]:
        """How far it reaches from its centre along and across the engine."""
        return 0.5 * self.diameter_mm, 0.5 * self.diameter_mm


class RectangularMouth(Part):
    """A rectangular screen, its sides along and across the engine."""

    kind: Literal["rectangular"]
    length_mm: float = Field(ge=5, le=300)
    width_mm: float = Field(ge=5, le=300)

    @property
    def half_mm(self) -> tuple[float, float]:
        """How far it reaches from its centre along and across the engine."""
        return 0.5 * self.length_mm, 0.5 * self.width_mm


Mouth = Annotated[RoundMouth | RectangularMouth, Field(discriminator="kind")]


class Bend(Part):
    """A bend of the pickup tube."""

    angle_deg: float = Field(gt=0, le=180)
    radius_mm: float = Field(gt=0, le=500, description="of its centreline")


class Screen(Part):
    """The screen over the mouth."""

    kind: Literal["wire", "perforated"]
    open_pct: float = Field(gt=0, le=100, description="of its area")


class Braces(Part):
    """What holds the pickup besides its joint."""

    at_bell: bool
    at_tube: bool


class Pickup(Part):
    """The mouth, facing the floor, parallel to the pan rail."""

    x_mm: Coordinate = Field(description="mouth's centre ahead of the rear face of the rail")
    y_mm: Coordinate = Field(description="mouth's centre left of the crank's centreline")
    mouth: Mouth
    gap_mm: float = Field(ge=-50, le=200, description="mouth's centre above the floor below it")
    screen: Screen | None = None
    braces: Braces | None = None
