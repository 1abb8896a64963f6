"""The pan begun anew from a scan: zones with surfaces for floors in place of those there are."""

from __future__ import annotations

from typing import Literal

import numpy as np
import shapely
from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, build_with
from bilge_core.acts.reshape import without_the_old_pan
from bilge_core.document.build import Build
from bilge_core.document.floors import SurfaceFloor
from bilge_core.document.ids import Document
from bilge_core.document.pan import Zone
from bilge_core.errors import InvalidInput, Problem


class PanFromScan(Act):
    """A scanned pan. Plates, bosses and marks of the old one go; the mouth stays where it can.

    Zones are as a scan gives them: see `bilge_core.tell.scanned`.
    """

    kind: Literal["pan_from_scan"]
    zones: list[Zone] = Field(min_length=1, max_length=12)

    @override
    def done(self, build: Build) -> Done:
        document = without_the_old_pan(build)
        document["pan"]["zones"] = [
            {**zone.model_dump(mode="json"), "id": ""} for zone in self.zones
        ]
        words = f"pan from a scan, {self._pieces()} pieces of floor"
        try:
            return Done(build_with(build, document), words)
        except InvalidInput as error:
            if not all(each.field.startswith("pickup.") for each in error.problems):
                raise
        self._move_the_mouth(document)
        made = build_with(build, document)
        return Done(made, f"{words}, the mouth moved to where it is deepest")

    def _pieces(self) -> int:
        return sum(
            len(zone.floor.triangles) for zone in self.zones if isinstance(zone.floor, SurfaceFloor)
        )

    def _move_the_mouth(self, document: Document) -> None:
        """To the deepest piece of floor that is far enough from every wall.

        Raises
        ------
        InvalidInput
            If it fits nowhere.
        """
        mouth = document["pickup"]["mouth"]
        reach = max(v for key, v in mouth.items() if key.endswith("_mm")) * 0.5 + 2.0
        inside = shapely.union_all([zone.polygon for zone in self.zones]).buffer(-reach)
        best, place = -1.0, None
        for zone in self.zones:
            if not isinstance(zone.floor, SurfaceFloor):
                continue
            corners = np.array(zone.floor.places_mm)
            for row in zone.floor.triangles:
                middle = corners[list(row)].mean(axis=0)
                if middle[2] > best and inside.covers(shapely.Point(middle[:2])):
                    best, place = float(middle[2]), middle
        if place is None:
            words = "must be smaller: this pan is nowhere wide enough for it"
            raise InvalidInput([Problem("pickup.mouth", words)])
        document["pickup"] |= {"x_mm": round(float(place[0]), 1), "y_mm": round(float(place[1]), 1)}
