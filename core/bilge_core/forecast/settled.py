"""The whole forecast of a build over a lap, with the oil settling at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.forecast.dips import DryTime, find_dips
from bilge_core.forecast.verdict import Verdict, give_verdict
from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.log import Log
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_gravity
from bilge_core.settled import SettledLap, Surface, settle, settle_lap

_NOTE = (
    "Settled oil: it lies at once as each moment's load would have it. "
    "Moving oil lags and overshoots."
)
_PLATES_NOTE = " Plates and gates are drawn, but not felt by settled oil."


def circuit_note(build: Build) -> str:
    """What a forecast leaves out of a build's circuit; empty where it leaves out nothing new.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> circuit_note(read_build(Path("demo/dunlin.json").read_text()))
    ''
    """
    if not build.circuit.is_dry:
        return ""
    return (
        "A dry sump: judged by the tank's outlet. The tank's oil lies at once, and what the "
        "stages bring is there once it is through its lines."
    )


def feeding(build: Build) -> str:
    """What feeds the gallery, in words: the pickup, or a dry sump's tank.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> feeding(read_build(Path("demo/dunlin.json").read_text()))
    'pickup'
    """
    return "tank's outlet" if build.circuit.is_dry else "pickup"


def model_note(build: Build) -> str:
    """What this model leaves out, as it is said beside every figure of it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> gated = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> model_note(gated)[-20:]
    'felt by settled oil.'
    """
    return _NOTE + (_PLATES_NOTE if build.pan.plates else "")


@dataclass(frozen=True)
class SettledForecast:
    """What a lap does to a build.

    pan : Pan
    log : Log, as prepared
    corners : tuple of Corner
    lap : SettledLap
    dry_time : DryTime
    verdict : Verdict
    standing : Surface, with the car at rest on level ground
    least_cover : float, over the lap [m]
    least_cover_at : float [s]
    """

    pan: Pan
    log: Log
    corners: tuple[Corner, ...]
    lap: SettledLap
    dry_time: DryTime
    verdict: Verdict
    standing: Surface
    least_cover: float
    least_cover_at: float

    @property
    def gas_share(self) -> Array:
        """Of what the mouth draws, shape (n,)."""
        return self.lap.gas_share


def forecast_settled(
    build: Build, log: Log, corners: tuple[Corner, ...] | None = None
) -> SettledForecast:
    """Forecast a lap.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared: see `bilge_core.loads.log.prepare`.
    corners : tuple of Corner, optional
        By which the dips are told; found in the log when not given.

    Returns
    -------
    SettledForecast

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin-deeper.json").read_text())
    >>> standing = Log(np.arange(30.0), *np.zeros((4, 30)))
    >>> forecast_settled(build, standing).verdict.state
    'sound'
    """
    pan = assemble_pan(build)
    corners = find_corners(log) if corners is None else corners
    lap = settle_lap(pan, build, log)
    dry_time = find_dips(log, lap.cover, lap.gas_share, corners)
    least = int(np.argmin(lap.cover))
    least_cover = float(lap.cover[least])
    return SettledForecast(
        pan,
        log,
        corners,
        lap,
        dry_time,
        give_verdict(dry_time, least_cover, mouth=feeding(build)),
        settle(pan, standing_gravity(build.car)),
        least_cover,
        float(log.time[least]),
    )
