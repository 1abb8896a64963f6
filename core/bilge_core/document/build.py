"""One build of one car: the document's root."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError, model_validator

from bilge_core.document.car import Car
from bilge_core.document.circuit.circuit import DRAIN_BOSSES, Circuit
from bilge_core.document.drive import BeltDrive
from bilge_core.document.learned import Learned
from bilge_core.document.oil import Oil
from bilge_core.document.pan import Pan, fault_of_outline
from bilge_core.document.parts import Name, Part
from bilge_core.document.pickup import Pickup
from bilge_core.document.upgrade import upgraded
from bilge_core.errors import InvalidInput, Problem


class Build(Part):
    """One build of one car."""

    format: Literal["bilge-build"]
    version: Literal[3]
    name: Name
    car: Car
    oil: Oil
    pan: Pan
    pickup: Pickup
    circuit: Circuit
    drive: BeltDrive | None = Field(default=None, description="of an outside pump")
    learned: Learned | None = Field(
        default=None, description="what the track book told, in place of guesses"
    )
    notes: str = Field(default="", max_length=20_000)

    @model_validator(mode="before")
    @classmethod
    def _of_today(cls, raw: Any) -> Any:
        return _with_what_is_away(upgraded(raw))

    @model_validator(mode="after")
    def _holds_together(self) -> Build:
        problems = self.circuit.faults(self.drain_bosses)
        problems += [
            Problem(f"pan.zones.{index}.outline_mm", fault)
            for index, zone in enumerate(self.pan.zones)
            if (fault := fault_of_outline(zone))
        ]
        if problems:
            raise InvalidInput(problems)
        return self

    @property
    def drain_bosses(self) -> tuple[str, ...]:
        """Ids of the pan's bosses that oil can come back through, blocked ones too."""
        return tuple(boss.id for boss in self.pan.bosses if boss.kind in DRAIN_BOSSES)


def _with_what_is_away(raw: Any) -> Any:
    """When components say what they hold, the oil away from the pan is what the circuit holds."""
    if not isinstance(raw, dict) or not isinstance(raw.get("oil"), dict):
        return raw
    try:
        circuit = Circuit.model_validate(raw.get("circuit"))
    except ValidationError:
        return raw  # told field by field when the whole is read
    held, read = circuit.held_l, {**raw, "circuit": circuit}
    return read if held is None else {**read, "oil": {**raw["oil"], "away_l": round(held, 6)}}
