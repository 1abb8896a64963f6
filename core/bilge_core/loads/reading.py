"""How a file is to be read: which column is what, what tells the time, how the sensor sits."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS, ChannelName
from bilge_core.quantities import KINDS

Positive = Literal["left", "right", "forward", "braking"]


class Column(BaseModel):
    """Where a channel is found in a file and how to read it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    heading: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    unit: Annotated[str, StringConstraints(max_length=20)]
    positive: Positive | None = None


class Sensor(BaseModel):
    """How the accelerometer sits in the car."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    turned_left_deg: float = Field(
        default=0.0, ge=-180, le=180, description="its forward axis, left of the car's, from above"
    )
    level_standing: bool = Field(
        default=False, description="take out its tilt, from a stretch in which the car stands"
    )
    ahead_mm: float = Field(default=0.0, ge=-6000, le=6000, description="of the engine's pan")
    left_mm: float = Field(default=0.0, ge=-3000, le=3000, description="of the engine's pan")


class Reading(BaseModel):
    """How a file is read.

    Time comes from its column; without one from distance and speed; without
    either from the samples per second.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    columns: dict[ChannelName, Column]
    sample_rate_hz: float | None = Field(default=None, gt=0, le=100_000)
    sensor: Sensor = Sensor()


def clock_of(reading: Reading) -> Literal["time", "distance", "rate"] | None:
    """What tells the time, None when nothing does.

    Examples
    --------
    >>> clock_of(Reading(columns={}, sample_rate_hz=50))
    'rate'
    """
    if "time" in reading.columns:
        return "time"
    if "distance" in reading.columns and reading.sample_rate_hz is None:
        return "distance"
    return "rate" if reading.sample_rate_hz is not None else None


def _column_faults(name: ChannelName, column: Column, but_unsaid: bool) -> list[Problem]:
    channel = CHANNELS[name]
    faults = []
    if column.unit.lower() not in KINDS[channel.kind].units and (column.unit or not but_unsaid):
        what = f"{column.unit!r} is no unit" if column.unit else "the unit is not said"
        faults.append(
            Problem(
                f"channels.{name}.unit",
                f"{what} for {channel.label}; give one of {', '.join(channel.units)}",
            )
        )
    words = POSITIVE_WORDS.get(name)
    if words and column.positive not in words and (column.positive or not but_unsaid):
        faults.append(
            Problem(
                f"channels.{name}.positive",
                f"what a positive {channel.label} means is not said; give {words[0]} or {words[1]}",
            )
        )
    return faults


def check_reading(reading: Reading, but_unsaid: bool = False) -> None:
    """See that a reading names the needed channels, known units, signs, and a clock.

    `but_unsaid` lets units and signs pass that are not said yet: `bilge_core.loads.guesses` works
    them out.

    Raises
    ------
    InvalidInput
        Naming each channel that lacks something, and what would be right.

    Examples
    --------
    >>> check_reading(Reading(columns={}))
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: channels.time: nothing tells the time; name a column of time \
or distance, or say the samples per second; channels.speed: no column is given for speed; name \
one; channels.lateral: no column is given for lateral g; name one; channels.longitudinal: no \
column is given for longitudinal g; name one; channels.engine_speed: no column is given for \
engine speed; name one
    """
    problems: list[Problem] = []
    if clock_of(reading) is None:
        problems.append(
            Problem(
                "channels.time",
                "nothing tells the time; name a column of time or distance, "
                "or say the samples per second",
            )
        )
    for name, channel in CHANNELS.items():
        column = reading.columns.get(name)
        if column is not None:
            problems += _column_faults(name, column, but_unsaid)
        elif channel.use == "needed":
            problems.append(
                Problem(f"channels.{name}", f"no column is given for {channel.label}; name one")
            )
    if ("latitude" in reading.columns) != ("longitude" in reading.columns):
        lone = "latitude" if "longitude" in reading.columns else "longitude"
        problems.append(
            Problem(f"channels.{lone}", "latitude and longitude go together; name both or neither")
        )
    if problems:
        raise InvalidInput(problems)
