"""Verdict and dips, as everybody reads them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from bilge_core.forecast import Dip, DryTime, Verdict
from bilge_core.forecast.verdict import badness, dip_words


class VerdictOut(BaseModel):
    """The verdict and who gave it. `no_lap` and `faulty` stand where there is no forecast."""

    state: Literal["runs_dry", "draws_air", "sound", "no_lap", "faulty"]
    headline: str
    sentence: str
    dry_s: float | None
    dip_count: int | None


class OverLap(BaseModel):
    """The verdict over one of the laps that a build is judged by, and the model that gave it."""

    lap_id: int
    lap_name: str
    verdict: VerdictOut
    model: str


def worst_first(rows: Sequence[OverLap]) -> list[OverLap]:
    """Verdicts over laps, the worst first; of equals the one that came first.

    A build is as good as the worst of them; one that cannot be read comes before all others.
    """

    def key(row: OverLap) -> tuple[int, float]:
        state = row.verdict.state
        if state == "no_lap" or state == "faulty":  # noqa: PLR1714 - so that the type is narrowed
            return (3, 0.0)
        return badness(state, row.verdict.dry_s or 0.0)

    return sorted(rows, key=key, reverse=True)


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


def verdict_out(verdict: Verdict, dry_time: DryTime) -> VerdictOut:
    """A verdict as it crosses the boundary."""
    return VerdictOut(
        state=verdict.state,
        headline=verdict.headline,
        sentence=verdict.sentence,
        dry_s=round(dry_time.dry, 3),
        dip_count=len(dry_time.dips),
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
