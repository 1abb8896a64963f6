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
