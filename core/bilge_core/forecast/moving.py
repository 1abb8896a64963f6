"""The whole forecast of a build over a lap, in moving oil."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.dips import DryTime, find_dips
from bilge_core.forecast.verdict import Verdict, give_verdict
from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.log import Log
from bilge_core.moving import Fineness
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import LookAt, MovingLap, MovingOil
from bilge_core.moving.record import FrameWriter
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
    >>> moving_note("fine")
    'Moving oil, cells of 8 mm. The crank stands still, and so does the air it drives.'
    """
    return (
        f"{moving_name(fineness)}{_KEPT_TO[fineness]}."
        " The crank stands still, and so does the air it drives."
    )


@dataclass(frozen=True)
class MovingForecast:
    """What a lap does to a build, its oil in motion.

    pan : Pan
    log : Log, one sample a look
    corners : tuple of Corner
    lap : MovingLap
    dry_time : DryTime
    verdict : Verdict
    least_cover : float [m]
    least_cover_at : float [s]
    fineness : quick, bench or fine
    seed : of the start
    """

    pan: Pan
    log: Log
    corners: tuple[Corner, ...]
    lap: MovingLap
    dry_time: DryTime
    verdict: Verdict
    least_cover: float
    least_cover_at: float
    fineness: Fineness
    seed: int


def at_times(log: Log, time: Array) -> Log:
    """A log's channels at other times [s], drawn straight between its samples.

    Examples
    --------
    >>> log = Log(np.arange(3.0), *np.zeros((4, 3)))
    >>> at_times(log, np.array([0.5, 1.5])).time.tolist()
    [0.5, 1.5]
    """

    def there(channel: Array | None) -> Array | None:
        return None if channel is None else np.interp(time, log.time, channel)

    place = log.place
    if place is not None:
        place = np.column_stack([np.interp(time, log.time, place[:, axis]) for axis in (0, 1)])
    return replace(
        log,
        time=time,
        speed=np.interp(time, log.time, log.speed),
        forward=np.interp(time, log.time, log.forward),
        leftward=np.interp(time, log.time, log.leftward),
        engine_speed=np.interp(time, log.time, log.engine_speed),
        upward=there(log.upward),
        place=place,
        oil_pressure=there(log.oil_pressure),
        oil_temperature=there(log.oil_temperature),
    )


def judge_lap(
    pan: Pan,
    log: Log,
    lap: MovingLap,
    corners: tuple[Corner, ...],
    fineness: Fineness,
    seed: int,
) -> MovingForecast:
    """Dips and verdict of a lap in moving oil, or of as much of it as has been run."""
    seen = at_times(log, lap.time)
    dry_time = find_dips(seen, lap.cover, lap.gas_share, corners, SHORTEST_DIP.least)
    least = int(np.argmin(lap.cover))
    cover = float(lap.cover[least])
    return MovingForecast(
        pan, seen, corners, lap, dry_time, give_verdict(dry_time, cover), cover,
        float(lap.time[least]), fineness, seed,
    )  # fmt: skip


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
    frames = None if record is None else FrameWriter(oil.coupled.oil.domain)
    looks = []
    for look in oil.run(frames):
        looks.append(look)
        if watch is not None:
            watch(look)
    if frames is not None and record is not None:
        record(frames.finish())
    corners = find_corners(log) if corners is None else corners
    return judge_lap(pan, log, oil.lap(looks), corners, fineness, seed)


@dataclass(frozen=True)
class Spread:
    """Dry time over starts that differ a little.

    dry : of each start [s]
    mean, deviation : [s]; the deviation is that of the sample, nil for one start
    """

    dry: tuple[float, ...]
    mean: float
    deviation: float


def dry_time_spread(dry_times: list[float]) -> Spread:
    """Mean and spread of dry times [s].

    Raises
    ------
    InvalidQuantity
        If there are none.

    Examples
    --------
    >>> dry_time_spread([1.0, 1.2]).mean
    1.1
    """
    if not dry_times:
        raise InvalidQuantity("dry times", "none", "of at least one start")
    values = np.array(dry_times)
    deviation = float(values.std(ddof=1)) if len(values) > 1 else 0.0
    return Spread(tuple(dry_times), float(values.mean()), deviation)
