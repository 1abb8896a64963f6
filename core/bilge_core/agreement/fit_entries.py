"""What is entered in a test fit: rounds, findings, places said by hand, what is accepted."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, model_validator

from bilge_core.document.parts import Name, Part
from bilge_core.document.problems import read_kept

Means = Literal["printed", "cardboard", "tape", "tack_welded", "the_part"]
Subject = Literal[
    "pan", "line", "tank", "pump", "filter", "bottle", "cooler", "bonnet", "exhaust", "steering",
    "other",
]  # fmt: skip

MEANS: Mapping[Means, tuple[str, str]] = {
    "printed": (
        "a printed part",
        "It shrinks as it cools and warps where it is long: measure it before it is believed, and "
        "keep it off a warm exhaust.",
    ),
    "cardboard": (
        "cardboard",
        "It has no thickness to speak of and gives way: what it clears by less than a sheet's "
        "thickness touches in metal.",
    ),
    "tape": ("tape and wire", "It shows where, not how far: a gap is measured on something stiff."),
    "tack_welded": (
        "the part, tacked",
        "The full weld draws it: offer it up again after welding, a rail draws most.",
    ),
    "the_part": ("the part itself", "Bolted as it will be, gasket or spacer in: all bolts, snug."),
}
"""What is offered up, and what it hides (common practice, no published source)."""

PlaceId = Annotated[str, Field(pattern=r"^[a-z0-9]{1,40}(:[a-z0-9]{1,40})?$")]
Token = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]
Millimetres = Annotated[float, Field(ge=0, le=500)]


class RoundBegun(Part):
    """Something is offered up anew."""

    kind: Literal["round_begun"]
    means: Means
    car_on: Literal["wheels", "stands"] = "stands"
    words: Annotated[str, Field(max_length=500)] = ""


class Found(Part):
    """What was found at a place in the round that goes on."""

    kind: Literal["found"]
    place: PlaceId
    touches: bool = False
    gap_mm: Millimetres | None = None
    done: Annotated[str, Field(max_length=500)] = ""
    photos: list[Token] = Field(default=[], max_length=12)

    @model_validator(mode="after")
    def _says_one(self) -> Found:
        if self.touches and self.gap_mm is not None:
            raise ValueError("a place touches or has a gap, not both")
        return self


class PlaceSaid(Part):
    """A place that the forecast does not know."""

    kind: Literal["place_said"]
    place: PlaceId
    name: Name
    subject: Subject = "other"
    wanted_mm: Millimetres = 10.0
    at_mm: tuple[float, float, float] | None = Field(
        default=None, description="ahead, left and up along the car's axes, where it was picked"
    )


class Wanted(Part):
    """Another gap is wanted at a place."""

    kind: Literal["wanted"]
    place: PlaceId
    wanted_mm: Millimetres


class Accepted(Part):
    """A place that is tight or touches is left so, and why."""

    kind: Literal["accepted"]
    place: PlaceId
    why: Annotated[str, Field(min_length=3, max_length=500)]


class Dropped(Part):
    """A place is not looked at any more; what was found of it stays."""

    kind: Literal["dropped"]
    place: PlaceId


class RoundClosed(Part):
    """Every place of the round is sound or accepted."""

    kind: Literal["round_closed"]


AnyOffered = Annotated[
    RoundBegun | Found | PlaceSaid | Wanted | Accepted | Dropped | RoundClosed,
    Field(discriminator="kind"),
]
_ENTRIES: TypeAdapter[AnyOffered] = TypeAdapter(AnyOffered)


def read_offered(raw: Any, path: str = "entry") -> AnyOffered:
    """An entry of a test fit from plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_offered({"kind": "found", "place": "k3:pan", "gap_mm": 23}).gap_mm
    23.0
    """
    return read_kept(_ENTRIES, raw, path)
