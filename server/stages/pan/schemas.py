"""What Pan asks beside the drawing."""

from __future__ import annotations

from ninja import Schema
from pydantic import Field


class DepthForIn(Schema):
    """A volume to hold to the rail, and the zones that may go down for it."""

    capacity_l: float = Field(gt=0, le=200)
    zones: list[str] = Field(min_length=1, max_length=40, description="by their ids")


class DepthForOut(Schema):
    """How much deeper those zones must be."""

    by_mm: float


class MakingIn(Schema):
    """How a pan's panels are made: which edges are bent, and how sheet is bent."""

    bent: list[str] = Field(default=[], max_length=120, description="panels by pairs, as 1-2")
    radius_mm: float | None = Field(
        default=None, ge=0, le=100, description="inside, of a bend; null: 1.5 thicknesses"
    )
    k_factor: float | None = Field(default=None, ge=0, le=1, description="null: a soft sheet's")
