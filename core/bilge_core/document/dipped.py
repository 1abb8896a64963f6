"""What was poured in and dipped, as the build document holds it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bilge_core.document.parts import Part


class DipPoint(Part):
    """Oil poured into the empty pan, and how high it stood above the pan's lowest point."""

    poured_l: float = Field(gt=0, le=60)
    level_mm: float = Field(ge=0, le=600, description="straight up from the lowest point inside")


class Dipped(Part):
    """A pour-and-dip measurement: a litre at a time, cold."""

    engine: Literal["level", "in_car"] = Field(
        description="the rail level on the bench, or leaned and raked as in the car"
    )
    points: list[DipPoint] = Field(default=[], max_length=60)
