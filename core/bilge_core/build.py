"""The build document: what the builder measured and decided, as one versioned file.

The engine frame used here: x forward along the crank toward its nose (damper
end), measured from the rear face of the pan rail; y to the engine's left from
the crank's centreline; depths below the pan rail. Figures carry their unit in
their name, since the document is what crosses every boundary.
"""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import (
    Field,
    ValidationError,
    model_validator,
)
from shapely import Polygon
from shapely.validation import explain_validity

from bilge_core.dipped import Dipped
from bilge_core.document import Coordinate, Depth, Name, Part
from bilge_core.errors import InvalidInput, Problem
from bilge_core.hardware import (
    Boss,
    Braces,
    DipMark,
    Flange,
    Inspected,
    Joint,
    Scraper,
    Screen,
    Tube,
)
from bilge_core.plates import Plate
from bilge_core.supply import GaugeReading, Oil, Pump
from bilge_core.surroundings import Crank, KeepOut

FORMAT = "bilge-build"
VERSION = 1


class Car(Part):
    """How the engine sits in the car."""

    nose_points: Literal["front", "rear", "left", "right"] = Field(
        description="where the crank's nose (damper end) points in the car"
    )
    lean_right_deg: float = Field(
        ge=-60, le=60, description="engine leaned toward its own right, negative to its left"
    )
    nose_up_deg: float = Field(ge=-20, le=20, description="crank's nose higher than its tail")
    place: Literal["front", "middle", "rear"] | None = Field(
        default=None, description="where in the car the engine sits"
    )
    cylinders: Literal["in_line", "vee", "flat"] | None = None
    rail_height_mm: float | None = Field(
        default=None,
        ge=0,
        le=1500,
        description="the pan rail's rear face on the crank's centreline, above level ground",
    )
    least_ground_mm: float | None = Field(
        default=None, ge=0, le=500, description="wanted under the lowest corner of the pan"
    )
    crank: Crank | None = None
    keep_outs: list[KeepOut] = Field(default=[], max_length=40)


class FlatFloor(Part):
    """A floor parallel to the pan rail."""

    kind: Literal["flat"]
    depth_mm: Depth


class RampFloor(Part):
    """A floor that falls or rises evenly between two opposite edges of its zone."""

    kind: Literal["ramp"]
    runs: Literal["lengthways", "sideways"]
    from_depth_mm: Depth = Field(description="at the rear edge, or the right edge when sideways")
    to_depth_mm: Depth = Field(description="at the front edge, or the left edge when sideways")


Floor = Annotated[FlatFloor | RampFloor, Field(discriminator="kind")]


class Zone(Part):
    """A part of the pan with one floor, seen from above."""

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


def _sound_outline(zone: Zone) -> str | None:
    polygon = zone.polygon
    if polygon.is_valid and polygon.area > 100.0:
        return None
    reason = explain_validity(polygon)
    if "[" in reason:
        x, y = reason.split("[")[1].rstrip("]").split()[:2]
        return (
            f"the outline crosses or touches itself near {float(x):.0f} mm ahead of the rear face, "
            f"{float(y):.0f} mm left of the centreline; list the corners in order round the edge"
        )
    return "the outline encloses less than 1 cm2; give the corners in order round the edge"


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
    dipped: Dipped | None = None
    dip_marks: list[DipMark] = Field(default=[], max_length=6)
    sheet_mm: float | None = Field(
        default=None, gt=0, le=20, description="thickness of the pan's wall"
    )
    made: Literal["sheet", "cast"] | None = None
    flange: Flange | None = None
    bosses: list[Boss] = Field(default=[], max_length=40)
    scrapers: list[Scraper] = Field(default=[], max_length=8)
    inspection: list[Inspected] = Field(default=[], max_length=40)


class RoundMouth(Part):
    """A round bell or screen."""

    kind: Literal["round"]
    diameter_mm: float = Field(ge=5, le=200)


class RectangularMouth(Part):
    """A rectangular screen, its sides along and across the engine."""

    kind: Literal["rectangular"]
    length_mm: float = Field(ge=5, le=300)
    width_mm: float = Field(ge=5, le=300)


Mouth = Annotated[RoundMouth | RectangularMouth, Field(discriminator="kind")]


