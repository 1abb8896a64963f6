"""What is fitted to the pan and the pickup, as the build document holds it.

Places are in the engine's frame of the document: ahead of the rail's rear face, left of the
crank's centreline, depth below the rail.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bilge_core.document import Coordinate, Name, Part

BossKind = Literal["drain_plug", "level_sensor", "dipstick", "turbo_drain", "return", "other"]
Found = Literal["not_looked", "sound", "watch", "replace"]

SignedDepth = Annotated[float, Field(ge=-400, le=600)]


class BoltHole(Part):
    """A hole in the pan's flange."""

    x_mm: Coordinate
    y_mm: Coordinate
    diameter_mm: float = Field(gt=0, le=40)


class Flange(Part):
    """The pan's flange against the block."""

    outline_mm: list[tuple[Coordinate, Coordinate]] = Field(min_length=3, max_length=400)
    thickness_mm: float = Field(gt=0, le=60)
    bolts: list[BoltHole] = Field(default=[], max_length=120)


class Boss(Part):
    """An opening through the pan's wall: a plug, a sensor, a dipstick tube, a drain."""

    kind: BossKind
    name: Name
    x_mm: Coordinate
    y_mm: Coordinate
    depth_mm: SignedDepth = Field(description="of its middle below the rail; minus is above")
    bore_mm: float = Field(gt=0, le=80)
    fixing: Literal["tapped", "welded_boss", "through_fitting", "as_made"] = "as_made"
    blocked: bool = Field(default=False, description="plugged and out of use")


class Scraper(Part):
    """A strip along the crank's swept circle, on one side."""

    name: Name
    side: Literal["left", "right"]
    from_x_mm: Coordinate
    to_x_mm: Coordinate
    gap_mm: float = Field(ge=0, le=60, description="to the crank's swept circle")


class DipMark(Part):
    """A mark on the dipstick."""

    name: Name
    level_mm: float = Field(ge=0, le=600, description="straight up from the lowest point inside")


class Bend(Part):
    """A bend of the pickup tube."""

    angle_deg: float = Field(gt=0, le=180)
    radius_mm: float = Field(gt=0, le=500, description="of its centreline")


class Tube(Part):
    """The pickup tube from mouth to pump."""

    bore_mm: float = Field(ge=3, le=80)
    length_mm: float = Field(ge=10, le=2000, description="along its centreline, bends counted")
    bends: list[Bend] = Field(default=[], max_length=12)


class Screen(Part):
    """The screen over the mouth."""

    kind: Literal["wire", "perforated"]
    open_pct: float = Field(gt=0, le=100, description="of its area")


class Joint(Part):
    """Where the tube joins the pump: a suction joint."""

    seal: Literal["o_ring", "gasket", "liquid", "brazed", "none"]
    age: Literal["new", "reused", "unknown"]


class Braces(Part):
    """What holds the pickup besides its joint."""

    at_bell: bool
    at_tube: bool


class Inspected(Part):
    """One thing looked at on pan and pickup as they come, before anything is assembled."""

    item: Name
    found: Found
    note: str = Field(default="", max_length=2000)
    off_flat_mm: float | None = Field(default=None, ge=0, le=20)
    photos: list[Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]] = Field(
        default=[], max_length=12
    )


INSPECTION = (
    "Cracks along the rail",
    "Cracks at the bolt holes",
    "Flatness of the rail",
    "Dents and welds of the floor",
    "Pickup tube, along its edges and at its brace",
    "Pickup screen",
    "Seal of the pickup joint",
    "Gates: hinges and leaves",
    "Rubber and plastic parts",
    "Threads of plug and sensors",
)
"""What is looked at (common practice, no published source): new parts too."""
