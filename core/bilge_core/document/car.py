"""How the engine sits in the car, and what is round it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bilge_core.document.class_rules import RuledKind, Ruling
from bilge_core.document.engine import Crank
from bilge_core.document.keep_outs import KeepOut
from bilge_core.document.parts import Part


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
    engine_power_kw: float | None = Field(default=None, gt=0, le=3000)
    power_rpm: float | None = Field(
        default=None, ge=300, le=20_000, description="engine speed of that power"
    )
    top_rpm: float | None = Field(
        default=None, ge=300, le=20_000, description="the highest that it is turned to"
    )
    wear: Literal["sound", "used", "worn"] | None = Field(
        default=None, description="of the engine's rings and bores: they let gas by"
    )
    class_rules: dict[RuledKind, Ruling | None] = Field(
        default={}, description="what the class allows; null, or not in it: not known"
    )
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

    @property
    def measured_keep_outs(self) -> list[tuple[int, KeepOut]]:
        """What is round the pan where somebody measured it, each with its place in the list."""
        return [(at, each) for at, each in enumerate(self.keep_outs) if not each.assumed]
