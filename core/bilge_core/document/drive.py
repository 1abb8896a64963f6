"""The belt that turns an outside pump: pulleys, where they are to each other, and an idler."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bilge_core.document.parts import Coordinate, Part

LEAST_TEETH, MOST_TEETH = 10, 120


class Idler(Part):
    """A wheel that the belt runs over besides, to clear something or to be tightened by."""

    across_mm: Coordinate = Field(description="left of the crank's centreline")
    up_mm: Coordinate = Field(description="above the crank's centreline")
    diameter_mm: float = Field(ge=10, le=300)
    runs_on: Literal["back", "teeth"] = Field(
        default="back", description="on the belt's back from outside, or on its teeth from inside"
    )


class PumpBody(Part):
    """A pump's body as a round thing along its shaft, behind its pulley."""

    length_mm: float = Field(ge=10, le=800)
    diameter_mm: float = Field(ge=10, le=400)


class BeltDrive(Part):
    """A toothed belt from the crank to an outside pump, measured from the crank's pulley."""

    pitch_mm: float = Field(ge=2, le=25, description="from tooth to tooth")
    width_mm: float = Field(ge=5, le=100, description="of the belt")
    crank_teeth: int = Field(ge=LEAST_TEETH, le=MOST_TEETH)
    pump_teeth: int = Field(ge=LEAST_TEETH, le=MOST_TEETH)
    belt_teeth: int = Field(ge=20, le=600)
    across_mm: Coordinate = Field(description="pump's shaft, left of the crank's centreline")
    up_mm: Coordinate = Field(description="pump's shaft, above the crank's centreline")
    offset_mm: float = Field(
        default=0.0, ge=-200, le=200,
        description="middle of the pump's pulley ahead of the middle of the crank's",
    )  # fmt: skip
    turned_deg: float = Field(
        default=0.0, ge=-30, le=30, description="pump's shaft to the crank's, seen from above"
    )
    tilted_deg: float = Field(
        default=0.0, ge=-30, le=30, description="pump's shaft to the crank's, seen from the side"
    )
    travel_mm: float = Field(
        default=6.0, ge=0, le=100, description="that the pump can be moved by to tighten the belt"
    )
    idler: Idler | None = None
    crank_x_mm: Coordinate | None = Field(
        default=None,
        description="middle of the crank's pulley ahead of the rail's rear face; null: not known",
    )
    body: PumpBody | None = None
    assumed: bool = Field(default=False, description="nobody measured it")

    def is_bought_like(self, other: BeltDrive) -> bool:
        """Whether pulleys, belt and idler are those of another drive, wherever they stand.

        Examples
        --------
        >>> one = BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48, belt_teeth=90,
        ...                 across_mm=-214, up_mm=0)
        >>> one.is_bought_like(one.model_copy(update={"offset_mm": 2.0}))
        True
        >>> one.is_bought_like(one.model_copy(update={"belt_teeth": 92}))
        False
        """

        def bought(drive: BeltDrive) -> tuple[object, ...]:
            idler = None if drive.idler is None else (drive.idler.diameter_mm, drive.idler.runs_on)
            return (drive.pitch_mm, drive.width_mm, drive.crank_teeth, drive.pump_teeth,
                    drive.belt_teeth, idler)  # fmt: skip

        return bought(self) == bought(other)

    @property
    def words(self) -> str:
        """Its pulleys and belt, as they are ordered.

        Examples
        --------
        >>> BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48, belt_teeth=90,
        ...           across_mm=-214, up_mm=0).words
        'pulleys of 24 and 48 teeth, belt of 90, pitch 8 mm, 25 mm wide'
        """
        return (
            f"pulleys of {self.crank_teeth} and {self.pump_teeth} teeth, belt of "
            f"{self.belt_teeth}, pitch {self.pitch_mm:g} mm, {self.width_mm:g} mm wide"
        )
