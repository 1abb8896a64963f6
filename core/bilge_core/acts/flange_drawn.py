"""A flange drawn elsewhere, and a pan begun with its opening for a rail."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, build_with
from bilge_core.acts.plumbing import refused
from bilge_core.acts.reshape import without_the_old_pan
from bilge_core.document.build import Build
from bilge_core.document.fitted import MOST_BOLTS, BoltHole, farthest_apart
from bilge_core.document.parts import Coordinate
from bilge_core.rules.making import fault_of_scale

Ring = list[tuple[Coordinate, Coordinate]]


class FlangeDrawn(Act):
    """The flange as it is drawn; with a rail and a depth the pan is begun anew inside it."""

    kind: Literal["flange_drawn"]
    outline_mm: Ring = Field(min_length=3, max_length=400)
    bolts: list[BoltHole] = Field(default=[], max_length=MOST_BOLTS)
    thickness_mm: Typed = 6.0
    rail_mm: Ring | None = Field(default=None, min_length=3, max_length=200)
    depth_mm: Typed | None = Field(default=None, le=600)
    measured_mm: Typed | None = Field(
        default=None, le=3000, description="between its two farthest bolts, on the engine"
    )

    @override
    def done(self, build: Build) -> Done:
        self._hold_scale()
        document = build.model_dump(mode="json")
        words = f"flange from a drawing, {len(self.bolts)} holes"
        if self.rail_mm is not None:
            if self.depth_mm is None:
                raise refused("depth_mm", "must be said of a pan that is begun with this rail")
            document = without_the_old_pan(build)
            document["pan"]["zones"] = [
                {"name": "pan", "outline_mm": [list(each) for each in self.rail_mm],
                 "floor": {"kind": "flat", "depth_mm": self.depth_mm}}
            ]  # fmt: skip
            document["pickup"] |= dict(zip(("x_mm", "y_mm"), self._middle(), strict=True))
            words = f"{words}; pan begun inside it, {self.said('depth_mm')} deep"
        document["pan"]["flange"] = {
            "outline_mm": [list(each) for each in self.outline_mm],
            "thickness_mm": self.thickness_mm,
            "bolts": [each.model_dump(mode="json") for each in self.bolts],
        }
        return Done(build_with(build, document), words)

    def _hold_scale(self) -> None:
        if self.measured_mm is None:
            return
        far = farthest_apart(self.bolts)
        if far is None:
            raise refused("measured_mm", "is of two bolts, and the drawing has not as many")
        fault = fault_of_scale(far[2], self.measured_mm)
        if fault is not None:
            raise refused("measured_mm", fault)

    def _middle(self) -> tuple[float, float]:
        assert self.rail_mm is not None
        xs, ys = ([each[axis] for each in self.rail_mm] for axis in (0, 1))
        return round(0.5 * (min(xs) + max(xs)), 1), round(0.5 * (min(ys) + max(ys)), 1)
