"""What is lost when a scavenge stage is blocked: the lap again without it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.loads.log import Log
from bilge_core.pan.assembly import Pan
from bilge_core.scavenge.lap import dry_lap
from bilge_core.scavenge.stages import scavenged


@dataclass(frozen=True)
class Lost:
    """A lap with one stage blocked, in settled oil.

    component, name : of the stage
    left : most that lies in the pan [m3]
    least_cover : over the tank's outlet [m]
    bare_after : from the lap's start until that outlet is bare [s]; None: it stays covered
    thrown_out : oil that neither pan nor tank had room for [m3]
    """

    component: str
    name: str
    left: float
    least_cover: float
    bare_after: float | None
    thrown_out: float


def without_each_stage(build: Build, pan: Pan, log: Log) -> tuple[Lost, ...]:
    """The lap without each of the stages that draw from the pan, one at a time.

    Parameters
    ----------
    build : Build
        With a tank.
    pan : Pan
        As assembled from it.
    log : Log
        Prepared.

    Returns
    -------
    tuple of Lost
        In the circuit's order.

    Raises
    ------
    InvalidInput
        If a mouth is outside the pan, or no stage draws from it.

    Notes
    -----
    A stage whose inlet is blocked, by a rag, a sheet of gasket or a collapsed hose, sweeps nothing;
    the others go on. A belt that is thrown stops all of them and the pressure stage with them:
    there is nothing to work out, the gallery has no feed.
    """
    stages, _ = scavenged(build, pan)
    found = []
    for stage in stages:
        if not stage.mouths:
            continue
        lap = dry_lap(build, pan, log, blocked=stage.component)
        bare = np.flatnonzero(lap.cover <= 0.0)
        after = float(lap.time[bare[0]] - lap.time[0]) if bare.size else None
        found.append(
            Lost(
                stage.component, stage.name, float(lap.in_pan.max()), float(lap.cover.min()),
                after, lap.lost,
            )
        )  # fmt: skip
    return tuple(found)
