"""A box of upright plates round the pickup, with gates that let oil in and not out."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, build_with
from bilge_core.acts.names import free_name
from bilge_core.acts.plumbing import refused
from bilge_core.acts.round_mouth import LEAK, Room, opening_for, room_at_mouth
from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.document.plates import VerticalPlate

_BESIDE = 86.0  # [mm] from the mouth's middle to a wall of the box (ours)
_LEAST = 30.0  # [mm] from the mouth's edge to a wall of the box, else there is no box (ours)
_TOP = 0.48  # of the depth under the rail, where the box ends (ours)
_GATE = (60.0, 36.0)  # [mm] width and height of a gate, less where the box is smaller (ours)
_OFF_FLOOR = 2.0  # [mm] a gate's lower edge
OFF_WALL = 24.0
"""[mm] that the box stays off the pan's walls, for oil to reach the gates (ours)."""
Side = Literal["rear", "right", "left", "front"]
SIDES: dict[int, tuple[Side, ...]] = {
    2: ("right", "left"),
    3: ("rear", "right", "left"),
    4: ("rear", "right", "left", "front"),
}
"""Where so many gates are hung: across first, then toward the shelf."""


class FitGates(Act):
    """A box round the pickup with two to four gates, open above or with a lid.

    Common practice, no published source: gates swing toward the pickup only; rubber seals well and
    ages, metal lasts and seals less. A lid keeps the oil from climbing out.
    """

    kind: Literal["fit_gates"]
    gates: Literal[2, 3, 4] = 3
    leaf: Literal["rubber", "metal"] = "rubber"
    lid: bool = True
    top_depth_mm: Length | None = Field(default=None, description="null: half way up the sump")
    beside_mm: Length = Field(
        default=_BESIDE, description="from the mouth's middle to a wall, less where there is none"
    )

    @override
    def done(self, build: Build) -> Done:
        if any(isinstance(each, VerticalPlate) for each in build.pan.plates):
            raise refused("kind", "needs a pan without upright plates; there are some already")
        room = room_at_mouth(build)
        box = _box(build, room, self.beside_mm)
        top = self.top_depth_mm or round(_TOP * room.depth)
        if not 0.0 < top < room.depth - 20.0:
            raise refused("top_depth_mm", f"must be above 0 and under {room.depth - 20.0:.0f} mm")
        taken = {each.name for each in build.pan.plates}
        document = build.model_dump(mode="json")
        shelf = "front" if room.front - box.front > box.rear - room.rear else "rear"
        gated = [shelf if s == "rear" and self.gates == 3 else s for s in SIDES[self.gates]]
        for side in ("rear", "right", "left", "front"):
            plate = self._wall(box, side, free_name(taken, f"{side} wall"), top, side in gated)
            taken.add(plate["name"])
            document["pan"]["plates"].append(plate)
        if self.lid:
            lid = _lid(build, box, top, free_name(taken, "lid"))
            document["pan"]["plates"].append(lid)
        cover = "and a lid " if self.lid else ""
        words = f"plates, {self.gates} gates of {self.leaf} {cover}round the pickup"
        return Done(build_with(build, document), words)

    def _wall(self, box: Room, side: Side, name: str, top: float, gated: bool) -> Document:
        """One wall; walked so that the mouth is on its right hand."""
        corners: dict[Side, tuple[tuple[float, float], tuple[float, float]]] = {
            "rear": ((box.rear, box.right), (box.rear, box.left)),
            "left": ((box.rear, box.left), (box.front, box.left)),
            "front": ((box.front, box.left), (box.front, box.right)),
            "right": ((box.front, box.right), (box.rear, box.right)),
        }
        start, end = corners[side]
        length = abs(end[0] - start[0]) + abs(end[1] - start[1])
        plate: Document = {
            "kind": "vertical", "name": name, "from_mm": start, "to_mm": end, "top_depth_mm": top,
            "bottom_depth_mm": None, "openings": [],
        }  # fmt: skip
        if gated:
            width = min(_GATE[0], round(0.5 * length))
            height = min(_GATE[1], round(0.6 * (box.depth - top)))
            plate["openings"] = [
                {
                    "name": f"{side} gate",
                    "from_start_mm": round((length - width) / 2.0, 1),
                    "width_mm": width,
                    "lower_depth_mm": box.depth - _OFF_FLOOR,
                    "height_mm": height,
                    "gate": {"swings": "right", "leaf": self.leaf, "leak_pct": LEAK[self.leaf]},
                }
            ]
        return plate


def _box(build: Build, room: Room, beside: float) -> Room:
    """The box's walls, off the pan's own."""
    x, y = build.pickup.x_mm, build.pickup.y_mm
    half = build.pickup.mouth.half_mm
    box = Room(
        round(max(x - beside, room.rear + OFF_WALL), 1),
        round(min(x + beside, room.front - OFF_WALL), 1),
        round(max(y - beside, room.right + OFF_WALL), 1),
        round(min(y + beside, room.left - OFF_WALL), 1),
        room.depth,
    )
    near = min(x - box.rear - half[0], box.front - x - half[0])
    near = min(near, y - box.right - half[1], box.left - y - half[1])
    least = max(half) + _LEAST - OFF_WALL
    if beside < least:
        raise refused("beside_mm", f"must be {least:.0f} mm or more, clear of the mouth")
    if near < _LEAST - OFF_WALL:
        raise refused(
            "kind",
            f"has no room: the mouth stands within {_LEAST:.0f} mm of the sump's wall, and a box "
            "needs a way for oil to its gates",
        )
    return box


def _lid(build: Build, box: Room, depth: float, name: str) -> Document:
    """A level plate over the box, open over the mouth."""
    side = min(opening_for(build), box.front - box.rear - 10.0, box.left - box.right - 10.0)
    x = min(max(build.pickup.x_mm, box.rear + side / 2 + 2), box.front - side / 2 - 2)
    y = min(max(build.pickup.y_mm, box.right + side / 2 + 2), box.left - side / 2 - 2)
    return {
        "kind": "horizontal", "name": name, "depth_mm": depth, "role": "baffle", "open_pct": 0.0,
        "outline_mm": [
            (box.rear, box.right), (box.front, box.right),
            (box.front, box.left), (box.rear, box.left),
        ],
        "openings": [
            {"name": "pickup", "x_mm": x, "y_mm": y, "length_mm": side, "width_mm": side}
        ],
    }  # fmt: skip
