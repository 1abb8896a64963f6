"""Oil above the mark as a measured trial, as everybody reads it."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.options.overfill import LOOK_AT, STEP, OverfillStep


class OverfillStepOut(BaseModel):
    """One pour above the mark."""

    total_l: float
    crank_mm: float
    touches_s: float
    dry_s: float
    stop: str


class OverfillOut(BaseModel):
    """Oil above the mark as a measured trial."""

    step_l: float
    mark_l: float
    steps: list[OverfillStepOut]
    look_at: list[str]


def overfill_out(build: Build, steps: Sequence[OverfillStep]) -> OverfillOut:
    """The trial's plan as it is read."""
    return OverfillOut(
        step_l=STEP,
        mark_l=build.oil.mark_l or build.oil.volume_l,
        steps=[
            OverfillStepOut(
                total_l=round(each.total * 1e3, 2), crank_mm=round(each.crank * 1e3, 1),
                touches_s=round(each.touches, 1), dry_s=round(each.dry, 1), stop=each.stop,
            )
            for each in steps
        ],
        look_at=list(LOOK_AT),
    )  # fmt: skip
