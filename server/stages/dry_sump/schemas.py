"""What Dry sump is told."""

from __future__ import annotations

from bilge_core.tell.checks import CheckOut
from bilge_core.tell.dry_sump import DryOverLapOut, DrySumpOut
from ninja import Schema


class DrySumpStageOut(Schema):
    """A build's dry sump as it stands; `dry` is null while it is wet."""

    state: int
    has_lap: bool
    lap_name: str | None
    dry: DrySumpOut | None
    moving: DryOverLapOut | None
    """By its own run in moving oil; null until there is one."""
    checks: list[CheckOut]
    words: str
    """What the figures rest on."""
