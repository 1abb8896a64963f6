"""The channels a forecast needs, and how a column's heading is recognised."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, StringConstraints

from bilge_core.errors import InvalidInput, Problem
from bilge_core.quantities import KINDS

ChannelName = Literal["time", "speed", "lateral", "longitudinal", "engine_speed"]


@dataclass(frozen=True)
class Channel:
    """A channel: its label, kind of figure, headings it goes by, plausible range in SI."""

    label: str
    kind: str
    headings: tuple[str, ...]
    lowest: float
    highest: float


CHANNELS: dict[ChannelName, Channel] = {
    "time": Channel("time", "time", ("time", "t", "elapsed", "elapsed time", "lap time"), 0, 1e5),
    "speed": Channel(
        "speed", "speed", ("speed", "gps speed", "vehicle speed", "velocity", "v"), -1, 140
    ),
    "lateral": Channel(
        "lateral g",
        "acceleration",
        (
            "lateral acceleration",
            "lateral g",
            "lateral acc",
            "lateral accel",
            "lat acc",
            "lat g",
            "g lat",
            "side g",
            "ay",
        ),
        -60,
        60,
    ),
    "longitudinal": Channel(
        "longitudinal g",
        "acceleration",
        (
            "longitudinal acceleration",
            "longitudinal g",
            "longitudinal acc",
            "longitudinal accel",
            "long acc",
            "long g",
            "g long",
            "fore g",
            "ax",
        ),
        -80,
        80,
    ),
    "engine_speed": Channel(
        "engine speed", "rotation", ("engine speed", "rpm", "engine rpm", "revs"), 0, 2200
    ),
}

POSITIVE_WORDS: dict[ChannelName, tuple[str, str]] = {
    "lateral": ("left", "right"),
    "longitudinal": ("forward", "braking"),
}
"""What a positive figure may mean: a turn to that hand; gaining speed, or braking."""


class Column(BaseModel):
    """Where a channel is found in a file and how to read it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    heading: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    unit: Annotated[str, StringConstraints(max_length=20)]
    positive: Literal["left", "right", "forward", "braking"] | None = None


Mapping = dict[ChannelName, Column]

_BRACKET = re.compile(r"[\[(](?P<inside>[^\])]*)[\])]")
_SIGN = re.compile(r"\+\s*(?:=\s*)?(left|right|forward|braking)", re.IGNORECASE)


@dataclass(frozen=True)
class HeadingGuess:
    """What a heading says by itself: channel, unit and sign, each None when it does not say."""

    channel: ChannelName | None
    unit: str | None
    positive: str | None


def read_heading(heading: str) -> HeadingGuess:
    """Read a column's heading such as ``lateral g [g + left]``.

    Examples
    --------
    >>> read_heading("Lateral acceleration [g + left]")
    HeadingGuess(channel='lateral', unit='g', positive='left')
    >>> read_heading("water temp").channel is None
    True
    """
    inside = " ".join(match["inside"] for match in _BRACKET.finditer(heading))
    sign = _SIGN.search(heading)
    plain = re.sub(r"[_\s]+", " ", _BRACKET.sub(" ", heading)).strip().lower()
    found: ChannelName | None = next(
        (name for name, channel in CHANNELS.items() if plain in channel.headings), None
    )
    unit = None
    if found is not None:
        said = _SIGN.sub("", inside).strip(" ,;").lower()
        known = KINDS[CHANNELS[found].kind].units
        unit = said if said and said in known else None
        if unit is None and found == "engine_speed":
            unit = "rpm"
    word = sign.group(1).lower() if sign else None
    allowed = POSITIVE_WORDS.get(found, ()) if found else ()
    return HeadingGuess(found, unit, word if word in allowed else None)


def check_mapping(mapping: Mapping) -> None:
    """See that a mapping names all five channels, known units, and a sign where one is needed.

    Raises
    ------
    InvalidInput
        Naming each channel that lacks something, and what would be right.
    """
    problems: list[Problem] = []
    for name, channel in CHANNELS.items():
        column = mapping.get(name)
        if column is None:
            problems.append(
                Problem(f"channels.{name}", f"no column is given for {channel.label}; name one")
            )
            continue
        units = [unit for unit in KINDS[channel.kind].units if unit]
        if column.unit.lower() not in units:
            what = f"{column.unit!r} is no unit" if column.unit else "the unit is not said"
            problems.append(
                Problem(
                    f"channels.{name}.unit",
                    f"{what} for {channel.label}; give one of {', '.join(units)}",
                )
            )
        words = POSITIVE_WORDS.get(name)
        if words and column.positive not in words:
            problems.append(
                Problem(
                    f"channels.{name}.positive",
                    f"what a positive {channel.label} means is not said; "
                    f"give {words[0]} or {words[1]}",
                )
            )
    if problems:
        raise InvalidInput(problems)
