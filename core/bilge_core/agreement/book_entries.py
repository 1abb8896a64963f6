"""What is written into a car's track book: sessions, and what was looked at or renewed."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, model_validator

from bilge_core.document.parts import Name, Part
from bilge_core.document.problems import read_kept

RowId = Annotated[str, Field(pattern=r"^[a-z0-9]{1,40}$")]
Token = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]
Words = Annotated[str, Field(max_length=2000)]
Level = Annotated[float, Field(ge=0, le=600)]
Weather = Literal["dry", "damp", "wet"]
Engine = Literal["cold", "hot"]


class Session(Part):
    """A session on a track. The same id again is the same session, written anew.

    Levels are dipped straight up from the lowest point inside, on level ground, the engine stopped.
    """

    kind: Literal["session"]
    id: RowId
    on: date
    circuit: Name
    weather: Weather = "dry"
    tyres: Annotated[str, Field(max_length=80)] = ""
    laps: int = Field(default=0, ge=0, le=2000)
    hours: float = Field(gt=0, le=48, description="that the engine ran")
    oil: Annotated[str, Field(max_length=80)] = ""
    level_before_mm: Level | None = None
    level_after_mm: Level | None = None
    dipped: Engine = "cold"
    added_l: float = Field(default=0.0, ge=0, le=40)
    can_ml: float | None = Field(default=None, ge=0, le=20_000)
    hottest_c: float | None = Field(default=None, ge=-40, le=250)
    ambient_c: float | None = Field(default=None, ge=-40, le=60)
    lowest_bar: float | None = Field(default=None, ge=0, le=20)
    words: Words = ""
    photos: list[Token] = Field(default=[], max_length=12)


class SessionStruck(Part):
    """A session that was none."""

    kind: Literal["session_struck"]
    id: RowId


class Item(Part):
    """Something that is looked at or renewed every so often. The same id again changes it."""

    kind: Literal["item"]
    id: RowId
    name: Name
    every_hours: float | None = Field(default=None, gt=0, le=10_000)
    every_days: float | None = Field(default=None, gt=0, le=3650)
    each_session: bool = False

    @model_validator(mode="after")
    def _comes_round(self) -> Item:
        if self.every_hours is None and self.every_days is None and not self.each_session:
            raise ValueError("comes round by hours, by days or each session: give one")
        return self


class ItemDropped(Part):
    """It is not looked at on this car."""

    kind: Literal["item_dropped"]
    id: RowId


class ItemDone(Part):
    """It was looked at or renewed, and what was found."""

    kind: Literal["item_done"]
    item: RowId
    on: date
    how: Literal["looked_at", "renewed"] = "looked_at"
    found: Literal["sound", "watch", "bad"] = "sound"
    words: Words = ""
    photos: list[Token] = Field(default=[], max_length=12)


class AtSpeed(Part):
    """The level with the engine running steadily at a speed."""

    rpm: float = Field(ge=300, le=15_000)
    level_mm: Level


class AfterStop(Part):
    """The level so long after the engine was switched off."""

    seconds: float = Field(ge=0, le=3600)
    level_mm: Level


class HoldUp(Part):
    """Oil that is held up, read off a sight tube on the sump: engine standing still in the car.

    Levels are straight up from the lowest point inside, as a session's are.
    """

    kind: Literal["hold_up"]
    id: RowId
    on: date
    oil_c: float | None = Field(default=None, ge=-40, le=250)
    standing_mm: Level
    """With all of it back: a quarter of an hour after it was switched off, oil still warm."""
    running: list[AtSpeed] = Field(min_length=1, max_length=20)
    after: list[AfterStop] = Field(default=[], max_length=20)
    words: Words = ""


TrendKey = Literal["oil_used", "can", "over_ambient", "lowest"]


class TrendLimit(Part):
    """What a figure over the sessions is to stay within: at most so much, pressure at least.

    In L/h, ml/h, K and bar; none: the builder has no limit of his own.
    """

    kind: Literal["trend_limit"]
    key: TrendKey
    limit: float | None = Field(default=None, gt=0, le=20_000)


AnyBooked = Annotated[
    Session | SessionStruck | Item | ItemDropped | ItemDone | HoldUp | TrendLimit,
    Field(discriminator="kind"),
]
_ENTRIES: TypeAdapter[AnyBooked] = TypeAdapter(AnyBooked)


def read_booked(raw: Any, field: str = "entry") -> AnyBooked:
    """An entry of a track book from plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_booked({"kind": "item", "id": "seal", "name": "pickup joint's seal"})
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: entry: comes round by hours, by days or each session: give one
    """
    return read_kept(_ENTRIES, raw, field)