class Pickup(Part):
    """The mouth, facing the floor, parallel to the pan rail."""

    x_mm: Coordinate = Field(description="mouth's centre ahead of the rear face of the rail")
    y_mm: Coordinate = Field(description="mouth's centre left of the crank's centreline")
    mouth: Mouth
    gap_mm: float = Field(ge=-50, le=200, description="mouth's centre above the floor below it")
    tube: Tube | None = None
    screen: Screen | None = None
    joint: Joint | None = None
    braces: Braces | None = None


class Build(Part):
    """One build of one car."""

    format: Literal["bilge-build"]
    version: Literal[1]
    name: Name
    car: Car
    oil: Oil
    pan: Pan
    pickup: Pickup
    pump: Pump
    gauge_readings: list[GaugeReading] = Field(default=[], max_length=40)
    notes: str = Field(default="", max_length=20_000)

    @model_validator(mode="after")
    def _outlines(self) -> Build:
        problems = [
            Problem(f"pan.zones.{index}.outline_mm", fault)
            for index, zone in enumerate(self.pan.zones)
            if (fault := _sound_outline(zone))
        ]
        if problems:
            raise InvalidInput(problems)
        return self


_TAGS = {
    "flat",
    "ramp",
    "round",
    "rectangular",
    "vertical",
    "horizontal",
    "box",
    "cylinder",
    "plane",
}
_TAGGED = {"floor", "mouth"}

_PLAIN = {
    "missing": "is missing",
    "extra_forbidden": "is not a field of a build; remove it or check its spelling",
    "finite_number": "must be a finite number",
    "float_parsing": "must be a number",
    "float_type": "must be a number",
    "json_invalid": "is not a readable JSON file",
}


def _plain(error: Any) -> Problem:
    path = [str(step) for step in error["loc"]]
    kept = [
        step
        for index, step in enumerate(path)
        if not (
            index and step in _TAGS and (path[index - 1] in _TAGGED or path[index - 1].isdigit())
        )
    ]
    kind = error["type"]
    if kind in _PLAIN:
        message = _PLAIN[kind]
        if kind == "json_invalid":
            message += f" ({error['ctx']['error']})"
    else:
        text = error["msg"].removeprefix("Value error, ")
        message = text[0].lower() + text[1:]
    if kind not in {"missing", "json_invalid"} and isinstance(error["input"], str | int | float):
        message += f" (it is {str(error['input'])[:60]!r})"
    return Problem(".".join(kept) or "file", message)


def read_build(text: str | bytes) -> Build:
    """Read a build document from JSON.

    Parameters
    ----------
    text : str or bytes
        The file's contents, UTF-8.

    Returns
    -------
    Build
        The document, checked field by field and each outline for sanity.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_build("{}")
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: format: is missing; version: is missing; name: is missing; \
car: is missing; oil: is missing; pan: is missing; pickup: is missing; pump: is missing
    """
    try:
        return Build.model_validate_json(text)
    except ValidationError as error:
        raise InvalidInput([_plain(item) for item in error.errors(include_url=False)]) from None


def build_from(document: dict[str, Any]) -> Build:
    """The same from a document as plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> build_from({"format": "bilge-build"})
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: version: is missing; name: is missing; \
car: is missing; oil: is missing; pan: is missing; pickup: is missing; pump: is missing
    """
    return read_build(json.dumps(document))


def felt_by_oil(document: dict[str, Any]) -> dict[str, Any]:
    """A document, as plain data, without what the oil in the pan cannot feel.

    Names and notes, what was poured and dipped, and what was looked at change no forecast.

    Examples
    --------
    >>> felt_by_oil({"name": "Dunlin", "pan": {"dipped": {}, "skirt_height_mm": 90.0}})
    {'pan': {'skirt_height_mm': 90.0}}
    """
    kept = {key: value for key, value in document.items() if key not in {"name", "notes"}}
    pan = {
        key: value
        for key, value in kept.get("pan", {}).items()
        if key not in {"dipped", "inspection"}
    }
    return {**kept, "pan": pan}


def write_build(build: Build) -> str:
    """A build document as JSON text, ending in a newline; `read_build` reads it back."""
    return build.model_dump_json(indent=2) + "\n"
