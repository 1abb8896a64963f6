"""Drains under one steady load, as everybody reads them."""

from __future__ import annotations

from pydantic import BaseModel

from bilge_core.forecast.back_ups import AtLoad
from bilge_core.tell.numbers import SpacePoint, mm


class DrainStandsOut(BaseModel):
    """How oil stands in a drain under one load."""

    run: str
    there_mm: float
    needed_mm: float
    push_mm: float
    sealed: bool
    under_mm: float
    fill: list[float]


class AtLoadOut(BaseModel):
    """Drains under one steady load, at full power."""

    up: SpacePoint
    level_mm: float
    case_mbar: float
    stands: list[DrainStandsOut]


def at_load_out(at: AtLoad) -> AtLoadOut:
    """Drains under one load in millimetres."""
    x, y, z = at.up.round(4).tolist()
    return AtLoadOut(
        up=(x, y, z),
        level_mm=mm(at.level, 1),
        case_mbar=round(at.pressure / 100.0, 2),
        stands=[
            DrainStandsOut(
                run=drain.run, there_mm=mm(found.there, 1), needed_mm=mm(found.needed, 1),
                push_mm=mm(found.against_push, 1), sealed=found.sealed,
                under_mm=mm(at.level - float(drain.line.entry @ at.up), 1),
                fill=found.fill.round(2).tolist(),
            )
            for drain, found in at.stands
        ],
    )  # fmt: skip
