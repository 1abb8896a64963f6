"""The whole forecast of a build over a lap, in moving oil."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.dips import DryTime, find_dips
from bilge_core.forecast.pressure import PressureOverLap, find_pressure_dips
from bilge_core.forecast.verdict import Verdict, give_verdict
from bilge_core.forecast.windage import Windage, find_windage
from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.log import Log, at_times
from bilge_core.moving import Fineness
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil, crank_sweep, wetting_of
from bilge_core.moving.seen import MOUTHS, RATE, TANK, LookAt, MouthOverLap, MovingLap
from bilge_core.network import GUESSES
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.arrays import Array
from bilge_core.rules.air import SHORTEST_DIP

_NAMES = {
    "quick": "Moving oil, coarse cells",
    "bench": "Moving oil, cells of 10 mm",
    "fine": "Moving oil, cells of 8 mm",
}
_KEPT_TO = {"quick": ": dry time to about 0.1 s a manoeuvre", "bench": "", "fine": ""}


def moving_name(fineness: Fineness) -> str:
    """The model's name.

    Examples
    --------
    >>> moving_name("quick")
    'Moving oil, coarse cells'
    """
    return _NAMES[fineness]


def moving_note(fineness: Fineness) -> str:
    """What this model is and leaves out, as it is said beside every figure of it.

    Examples
    --------
    >>> moving_note("fine").partition(". ")[2]
    'The crank stands still in it; what it throws is told beside, an estimate.'
    """
    return (
        f"{moving_name(fineness)}, with pump, gallery and heads{_KEPT_TO[fineness]}."
        " The crank stands still in it; what it throws is told beside, an estimate."
    )


@dataclass(frozen=True)
class MouthForecast:
    """What a lap does to one mouth.

    name : by its place, as a run knows it
    dry_time : DryTime
    least_cover : float [m]
    least_cover_at : float [s]
    """

    name: str
    dry_time: DryTime
    least_cover: float
    least_cover_at: float


@dataclass(frozen=True)
class MovingForecast:
    """What a lap does to a build, its oil in motion.

    pan : Pan
    log : Log, one sample a look
    corners : tuple of Corner
    lap : MovingLap
    mouths : tuple of MouthForecast, the one that feeds the gallery first
    pressure : PressureOverLap
    verdict : Verdict
    fineness : quick, bench or fine
    seed : of the start
    windage : of the crank; None where its place is not known, or after under a second
    """

    pan: Pan
    log: Log
    corners: tuple[Corner, ...]
    lap: MovingLap
    mouths: tuple[MouthForecast, ...]
    pressure: PressureOverLap
    verdict: Verdict
    fineness: Fineness
    seed: int
    windage: Windage | None = None

    @property
    def mouth(self) -> MouthForecast:
        """The one that feeds the gallery: the verdict is of it."""
        return self.mouths[0]

    @property
    def dry_time(self) -> DryTime:
        """Of the mouth that feeds the gallery."""
        return self.mouth.dry_time

    @property
    def least_cover(self) -> float:
        """Of that mouth [m]."""
        return self.mouth.least_cover

    @property
    def least_cover_at(self) -> float:
        """[s]"""
        return self.mouth.least_cover_at

    @property
    def gas_share(self) -> Array:
        """Of what that mouth draws, shape (n,)."""
        return self.lap.mouth.gas_share


def _of_mouth(seen: Log, over: MouthOverLap, corners: tuple[Corner, ...]) -> MouthForecast:
    least = int(np.argmin(over.cover))
    dry_time = find_dips(seen, over.cover, over.gas_share, corners, SHORTEST_DIP.least)
    return MouthForecast(over.name, dry_time, float(over.cover[least]), float(seen.time[least]))


def judge_lap(
    pan: Pan,
    log: Log,
    lap: MovingLap,
    corners: tuple[Corner, ...],
    fineness: Fineness,
    seed: int,
    band: tuple[Array, Array] | None = None,
) -> MovingForecast:
    """Dips and verdict of a lap in moving oil, or of as much of it as has been run."""
    seen = at_times(log, lap.time)
    mouths = tuple(_of_mouth(seen, each, corners) for each in lap.mouths)
    pressure = find_pressure_dips(seen, lap.pressure, lap.usual, corners, band)
    feeds = "tank's outlet" if mouths[0].name == TANK else MOUTHS[0]
    verdict = give_verdict(mouths[0].dry_time, mouths[0].least_cover, pressure, feeds)
    return MovingForecast(pan, seen, corners, lap, mouths, pressure, verdict, fineness, seed)


def _windage(build: Build, judged: MovingForecast) -> Windage | None:
    sweep = crank_sweep(build)
    if sweep is None:
        return None
    heavy = wetting_of(build).density
    reached, speed = judged.lap.crank, judged.log.engine_speed
    return find_windage(reached, speed, sweep.radius, heavy, 1.0 / RATE)


def forecast_moving(
    build: Build,
    log: Log,
    fineness: Fineness = "quick",
    corners: tuple[Corner, ...] | None = None,
    seed: int = 0,
    watch: Callable[[LookAt], None] | None = None,
    record: Callable[[bytes], None] | None = None,
) -> MovingForecast:
    """Forecast a lap in moving oil.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared: see `bilge_core.loads.log.prepare`.
    fineness : quick, bench or fine
    corners : tuple of Corner, optional
        By which the dips are told; found in the log when not given.
    seed : int
        Starts with different seeds differ a little.
    watch : callable, optional
        Is shown each look as it is had; what it raises ends the run.
    record : callable, optional
        Is given the frames of the whole lap, see `bilge_core.moving.record`.

    Returns
    -------
    MovingForecast

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.
    InvalidQuantity
        If the log has fewer than two samples.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin-deeper.json").read_text())
    >>> standing = Log(np.arange(0.0, 0.5, 0.02), *np.zeros((4, 25)))
    >>> forecast_moving(build, standing).verdict.state
    'sound'
    """
    pan = assemble_pan(build)
    oil = MovingOil(build, pan, log, RESOLUTIONS[fineness], seed)
    frames = None if record is None else oil.frame_writer()
    looks = []
    for look in oil.run(frames):
        looks.append(look)
        if watch is not None:
            watch(look)
    if frames is not None and record is not None:
        record(frames.finish())
    corners = find_corners(log) if corners is None else corners
    lap = oil.lap(looks)
    slip = GUESSES["sealing_oil"]
    band = oil.slipping(lap, slip.low), oil.slipping(lap, slip.high)
    judged = judge_lap(pan, log, lap, corners, fineness, seed, band)
    return replace(judged, windage=_windage(build, judged))


@dataclass(frozen=True)
class Spread:
    """Starts that differ a little, and what they have in common.

    dry : dry time of each start [s]
    under : time of each in pressure dips [s]
    mean, deviation : of the dry time [s]; the deviation is that of the sample, nil for one start
    """

    dry: tuple[float, ...]
    under: tuple[float, ...]
    mean: float
    deviation: float

    @property
    def holds(self) -> bool:
        """No start has a pressure dip."""
        return max(self.under) == 0.0


def spread_of_starts(dry: Sequence[float], under: Sequence[float]) -> Spread:
    """Dry times and times in pressure dips of several starts [s], in the same order.

    Raises
    ------
    InvalidQuantity
        If there are none, or not as many of each.

    Examples
    --------
    >>> spread = spread_of_starts([1.0, 1.2], [0.0, 0.3])
    >>> spread.mean, spread.holds
    (1.1, False)
    """
    if not dry or len(dry) != len(under):
        raise InvalidQuantity("starts", f"{len(dry)} and {len(under)}", "one or more, each both")
    values = np.array(dry)
    deviation = float(values.std(ddof=1)) if len(values) > 1 else 0.0
    return Spread(tuple(dry), tuple(under), float(values.mean()), deviation)
