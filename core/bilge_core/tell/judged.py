"""A session's laps against the forecast, as everybody reads them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel

from bilge_core.agreement.dips_met import Frozen, LapMet, Met, PlaceMet, Word, by_place
from bilge_core.agreement.judged import Judged, LeftOut
from bilge_core.agreement.resembles import Looks, Resembles
from bilge_core.agreement.sensor_shown import Shown
from bilge_core.loads.corners import Corner
from bilge_core.loads.line import driven_line
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import rpm_of_speed

_LINE_POINTS = 400
_BEFORE, _AFTER = 2.0, 3.0  # [s] round a dip that are drawn (ours)


class DipsCount(BaseModel):
    """Of places: where it dipped, and where that was foreseen. What lists show."""

    met: int
    foreseen: int
    """Of those met."""
    false_alarms: int
    not_shown: int
    """Forecast, and too short for the sensor."""
    laps: int
    has_forecast: bool
    looks: Looks | None
    """What too little pressure resembles."""
    hottest_c: float | None = None
    """Of the oil, by its laps' own log."""
    lowest_bar: float | None = None
    """In the gallery, the engine running."""


class PlaceJudged(BaseModel):
    """A place of the circuit over all laps."""

    number: int | None
    """Of the corner; null: on a straight."""
    name: str
    hand: Literal["left", "right"] | None
    word: Word
    laps: int
    of: int
    late_s: float | None
    deeper_pct: float | None
    """Lower than forecast, of what is usual."""
    at_m: tuple[float, float] | None
    """On the line of the forecast's lap."""


class DipJudged(BaseModel):
    """One dip of one lap."""

    word: Word
    number: int | None
    start_s: float
    end_s: float
    late_s: float | None
    lowest_bar: float | None
    forecast_bar: float | None


class LapJudged(BaseModel):
    """One lap."""

    name: str
    lowest_bar: float
    hits: int
    misses: int
    false_alarms: int
    not_shown: int
    dips: list[DipJudged]


class LapLeftOut(BaseModel):
    """A lap that nothing is told by."""

    name: str
    why: str


class SensorOut(BaseModel):
    """How the pressure was read."""

    rate_hz: float
    lag_s: float
    shortest_s: float
    words: str


class ResemblesOut(BaseModel):
    """What too little pressure looks like."""

    looks: Looks
    words: str
    rpm: list[float]
    short_pct: list[float]


class ForecastKept(BaseModel):
    """The forecast that a session is judged by, as it stood."""

    model: str
    lap: str
    state: int
    run: int
    made_at: str
    dips: int
    dry_s: float
    lowest_bar: float | None


class JudgedOut(BaseModel):
    """A session's laps against the forecast."""

    count: DipsCount
    headline: str
    places: list[PlaceJudged]
    laps: list[LapJudged]
    left_out: list[LapLeftOut]
    sensor: SensorOut
    resembles: ResemblesOut | None
    forecast: ForecastKept | None
    line_m: list[tuple[float, float]]


class JudgedTrace(BaseModel):
    """Round one dip of one lap."""

    lap: str
    place: str
    from_s: float
    to_s: float
    """Of the dip, as measured; as forecast where it was not met."""
    time_s: list[float]
    measured_bar: list[float]
    expected_bar: list[float] | None
    usual_bar: list[float]
    rpm: list[float]
    load_g: list[float]


def _name(corner: Corner | None) -> str:
    return "a straight" if corner is None else corner.called


def _place_out(row: PlaceMet, log: Log | None, line: Array | None) -> PlaceJudged:
    at = None
    corner = row.corner
    if row.there is not None and log is not None and line is not None:
        x, y = (float(np.interp(row.there, log.time, line[:, axis])) for axis in (0, 1))
        at = (round(x, 1), round(y, 1))
    return PlaceJudged(
        number=corner.number if corner else None, name=_name(corner),
        hand=corner.hand if corner else None, word=row.word, laps=row.laps, of=row.of,
        late_s=None if row.late is None else round(row.late, 2),
        deeper_pct=None if row.deeper is None else round(100.0 * row.deeper, 0), at_m=at,
    )  # fmt: skip


def _dip_out(met: Met) -> DipJudged:
    which = met.measured or met.forecast
    assert which is not None
    return DipJudged(
        word=met.word, number=met.corner.number if met.corner else None,
        start_s=round(which.start, 2), end_s=round(which.end, 2),
        late_s=None if met.late is None else round(met.late, 2),
        lowest_bar=None if met.measured is None else round(met.measured.lowest / 1e5, 2),
        forecast_bar=None if met.forecast is None else round(met.forecast.lowest / 1e5, 2),
    )  # fmt: skip


def _lap_out(name: str, lap: LapMet) -> LapJudged:
    words = [met.word for met in lap.met]
    return LapJudged(
        name=name, lowest_bar=round(lap.measured.lowest / 1e5, 2), hits=words.count("hit"),
        misses=words.count("miss"), false_alarms=words.count("false_alarm"),
        not_shown=words.count("not_shown"), dips=[_dip_out(met) for met in lap.met],
    )  # fmt: skip


def sensor_out(shown: Shown) -> SensorOut:
    """How the pressure was read, and what that cannot show.

    Examples
    --------
    >>> sensor_out(Shown(0.05, 10.0)).words
    '10 readings a second: a dip under 0.18 s cannot be told'
    """
    shortest = shown.shortest()
    return SensorOut(
        rate_hz=round(shown.rate, 1), lag_s=shown.lag, shortest_s=round(shortest, 2),
        words=f"{shown.rate:.0f} readings a second: a dip under {shortest:.2f} s cannot be told",
    )  # fmt: skip


