"""What a mouth draws over a lap with more oil up top: a few coupled runs and their trend."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.learned import Learned, UpTopMore
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.on_record import Record
from bilge_core.loads.log import Log
from bilge_core.moving.seen import LookAt
from bilge_core.physics.arrays import Array

LEVELS = (-0.125e-3, 0.0, 0.125e-3, 0.25e-3, 0.375e-3, 0.5e-3)
"""[m3] of oil up top more than thought at which the pan's oil is run: two laps at six levels are
twelve coupled runs."""

BEND = 1
"""Order of the trend of what a mouth draws over the oil up top: runs that start a little otherwise
lie about it."""
KEPT_TO = 255.0
"""Steps of a share that is kept."""


def with_more_up_top(build: Build, held_more: float) -> Build:
    """The same build with so much more oil up top than was thought, as it was poured [m3].

    Raises
    ------
    InvalidQuantity
        If that is more than there is.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> with_more_up_top(build, 0.25e-3).learned.up_top_more_l.value
    0.25
    """
    if held_more * 1e3 >= build.oil.volume_l:
        raise InvalidQuantity("held_more", held_more, f"under {build.oil.volume_l * 1e-3:g}")
    known = build.learned or Learned()
    before = known.up_top_more_l.value if known.up_top_more_l else 0.0
    more = UpTopMore(value=before + held_more * 1e3, give=0.0, source="tried")
    learned = known.model_copy(update={"up_top_more_l": more})
    return build.model_copy(update={"learned": learned})


def drawn_at(
    build: Build, lap: Log, held_more: float, seed: int = 0,
    watch: Callable[[LookAt], None] | None = None,
) -> Array:  # fmt: skip
    """What a build's mouth draws over a lap with more oil up top: one coupled run in coarse cells.

    Parameters
    ----------
    build : Build
    lap : Log
        Prepared.
    held_more : float
        Than was thought [m3].
    seed : int
        Of its start.
    watch : callable, optional
        Is shown each look as it is had; what it raises ends the run.

    Returns
    -------
    ndarray, shape (n,)
        Share of gas, at the lap's own steps, to a 255th.

    Raises
    ------
    InvalidInput, InvalidQuantity
        If there is no oil left for the pan, or the lap cannot be run.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin-deeper.json").read_text())
    >>> standing = Log(np.arange(0.0, 0.5, 0.02), *np.zeros((4, 25)))
    >>> float(drawn_at(build, standing, 0.25e-3).max())
    0.0
    """
    found = forecast_moving(with_more_up_top(build, held_more), lap, seed=seed, watch=watch)
    record = Record.of_looks(found.lap.time, found.lap.mouth.swallowed)
    share = np.interp(lap.time, record.time, record.gas_share)
    return np.asarray(np.round(share * KEPT_TO) / KEPT_TO)


@dataclass(frozen=True)
class Response:
    """What a mouth drew over one lap at each of `LEVELS`.

    time : shape (n,), the lap's own [s]
    gas_share : shape (levels, n)
    used : levels that are looked at
    """

    time: Array
    gas_share: Array
    used: tuple[int, ...] = tuple(range(len(LEVELS)))

    def without(self, level: int) -> Response:
        """The same with one level not looked at."""
        return replace(self, used=tuple(each for each in self.used if each != level))

    def run(self, level: int) -> Record:
        """What was drawn at one level."""
        return Record(self.time, self.gas_share[level])

    @cached_property
    def _trend(self) -> Array:
        """How the share goes with the oil up top at each time: coefficients, shape (2, n)."""
        at = np.array(LEVELS)[list(self.used)] / LEVELS[-1]
        return np.asarray(
            np.polynomial.polynomial.polyfit(at, self.gas_share[list(self.used)], BEND)
        )

    def at(self, held_more: float) -> Record:
        """By the trend over all levels.

        Examples
        --------
        >>> told = Response(np.zeros(1), np.linspace(0.0, 0.5, 6)[:, None])
        >>> round(float(told.at(0.1875e-3).gas_share[0]), 3)
        0.25
        """
        share = np.polynomial.polynomial.polyval(held_more / LEVELS[-1], self._trend)
        return Record(self.time, np.clip(share, 0.0, 1.0))
