"""Dips that a car had against those that were forecast: met, missed, or a false alarm."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.same_lap import LaidOn, laid_on
from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.pressure import PressureDip, PressureOverLap, find_pressure_dips
from bilge_core.loads.corners import Corner, place_on_lap
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.rules.logger import FORESEEN

Word = Literal["hit", "miss", "false_alarm", "not_shown"]


@dataclass(frozen=True)
class Frozen:
    """A forecast that a session is judged by, as it stood.

    log : of the lap that it was made on
    corners : of that
    time : shape (n,), that lap's own [s]
    pressure, usual : in the gallery, shapes (n,) [Pa]
    speed, steady : what the gallery has at a crank speed, mouth covered, shapes (k,) [rad/s, Pa]
    """

    log: Log
    corners: tuple[Corner, ...]
    time: Array
    pressure: Array
    usual: Array
    speed: Array
    steady: Array


@dataclass(frozen=True)
class Met:
    """One dip of a lap.

    word : hit: forecast and measured; miss: measured alone; false_alarm: forecast alone; not_shown:
        forecast, and too short for this sensor to show
    measured, forecast : PressureDip, on the lap's own clock; None where there is none
    corner : that it is in or near, of the forecast's lap; None on a straight, or with no forecast
    there : when it is lowest on the forecast's lap [s]; None with no forecast
    """

    word: Word
    measured: PressureDip | None
    forecast: PressureDip | None
    corner: Corner | None
    there: float | None

    @property
    def late(self) -> float | None:
        """How much later than forecast it began [s]; None where there are not both."""
        if self.measured is None or self.forecast is None:
            return None
        return self.measured.start - self.forecast.start

    @property
    def deeper(self) -> float | None:
        """How much lower than forecast it went, of what is usual; None where there are not both."""
        if self.measured is None or self.forecast is None:
            return None
        return (
            self.forecast.lowest / self.forecast.usual - self.measured.lowest / self.measured.usual
        )


@dataclass(frozen=True)
class LapMet:
    """One logged lap held against a forecast.

    log : Log
    laid : LaidOn the forecast's lap; None where there is no forecast
    expected : as the sensor would show it if the forecast were right, shape (n,) [Pa]; None so too
    usual : by the car's own laps, shape (n,) [Pa]
    measured : PressureOverLap
    met : in the order driven
    """

    log: Log
    laid: LaidOn | None
    expected: Array | None
    usual: Array
    measured: PressureOverLap
    met: tuple[Met, ...]


def _apart(one: PressureDip, other: PressureDip) -> float:
    """Time between two stretches, nil where they overlap [s]."""
    return max(one.start - other.end, other.start - one.end, 0.0)


def pair_dips(
    measured: Sequence[PressureDip], forecast: Sequence[PressureDip]
) -> list[tuple[PressureDip | None, PressureDip | None]]:
    """Measured dips with those that foresaw them, each once, the nearest beginnings first.

    Examples
    --------
    >>> dip = lambda start: PressureDip(start, start + 0.4, 1e5, start, 5e5, 1.0, None, None, "")
    >>> rows = pair_dips([dip(1.0), dip(9.0)], [dip(1.6), dip(4.0)])
    >>> [(m and m.start, f and f.start) for m, f in rows]
    [(1.0, 1.6), (9.0, None), (None, 4.0)]
    """
    near = sorted(
        (abs(m.start - f.start), at, of)
        for at, m in enumerate(measured)
        for of, f in enumerate(forecast)
        if FORESEEN.holds(_apart(m, f))
    )
    found: dict[int, int] = {}
    for _, at, of in near:
        if at not in found and of not in found.values():
            found[at] = of
    rows: list[tuple[PressureDip | None, PressureDip | None]] = [
        (m, forecast[found[at]] if at in found else None) for at, m in enumerate(measured)
    ]
    left = set(range(len(forecast))) - set(found.values())
    return rows + [(None, forecast[of]) for of in sorted(left)]


def _placed(
    dip: PressureDip, log: Log, laid: LaidOn, frozen: Frozen
) -> tuple[Corner | None, float]:
    """Where it is by the corners of the forecast's lap, which the builder named, and when there."""
    there = float(np.interp(dip.lowest_at, log.time, laid.there))
    return place_on_lap(frozen.corners, there)[0], there


