"""Laps as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from bilge_core.document.parts import Seen
from bilge_core.loads.channels import ChannelName
from bilge_core.loads.manoeuvres import Hand, Kind
from bilge_core.loads.reading import Reading
from ninja import Schema
from pydantic import Field, StringConstraints


class ChannelOut(Schema):
    """A channel, the units it may have, what + may mean, and what it is for."""

    name: ChannelName
    label: str
    units: list[str]
    positive_choices: list[str]
    use: Literal["clock", "needed", "extra"]


class FieldFault(Schema):
    """What is still to be said or wrong."""

    field: str
    message: str


class LogUploadOut(Schema):
    """An uploaded file before its rows are read."""

    id: int
    name: str
    size_mb: float
    made_at: datetime


class ReadingIn(Schema):
    """How to read a file; null to go by its headings, or by the last time."""

    reading: Reading | None = None


class LapSpanOut(Schema):
    """A lap found in a recording."""

    number: int
    start_s: float
    end_s: float
    whole: bool


class GuessOut(Schema):
    """What the file does not say and its numbers do: field, what it was taken for, in words."""

    field: str
    taken: str
    words: str


class UnderstoodOut(Schema):
    """What was understood of a file, in words; `line_m` draws it."""

    headings: list[str]
    channels: list[ChannelOut]
    reading: Reading
    remembered: bool
    guesses: list[GuessOut]
    file_words: str
    faults: list[FieldFault]
    bad_rows: int
    bad_row_faults: list[FieldFault]
    sentences: list[str]
    remarks: list[str]
    doubts: list[str]
    from_gps: bool
    line_m: list[tuple[float, float]]
    laps: list[LapSpanOut]
    duration_s: float


class ReadingStep(Schema):
    """One line of the answer while a file is read: how far it is, then what came of it."""

    share: float | None = None
    understood: UnderstoodOut | None = None


LapName = Annotated[str, StringConstraints(min_length=1, max_length=120), Seen]
Second = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class WantedLapIn(Schema):
    """A lap to keep of a recording."""

    name: Annotated[str, StringConstraints(max_length=120), Seen]
    start_s: Second
    end_s: Second


class KeepLapsIn(Schema):
    """Which laps of a file to keep, and how to read it."""

    file_id: int
    reading: Reading
    leave_out_bad_rows: bool = False
    laps: list[WantedLapIn] = Field(min_length=1, max_length=100)


class LapOut(Schema):
    """A stored lap."""

    id: int
    name: str
    file_name: str
    duration_s: float
    made_at: datetime


class LapNameIn(Schema):
    """What a lap is to be called, and what it was called when that was decided."""

    name: LapName
    base_name: str = Field(max_length=120)


class CornerIn(Schema):
    """A corner where the builder says it is; null name for its number."""

    name: Annotated[str, StringConstraints(max_length=60), Seen] | None = None
    start_s: Second
    end_s: Second


class CornersIn(Schema):
    """The corners of a lap; null to find them."""

    corners: list[CornerIn] | None = Field(max_length=200)


class LapCornerOut(Schema):
    """A corner of a lap."""

    number: int
    name: str | None
    hand: Literal["left", "right"]
    start_s: float
    end_s: float
    peak_g: float
    apex_m: tuple[float, float]


class HeldLoadsOut(Schema):
    """The g-g envelope: by where the oil is thrown, and for how long it is held."""

    thrown_deg: list[float]
    holds_s: list[float]
    load_g: list[list[float]]


class LapDetailOut(LapOut):
    """A lap to look at: its words, line, corners, g-g cloud and what it holds."""

    sentences: list[str]
    doubts: list[str]
    line_m: list[tuple[float, float]]
    corners: list[LapCornerOut]
    corners_edited: bool
    cloud_g: list[tuple[float, float]]
    held: HeldLoadsOut
    has_vertical: bool
    from_gps: bool


class ManoeuvreIn(Schema):
    """One part of a load without a logger."""

    kind: Kind
    hand: Hand
    level_g: float = Field(ge=0.01, le=4)
    ramp_s: float = Field(ge=0.01, le=30)
    hold_s: float = Field(ge=0.01, le=600)
    engine_speed_rpm: float = Field(ge=300, le=20_000)


class ManoeuvresIn(Schema):
    """A load without a logger: manoeuvres one after another."""

    parts: list[ManoeuvreIn] = Field(min_length=1, max_length=12)


class KeepManoeuvresIn(ManoeuvresIn):
    """The same to be kept; with no name it is called by what it is."""

    name: Annotated[str, StringConstraints(max_length=120), Seen] = ""


class ManoeuvreTraceOut(Schema):
    """A load as it is typed: g over time, and its name by what it is."""

    name: str
    time_s: list[float]
    side_g: list[float]
    fore_g: list[float]


class GripIn(Schema):
    """Grip over grip when logged."""

    factor: float = Field(ge=0.3, le=3)
