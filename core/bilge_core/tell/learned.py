"""What laps say of the figures that nobody measured, as everybody reads it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel

from bilge_core.agreement.fitting import Fit, Told
from bilge_core.document.build import Build


class LapTold(BaseModel):
    """A lap that figures were fitted to."""

    session: str
    on: str
    circuit: str
    lap: str


class FigureTold(BaseModel):
    """One figure: as it was thought, as the laps have it, and how sure that is."""

    key: str
    words: str
    unit: str
    places: int
    before: float
    value: float
    low: float
    high: float
    """19 chances in 20 between them."""
    tells: bool
    """Whether the laps told more than was guessed."""
    at_end: bool
    """It lies at the end of what was looked at: the truth may be beyond."""
    takes: bool
    """Whether a forecast rests on it: it can be taken over."""
    by_lap_pct: list[float]
    """What each lap brings of what is known of it."""


class FitTold(BaseModel):
    """What some laps say of all of them."""

    figures: list[FigureTold]
    laps: list[LapTold]
    tied: list[str]
    leans: LapTold | None
    between_bar: float
    left_bar: float
    before_bar: float


_PLACES = {"held_more": 2, "bearings": 0, "sealing_oil": 1, "lag": 2, "gauge": 1}
"""Behind the point."""
_NOT_TAKEN = frozenset({"gauge"})
_END = 0.01  # of what was looked at, that counts as its end (ours)


def is_at_end(told: Told) -> bool:
    """Whether a figure lies at the end of what was looked at.

    Examples
    --------
    >>> from bilge_core.agreement.asked import ASKED
    >>> [is_at_end(Told(ASKED[0], held, 0.1e-3, True, (1.0,))) for held in (0.2e-3, 0.5e-3)]
    [False, True]
    """
    low, high, at = (told.asked.put(x) for x in (told.asked.low, told.asked.high, told.value))
    return min(at - low, high - at) < _END * (high - low)


def _figure(told: Told) -> FigureTold:
    asked = told.asked
    places = _PLACES[asked.key]
    at = asked.put(told.value)

    def shown(x: float) -> float:
        return round(asked.taken(x) * asked.scale, places + 1)

    return FigureTold(
        key=asked.key, words=asked.words, unit=asked.unit, places=places,
        before=round(asked.before * asked.scale, places + 1), value=shown(at),
        low=shown(at - told.give), high=shown(at + told.give),
        tells=told.tells, at_end=is_at_end(told),
        takes=told.tells and not is_at_end(told) and asked.key not in _NOT_TAKEN,
        by_lap_pct=[round(100.0 * share, 1) for share in told.by_lap],
    )  # fmt: skip


def fit_told(fit: Fit, laps: Sequence[LapTold]) -> FitTold:
    """A fit of some laps, in their order."""
    words = {each.asked.key: each.asked.words for each in fit.told}
    return FitTold(
        figures=[_figure(each) for each in fit.told],
        laps=list(laps),
        tied=[f"{words[a]}; {words[b]}" for a, b in fit.tied],
        leans=None if fit.leans is None else laps[fit.leans],
        between_bar=round(fit.between / 1e5, 3),
        left_bar=round(fit.left / 1e5, 3),
        before_bar=round(fit.before / 1e5, 3),
    )


def source_of(laps: Sequence[LapTold]) -> str:
    """By what figures were found.

    Examples
    --------
    >>> day = {"session": "s1", "on": "2026-06-07", "circuit": "Saltmarsh"}
    >>> source_of([LapTold(lap="2", **day), LapTold(lap="4", **day)])
    'dips of 2 laps, 2026-06-07'
    """
    days = ", ".join(dict.fromkeys(each.on for each in laps))
    return f"dips of {len(laps)} lap{'s' if len(laps) > 1 else ''}, {days}"[:200]


def learn_act(told: FitTold, build: Build, keys: Sequence[str]) -> dict[str, Any]:
    """The act that takes some of the figures over, as plain data.

    Parameters
    ----------
    told : FitTold
    build : Build
        As it was fitted: what was known then is what the figures come on top of.
    keys : sequence of str
        Of the figures wanted; what cannot be taken is left out.

    Returns
    -------
    dict
        Of a `learn`; without a figure where none of them can be taken.
    """
    source = source_of(told.laps)
    known = build.learned.up_top_more_l if build.learned else None
    act: dict[str, Any] = {"kind": "learn", "source": source}
    fields = {"held_more": "up_top_more_l", "bearings": "bearings_pct",
              "sealing_oil": "sealing_pct", "lag": "gauge_lag_s"}  # fmt: skip
    for each in told.figures:
        if each.key not in keys or not each.takes:
            continue
        more = known.value if known and each.key == "held_more" else 0.0
        act[fields[each.key]] = {
            "value": round(each.value + more, 4),
            "give": round((each.high - each.low) / 2.0, 4),
            "source": source,
        }
    return act
