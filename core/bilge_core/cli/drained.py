"""What ``bilge check`` says of the lines that drain by gravity."""

from __future__ import annotations

from bilge_core.document.build import Build
from bilge_core.drains.laid import drains_of
from bilge_core.forecast.back_ups import forecast_drains
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log
from bilge_core.tell.drains_verdict import drains_verdict
from bilge_core.tell.verdict import DrainsVerdict


def drained(build: Build, log: Log) -> DrainsVerdict | None:
    """What a build's drains do over a lap, on settled oil; None where nothing drains by a line.

    Raises
    ------
    InvalidInput
        If they cannot be laid out.
    """
    found = drains_of(build)
    if not (found.placed or found.unplaced or found.pulled):
        return None
    return drains_verdict(forecast_drains(build, log, find_corners(log)))


def drained_line(drains: DrainsVerdict) -> str:
    """The same in a line.

    Examples
    --------
    >>> drained_line(DrainsVerdict(state="bad", spare_mm=-27, name="turbo drain", unplaced=0,
    ...                            sentence="The turbo drain backs up: 27 mm short."))
    'Drains, on settled oil: not safe. The turbo drain backs up: 27 mm short.'
    """
    words = {"bad": "not safe", "good": "sound", "none": "not told"}.get(drains.state, drains.state)
    return f"Drains, on settled oil: {words}. {drains.sentence}".rstrip()
