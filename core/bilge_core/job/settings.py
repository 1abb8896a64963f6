"""What the builder says of a job: what is in the way, which school, what else is to be done."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, model_validator

from bilge_core.document.parts import Name, Part

AccessKind = Literal[
    "pump", "belt", "dipstick_tube", "bumper", "mount", "crossmember", "exhaust", "steering",
    "wheel", "other",
]  # fmt: skip
HOLDS_THE_ENGINE: frozenset[AccessKind] = frozenset({"mount", "crossmember"})
"""Kinds whose going away leaves the engine hanging: it is held first."""

WHOLE_PAN = "pan"
"""What stands for the pan as a whole where a part's id is asked for."""

PartId = Annotated[str, Field(pattern=r"^[a-z]{1,12}[0-9]{0,9}$")]
StepKey = Annotated[str, Field(pattern=r"^[a-z_]{1,40}$")]
NewtonMetres = Annotated[float, Field(gt=0, le=2000)]
Hours = Annotated[float, Field(ge=0, le=200)]


class AccessItem(Part):
    """Something that must come off or be loosened before the job can be reached."""

    id: PartId
    name: Name
    kind: AccessKind
    how: Literal["off", "loosened"] = "off"
    hours_off: Hours
    hours_back: Hours


class Extra(Part):
    """A part that is renewed or looked at whatever the plan changes."""

    do: Literal["renew", "look_at"]
    part: PartId = Field(description="by its id; `pan`: the pan and its joint")


class CardSettings(Part):
    """What is said of a job besides the plan.

    Schools (common practice, no published source): a gasket where the maker has one, else a liquid
    bead that has to set; the sump off for a hole, or drilled in place with more risk.
    """

    sump_in_place: bool = False
    sealing: Literal["gasket", "liquid"] = "gasket"
    access: list[AccessItem] = Field(default=[], max_length=40)
    extras: list[Extra] = Field(default=[], max_length=60)
    in_cabin: list[PartId] = Field(default=[], max_length=20, description="bottles in the cabin")
    torque_nm: dict[StepKey, NewtonMetres] = Field(
        default={}, max_length=20, description="the maker's, by the step's key"
    )
    pattern: list[Annotated[int, Field(ge=0, lt=120)]] | None = Field(
        default=None, max_length=120, description="the builder's own order of the pan bolts"
    )
    passes: Literal[1, 2, 3] = 1
    begins_on: date | None = None
    hours_a_day: float = Field(default=6.0, gt=0, le=16)
    weekends: bool = Field(default=False, description="whether they are worked")

    @model_validator(mode="after")
    def _holds_together(self) -> CardSettings:
        ids = [item.id for item in self.access]
        if len(set(ids)) < len(ids):
            raise ValueError("two things in the way have one id")
        if self.pattern is not None and sorted(self.pattern) != list(range(len(self.pattern))):
            raise ValueError("an own order names every bolt once, counted from nil")
        return self
