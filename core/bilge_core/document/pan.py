"""The pan as zones below the rail, and what is fitted to it, as the build document holds it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from shapely import Polygon
from shapely.ops import unary_union
from shapely.validation import explain_validity

from bilge_core.document.fitted import Boss, DipMark, Flange, Scraper
from bilge_core.document.floors import Floor, SurfaceFloor
from bilge_core.document.ids import Id
from bilge_core.document.making import Making
from bilge_core.document.parts import Coordinate, Name, Part
from bilge_core.document.plates import Plate


class Zone(Part):
    """A part of the pan with one floor, seen from above."""

    id: Id = ""
    name: Name
    outline_mm: list[tuple[Coordinate, Coordinate]] = Field(min_length=3, max_length=200)
    floor: Floor
    ceiling_depth_mm: float | None = Field(
        default=None,
        ge=0,
        le=600,
        description="of a side box closed above; null when open up to the rail",
    )
    draft_deg: float = Field(
        default=0.0,
        ge=0,
        le=45,
        description="its outer walls lean inward toward the floor; walls that it shares with "
        "another zone, even in part, stay upright",
    )

    @property
    def polygon(self) -> Polygon:
        """The outline [mm]."""
        return Polygon(self.outline_mm)


def fault_of_outline(zone: Zone) -> str | None:
    """What is wrong with a zone's outline, and what would be right; None when nothing is."""
    polygon = zone.polygon
    if polygon.is_valid and polygon.area > 100.0:
        return _fault_of_surface(zone, polygon)
    reason = explain_validity(polygon)
    if "[" in reason:
        x, y = reason.split("[")[1].rstrip("]").split()[:2]
        return (
            f"the outline crosses or touches itself near {float(x):.0f} mm ahead of the rear face, "
            f"{float(y):.0f} mm left of the centreline; list the corners in order round the edge"
        )
    return "the outline encloses less than 1 cm²; give the corners in order round the edge"


_UNCOVERED = 0.01  # of an outline that its surface may leave bare (ours: drawing accuracy)


def _fault_of_surface(zone: Zone, polygon: Polygon) -> str | None:
    """Whether a surface of triangles lies under all of its zone."""
    floor = zone.floor
    if not isinstance(floor, SurfaceFloor):
        return None
    if zone.draft_deg:
        return "has a surface for a floor: its walls lean as the surface says, its draft is nil"
    pieces = [Polygon([floor.places_mm[at][:2] for at in each]) for each in floor.triangles]
    covered = unary_union([each.buffer(0.01) for each in pieces]).intersection(polygon).area
    if covered < (1.0 - _UNCOVERED) * polygon.area:
        share = 100.0 * (1.0 - covered / polygon.area)
        return f"reaches beyond its surface ({share:.0f} % of it): move it back, or scan anew"
    return None


class Pan(Part):
    """The pan as zones below the rail, and the block's skirt above it."""

    zones: list[Zone] = Field(min_length=1, max_length=40)
    skirt_height_mm: float = Field(
        ge=0, le=400, description="straight walls above the rail that oil can climb"
    )
    plates: list[Plate] = Field(default=[], max_length=40)
    spacer_mm: float = Field(
        default=0.0,
        ge=-100,
        le=200,
        description="spacer between block and pan: the pickup has one as thick, and bolts and "
        "studs are longer by it; depths here are below the block's rail, spacer counted",
    )
    bolt_length_mm: float | None = Field(
        default=None, gt=0, le=300, description="of the pan bolts without a spacer"
    )
    dip_marks: list[DipMark] = Field(default=[], max_length=6)
    sheet_mm: float | None = Field(
        default=None, gt=0, le=20, description="thickness of the pan's wall"
    )
    made: Literal["sheet", "cast"] | None = None
    making: Making | None = Field(default=None, description="of sheet")
    flange: Flange | None = None
    bosses: list[Boss] = Field(default=[], max_length=40)
    scrapers: list[Scraper] = Field(default=[], max_length=8)
