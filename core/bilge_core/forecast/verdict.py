"""The verdict: one sentence that a builder can act on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bilge_core.forecast.dips import Dip, DryTime
from bilge_core.forecast.pressure import PressureDip, PressureOverLap

_COUNTS = ("no times", "once", "twice", "three times", "four times", "five times", "six times")

State = Literal["not_safe", "caution", "sound"]


@dataclass(frozen=True)
class Verdict:
    """State, two or three words, and the sentence with its number, corner, hand and g."""

    state: State
    headline: str
    sentence: str


_WORSE = {"sound": 0, "caution": 1, "not_safe": 2}


def badness(state: State, under: float, dry: float) -> tuple[int, float, float]:
    """How bad a verdict is beside another: by its state, time without pressure, dry time [s].

    Examples
    --------
    >>> badness("not_safe", 0.2, 0.2) > badness("caution", 0.0, 1.0) > badness("sound", 0.0, 0.0)
    True
    >>> badness("not_safe", 0.3, 0.0) > badness("not_safe", 0.2, 0.5)
    True
    """
    return _WORSE[state], under, dry


def _seconds(time: float) -> str:
    """Under a tenth of a second one place would say nil."""
    return f"{time:.1f} s" if time >= 0.1 else f"{time:.2f} s"


def dip_words(dip: Dip) -> str:
    """A dip as one says it.

    Examples
    --------
    >>> dip_words(Dip(1, 2, 0.8, 1.5, -0.01, 1.31, 1.31, 0, 6, "left", "in corner 6"))
    '0.8 s in corner 6, left, at 1.31 g'
    """
    hand = f", {dip.hand}," if dip.hand else ""
    return f"{_seconds(dip.dry)} {dip.place}{hand} at {dip.load:.2f} g"


def pressure_dip_words(dip: PressureDip) -> str:
    """A pressure dip as one says it.

    Examples
    --------
    >>> pressure_dip_words(
    ...     PressureDip(1.0, 1.6, 1.2e5, 1.4, 4.4e5, 1.31, 6, "left", "in corner 6"))
    '0.6 s in corner 6, left, at 1.31 g, down to 1.2 bar'
    """
    hand = f", {dip.hand}," if dip.hand else ""
    where = f"{dip.place}{hand} at {dip.load:.2f} g"
    return f"{_seconds(dip.lasts)} {where}, down to {dip.lowest / 1e5:.1f} bar"


def times(count: int) -> str:
    """How often, as one says it.

    Examples
    --------
    >>> times(2), times(14)
    ('twice', '14 times')
    """
    return _COUNTS[count] if count < len(_COUNTS) else f"{count} times"


def give_verdict(
    dry_time: DryTime,
    least_cover: float,
    pressure: PressureOverLap | None = None,
    mouth: str = "pickup",
) -> Verdict:
    """Judge a lap: the one place that weighs the mouth against the gallery.

    Parameters
    ----------
    dry_time : DryTime
    least_cover : float
        Over the lap [m].
    pressure : PressureOverLap, optional
        What the gallery had; settled oil has no circuit behind it and is judged by the mouth.
    mouth : str
        What feeds the gallery: the pickup, or a dry sump's "tank's outlet".

    Returns
    -------
    Verdict
        `not_safe` with any pressure dip, or, where no pressure is known, with any dip at the mouth;
        `caution` where the mouth runs dry or draws air along and the gallery does not feel it;
        `sound` otherwise.

    Examples
    --------
    >>> give_verdict(DryTime((), 0.0, 0.0), 0.012).sentence
    'The pickup stays covered all lap, by 12 mm at the least.'
    """
    dips = dry_time.dips
    if pressure is not None and pressure.dips:
        return _loses_pressure(dips, pressure, mouth)
    held = "" if pressure is None else f" The gallery keeps {_kept(pressure)}."
    if dips:
        words = (
            f"The {mouth} runs dry for {dip_words(dips[0])}."
            if len(dips) == 1
            else f"The {mouth} runs dry {times(len(dips))} a lap, worst for {dip_words(dips[0])}."
        )
        if pressure is None:
            return Verdict("not_safe", "Not safe", words)
        return Verdict("caution", "Caution", words + held)
    if dry_time.draws_air > 0.0:
        return Verdict(
            "caution",
            "Caution",
            f"The {mouth} does not run dry, but draws air along for "
            f"{_seconds(dry_time.draws_air)} a lap; least cover {least_cover * 1e3:.0f} mm.{held}",
        )
    return Verdict(
        "sound",
        "Sound",
        f"The {mouth} stays covered all lap, by {least_cover * 1e3:.0f} mm at the least.{held}",
    )


def _kept(pressure: PressureOverLap) -> str:
    """The margin: what the gallery has at its worst moment, and what were too little there."""
    return (
        f"{pressure.lowest / 1e5:.1f} bar, usual is {pressure.usual / 1e5:.1f} bar; "
        f"under {pressure.wanted / 1e5:.1f} bar is a dip"
    )


def _loses_pressure(dips: tuple[Dip, ...], pressure: PressureOverLap, mouth: str) -> Verdict:
    found = pressure.dips
    words = (
        f"Oil pressure dips for {pressure_dip_words(found[0])}."
        if len(found) == 1
        else f"Oil pressure dips {times(len(found))} a lap, "
        f"worst for {pressure_dip_words(found[0])}."
    )
    if dips:
        words += f" The {mouth} is dry {times(len(dips))}, {_seconds(dips[0].dry)} at most."
    return Verdict("not_safe", "Not safe", words)
