"""What Pan asks beside the drawing."""

from __future__ import annotations

from bilge_core.document.fitted import MOST_BOLTS
from bilge_core.quantities import UnitSystem
from bilge_core.scan.drawing_file import Ahead
from bilge_core.scan.mesh_file import Unit
from bilge_core.scan.placed import Axis
from bilge_core.tell.flat_drawing import TracedAsked, traced_asked
from bilge_core.tell.printed import PrintAsked, What, print_asked
from bilge_core.tell.scanned import ScanAsked, scan_asked
from ninja import Schema
from pydantic import Field


class DepthForIn(Schema):
    """A volume to hold to the rail, and the zones that may go down for it."""

    capacity_l: float = Field(gt=0, le=200)
    zones: list[str] = Field(min_length=1, max_length=40, description="by their ids")


class DepthForOut(Schema):
    """How much deeper those zones must be."""

    by_mm: float


class PrintIn(Schema):
    """What is to be printed, figures as typed with any unit; empty: as usual."""

    system: UnitSystem = "metric"
    what: What = "pan"
    wall_mm: str = Field(default="", max_length=40)
    bed_long_mm: str = Field(default="", max_length=40)
    bed_wide_mm: str = Field(default="", max_length=40)
    bed_high_mm: str = Field(default="", max_length=40)
    bore_mm: str = Field(default="", max_length=40)
    between_mm: str = Field(default="", max_length=40)
    hole_mm: str = Field(default="", max_length=40)
    thickness_mm: str = Field(default="", max_length=40)
    tube_deg: str = Field(default="", max_length=40)

    def read(self) -> PrintAsked:
        """As figures.

        Raises
        ------
        InvalidInput
        """
        return print_asked(self.model_dump(exclude={"system"}), self.system)


class ScanIn(Schema):
    """How a mesh stands in its own frame; places of its rail as words, all three or none."""

    unit: Unit = "mm"
    up: Axis = "guess"
    nose: Axis = "guess"
    rear_right: str = Field(default="", max_length=80)
    rear_left: str = Field(default="", max_length=80)
    ahead: str = Field(default="", max_length=80)

    def read(self) -> ScanAsked:
        """With its places as figures.

        Raises
        ------
        InvalidInput
        """
        points = [self.rear_right, self.rear_left, self.ahead]
        return scan_asked({**self.model_dump(include={"unit", "up", "nose"}), "points": points})


class DrawingIn(Schema):
    """How a flat drawing lies: its unit where the file says none, where the nose is on it."""

    unit: Unit | None = None
    ahead: Ahead = "up"
    mirrored: bool = Field(default=False, description="seen from below")


class TracedIn(Schema):
    """What was traced on a picture, its figures as numbers [mm] or as typed."""

    system: UnitSystem = "metric"
    wide_mm: float | str
    high_mm: float | str
    hole_mm: float | str = Field(default=7.0, description="diameter of every hole")
    corners: list[tuple[float, float]] = Field(max_length=4)
    outline: list[tuple[float, float]] = Field(max_length=400)
    opening: list[tuple[float, float]] = Field(default=[], max_length=200)
    holes: list[tuple[float, float]] = Field(default=[], max_length=MOST_BOLTS)
    ahead: Ahead = "up"
    mirrored: bool = Field(default=False, description="seen from below")

    def read(self) -> TracedAsked:
        """As figures.

        Raises
        ------
        InvalidInput
        """
        raw = self.model_dump(exclude={"system", "hole_mm", "holes"})
        holes = [{"at": each, "diameter_mm": self.hole_mm} for each in self.holes]
        return traced_asked({**raw, "holes": holes}, self.system)
