"""What too little pressure resembles: oil that leaves the mouth, or air drawn in on the way."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.forecast.pressure import find_pressure_dips
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules.gallery import ENGINE_RUNS
from bilge_core.rules.logger import MAYBE_SHORT, SHORT_ON_STRAIGHTS, STRAIGHT_ON

Looks = Literal["slosh", "speed", "both", "nothing", "cannot_tell"]

_LIES_STILL = 1.5  # [s] of straight running after which the mouth is covered (ours)
_BAND = speed_of_rpm(400.0)  # [rad/s] (ours)
_FEWEST = 20  # readings in a band of speeds (ours)
_LEAST_BANDS = 2


@dataclass(frozen=True)
class Resembles:
    """What too little pressure looks like.

    looks : slosh: dips under load that straight running knows nothing of; speed: short at a crank
        speed wherever the car is, as with air drawn in at the pickup's joint, worn bearings or thin
        oil; both; nothing; cannot_tell: too little straight running, or so
        little short that it may be the sensor
    speed, short : by bands of crank speed on straights, what the gallery lacks of what it should
        have, shapes (k,) [rad/s, 1]
    dips : those that are left when the straights' own shortness is taken off
    """

    looks: Looks
    speed: Array
    short: Array
    dips: int

    @property
    def most_short(self) -> float:
        """Of what it should have, on straights."""
        return float(self.short.max()) if len(self.short) else 0.0


def runs_straight(log: Log) -> NDArray[np.bool_]:
    """Where a car has run straight on for so long that its oil lies still, shape (n,) bool.

    Examples
    --------
    >>> time = np.arange(0.0, 4.0, 0.5)
    >>> side = np.where(time == 1.0, 9.0, 0.0)
    >>> runs_straight(Log(time, *np.zeros((2, 8)), side, time)).tolist()
    [True, True, False, False, False, False, True, True]
    """
    load = np.hypot(log.leftward, log.forward) / STANDARD_GRAVITY
    back = max(1, math.ceil(_LIES_STILL / log.step))
    # the highest load of the last second and a half: the samples before, not those after
    before = np.concatenate([np.full(back, load[0]), load])
    worst = sliding_window_view(before, back + 1).max(axis=1)
    return np.asarray(worst <= STRAIGHT_ON.most)


def _short_by_speed(laps: Sequence[Log], should: AsUsual, shown: Shown) -> tuple[Array, Array]:
    """On straights, by bands of crank speed: what the gallery lacks, middle one of each band."""
    speeds, lacks = [], []
    for lap in laps:
        assert lap.oil_pressure is not None
        wanted = shown_by(shown, lap.time, should.at(lap.engine_speed))
        inside = runs_straight(lap) & (lap.engine_speed >= ENGINE_RUNS.least)
        speeds.append(lap.engine_speed[inside])
        lacks.append(1.0 - lap.oil_pressure[inside] / wanted[inside])
    speed, lack = np.concatenate(speeds), np.concatenate(lacks)
    bands = np.floor(speed / _BAND).astype(int)
    rows = [
        (float(speed[bands == band].mean()), float(np.median(lack[bands == band])))
        for band in np.unique(bands)
        if (bands == band).sum() >= _FEWEST
    ]
    at, short = np.array(rows).reshape(-1, 2).T
    return at, short


def _over_speed(at: Array, short: Array) -> AsUsual | None:
    """What lacks at any speed: as found, and on from the ends as it was going."""
    if len(at) < _LEAST_BANDS:
        return None
    slope = float(np.polyfit(at, short, 1)[0])
    ends = np.array([0.0, 2.0 * at[-1]])
    beyond = short[[0, -1]] + slope * (ends - at[[0, -1]])
    return AsUsual(
        np.concatenate([ends[:1], at, ends[1:]]),
        np.clip(np.concatenate([beyond[:1], short, beyond[1:]]), 0.0, 0.95),
    )


def resembles(laps: Sequence[Log], should: AsUsual, shown: Shown) -> Resembles:
    """Tell oil that leaves the mouth from air that is drawn in wherever the car is.

    Parameters
    ----------
    laps : sequence of Log
        Prepared, each with its oil's pressure.
    should : AsUsual
        What the gallery should have at a speed: by earlier laps of the same car that were sound, or
        by the forecast.
    shown : Shown

    Returns
    -------
    Resembles

    Notes
    -----
    What is lacking after 1.5 s of straight running is not oil that has run away from the mouth: it
    goes by crank speed alone. Pressures are then taken against what straights show at that speed;
    dips that are left follow the load.

    Examples
    --------
    >>> time = np.arange(0.0, 60.0, 0.05)
    >>> corner = np.sin(time / 2.0) > 0.5
    >>> log = Log(time, *np.zeros((2, 1200)), np.where(corner, 11.0, 0.0),
    ...           500.0 + 100.0 * np.cos(time), oil_pressure=np.where(corner, 1e5, 5e5))
    >>> resembles([log], AsUsual(np.array([300.0]), np.array([5e5])), Shown(0.0, 20.0)).looks
    'slosh'
    """
    at, short = _short_by_speed(laps, should, shown)
    by_speed = _over_speed(at, short)
    is_short = bool(len(short)) and not SHORT_ON_STRAIGHTS.holds(float(short.max()))
    dips = 0
    for lap in laps:
        assert lap.oil_pressure is not None
        usual = should.at(lap.engine_speed)
        if by_speed is not None:
            usual = usual * (1.0 - by_speed.at(lap.engine_speed))
        own = shown_by(shown, lap.time, usual)
        dips += len(find_pressure_dips(lap, lap.oil_pressure, own, ()).dips)
    looks: Looks = "slosh" if dips else "nothing"
    if by_speed is None:
        looks = "cannot_tell"
    elif is_short:
        looks = "both" if dips else "speed"
    elif not dips and not MAYBE_SHORT.holds(float(short.max())):
        looks = "cannot_tell"
    return Resembles(looks, at, short, dips)
