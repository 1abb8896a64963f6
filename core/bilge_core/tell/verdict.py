"""Verdict and dips, as everybody reads them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel, field_validator

from bilge_core.forecast import Dip, DryTime, PressureDip, PressureOverLap, Verdict
from bilge_core.forecast.verdict import badness, dip_words, pressure_dip_words


class VerdictOut(BaseModel):
    """The verdict and who gave it. `no_lap` and `faulty` stand where there is no forecast."""

    state: Literal["not_safe", "caution", "sound", "no_lap", "faulty"]
    headline: str
    sentence: str
    dry_s: float | None
    dip_count: int | None
    under_s: float | None = None
    pressure_dip_count: int | None = None
    """Null where the gallery was not looked at: settled oil, and figures of before it was."""

    @field_validator("state", mode="before")
    @classmethod
    def _of_before(cls, state: object) -> object:
        """Figures kept before pressure was weighed told the same by other words."""
        return {"runs_dry": "not_safe", "draws_air": "caution"}.get(str(state), state)


class DrainsVerdict(BaseModel):
    """What a build's drains do over a lap; `none` where it has none that can be told."""

    state: Literal["none", "good", "caution", "bad"]
    spare_mm: float | None
    name: str
    sentence: str
    unplaced: int
    """Drains that want a place first."""


def with_drains(verdict: VerdictOut, drains: DrainsVerdict) -> VerdictOut:
    """A verdict of the pan's oil that its drains are weighed in with: the worse of the two speaks.

    Examples
    --------
    >>> sound = VerdictOut(state="sound", headline="Sound", sentence="Covered.", dry_s=0.0,
    ...                    dip_count=0)
    >>> backs = DrainsVerdict(state="bad", spare_mm=-27, name="turbo drain", unplaced=0,
    ...                       sentence="The turbo drain backs up in corner 3, right: 27 mm short.")
    >>> with_drains(sound, backs).headline
    'Not safe'
    """
    if drains.state == "bad" and verdict.state in ("sound", "caution"):
        said = {"state": "not_safe", "headline": "Not safe", "sentence": drains.sentence}
    elif drains.state == "caution" and verdict.state == "sound":
        said = {"state": "caution", "headline": "Caution", "sentence": drains.sentence}
    elif drains.state == "bad" and verdict.state == "not_safe":
        said = {"sentence": f"{verdict.sentence} {drains.sentence}"}
    else:
        return verdict
    return verdict.model_copy(update=said)


class OverLap(BaseModel):
    """The verdict over one of the laps that a build is judged by, and the model that gave it.

    `verdict` counts its drains; `speaks` is what it speaks of. `oil` is that of the pan's oil and
    the gallery alone, `oil_rank` its place among those, nil for the worst.
    """

    lap_id: int
    lap_name: str
    verdict: VerdictOut
    model: str
    oil: VerdictOut
    oil_rank: int = 0
    speaks: Literal["oil", "drains"] = "oil"
    drains: DrainsVerdict | None = None


def worst_first(rows: Sequence[OverLap]) -> list[OverLap]:
    """Verdicts over laps, the worst first; of equals the one that came first.

    A build is as good as the worst of them; one that cannot be read comes before all others.
    """

    def key(verdict: VerdictOut) -> tuple[int, float, float]:
        state = verdict.state
        if state == "no_lap" or state == "faulty":  # noqa: PLR1714 - so that the type is narrowed
            return (3, 0.0, 0.0)
        return badness(state, verdict.under_s or 0.0, verdict.dry_s or 0.0)

    by_oil = sorted(rows, key=lambda row: key(row.oil), reverse=True)
    ranks = {row.lap_id: rank for rank, row in enumerate(by_oil)}
    told = [row.model_copy(update={"oil_rank": ranks[row.lap_id]}) for row in rows]
    return sorted(told, key=lambda row: key(row.verdict), reverse=True)


