"""One build of one car: the document's root."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, model_validator

from bilge_core.document.car import Car
from bilge_core.document.oil import Oil
from bilge_core.document.pan import Pan, fault_of_outline
from bilge_core.document.parts import Name, Part
from bilge_core.document.pickup import Pickup
from bilge_core.document.pump import GaugeReading, Pump
from bilge_core.document.upgrade import upgraded
from bilge_core.errors import InvalidInput, Problem


class Build(Part):
    """One build of one car."""

    format: Literal["bilge-build"]
    version: Literal[2]
    name: Name
    car: Car
    oil: Oil
    pan: Pan
    pickup: Pickup
    pump: Pump
    gauge_readings: list[GaugeReading] = Field(default=[], max_length=40)
    notes: str = Field(default="", max_length=20_000)

    @model_validator(mode="before")
    @classmethod
    def _of_today(cls, raw: Any) -> Any:
        return upgraded(raw)

    @model_validator(mode="after")
    def _outlines(self) -> Build:
        problems = [
            Problem(f"pan.zones.{index}.outline_mm", fault)
            for index, zone in enumerate(self.pan.zones)
            if (fault := fault_of_outline(zone))
        ]
        if problems:
            raise InvalidInput(problems)
        return self
