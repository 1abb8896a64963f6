"""What Lines is told."""

from __future__ import annotations

from datetime import date
from typing import Literal

from bilge_core.tell.lines_all import LinesOut
from ninja import Schema
from pydantic import Field
from shop.schemas import BenderOut

TickState = Literal["have", "ordered", "arrived"]


class TickOut(Schema):
    """How far a part of the order is."""

    part: str
    words: str
    state: TickState
    count: float
    """Of it, when it was ticked."""
    by: str
    on: date
    wanted: float
    """Of it now; nil: the circuit has no use for it any more."""


class TickIn(Schema):
    """How far a part of the order is; null: to order still."""

    how_far: TickState | None


class BesidesIn(Schema):
    """So many of a part besides what the lines take; nil: none any more."""

    count: float = Field(ge=0, le=10_000)
    why: str = Field(default="", max_length=80)


class BesidesOut(Schema):
    """A part that is bought besides."""

    part: str
    count: float
    why: str


class LinesStageOut(Schema):
    """A build's lines as they stand, and its order."""

    state: int
    lines: LinesOut
    ticks: list[TickOut]
    compared: bool
    """The order leaves out what the car has: the state it is in was said."""
    to_come: int
    """Parts that have not come yet."""
    wait_days: int
    """Until the last of them is there, if all were ordered today."""
    begin_on: date
    """The day on which work can begin then."""
    bender: BenderOut
    besides: list[BesidesOut]
