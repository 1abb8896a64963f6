"""What Job card is told, and what it tells."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from bilge_core.document.work_file import ClientId
from bilge_core.job.entries import AnyEntry, read_entry
from bilge_core.job.settings import CardSettings
from bilge_core.tell.job import CardOut
from ninja import Schema
from pydantic import BeforeValidator, Field

HowFar = Literal["have", "ordered", "arrived"]


class NamedPartOut(Schema):
    """A part that something can be asked of, or said of."""

    id: str
    name: str
    kind: str
    renewable: bool
    """It has a seal, a leaf or an element that is renewed."""


class WantedPartOut(Schema):
    """A part that the job takes."""

    part: str
    words: str
    count: float
    per: str
    price: float
    own_price: bool
    lead_days: int
    how_far: HowFar | None
    there: date | None
    """When it is there; None: it is."""


class SurplusOut(Schema):
    """A part that was ordered, and that nothing wants any more."""

    part: str
    words: str
    count: float
    how_far: HowFar


class CardOverOut(Schema):
    """A job that is done."""

    number: int
    begun_at: datetime
    closed_at: datetime
    closed_by: str
    state: int
    change: str


class StateToChooseOut(Schema):
    """A state that the car may be in.

    before : what was planned on it first of all, where it is the last that nothing is planned in
    """

    state: int
    words: str
    made_at: datetime
    before: str


class RefusedOut(Schema):
    """What was entered and not kept, and why."""

    client_id: str
    why: str


class JobStageOut(Schema):
    """The job that makes the plan of the car as it is."""

    state: int
    as_is: int | None
    number: int | None
    """Of the card that is worked on; None: not begun, this is how it would be."""
    begun_by: str
    begun_at: datetime | None
    said: CardSettings
    card: CardOut | None
    """None where nobody said which state the car is in."""
    parts: list[NamedPartOut]
    wanted: list[WantedPartOut]
    surplus: list[SurplusOut]
    over: list[CardOverOut]
    choose: list[StateToChooseOut]
    refused: list[RefusedOut]


def _entry(raw: Any) -> AnyEntry:
    return read_entry(raw)


class EntryIn(Schema):
    """Something that happened on a card. `client_id` is made where it was entered."""

    client_id: ClientId
    at: datetime
    entry: Annotated[AnyEntry, BeforeValidator(_entry)]


class EntriesIn(Schema):
    """In the order in which they happened."""

    entries: Annotated[list[EntryIn], Field(max_length=200)]


class SaidIn(Schema):
    """What is said of a job."""

    said: CardSettings


class PartTickIn(Schema):
    """How far a part is; null: to order still."""

    how_far: HowFar | None
