"""The one thing to change next, by what a session showed, and what would tell most."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bilge_core.agreement.resembles import Looks
from bilge_core.rules.track_book import SHORT_OF_MARK

What = Literal[
    "log", "seal", "faster", "level", "due", "hold_up", "again", "options", "forecast", "nothing"
]


@dataclass(frozen=True)
class Shows:
    """What the last session showed.

    looks : what too little pressure resembles; None where it cannot be said
    has_laps : whether laps with their pressure were held against anything
    has_forecast : whether there was a forecast
    met, foreseen, false_alarms, not_shown : places
    short_of_mark : oil missing to the mark as it went out [m3]; None: not dipped
    seal_renewed : the pickup joint's seal was renewed since
    overdue : names of what is overdue, the most pressing first
    learned_since : what the laps or a trial told of the car was taken over since
    """

    looks: Looks | None
    has_laps: bool
    has_forecast: bool
    met: int
    foreseen: int
    false_alarms: int
    not_shown: int
    short_of_mark: float | None
    seal_renewed: bool
    overdue: tuple[str, ...]
    learned_since: bool = False


@dataclass(frozen=True)
class NextChange:
    """One thing to do before the next session.

    what : which of them
    title : in a few words
    why : what of the session says so
    measure : what would tell most of whether it was that
    """

    what: What
    title: str
    why: str
    measure: str


_RUN_AGAIN = "The same laps again, with nothing else changed."

_LOG = NextChange(
    "log", "Log the gallery's pressure",
    "Without it nobody knows whether the gallery dipped, nor where.",
    "A sensor in the gallery, fifty readings a second, beside speed, side and fore g and engine "
    "speed.",
)  # fmt: skip
_SEAL = NextChange(
    "seal", "Pickup joint seal first",
    "The gallery is short on the straights as well, at the same engine speeds. What does not "
    "follow g is often air drawn in at the joint.",
    "The same laps with a new seal: what is short on the straights tells.",
)  # fmt: skip
_BEARINGS = NextChange(
    "seal", "Look for air drawn in, then at the bearings",
    "The seal is new, and the gallery is short on the straights still: tube, brace and pump's "
    "cover, then how much the bearings let through.",
    "A gauge reading hot at idle and at 3000 rpm, against one of when it was sound.",
)  # fmt: skip
_FORECAST = NextChange(
    "forecast", "A forecast to hold it against",
    "There was none in moving oil of this car over a lap of this circuit.",
    "Run it on Slosh, then look for the forecast again.",
)  # fmt: skip
_FASTER = NextChange(
    "faster", "Log the pressure faster",
    "Dips were forecast that this sensor and logger cannot show.",
    "Fifty readings a second, and a sensor on a short stiff line.",
)  # fmt: skip
_OPTIONS = NextChange(
    "options", "One remedy, by the forecast",
    "The car dips where it was forecast: the forecast is good enough to choose by.",
    "Try remedies on Options, fit one, run the same laps.",
)  # fmt: skip
_NOTHING = NextChange(
    "nothing", "Nothing",
    "No dip was measured and none was forecast. It holds as it is.",
    "The next thing that makes it harder: stickier tyres, a longer corner, hotter oil.",
)  # fmt: skip


def _level(short: float) -> NextChange:
    words = f"It went out {short * 1e3:.1f} L under its mark: every dip may be that."
    return NextChange("level", "Oil to the mark", words, _RUN_AGAIN)


def _overdue(name: str) -> NextChange:
    return NextChange(
        "due", f"What is overdue first: {name}",
        "What is past its time may be the cause of anything else.", _RUN_AGAIN,
    )  # fmt: skip


def _hold_up(missed: int, false_alarms: int) -> NextChange:
    unforeseen = f"{missed} came unforeseen" if missed else "None came unforeseen"
    failed = (
        f"{false_alarms} that {'was' if false_alarms == 1 else 'were'} forecast did not come"
        if false_alarms
        else "all that were forecast came"
    )
    return NextChange(
        "hold_up", "Measure the oil that is held up",
        f"{unforeseen}, {failed}: what the engine holds up top is the figure "
        "that nobody measured, and it moves all dips.",
        "The laps themselves say something of it; engine standing, a sight tube on the sump, the "
        "level at each engine speed says more.",
    )  # fmt: skip


_AGAIN = NextChange(
    "again", "Run it again by the new forecast",
    "What nobody measured was taken over since: only another session tells whether it is so.",
    _RUN_AGAIN,
)  # fmt: skip


def _spoils(shows: Shows) -> NextChange | None:
    """What spoils the reading of all that comes after it."""
    if not shows.has_laps:
        return _LOG
    if shows.short_of_mark is not None and not SHORT_OF_MARK.holds(shows.short_of_mark):
        return _level(shows.short_of_mark)
    if shows.looks in ("speed", "both"):
        return _BEARINGS if shows.seal_renewed else _SEAL
    return _overdue(shows.overdue[0]) if shows.overdue else None


def _doubts(shows: Shows) -> NextChange | None:
    """What the forecast itself leaves open."""
    if not shows.has_forecast:
        return _FORECAST
    if shows.not_shown and not shows.met:
        return _FASTER
    missed = shows.met - shows.foreseen
    if missed or shows.false_alarms:
        return _AGAIN if shows.learned_since else _hold_up(missed, shows.false_alarms)
    return None


def next_change(shows: Shows) -> NextChange:
    """The one thing to change next.

    Notes
    -----
    In the order of what spoils the reading of all that comes after it: oil's level, air drawn in,
    what is overdue, then the forecast's own doubts, then a remedy. That order is common practice,
    no published source.

    Examples
    --------
    >>> shows = Shows("slosh", True, True, 4, 4, 0, 0, 0.0, False, ())
    >>> next_change(shows).title
    'One remedy, by the forecast'
    """
    return _spoils(shows) or _doubts(shows) or (_OPTIONS if shows.met else _NOTHING)
