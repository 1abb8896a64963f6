"""The hold-up trial: oil up top at each engine speed, by the level left in the pan."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from bilge_core.agreement.book import litres_at
from bilge_core.agreement.book_entries import HoldUp
from bilge_core.document.build import Build
from bilge_core.document.learned import SURE
from bilge_core.network.held import held_running
from bilge_core.network.oil import hot_ratio
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.turns import speed_of_rpm

READ_TO = 1e-3
"""[m] to which a level is read off a sight tube (ours)."""
_FEWEST = 2  # levels after it was switched off that tell of a time


@dataclass(frozen=True)
class HeldAt:
    """Oil held up at a speed.

    rpm : of the crank
    held : by the levels [m3]
    give : to each side, by how a tube is read [m3]
    thought : by the forecast's circuit: heads, chests and off the crank [m3]
    """

    rpm: float
    held: float
    give: float
    thought: float

    @property
    def more(self) -> float:
        """Than thought [m3]."""
        return self.held - self.thought


@dataclass(frozen=True)
class HeldUp:
    """What a trial told.

    at : by engine speed, rising
    returns : time in which all but a third of it is back, the engine standing [s]; None: not told
    """

    at: tuple[HeldAt, ...]
    returns: float | None

    @property
    def more(self) -> tuple[float, float]:
        """Held up than was thought over all speeds, and to each side of it, 19 in 20 [m3].

        Where speeds part by more than a tube is read to, that is what is not sure.
        """
        rows = np.array([each.more for each in self.at])
        read = max(each.give for each in self.at)
        apart = float(np.std(rows, ddof=1)) if len(rows) > 1 else 0.0
        return float(rows.mean()), SURE * max(read / math.sqrt(2.0), apart) / math.sqrt(len(rows))

    @property
    def fastest(self) -> HeldAt:
        """At the highest speed that was tried: nearest to a lap."""
        return self.at[-1]


def learn_held_up(trial: HoldUp, build: Build) -> dict[str, Any]:
    """The act that takes what a trial told over into what is known of the car, as plain data.

    Parameters
    ----------
    trial : HoldUp
    build : Build
        As it stood.

    Returns
    -------
    dict
        Of a `learn`.

    Notes
    -----
    How soon it comes back is told and not taken: most of that is film on walls, which no forecast
    follows.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> trial = HoldUp(kind="hold_up", id="h", on="2026-06-07", standing_mm=100.0,
    ...                running=[{"rpm": 3000, "level_mm": 85.0}])
    >>> learn_held_up(trial, build)["up_top_more_l"]["source"]
    'hold-up trial, 2026-06-07'
    """
    more, give = held_up(trial, build).more
    known = build.learned.up_top_more_l if build.learned else None
    source = f"hold-up trial, {trial.on.isoformat()}"
    ratio = hot_ratio(build)  # figures are of oil as it was poured
    found = {
        "value": round(more * 1e3 / ratio + (known.value if known else 0.0), 3),
        "give": round(give * 1e3 / ratio, 3),
        "source": source,
    }
    return {"kind": "learn", "source": source, "up_top_more_l": found}


def held_up(trial: HoldUp, build: Build, pan: Pan | None = None) -> HeldUp:
    """What a hold-up trial told of a build.

    Parameters
    ----------
    trial : HoldUp
    build : Build
        As it stood.
    pan : Pan, optional
        As assembled from the build.

    Returns
    -------
    HeldUp

    Notes
    -----
    What the pan lacks beside the engine standing is up top: in heads, chests and off the crank.
    Lines, filter and galleries stay full of it either way and are not counted. After it is switched
    off the oil comes back as an exponential, its time by least squares of the logarithms.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> trial = HoldUp(kind="hold_up", id="h", on="2026-06-07", standing_mm=100.0,
    ...                running=[{"rpm": 3000, "level_mm": 85.0}])
    >>> found = held_up(trial, build).at[0]
    >>> 0.5e-3 < found.held < 2.5e-3, found.give < 0.3e-3
    (True, True)
    """
    pan = pan or assemble_pan(build)
    stands = litres_at(build, trial.standing_mm * 1e-3, pan)

    def held(level_mm: float) -> float:
        return stands - litres_at(build, level_mm * 1e-3, pan)

    rows = []
    for each in sorted(trial.running, key=lambda row: row.rpm):
        level = each.level_mm * 1e-3
        over, under = level + READ_TO, max(level - READ_TO, 0.0)
        wide = litres_at(build, over, pan) - litres_at(build, under, pan)
        thought = held_running(build, speed_of_rpm(each.rpm))
        rows.append(
            HeldAt(each.rpm, held(each.level_mm), wide / math.sqrt(2.0),
                   thought.aloft)
        )  # fmt: skip
    points = [(each.seconds, held(each.level_mm)) for each in trial.after]
    return HeldUp(tuple(rows), _returns([(t, v) for t, v in points if v > 0.0]))


def _returns(points: list[tuple[float, float]]) -> float | None:
    """Time constant of what comes back [s]."""
    if len({time for time, _ in points}) < _FEWEST:
        return None
    time, held = np.array(points).T
    slope = float(np.polyfit(time, np.log(held), 1)[0])
    return -1.0 / slope if slope < 0.0 else None
