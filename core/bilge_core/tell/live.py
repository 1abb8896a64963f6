"""A car that is followed, as everybody reads it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from bilge_core.agreement.live import Follower, Seen
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.rules.gallery import PRESSURE_DIP
from bilge_core.rules.track_book import AS_EXPECTED, CORNER_NEAR


class CornerComing(BaseModel):
    """The corner that a car is in or comes to."""

    number: int
    name: str
    hand: str
    until_s: float
    lowest_bar: float
    usual_bar: float
    risk: Literal["none", "later", "near"]


class LiveNow(BaseModel):
    """What is to be said of a moment."""

    time_s: float
    lap: int
    share: float | None
    """Of the lap; null: not known until it crosses the line."""
    bar: float
    expected_bar: float | None
    usual_bar: float
    dip_bar: float
    """Under which it is a dip."""
    rpm: float
    kmh: float
    oil_c: float | None
    stands: Literal["dips", "under", "as_expected", "not_known"]
    """Against what is expected at that place."""
    corner: CornerComing | None
    dips: int
    """On this lap so far."""
    dips_last: int | None
    """On the lap before; null: none was driven whole."""
    dips_expected: int
    """On a lap."""


class LivePoint(BaseModel):
    """One moment of the line that is drawn."""

    t: float
    bar: float
    expected: float | None
    usual: float


def live_point(seen: Seen) -> LivePoint:
    """One moment of the line that is drawn."""
    return LivePoint(
        t=round(seen.time, 2), bar=round(seen.pressure / 1e5, 2),
        expected=None if seen.expected is None else round(seen.expected / 1e5, 2),
        usual=round(seen.usual / 1e5, 2),
    )  # fmt: skip


def _corner(seen: Seen) -> CornerComing | None:
    ahead = seen.ahead
    if ahead is None or seen.until is None:
        return None
    return CornerComing(
        number=ahead.corner.number, name=ahead.corner.called, hand=ahead.corner.hand,
        until_s=round(seen.until, 1), lowest_bar=round(ahead.lowest / 1e5, 1),
        usual_bar=round(ahead.usual / 1e5, 1),
        risk="none" if ahead.dips_for == 0.0 else _RISK[CORNER_NEAR.holds(seen.until)],
    )  # fmt: skip


_RISK: dict[bool, Literal["near", "later"]] = {True: "near", False: "later"}


def stands(seen: Seen) -> Literal["dips", "under", "as_expected", "not_known"]:
    """How a moment's pressure stands against what is expected there."""
    if seen.is_short:
        return "dips"
    if seen.expected is None:
        return "not_known"
    return "as_expected" if AS_EXPECTED.holds(seen.pressure / seen.expected) else "under"


def live_now(seen: Seen, follower: Follower) -> LiveNow:
    """What is to be said of a moment of a car that is followed."""
    before = seen.lap - 1
    return LiveNow(
        time_s=round(seen.time, 2), lap=seen.lap,
        share=None if seen.share is None else round(seen.share, 4),
        bar=round(seen.pressure / 1e5, 2),
        expected_bar=None if seen.expected is None else round(seen.expected / 1e5, 2),
        usual_bar=round(seen.usual / 1e5, 2),
        dip_bar=round(PRESSURE_DIP.least * seen.usual / 1e5, 2),
        rpm=round(float(rpm_of_speed(seen.engine_speed))), kmh=round(3.6 * seen.speed),
        oil_c=None if seen.oil is None else round(seen.oil - ZERO_CELSIUS, 1),
        stands=stands(seen), corner=_corner(seen), dips=follower.dips.get(seen.lap, 0),
        dips_last=follower.dips[before] if before in follower.whole else None,
        dips_expected=follower.plan.dips,
    )  # fmt: skip
