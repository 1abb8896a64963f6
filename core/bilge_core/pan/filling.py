"""How much oil lies in the pan of a running engine."""

from __future__ import annotations

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.network import held_running, hot_ratio, learned_up_top


def hot_oil(build: Build) -> float:
    """All oil in the engine [m3]: what was poured, swollen at the running temperature.

    Examples
    --------
    >>> from bilge_core.document.read import read_build
    >>> from pathlib import Path
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> 6.2e-3 < hot_oil(build) < 6.8e-3
    True
    """
    return build.oil.volume_l * hot_ratio(build) * 1e-3


def running_oil(build: Build) -> float:
    """Oil that pan and circuit share while the engine runs [m3]: all, hot, less what stays up top.

    Examples
    --------
    >>> from bilge_core.document.read import read_build
    >>> from pathlib import Path
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> running_oil(build) == hot_oil(build)  # nothing was learned at the track yet
    True
    """
    return hot_oil(build) - learned_up_top(build)


LYING = 0.6e-3
"""[m3] in a dry sump's pan as a lap begins (ours: what three mouths leave lying; it is run in)."""


def oil_in_tank(build: Build) -> float:
    """Oil in a dry sump's tank as a lap begins [m3]: what neither the engine nor its pan holds.

    Nil where there is not so much. What comes back to it is not in it yet: see
    `bilge_core.network.way_back`.
    """
    return max(hot_oil(build) - held_running(build).total - oil_in_pan(build), 0.0)


def oil_in_pan(build: Build) -> float:
    """Oil in the pan, running [m3]: what was poured, swollen hot, less what the engine holds.

    Raises
    ------
    InvalidInput
        If the engine holds more than there is.

    Examples
    --------
    >>> from bilge_core.document.read import read_build
    >>> from pathlib import Path
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> 0.002 < oil_in_pan(build) < 0.010
    True
    """
    hot, held = hot_oil(build), held_running(build).total
    if build.circuit.is_dry:
        return min(LYING, max(hot - held, 0.0))
    if held >= hot:
        raise InvalidInput(
            [
                Problem(
                    "oil.volume_l",
                    f"the engine holds {held * 1e3:.1f} L while it runs, which leaves nothing of "
                    f"{hot * 1e3:.1f} L (hot); pour more oil, or check what its parts hold",
                )
            ]
        )
    return hot - held