_LOOKS: dict[Looks, str] = {
    "slosh": "It looks like oil leaving the mouth: sound on the straights, and dips under load.",
    "speed": "It goes by crank speed, not by load: {short:.0f} % short on the straights at "
    "{rpm:.0f} rpm. Air drawn in at the pickup's joint looks so, and worn bearings and thin oil: "
    "look at the joint's seal first.",
    "both": "It is {short:.0f} % short on the straights at {rpm:.0f} rpm, wherever the car is, and "
    "dips under load besides: look at the pickup joint's seal first, then judge what is left.",
    "nothing": "Nothing is short: neither on the straights nor under load.",
    "cannot_tell": "What it resembles cannot be told: too little straight running, or so little "
    "short that it may be the sensor.",
}


def _resembles_out(looks: Resembles) -> ResemblesOut:
    at = int(np.argmax(looks.short)) if len(looks.short) else 0
    rpm = rpm_of_speed(looks.speed)
    words = _LOOKS[looks.looks].format(
        short=100.0 * looks.most_short, rpm=float(rpm[at]) if len(rpm) else 0.0
    )
    return ResemblesOut(
        looks=looks.looks, words=words, rpm=rpm.round(0).tolist(),
        short_pct=(100.0 * looks.short).round(1).tolist(),
    )  # fmt: skip


def _several(count: int, what: str) -> str:
    return f"{count} {what}" if count == 1 else f"{count} {what}s"


def _headline(count: DipsCount) -> str:
    """What came where it was forecast, in a sentence."""
    if not count.has_forecast:
        return f"{_several(count.met, 'place')} dipped; no forecast to hold against"
    if count.met == 0:
        more = f"; {_several(count.false_alarms, 'dip')} forecast did not come" if (
            count.false_alarms
        ) else ", and none was forecast"  # fmt: skip
        return f"No dip was measured{more}"
    missed = count.met - count.foreseen
    if not missed:
        return f"{_several(count.met, 'dip')} came where forecast" if count.met > 1 else (
            "The one dip came where it was forecast"
        )  # fmt: skip
    return f"{count.foreseen} of {_several(count.met, 'dip')} came where forecast"


def _hottest(laps: Sequence[LapMet]) -> float | None:
    """Of the oil in laps that have its temperature [°C]."""
    logged = [lap.log.oil_temperature for lap in laps if lap.log.oil_temperature is not None]
    return round(max(float(each.max()) for each in logged) - ZERO_CELSIUS, 1) if logged else None


def judged_out(judged: Judged, frozen: Frozen | None, forecast: ForecastKept | None) -> JudgedOut:
    """A session's laps against the forecast.

    Parameters
    ----------
    judged : Judged
    frozen : Frozen or None
    forecast : ForecastKept or None
        What is said of it.
    """
    log = judged.laps[0].log if frozen is None else frozen.log
    line = driven_line(log)
    places = [
        _place_out(row, None if frozen is None else log, line) for row in by_place(judged.laps)
    ]  # fmt: skip
    words = [place.word for place in places]
    count = DipsCount(
        met=words.count("hit") + words.count("miss"), foreseen=words.count("hit"),
        false_alarms=words.count("false_alarm"), not_shown=words.count("not_shown"),
        laps=len(judged.laps), has_forecast=frozen is not None,
        looks=None if judged.looks is None else judged.looks.looks,
        hottest_c=_hottest(judged.laps),
        lowest_bar=round(min(each.measured.lowest for each in judged.laps) / 1e5, 2),
    )  # fmt: skip
    every = max(1, len(line) // _LINE_POINTS)
    return JudgedOut(
        count=count, headline=_headline(count), places=places,
        laps=[_lap_out(name, lap) for name, lap in zip(judged.names, judged.laps, strict=True)],
        left_out=[_left_out(each) for each in judged.left_out],
        sensor=sensor_out(judged.shown),
        resembles=None if judged.looks is None else _resembles_out(judged.looks),
        forecast=forecast,
        line_m=[(round(x, 1), round(y, 1)) for x, y in line[::every].tolist()],
    )  # fmt: skip


def _left_out(each: LeftOut) -> LapLeftOut:
    return LapLeftOut(name=each.name, why=each.why)


def judged_trace(judged: Judged, lap: int, dip: int) -> JudgedTrace:
    """Round one dip of one lap.

    Raises
    ------
    IndexError
        If there is no such lap, or no such dip of it.
    """
    held = judged.laps[lap]
    met = held.met[dip]
    which = met.measured or met.forecast
    assert which is not None
    log = held.log
    inside = (log.time >= which.start - _BEFORE) & (log.time <= which.end + _AFTER)

    def bars(pressure: Array) -> list[float]:
        return (pressure[inside] / 1e5).round(2).tolist()  # type: ignore[no-any-return]

    assert log.oil_pressure is not None
    return JudgedTrace(
        lap=judged.names[lap], place=_name(met.corner), from_s=round(which.start, 2),
        to_s=round(which.end, 2), time_s=log.time[inside].round(3).tolist(),
        measured_bar=bars(log.oil_pressure),
        expected_bar=None if held.expected is None else bars(held.expected),
        usual_bar=bars(held.usual), rpm=rpm_of_speed(log.engine_speed[inside]).round(0).tolist(),
        load_g=(np.hypot(log.leftward, log.forward)[inside] / STANDARD_GRAVITY).round(2).tolist(),
    )  # fmt: skip