def hold_lap(log: Log, usual: AsUsual, shown: Shown, frozen: Frozen | None) -> LapMet:
    """Hold one logged lap against a forecast.

    Parameters
    ----------
    log : Log
        Prepared, with its oil's pressure.
    usual : AsUsual
        By the laps of that session.
    shown : Shown
        How its sensor is read.
    frozen : Frozen or None
        What it is judged by; None: measured dips alone.

    Returns
    -------
    LapMet

    Raises
    ------
    InvalidQuantity
        If the log has no oil pressure.

    Notes
    -----
    Both are told by `find_pressure_dips` against what is usual by the car's own laps, the forecast
    after it has gone through the sensor. A forecast dip that does not come through it is no false
    alarm: this sensor cannot show it.

    Examples
    --------
    >>> time = np.arange(0.0, 10.0, 0.02)
    >>> log = Log(time, np.full(500, 30.0), np.zeros(500), np.sin(time), np.full(500, 500.0),
    ...           oil_pressure=np.where((time > 4.0) & (time < 5.0), 1e5, 5e5))
    >>> flat = AsUsual(np.array([500.0]), np.array([5e5]))
    >>> [each.word for each in hold_lap(log, flat, Shown(0.0, 50.0), None).met]
    ['miss']
    """
    if log.oil_pressure is None:
        raise InvalidQuantity("oil pressure", "missing", "among the lap's channels")
    at_speed = usual.at(log.engine_speed)
    # the sensor is late in what is usual as well, after a change of gear
    own = shown_by(shown, log.time, at_speed)
    measured = find_pressure_dips(log, log.oil_pressure, own, ())
    if frozen is None:
        met = [Met("miss", dip, None, None, None) for dip in measured.dips]
        return LapMet(log, None, None, at_speed, measured, _in_order(met))
    laid = laid_on(log, frozen.log)
    share = np.interp(laid.there, frozen.time, frozen.pressure / frozen.usual)
    true = share * at_speed
    expected = shown_by(shown, log.time, true)
    seen = find_pressure_dips(log, expected, own, ()).dips
    met = []
    for dip, foreseen in pair_dips(measured.dips, seen):
        word: Word = "hit" if dip and foreseen else "miss" if dip else "false_alarm"
        which = dip or foreseen
        assert which is not None
        met.append(Met(word, dip, foreseen, *_placed(which, log, laid, frozen)))
    for dip in find_pressure_dips(log, true, at_speed, ()).dips:
        if not any(_apart(dip, each) == 0.0 for each in seen):
            near = [each for each in met if each.word == "miss" and each.measured
                    and FORESEEN.holds(_apart(each.measured, dip))]  # fmt: skip
            if near:  # it showed after all
                met.remove(near[0])
                met.append(replace(near[0], word="hit", forecast=dip))
            else:
                met.append(Met("not_shown", None, dip, *_placed(dip, log, laid, frozen)))
    return LapMet(log, laid, expected, at_speed, measured, _in_order(met))


def _in_order(rows: list[Met]) -> tuple[Met, ...]:
    def start(row: Met) -> float:
        dip = row.measured or row.forecast
        assert dip is not None
        return dip.start

    return tuple(sorted(rows, key=start))


@dataclass(frozen=True)
class PlaceMet:
    """One place of the circuit over all laps held. What came unforeseen is a place by itself.

    corner : of the forecast's lap; None on a straight
    there : middle one of when its dips are lowest on the forecast's lap [s]; None with no forecast
    word : hit: foreseen, and had on one lap or more; miss; false_alarm: foreseen, had on none;
        not_shown
    laps, of : on how many it was had, and how many were held
    late : middle one of how much later it began [s]; None where none was a hit
    deeper : middle one, of what is usual; None so too
    """

    corner: Corner | None
    there: float | None
    word: Word
    laps: int
    of: int
    late: float | None
    deeper: float | None


def by_place(laps: Sequence[LapMet]) -> tuple[PlaceMet, ...]:
    """Dips of some laps, gathered by where they were, most laps first.

    Examples
    --------
    >>> by_place([])
    ()
    """
    gathered: dict[tuple[Corner | None, bool], list[tuple[int, Met]]] = {}
    for number, lap in enumerate(laps):
        for met in lap.met:
            gathered.setdefault((met.corner, met.word == "miss"), []).append((number, met))
    rows = []
    for (corner, _), found in gathered.items():
        words = {met.word for _, met in found}
        had = {number for number, met in found if met.measured is not None}
        hits = [met for _, met in found if met.word == "hit"]
        foreseen = bool(hits) or "false_alarm" in words
        word: Word = (
            "hit" if had and foreseen else "miss" if had
            else "false_alarm" if foreseen else "not_shown"
        )  # fmt: skip
        there = [met.there for _, met in found if met.there is not None]
        late = [met.late for met in hits if met.late is not None]
        deeper = [met.deeper for met in hits if met.deeper is not None]
        rows.append(
            PlaceMet(
                corner, float(np.median(there)) if there else None, word, len(had), len(laps),
                float(np.median(late)) if late else None,
                float(np.median(deeper)) if deeper else None,
            )
        )  # fmt: skip
    return tuple(sorted(rows, key=lambda row: (-row.laps, row.corner.number if row.corner else 0)))
