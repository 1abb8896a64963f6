"""The oil as poured, as the build document holds it."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, Field

from bilge_core.document.parts import Part
from bilge_core.oil import GRADES


def _known_grade(name: str) -> str:
    if name not in GRADES:
        raise ValueError(f"is not a grade offered; choose one of {', '.join(GRADES)}")
    return name


class Oil(Part):
    """The oil in the whole engine, as poured.

    When components of the circuit say what they hold, `away_l` is what the circuit holds.
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
