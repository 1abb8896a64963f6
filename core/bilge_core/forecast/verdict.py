"""The verdict: one sentence that a builder can act on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bilge_core.forecast.dips import Dip, DryTime

_COUNTS = ("no times", "once", "twice", "three times", "four times", "five times", "six times")

State = Literal["runs_dry", "draws_air", "sound"]


@dataclass(frozen=True)
class Verdict:
    """State, two or three words, and the sentence with its number, corner, hand and g."""

    state: State
    headline: str
    sentence: str


_WORSE = {"sound": 0, "draws_air": 1, "runs_dry": 2}


def badness(state: State, dry: float) -> tuple[int, float]:
    """How bad a verdict is beside another, to be compared: by its state, then its dry time [s].

    Examples
    --------
    >>> badness("runs_dry", 0.2) > badness("draws_air", 0.0) > badness("sound", 0.0)
    True
    >>> badness("runs_dry", 0.3) > badness("runs_dry", 0.2)
    True
    """
    return _WORSE[state], dry


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


def give_verdict(dry_time: DryTime, least_cover: float) -> Verdict:
    """Judge a lap.

    Parameters
    ----------
    dry_time : DryTime
    least_cover : float
        Over the lap [m].

    Returns
    -------
    Verdict
        `runs_dry` with any dip; `draws_air` with none but air drawn along;
        `sound` otherwise.

    Examples
    --------
    >>> give_verdict(DryTime((), 0.0, 0.0), 0.012).sentence
    'The pickup stays covered all lap, by 12 mm at the least.'
    """
    dips = dry_time.dips
    if dips:
        count = _COUNTS[len(dips)] if len(dips) < len(_COUNTS) else f"{len(dips)} times"
        if len(dips) == 1:
            return Verdict("runs_dry", "Not safe", f"The pickup runs dry for {dip_words(dips[0])}.")
        return Verdict(
            "runs_dry",
            "Not safe",
            f"The pickup runs dry {count} a lap, worst for {dip_words(dips[0])}.",
        )
    if dry_time.draws_air > 0.0:
        return Verdict(
            "draws_air",
            "Caution",
            f"The pickup does not run dry, but draws air along for "
            f"{_seconds(dry_time.draws_air)} a lap; least cover {least_cover * 1e3:.0f} mm.",
        )
    return Verdict(
        "sound",
        "Sound",
        f"The pickup stays covered all lap, by {least_cover * 1e3:.0f} mm at the least.",
    )