class DipOut(BaseModel):
    """One dip."""

    rank: int
    start_s: float
    end_s: float
    dry_s: float
    worst_s: float
    cover_mm: float
    load_g: float
    side_g: float | None = None
    fore_g: float | None = None
    """Null in figures that were kept before these were told."""
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str
    words: str


class PressureDipOut(BaseModel):
    """One stretch of too little pressure in the gallery."""

    rank: int
    start_s: float
    end_s: float
    lasts_s: float
    lowest_bar: float
    lowest_at_s: float
    usual_bar: float
    load_g: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str
    words: str


class PressureOut(BaseModel):
    """What the gallery had over a lap, and at its worst moment what was usual and wanted."""

    lowest_bar: float
    lowest_at_s: float
    usual_bar: float
    wanted_bar: float
    band_bar: tuple[float, float] | None
    """Lowest with a pump that slips more on gas, and with one that slips less."""
    under_s: float
    under_line_s: float
    """Under 10 psi for every 1000 rpm: a rule of thumb, judged by nothing."""
    dips: list[PressureDipOut]


def no_lap() -> VerdictOut:
    """What is said where there is no lap to judge by."""
    return VerdictOut(
        state="no_lap",
        headline="No lap yet",
        sentence="Import a logged lap to see when and where the pickup runs dry.",
        dry_s=None,
        dip_count=None,
    )


def faulty(reason: str) -> VerdictOut:
    """What is said of a build that cannot be read."""
    return VerdictOut(
        state="faulty", headline="Cannot be read", sentence=reason, dry_s=None, dip_count=None
    )


def verdict_out(
    verdict: Verdict, dry_time: DryTime, pressure: PressureOverLap | None = None
) -> VerdictOut:
    """A verdict as it crosses the boundary."""
    return VerdictOut(
        state=verdict.state,
        headline=verdict.headline,
        sentence=verdict.sentence,
        dry_s=round(dry_time.dry, 3),
        dip_count=len(dry_time.dips),
        under_s=None if pressure is None else round(pressure.under, 3),
        pressure_dip_count=None if pressure is None else len(pressure.dips),
    )


def dip_out(rank: int, dip: Dip) -> DipOut:
    """A dip as it crosses the boundary."""
    return DipOut(
        rank=rank,
        start_s=round(dip.start, 3),
        end_s=round(dip.end, 3),
        dry_s=round(dip.dry, 3),
        worst_s=round(dip.worst, 3),
        cover_mm=round(dip.cover * 1e3, 1),
        load_g=round(dip.load, 3),
        side_g=round(dip.side_g, 3),
        fore_g=round(dip.fore_g, 3),
        corner=dip.corner,
        hand=dip.hand,
        place=dip.place,
        words=dip_words(dip),
    )


def _bar(pressure: float) -> float:
    return round(pressure / 1e5, 2)


def pressure_out(pressure: PressureOverLap) -> PressureOut:
    """Pressure over a lap as it crosses the boundary."""
    band = pressure.band
    return PressureOut(
        lowest_bar=_bar(pressure.lowest),
        lowest_at_s=round(pressure.lowest_at, 3),
        usual_bar=_bar(pressure.usual),
        wanted_bar=_bar(pressure.wanted),
        band_bar=None if band is None else (_bar(min(band)), _bar(max(band))),
        under_s=round(pressure.under, 3),
        under_line_s=round(pressure.under_line, 3),
        dips=[_pressure_dip_out(rank, dip) for rank, dip in enumerate(pressure.dips, start=1)],
    )


def _pressure_dip_out(rank: int, dip: PressureDip) -> PressureDipOut:
    return PressureDipOut(
        rank=rank,
        start_s=round(dip.start, 3),
        end_s=round(dip.end, 3),
        lasts_s=round(dip.lasts, 3),
        lowest_bar=_bar(dip.lowest),
        lowest_at_s=round(dip.lowest_at, 3),
        usual_bar=_bar(dip.usual),
        load_g=round(dip.load, 3),
        corner=dip.corner,
        hand=dip.hand,
        place=dip.place,
        words=pressure_dip_words(dip),
    )
