"""A car followed while it drives: pressure against what is expected there, and the next corner."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.dips_met import Frozen
from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.forecast.pressure import find_pressure_dips
from bilge_core.loads.corners import Corner
from bilge_core.loads.line import distance_driven
from bilge_core.loads.log import at_times
from bilge_core.physics.arrays import Array
from bilge_core.rules.air import JOINED
from bilge_core.rules.gallery import ENGINE_RUNS, PRESSURE_DIP, SHORTEST_PRESSURE_DIP

_SHORTEST_LAP = 0.8  # of a lap's length that a line is not crossed again within (ours)
_GAP = 2.0  # [s] without a row after which a place is not known any more (ours)


@dataclass(frozen=True)
class CornerAhead:
    """A corner of the forecast.

    corner : Corner
    begins, ends : share of the lap
    lowest : of what the gallery is expected to have in it, a second after, and in its dips [Pa]
    usual : at that moment [Pa]
    dips_for : expected in it [s]
    """

    corner: Corner
    begins: float
    ends: float
    lowest: float
    usual: float
    dips_for: float


@dataclass(frozen=True)
class Plan:
    """A forecast as a car is followed by it.

    share : of the lap's way at even times, rising, shape (n,)
    time : the same on the lap's clock [s]
    expected, usual : gallery as the sensor would show it, and its usual, shapes (n,) [Pa]
    corners : in the order driven
    length : [m]
    dips : expected on a lap
    steady : what the gallery has at a crank speed, mouth covered
    """

    share: Array
    time: Array
    expected: Array
    usual: Array
    corners: tuple[CornerAhead, ...]
    length: float
    dips: int
    steady: AsUsual


_AFTER = 1.0  # [s] after a corner that still is of it (ours)


def plan_of(frozen: Frozen, lag: float) -> Plan:
    """What a car is followed by.

    Parameters
    ----------
    frozen : Frozen
    lag : float
        Of the pressure's sensor [s].

    Returns
    -------
    Plan
    """
    log = at_times(frozen.log, frozen.time)
    rate = 1.0 / float(frozen.time[1] - frozen.time[0])
    expected = shown_by(Shown(lag, rate), frozen.time, frozen.pressure)
    driven = distance_driven(log)
    length = float(driven[-1])
    share = (
        driven / length if length > 0.0 else (frozen.time - frozen.time[0]) / np.ptp(frozen.time)
    )
    dips = find_pressure_dips(log, expected, frozen.usual, frozen.corners).dips
    ahead = []
    for corner in frozen.corners:
        inside = (frozen.time >= corner.start) & (frozen.time <= corner.end + _AFTER)
        if not inside.any():
            continue
        own = [each for each in dips if each.corner == corner.number]
        for dip in own:  # one that it is out of a while later is of it too
            inside |= (frozen.time >= dip.start) & (frozen.time <= dip.end)
        least = int(np.flatnonzero(inside)[np.argmin(expected[inside])])
        ends = np.interp([corner.start, corner.end], frozen.time, share)
        ahead.append(
            CornerAhead(
                corner, float(ends[0]), float(ends[1]), float(expected[least]),
                float(frozen.usual[least]), sum(each.lasts for each in own),
            )
        )  # fmt: skip
    steady = AsUsual(frozen.speed, np.maximum.accumulate(frozen.steady))
    return Plan(
        share, frozen.time, expected, frozen.usual, tuple(ahead), max(length, 1.0), len(dips),
        steady,
    )  # fmt: skip


@dataclass(frozen=True)
class Seen:
    """One moment of a car that is followed.

    time : on the logger's clock [s]
    lap : number; 0 where the logger gives none
    share : of the lap; None: not known until it crosses the line
    pressure, expected, usual : [Pa]; expected None where the place is not known
    speed, engine_speed : [m/s, rad/s]
    oil : temperature [K]; None: not logged
    is_short : under what a dip is
    ahead : the corner that it is in, or comes to; None: place not known, or there is none
    until : to where it begins [s]; nil within it
    """

    time: float
    lap: int
    share: float | None
    pressure: float
    expected: float | None
    usual: float
    speed: float
    engine_speed: float
    oil: float | None
    is_short: bool
    ahead: CornerAhead | None
    until: float | None


@dataclass
class Follower:
    """Follows a car row by row.

    Its place comes from the distance driven since it crossed the line: by the logger's lap number;
    without one by the lap's own length, from where it was first heard. A lap's length is that of
    the car's last whole lap by its own speed, the forecast's until there is one.

    dips : of too little pressure on the lap under way and on the ones before, by lap
    whole : laps that were followed from line to line
    """

    plan: Plan
    dips: dict[int, int] = field(default_factory=dict)
    whole: set[int] = field(default_factory=set)
    _lap: int | None = None
    _driven: float = 0.0
    _length: float = 0.0
    _known: bool = False
    _last: float | None = None
    _short_since: float | None = None
    _short_last: float = 0.0
    _counted: bool = False

    def feed(
        self, time: float, speed: float, engine_speed: float, pressure: float,
        lap: int | None = None, oil: float | None = None,
    ) -> Seen:  # fmt: skip
        """What is to be said of a moment.

        Parameters
        ----------
        time, speed, engine_speed, pressure : float
            [s], [m/s], [rad/s], [Pa]
        lap : int, optional
            By the logger.
        oil : float, optional
            Temperature [K].
        """
        self._drive(time, speed, lap)
        share = min(self._driven / self._length, 1.0) if self._known else None
        usual = float(self.plan.steady.at(np.array([engine_speed]))[0])
        runs = engine_speed >= ENGINE_RUNS.least
        is_short = runs and pressure < PRESSURE_DIP.least * usual
        self._count(time, is_short)
        ahead, until = self._ahead(share)
        expected = (
            None if share is None else float(np.interp(share, self.plan.share, self.plan.expected))
        )
        return Seen(
            time, self._lap or 0, share, pressure, expected, usual, speed, engine_speed, oil,
            is_short, ahead, until,
        )  # fmt: skip

    def _drive(self, time: float, speed: float, lap: int | None) -> None:
        if self._length == 0.0:
            self._length = self.plan.length
            self._known = lap is None
        step = 0.0 if self._last is None else time - self._last
        if step < 0.0 or step > _GAP:  # a clock that began anew, or rows that were lost
            self._known = False if lap is not None else self._known
            step = 0.0
        self._driven += max(speed, 0.0) * step
        crossed = lap is not None and self._lap is not None and lap != self._lap
        if lap is None and self._driven >= self._length:
            crossed = True
        if crossed:
            if self._known and lap is not None and self._driven > _SHORTEST_LAP * self._length:
                self._length = self._driven
            if self._known and self._lap is not None:
                self.whole.add(self._lap)
            self._driven, self._known = 0.0, True
        if lap is not None:
            self._lap = lap
        elif crossed or self._lap is None:
            self._lap = (self._lap or 0) + 1
        self._last = time

    def _count(self, time: float, is_short: bool) -> None:
        lap = self._lap or 0
        self.dips.setdefault(lap, 0)
        if not is_short:
            if JOINED.holds(time - self._short_last):
                self._short_since, self._counted = None, False
            return
        self._short_last = time
        self._short_since = time if self._short_since is None else self._short_since
        if not self._counted and SHORTEST_PRESSURE_DIP.holds(time - self._short_since):
            self.dips[lap] += 1
            self._counted = True

    def _ahead(self, share: float | None) -> tuple[CornerAhead | None, float | None]:
        corners = self.plan.corners
        if share is None or not corners:
            return None, None
        here = float(np.interp(share, self.plan.share, self.plan.time))
        found = next((each for each in corners if each.ends >= share), None)
        more = 0.0
        if found is None:  # the first one of the next lap
            found, more = corners[0], float(np.ptp(self.plan.time))
        begins = float(np.interp(found.begins, self.plan.share, self.plan.time)) + more
        return found, max(begins - here, 0.0)
