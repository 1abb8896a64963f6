"""A lap to look at: words, line, corners, g-g cloud and what it holds in each direction."""

from __future__ import annotations

import math

import numpy as np
from accounts.models import Workshop
from bilge_core.loads.corners import Corner
from bilge_core.loads.envelope import held_loads
from bilge_core.loads.facts import log_facts
from bilge_core.loads.line import driven_line, thinned_line
from bilge_core.loads.log import Log
from bilge_core.physics.gravity import STANDARD_GRAVITY

from loads.models import Lap
from loads.schemas import HeldLoadsOut, LapCornerOut, LapDetailOut
from loads.selectors import lap_of
from loads.services import corners_of, log_of

_CLOUD_POINTS = 1200


def _corner(corner: Corner, log: Log, line: np.ndarray) -> LapCornerOut:
    inside = np.flatnonzero((log.time >= corner.start) & (log.time <= corner.end))
    apex = int(inside[np.abs(log.leftward[inside]).argmax()])
    x, y = line[apex]
    return LapCornerOut(
        number=corner.number,
        name=corner.name,
        hand=corner.hand,
        start_s=round(corner.start, 2),
        end_s=round(corner.end, 2),
        peak_g=round(corner.peak_g, 3),
        apex_m=(round(float(x), 1), round(float(y), 1)),
    )


def _held(log: Log) -> HeldLoadsOut:
    held = held_loads(log)
    return HeldLoadsOut(
        thrown_deg=[round(math.degrees(angle), 3) for angle in held.thrown.tolist()],
        holds_s=held.holds.tolist(),
        load_g=held.load.round(3).tolist(),
    )


def _cloud(log: Log) -> list[tuple[float, float]]:
    """Side and fore g, thinned."""
    chosen = np.linspace(0, len(log.time) - 1, min(_CLOUD_POINTS, len(log.time))).astype(int)
    side, fore = (c[chosen] / STANDARD_GRAVITY for c in (log.leftward, log.forward))
    return [(round(float(s), 3), round(float(f), 3)) for s, f in zip(side, fore, strict=True)]


def lap_detail(workshop: Workshop, lap_id: int) -> LapDetailOut:
    """Everything about a lap for the Loads screen.

    Raises
    ------
    NotFound
    """
    lap: Lap = lap_of(workshop, lap_id)
    log = log_of(lap)
    facts = log_facts(log)
    line = driven_line(log)
    return LapDetailOut(
        id=lap.pk,
        name=lap.name,
        file_name=lap.file_name,
        duration_s=lap.duration_s,
        made_at=lap.made_at,
        sentences=list(facts.sentences),
        doubts=list(facts.doubts),
        line_m=thinned_line(log),
        corners=[_corner(corner, log, line) for corner in corners_of(lap, log)],
        corners_edited=lap.corners is not None,
        cloud_g=_cloud(log),
        held=_held(log),
        has_vertical=log.upward is not None,
        from_gps=log.place is not None,
    )
