"""The shelf as it crosses the boundary."""

from __future__ import annotations

from datetime import datetime

from bilge_core.tell.drawing import MouthOut, SectionOut, SurfaceOut
from bilge_core.tell.verdict import VerdictOut
from builds.schemas import Part
from ninja import Schema


class ShelfOut(Schema):
    """A build on the shelf, with a small side section."""

    id: int
    name: str
    lap_name: str | None
    """The lap over which it does worst."""
    laps: int
    """How many it is judged by."""
    changed_at: datetime
    invented: list[Part]
    verdict: VerdictOut
    side: SectionOut | None
    mouth: MouthOut | None
    standing: SurfaceOut | None
