"""Single plates: a level one over the sump, upright ones beside the mouth, a windage tray."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, build_with
from bilge_core.acts.names import free_name
from bilge_core.acts.plumbing import refused
from bilge_core.acts.round_mouth import LEAK, opening_for, room_at_mouth
from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.rules.crank import TRAY

_LEVEL = 0.62  # of the sump's depth: about where the oil stands (ours)
_OFF_WALL = 1.0  # [mm] a plate ends off the walls, fitted by hand (ours)
_BESIDE = 62.0  # [mm] from the mouth's middle to a side plate (ours)
_SLOT = (50.0, 30.0)  # [mm] of the opening low in a side plate (ours)
_TOP = 0.45  # of the sump's depth, where a side plate ends (ours)
_OVER_SLOT = 10.0  # [mm] of plate that stays over its opening (ours)
_TRAY_OFF = 6.0  # [mm] a tray clears the crank's sweep by, twice what the rule asks (ours)
_TRAY_OPEN = 35.0  # [%] of a tray's area: louvres (ours)


def _level(name: str, build: Build, depth: float, side: float) -> Document:
    room = room_at_mouth(build)
    return {
        "kind": "horizontal", "name": name, "depth_mm": depth, "role": "baffle", "open_pct": 0.0,
        "outline_mm": [
            (room.rear, room.right), (room.front, room.right),
            (room.front, room.left), (room.rear, room.left),
        ],
        "openings": [
            {
                "name": "pickup", "x_mm": build.pickup.x_mm, "y_mm": build.pickup.y_mm,
                "length_mm": side, "width_mm": side,
            }
        ],
    }  # fmt: skip


class FitLevelPlate(Act):
    """A level plate over the sump, open only over the mouth.

    Common practice, no published source: at about the oil's level, open only at the pickup.
    """

    kind: Literal["fit_level_plate"]
    depth_mm: Length | None = Field(default=None, description="under the rail; null: Bilge's own")
    opening_mm: Length | None = Field(
        default=None, description="side of the square over the mouth; null: what the pump asks"
    )

    @override
    def done(self, build: Build) -> Done:
        if any(each.kind == "horizontal" and each.role == "baffle" for each in build.pan.plates):
            raise refused("kind", "needs a pan without a level plate or lid; there is one already")
        room = room_at_mouth(build)
        depth = self.depth_mm or float(round(_LEVEL * room.depth))
        side = self.opening_mm or opening_for(build)
        least = min(room.front - room.rear, room.left - room.right)
        if not 5.0 <= depth <= room.depth - 10.0:
            raise refused("depth_mm", f"must be 5 to {room.depth - 10.0:.0f} mm under the rail")
        if not 10.0 <= side < least:
            raise refused("opening_mm", f"must be 10 to {least:.0f} mm, the sump's width")
        document = build.model_dump(mode="json")
        taken = {each.name for each in build.pan.plates}
        document["pan"]["plates"].append(
            _level(free_name(taken, "level plate"), build, depth, side)
        )
        words = f"level plate {depth:.0f} mm under the rail, open {side:.0f} mm over the pickup"
        return Done(build_with(build, document), words)


class FitSidePlates(Act):
    """Two upright plates along the sump, one on each side of the mouth, open low down.

    With gates, oil comes in and does not go out again.
    """

    kind: Literal["fit_side_plates"]
    gated: bool = True
    leaf: Literal["rubber", "metal"] = "rubber"
    beside_mm: Length = Field(default=_BESIDE, description="from the mouth's middle")
    top_depth_mm: Length | None = Field(
        default=None, description="under the rail; null: half way up the sump"
    )

    @override
    def done(self, build: Build) -> Done:
        if any(each.kind == "vertical" for each in build.pan.plates):
            raise refused("kind", "needs a pan without upright plates; there are some already")
        room = room_at_mouth(build)
        top = self.top_depth_mm or float(round(_TOP * room.depth))
        most = room.depth - _SLOT[1] - _OVER_SLOT
        if not 0.0 < top <= most:
            raise refused("top_depth_mm", f"must be above 0 and at most {most:.0f} mm")
        document = build.model_dump(mode="json")
        taken = {each.name for each in build.pan.plates}
        for hand, sign in (("right", -1.0), ("left", 1.0)):
            y = build.pickup.y_mm + sign * self.beside_mm
            if not room.right + 10.0 < y < room.left - 10.0:
                raise refused(
                    "beside_mm",
                    f"puts the {hand} plate within 10 mm of the sump's wall, or past it",
                )
            document["pan"]["plates"].append(
                self._plate(build, free_name(taken, f"{hand} plate"), y, sign, top)
            )
        gates = f" with a gate of {self.leaf} each" if self.gated else ""
        return Done(build_with(build, document), f"upright plates both sides of the pickup{gates}")

    def _plate(self, build: Build, name: str, y: float, sign: float, top: float) -> Document:
        """Walked so that the mouth is on its right hand."""
        room = room_at_mouth(build)
        ends = [(room.rear + _OFF_WALL, y), (room.front - _OFF_WALL, y)]
        start, end = ends if sign > 0.0 else ends[::-1]
        length = abs(end[0] - start[0])
        at = abs(build.pickup.x_mm - start[0]) - 0.5 * _SLOT[0]
        opening: Document = {
            "name": f"{name}'s opening",
            "from_start_mm": round(min(max(at, 1.0), length - _SLOT[0] - 1.0), 1),
            "width_mm": _SLOT[0],
            "lower_depth_mm": room.depth - 2.0,
            "height_mm": _SLOT[1],
        }
        if self.gated:
            opening["gate"] = {"swings": "right", "leaf": self.leaf, "leak_pct": LEAK[self.leaf]}
        return {
            "kind": "vertical", "name": name, "from_mm": start, "to_mm": end,
            "top_depth_mm": top, "bottom_depth_mm": None,
            "openings": [opening],
        }  # fmt: skip


class FitTray(Act):
    """A windage tray under the crank, over the whole pan, louvred.

    Common practice, no published source: close under the crank's sweep, and clear of it.
    """

    kind: Literal["fit_tray"]
    open_pct: float = Field(default=_TRAY_OPEN, ge=0, le=95)

    @override
    def done(self, build: Build) -> Done:
        crank = build.car.crank
        if crank is None:
            raise refused("kind", "needs the crank's sweep, under Car: a tray must clear it")
        if any(getattr(each, "role", "") == "windage_tray" for each in build.pan.plates):
            raise refused("kind", "is fitted already")
        depth = crank.swept_radius_mm - crank.height_mm + max(TRAY.least * 1e3, _TRAY_OFF)
        boxes = [zone.polygon.bounds for zone in build.pan.zones if zone.ceiling_depth_mm is None]
        rear, right = min(each[0] for each in boxes), min(each[1] for each in boxes)
        front, left = max(each[2] for each in boxes), max(each[3] for each in boxes)
        document = build.model_dump(mode="json")
        taken = {each.name for each in build.pan.plates}
        document["pan"]["plates"].append(
            {
                "kind": "horizontal", "name": free_name(taken, "windage tray"),
                "outline_mm": [(rear, right), (front, right), (front, left), (rear, left)],
                "depth_mm": round(depth, 1), "role": "windage_tray", "open_pct": self.open_pct,
                "openings": [],
            }
        )  # fmt: skip
        words = f"windage tray {depth:.0f} mm under the rail, {self.open_pct:.0f} % open"
        return Done(build_with(build, document), words)
