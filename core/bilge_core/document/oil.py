"""The oil as poured, as the build document holds it."""

from __future__ import annotations

import math
from typing import Annotated, Any

from pydantic import AfterValidator, Field, model_validator

from bilge_core.document.parts import Name, Part
from bilge_core.oil import GRADES


def _known_grade(name: str) -> str:
    if name not in GRADES:
        raise ValueError(f"is not a grade offered; choose one of {', '.join(GRADES)}")
    return name


class HeldVolume(Part):
    """Oil that one place outside the pan holds while the engine runs."""

    name: Name
    volume_l: float = Field(ge=0, le=40)


class Oil(Part):
    """The oil in the whole engine, as poured.

    When the places that hold oil are given one by one, `away_l` is their sum.
    """

    grade: Annotated[str, AfterValidator(_known_grade)]
    volume_l: float = Field(gt=0, le=60, description="all oil in the engine, measured at 20 °C")
    away_l: float = Field(
        ge=0, le=40, description="running, hot: held in heads, galleries, filter, cooler, lines"
    )
    temperature_c: float = Field(ge=-20, le=180, description="running temperature in the pan")
    mark_l: float | None = Field(
        default=None, gt=0, le=60, description="all oil in the engine when it stands at the mark"
    )
    held: list[HeldVolume] = Field(default=[], max_length=20)

    @model_validator(mode="before")
    @classmethod
    def _sum_of_what_is_held(cls, raw: Any) -> Any:
        if isinstance(raw, dict) and isinstance(raw.get("held"), list) and raw["held"]:
            volumes = [
                volume
                for row in raw["held"]
                if isinstance(row, dict)
                and isinstance(volume := row.get("volume_l"), int | float)
                and not isinstance(volume, bool)
            ]
            if len(volumes) == len(raw["held"]):
                return {**raw, "away_l": round(math.fsum(volumes), 6)}
        return raw
