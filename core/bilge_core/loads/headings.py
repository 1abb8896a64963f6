"""Which channel, unit and sign a heading means, as far as it says."""

from __future__ import annotations

import re

from bilge_core.loads.channels import (
    CHANNELS,
    POSITIVE_WORDS,
    ChannelName,
    HeadingGuess,
    known_unit,
    read_heading,
)
from bilge_core.loads.words import BRAKING, FORWARD, LEFT, RIGHT, UNITS, Idea, ideas_of, words_of

# every idea of one of a channel's sets must be there, the largest set first
_SETS: dict[ChannelName, list[set[Idea]]] = {
    "lateral": [{"lateral", "acceleration"}, {"acceleration", "y"}],
    "longitudinal": [{"longitudinal", "acceleration"}, {"acceleration", "x"}],
    "vertical": [{"vertical", "acceleration"}, {"acceleration", "z"}],
    "engine_speed": [{"engine", "turns"}, {"engine", "speed"}, {"turns"}],
    "oil_pressure": [{"oil", "pressure"}],
    "oil_temperature": [{"oil", "temperature"}],
    "yaw_rate": [{"yaw", "rate"}, {"yaw", "z"}, {"yaw"}],
    "latitude": [{"latitude"}, {"gps", "lateral"}],
    "longitude": [{"longitude"}, {"gps", "longitudinal"}],
    "speed": [{"speed"}],
    "distance": [{"distance"}],
    "time": [{"time"}],
    "lap": [{"lap"}],
}
_MEANT = {name: tuple(frozenset(each) for each in sets) for name, sets in _SETS.items()}
_ALONE: dict[str, ChannelName] = {
    "ay": "lateral", "ax": "longitudinal", "az": "vertical", "gy": "lateral", "gx": "longitudinal",
    "gz": "vertical", "gn": "vertical", "n": "engine_speed", "nmot": "engine_speed",
    "v": "speed", "oilp": "oil_pressure", "poil": "oil_pressure", "oilt": "oil_temperature",
    "toil": "oil_temperature",
}  # fmt: skip
_POINT_UNIT = re.compile(r"[\[(<{]([^\])>}]*)[\])>}]|/\s*([^/]+)$")


def _fits(words: tuple[str, ...], name: ChannelName) -> float:
    """How well words mean a channel; nil when they do not."""
    ideas = [set(ideas_of(word)) for word in words]
    if any(each == {"foreign"} for each in ideas):
        return 0.0
    said: set[Idea] = set().union(*ideas)
    for rank, wanted in enumerate(_MEANT[name]):
        if not wanted <= said:
            continue
        beside = sum(
            1
            for word, each in zip(words, ideas, strict=True)
            if not each & (wanted | {"filler", "gps"}) and word not in UNITS and not word.isdigit()
        )
        strange = sum(1 for word, each in zip(words, ideas, strict=True) if not each
                      and word not in UNITS and not word.isdigit())  # fmt: skip
        if strange > 1:
            return 0.0
        return 10.0 * len(wanted) - rank - 3.0 * beside - 4.0 * strange
    return 0.0


def _unit(heading: str, words: tuple[str, ...], name: ChannelName) -> str | None:
    """The unit that a heading carries in brackets, after a stroke or glued to its end."""
    for inside, after in _POINT_UNIT.findall(heading):
        for text in (inside, after):
            said = UNITS.get(re.sub(r"[+\s].*$", "", text.strip().lower()), text)
            if (unit := known_unit(name, said)) is not None:
                return unit
    for word in reversed(words):
        if (unit := known_unit(name, UNITS.get(word, ""))) is not None and word != "t":
            return unit
    pairs = ("".join(words[k : k + 2]) for k in range(len(words) - 1))
    return next((unit for pair in pairs if (unit := known_unit(name, UNITS.get(pair, "")))), None)


def _sign(heading: str, words: tuple[str, ...], name: ChannelName) -> str | None:
    """What plus means, where it is glued to the heading: ``LatG_left+``, ``ay(+links)``."""
    says_plus = "+" in heading or bool({"pos", "positive", "positiv"} & {*words})
    hands = (("left", LEFT), ("right", RIGHT), ("forward", FORWARD), ("braking", BRAKING))
    allowed = POSITIVE_WORDS.get(name, ()) if says_plus else ()
    found = [side for side, known in hands if side in allowed and {*known} & {*words}]
    return found[0] if len(found) == 1 else None


def understand_heading(heading: str) -> HeadingGuess:
    """What a heading says: by its exact name, else by its words.

    Examples
    --------
    >>> understand_heading("LatAcc_G")
    HeadingGuess(channel='lateral', unit='g', positive=None)
    >>> understand_heading("vehspeedkmh").channel, understand_heading("Motordrehzahl").channel
    ('speed', 'engine_speed')
    >>> understand_heading("WheelSpeedFL").channel is None
    True
    """
    said = read_heading(heading)
    if said.channel is not None and said.unit is not None:
        return said
    words = words_of(heading)
    channel = said.channel
    if channel is None and words:
        key = "".join(word for word in words if word not in ("gps", "imu"))
        bare = "".join(re.findall(r"[a-z]+", heading.lower()))
        channel = _ALONE.get(key) or _ALONE.get(bare)
    if channel is None:
        fits = {name: _fits(words, name) for name in CHANNELS}
        best = max(fits, key=lambda name: fits[name])
        channel = best if fits[best] > 0.0 else None
    if channel is None:
        return HeadingGuess(None, None, None)
    return taken_for(heading, channel)


def taken_for(heading: str, channel: ChannelName) -> HeadingGuess:
    """What a heading says of a channel that its column is taken for, whatever it is called.

    Examples
    --------
    >>> taken_for("Side [m/s2 + left]", "lateral")
    HeadingGuess(channel='lateral', unit='m/s2', positive='left')
    >>> taken_for("Turns", "engine_speed").unit, taken_for("Side", "lateral").unit
    ('rpm', None)
    """
    said, words = read_heading(heading), words_of(heading)
    unit, positive = (said.unit, said.positive) if said.channel == channel else (None, None)
    if unit is None:
        unit = _unit(heading, words, channel)
    if unit is None and channel in ("latitude", "longitude", "engine_speed", "lap"):
        unit = {"engine_speed": "rpm", "lap": ""}.get(channel, "deg")
    return HeadingGuess(channel, unit, positive or _sign(heading, words, channel))


def plainness(heading: str, channel: ChannelName) -> float:
    """How plainly a heading means a channel; its exact name most plainly."""
    if read_heading(heading).channel == channel:
        return 100.0
    return _fits(words_of(heading), channel) or 1.0  # a short name of its own
