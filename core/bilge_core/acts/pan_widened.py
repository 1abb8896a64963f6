"""A pickup somewhere else, a side box on the sump, and the oil that goes with it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, build_with
from bilge_core.acts.names import free_name
from bilge_core.acts.plumbing import refused
from bilge_core.acts.round_mouth import room_at_mouth
from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.pan import assemble_pan, hot_oil, level_of_volume, volume_below
from bilge_core.physics.axes import standing_up

_CEILING = 0.5  # of the sump's depth, where a side box ends above (ours)


class MovePickup(Act):
    """The mouth somewhere else in the sump, its gap kept; the tube is made to reach it."""

    kind: Literal["move_pickup"]
    ahead_mm: Length = 0.0
    left_mm: Length = 0.0

    @override
    def done(self, build: Build) -> Done:
        if not (self.ahead_mm or self.left_mm):
            raise refused("ahead_mm", "must move the mouth somewhere: both are nil")
        document = build.model_dump(mode="json")
        self._open_over(document)
        document["pickup"]["x_mm"] += self.ahead_mm
        document["pickup"]["y_mm"] += self.left_mm
        ways = [
            f"{abs(by):.0f} mm {ahead if by > 0.0 else back}"
            for by, ahead, back in (
                (self.ahead_mm, "ahead", "back"), (self.left_mm, "to the left", "to the right"),
            )
            if by
        ]  # fmt: skip
        return Done(build_with(build, document), f"pickup moved {' and '.join(ways)}")

    def _open_over(self, document: Document) -> None:
        """What is open over the mouth in a level plate or a lid goes with it."""
        x, y = document["pickup"]["x_mm"], document["pickup"]["y_mm"]
        for plate in document["pan"]["plates"]:
            for hatch in plate["openings"] if plate["kind"] == "horizontal" else []:
                beside = abs(hatch["x_mm"] - x), abs(hatch["y_mm"] - y)
                if beside[0] <= 0.5 * hatch["length_mm"] and beside[1] <= 0.5 * hatch["width_mm"]:
                    hatch["x_mm"] += self.ahead_mm
                    hatch["y_mm"] += self.left_mm


class KickOut(Act):
    """A side box on the sump, as deep as it, closed above."""

    kind: Literal["kick_out"]
    side: Literal["left", "right"]
    width_mm: Typed = Field(le=300)

    @override
    def done(self, build: Build) -> Done:
        room = room_at_mouth(build)
        document = build.model_dump(mode="json")
        wall = room.left if self.side == "left" else room.right
        sign = 1.0 if self.side == "left" else -1.0
        there = next(
            (zone for zone in document["pan"]["zones"] if self._beside(zone, wall, sign)), None
        )
        if there is None:
            inset = 0.08 * (room.front - room.rear)
            rear, front = round(room.rear + inset, 1), round(room.front - inset, 1)
            outer = wall + sign * self.width_mm
            low, high = sorted((wall, outer))
            taken = {zone["name"] for zone in document["pan"]["zones"]}
            document["pan"]["zones"].append(
                {
                    "name": free_name(taken, f"{self.side} side box"),
                    "outline_mm": [(rear, low), (front, low), (front, high), (rear, high)],
                    "floor": {"kind": "flat", "depth_mm": room.depth},
                    "ceiling_depth_mm": float(round(_CEILING * room.depth)),
                }
            )
            words = f"side box of {self.said('width_mm')} on the {self.side}"
        else:
            there["outline_mm"] = [
                (x, y + sign * self.width_mm if sign * (y - wall) > 0.5 else y)
                for x, y in there["outline_mm"]
            ]
            words = f"{there['name']} {self.said('width_mm')} wider"
        return Done(build_with(build, document), words)

    @staticmethod
    def _beside(zone: Document, wall: float, sign: float) -> bool:
        """Whether a closed zone lies against that wall of the sump, outside it."""
        ys = [y for _, y in zone["outline_mm"]]
        near = min(ys) if sign > 0.0 else max(ys)
        return zone["ceiling_depth_mm"] is not None and abs(near - wall) < 0.5


def refill(before: Build, after: Build) -> float:
    """Oil to pour in so that it stands as high under the rail as before [L], cold as poured.

    Parameters
    ----------
    before, after : Build

    Returns
    -------
    float
        Total in the engine, to the hundredth.

    Notes
    -----
    The level is that of the car standing level, at the height it has under the rail.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.deepen import Spacer
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> refill(build, build), refill(build, Spacer(kind="spacer", by_mm=19).done(build).build) > 7.0
    (6.2, True)
    """
    up = standing_up(before.car)
    pans = assemble_pan(before), assemble_pan(after)
    stands = level_of_volume(pans[0].solid, up, pans[0].oil_volume)
    more = volume_below(pans[1].solid, up, stands) - pans[0].oil_volume
    return round(before.oil.volume_l + more * before.oil.volume_l / hot_oil(before), 2)


class Refill(Act):
    """Oil poured to a total, as after a change that holds more; the mark goes with it."""

    kind: Literal["refill"]
    to_l: Typed = Field(le=60)

    @override
    def done(self, build: Build) -> Done:
        document = build.model_dump(mode="json")
        more = round(self.to_l - build.oil.volume_l, 3)
        document["oil"]["volume_l"] = self.to_l
        if build.oil.mark_l is not None:
            document["oil"]["mark_l"] = max(0.0, round(build.oil.mark_l + more, 3))
        return Done(build_with(build, document), f"filled to {self.said('to_l', 'L')}")
