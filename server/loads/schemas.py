"""Laps as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from bilge_core.loads.channels import ChannelName
from bilge_core.loads.manoeuvres import Hand, Kind
from ninja import Schema
from pydantic import Field, Json


class ChannelOut(Schema):
    """A channel that a forecast needs, the units it may have, and what + may mean."""

    name: ChannelName
    label: str
    units: list[str]
    positive_choices: list[str]
    heading: str
    unit: str
    positive: str | None


class ColumnIn(Schema):
    """Where a channel is in the file and how to read it."""

    heading: str = Field(max_length=200)
    unit: str = Field(max_length=20)
    positive: Literal["left", "right", "forward", "braking"] | None = None


Columns = dict[ChannelName, ColumnIn]


class PreviewIn(Schema):
    """Beside the file in a form: the columns as JSON, or nothing to go by the headings."""

    columns: Json[Columns] | None = None


class LapIn(Schema):
    """Beside the file in a form: the lap's name, and its columns as JSON."""

    name: str = Field(min_length=1, max_length=120)
    columns: Json[Columns]


class FieldFault(Schema):
    """What is still to be said or wrong."""

    field: str
    message: str


class LapPreviewOut(Schema):
    """What was understood of a file, in words; `line_m` draws the lap."""

    headings: list[str]
    channels: list[ChannelOut]
    faults: list[FieldFault]
    sentences: list[str]
    doubts: list[str]
    line_m: list[tuple[float, float]]


class LapOut(Schema):
    """A stored lap."""

    id: int
    name: str
    file_name: str
    duration_s: float
    made_at: datetime


class ManoeuvreIn(Schema):
    """A load without a logger."""

    kind: Kind
    hand: Hand
    level_g: float = Field(gt=0, le=4)
    ramp_s: float = Field(gt=0, le=30)
    hold_s: float = Field(gt=0, le=600)
    engine_speed_rpm: float = Field(ge=300, le=20_000)


class GripIn(Schema):
    """Grip over grip when logged."""

    factor: float = Field(ge=0.3, le=3)
