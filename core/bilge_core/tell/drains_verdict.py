"""What drains do to a verdict, in words."""

from __future__ import annotations

from typing import Literal

from bilge_core.forecast.back_ups import BackUp, DrainForecast, DrainsForecast
from bilge_core.forecast.verdict import times
from bilge_core.rules.drains import SPARE
from bilge_core.tell.drains_pulled import pulled_state
from bilge_core.tell.numbers import mm
from bilge_core.tell.verdict import DrainsVerdict


def back_up_words(back_up: BackUp) -> str:
    """A back-up as one says it.

    Examples
    --------
    >>> back_up_words(BackUp(29.0, 30.1, 0.042, 30.4, 0.97, 3, "right", "in corner 3"))
    '1.1 s in corner 3, right, at 0.97 g: 42 mm short'
    """
    hand = f", {back_up.hand}," if back_up.hand else ""
    where = f"{back_up.place}{hand} at {back_up.load:.2f} g"
    return f"{back_up.lasts:.1f} s {where}: {back_up.short * 1e3:.0f} mm short"


def state_of(told: DrainForecast) -> Literal["good", "caution", "bad"]:
    """Whether a drain backs up over the lap, or has little to spare."""
    if told.back_ups:
        return "bad"
    return "good" if SPARE.holds(told.spare) else "caution"


def drains_verdict(forecast: DrainsForecast) -> DrainsVerdict:
    """What drains do to a build's verdict, in a few words.

    Examples
    --------
    >>> import numpy as np
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.forecast.back_ups import forecast_drains
    >>> from bilge_core.loads.log import Log
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> log = Log(np.arange(0.0, 2.0, 0.1), *np.zeros((3, 20)), np.full(20, 500.0))
    >>> drains_verdict(forecast_drains(build, log, ())).state
    'good'
    """
    worst = forecast.worst
    unplaced = len(forecast.drains.unplaced)
    short = next((each for each in forecast.pulled if pulled_state(each) == "bad"), None)
    if short is not None:
        sentence = f"{short.pulled.stage.name} does not take all that {short.pulled.name} brings."
        sentence = sentence[0].upper() + sentence[1:]
        return DrainsVerdict(
            state="bad", spare_mm=None if worst is None else mm(worst.spare, 0),
            name=short.pulled.name, sentence=sentence, unplaced=unplaced,
        )  # fmt: skip
    if worst is None and forecast.pulled:
        name = forecast.pulled[0].pulled.name
        return DrainsVerdict(state="good", spare_mm=None, name=name, sentence="", unplaced=unplaced)
    if worst is None:
        return DrainsVerdict(state="none", spare_mm=None, name="", sentence="", unplaced=unplaced)
    state, name = state_of(worst), worst.drain.name
    sentence = ""
    if worst.back_ups:
        first = max(worst.back_ups, key=lambda each: each.short)
        hand = f", {first.hand}" if first.hand else ""
        count = len(worst.back_ups)
        where = f"{first.place}{hand}: {first.short * 1e3:.0f} mm short"
        backs = f"The {name} backs up"
        sentence = f"{backs} {where}." if count == 1 else f"{backs} {times(count)}, worst {where}."
    elif state == "caution":
        sentence = f"The {name} has {worst.spare * 1e3:.0f} mm of head to spare at its worst."
    return DrainsVerdict(
        state=state, spare_mm=mm(worst.spare, 0), name=name, sentence=sentence, unplaced=unplaced
    )
