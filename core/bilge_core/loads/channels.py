"""The channels of a log, and how a column's heading is recognised."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from bilge_core.quantities import KINDS

ChannelName = Literal[
    "time",
    "speed",
    "lateral",
    "longitudinal",
    "engine_speed",
    "distance",
    "vertical",
    "yaw_rate",
    "latitude",
    "longitude",
    "lap",
    "oil_pressure",
    "oil_temperature",
]


@dataclass(frozen=True)
class Channel:
    """A channel: label, kind of figure, headings it goes by, plausible range in SI, its use.

    `use` is "clock" for what tells the time, "needed", or "extra".
    """

    label: str
    kind: str
    headings: tuple[str, ...]
    lowest: float
    highest: float
    use: Literal["clock", "needed", "extra"]

    @property
    def units(self) -> list[str]:
        """The unit names that may be given."""
        return [unit for unit in KINDS[self.kind].units if unit]


CHANNELS: dict[ChannelName, Channel] = {
    "time": Channel(
        "time",
        "time",
        ("time", "t", "elapsed", "elapsed time", "lap time", "session time", "timestamp"),
        -1e9,
        1e11,
        "clock",
    ),
    "distance": Channel(
        "distance",
        "distance",
        ("distance", "dist", "lap distance", "distance driven", "s"),
        -1e6,
        1e8,
        "clock",
    ),
    "speed": Channel(
        "speed",
        "speed",
        ("speed", "gps speed", "vehicle speed", "ground speed", "velocity", "v"),
        -1,
        140,
        "needed",
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
            "lat accel",
            "lat g",
            "g lat",
            "side g",
            "ay",
        ),
        -60,
        60,
        "needed",
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
            "long accel",
            "long g",
            "g long",
            "fore g",
            "ax",
        ),
        -80,
        80,
        "needed",
    ),
    "engine_speed": Channel(
        "engine speed",
        "rotation",
        ("engine speed", "rpm", "engine rpm", "revs"),
        -1,
        2200,
        "needed",
    ),
    "vertical": Channel(
        "vertical g",
        "acceleration",
        (
            "vertical acceleration",
            "vertical g",
            "vertical acc",
            "vert acc",
            "vert g",
            "g vert",
            "az",
        ),
        -80,
        80,
        "extra",
    ),
    "yaw_rate": Channel(
        "yaw rate",
        "turning",
        ("yaw rate", "yaw", "gyro z", "turning rate", "gyro yaw"),
        -7,
        7,
        "extra",
    ),
    "latitude": Channel(
        "latitude", "angle", ("latitude", "gps latitude", "lat", "gps lat"), -1.6, 1.6, "extra"
    ),
    "longitude": Channel(
        "longitude",
        "angle",
        ("longitude", "gps longitude", "lon", "lng", "gps lon", "gps long"),
        -3.2,
        3.2,
        "extra",
    ),
    "lap": Channel(
        "lap number", "count", ("lap", "lap number", "lap no", "lap count"), -1, 1e6, "extra"
    ),
    "oil_pressure": Channel(
        "oil pressure",
        "pressure",
        ("oil pressure", "oil press", "gallery pressure", "engine oil pressure"),
        -2e5,
        3e6,
        "extra",
    ),
    "oil_temperature": Channel(
        "oil temperature",
        "temperature",
        ("oil temperature", "oil temp", "engine oil temperature", "engine oil temp"),
        200,
        500,
        "extra",
    ),
}

POSITIVE_WORDS: dict[ChannelName, tuple[str, str]] = {
    "lateral": ("left", "right"),
    "longitudinal": ("forward", "braking"),
    "yaw_rate": ("left", "right"),
}
"""What a positive figure may mean: a turn to that hand; gaining speed, or braking."""

_BRACKET = re.compile(r"[\[(](?P<inside>[^\])]*)[\])]")
_SIGN = re.compile(r"\+\s*(?:=\s*)?(left|right|forward|braking)", re.IGNORECASE)
_SAID_WITHOUT: dict[ChannelName, str] = {
    "engine_speed": "rpm",
    "latitude": "deg",
    "longitude": "deg",
    "lap": "",
}


@dataclass(frozen=True)
class HeadingGuess:
    """What a heading says by itself: channel, unit and sign, each None when it does not say."""

    channel: ChannelName | None
    unit: str | None
    positive: str | None


def known_unit(channel: ChannelName, said: str) -> str | None:
    """The unit's name if it is one of the channel's, else None.

    Examples
    --------
    >>> known_unit("speed", " KM/H "), known_unit("speed", "bar")
    ('km/h', None)
    """
    unit = said.strip(" ,;[]()\"'").lower()
    return unit if unit and unit in KINDS[CHANNELS[channel].kind].units else None


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
        unit = known_unit(found, _SIGN.sub("", inside))
        if unit is None:
            unit = _SAID_WITHOUT.get(found)
    word = sign.group(1).lower() if sign else None
    allowed = POSITIVE_WORDS.get(found, ()) if found else ()
    return HeadingGuess(found, unit, word if word in allowed else None)
