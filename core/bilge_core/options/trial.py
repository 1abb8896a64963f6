"""One remedy tried on a lap: which rung of the ladder, and what it gave."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.forecast import forecast_settled
from bilge_core.forecast.in_windows import InWindows, WindowRun
from bilge_core.forecast.lying import Lying, lying_in, together
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.on_record import Record, apart, circuit_lap, in_pan
from bilge_core.forecast.windows import LEAD, LEAD_OF_PLATES, Window, windows_of
from bilge_core.loads.corners import Corner
from bilge_core.loads.grip import with_grip
from bilge_core.loads.log import Log, at_times
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.seen import RATE, LookAt, MovingLap
from bilge_core.options.trace import Trace, joined, traced
from bilge_core.pan import assemble_pan
from bilge_core.physics.arrays import Array
from bilge_core.rules.air import RUNS_DRY

Rung = Literal["settled", "record", "worst", "windows", "lap", "grip", "less_oil", "hot"]
"""How a figure was had: settled oil; the stored record; the two worst windows in moving oil; all
windows; a whole lap; a whole lap with more grip, half a litre less, or hotter oil.
"""

MORE_GRIP = 1.1
LESS_OIL = 0.5
"""[L] that a session burns (common practice has no figure: ours)."""
HOTTER = 15.0
"""[K] over the build's own running temperature (ours)."""


@dataclass(frozen=True)
class Outcome:
    """What a trial gave.

    dry : at the mouth [s]
    under : in pressure dips [s]; None: settled oil has no circuit
    share : least of the usual pressure in the gallery; None as before
    lowest : pressure there, over the air's [Pa]
    dips : pressure dips
    mouth_dips : dips at the mouth
    windows : how many of the lap's windows it is of; None: all of the lap
    pan : oil in the pan as it begins [m3]
    base_dry : what the build as it is was dry over the same stretch [s]
    ramp : gas share from 0.3 to 0.7 taken as nil to one, over time [s]: starts differ less in it
    lies : where its oil lies while the build as it is is driest; None: not known
    trace : over the lap, or over the windows that were run; None: not known
    """

    dry: float
    under: float | None
    share: float | None
    lowest: float | None
    dips: int
    mouth_dips: int
    windows: int | None
    pan: float
    base_dry: float
    ramp: float = 0.0
    lies: Lying | None = None
    trace: Trace | None = None


@dataclass(frozen=True)
class BaseLap:
    """A build's own run in moving oil over a lap, that remedies are held against.

    build : Build
    log : Log, prepared
    corners : tuple of Corner
    time : of its looks, the log's own [s]
    gas_share, swallowed : of its mouth, each of shape (n,)
    dry, under : of the whole lap [s]
    share : least of the usual pressure
    lowest : pressure there, over the air's [Pa]; None: not known
    lies : where its oil lies while it is driest; None: not known
    """

    build: Build
    log: Log
    corners: tuple[Corner, ...]
    time: Array
    gas_share: Array
    swallowed: Array
    dry: float
    under: float
    share: float
    lowest: float | None = None
    lies: Lying | None = None

    @property
    def is_dry(self) -> NDArray[np.bool_]:
        """At which looks its mouth is, shape (n,)."""
        return self.gas_share > RUNS_DRY.most

    @property
    def hand(self) -> str:
        """Of the corners in which it is dry for longest: left, right, or empty for neither."""
        return max(self._dry_by_hand().items(), key=lambda each: each[1].sum())[0]

    def _dry_by_hand(self) -> dict[str, NDArray[np.bool_]]:
        leftward = at_times(self.log, self.time).leftward
        turns = {"left": leftward > _TURNS, "right": leftward < -_TURNS}
        turns[""] = ~(turns["left"] | turns["right"])
        return {hand: self.is_dry & each for hand, each in turns.items()}

    @property
    def driest(self) -> NDArray[np.bool_]:
        """The looks at which it is dry in corners of that hand, shape (n,)."""
        return self._dry_by_hand()[self.hand]

    def lying(self, build: Build, lap: MovingLap, counts: NDArray[np.bool_]) -> Lying | None:
        """Where another build's oil lies while this one is driest, at looks that count."""
        if not len(self.time):
            return None
        nearest = np.searchsorted(self.time, lap.time - 0.5 / RATE).clip(0, len(self.time) - 1)
        mouth = assemble_pan(build).mouth.centre
        return lying_in(lap, mouth, counts & self.driest[nearest], 1.0 / RATE)

    @property
    def record(self) -> Record:
        """What its mouth drew."""
        return Record.of_looks(self.time, self.swallowed)

    def windows(self, build: Build) -> tuple[Window, ...]:
        """The stretches that another build is run over: a longer lead between plates."""
        seen = at_times(self.log, self.time)
        load = np.hypot(seen.forward, seen.leftward)
        lead = LEAD_OF_PLATES if build.pan.plates else LEAD
        return windows_of(self.time, self.gas_share, load, lead)

    def dry_in(self, window: Window) -> float:
        """How much of a window its mouth was dry [s], to a look."""
        at = self.time - self.time[0]
        inside = (at >= window.start) & (at <= window.end)
        step = float(np.median(np.diff(self.time)))
        return float(self.is_dry[inside].sum()) * step

    def worst_two(self, windows: tuple[Window, ...]) -> tuple[int, ...]:
        """The windows of its worst left-hander and its worst right-hander, by their places.

        A lap of one hand has one; without gas in any corner, the two driest.
        """
        found: dict[str, tuple[float, int]] = {}
        by_hand = self._dry_by_hand()
        for number, window in enumerate(windows):
            at = self.time - self.time[0]
            inside = (at >= window.start) & (at <= window.end)
            for hand in ("left", "right"):
                here = float((inside & by_hand[hand]).sum())
                if here > found.get(hand, (0.0, -1))[0]:
                    found[hand] = (here, number)
        places = sorted({number for _, number in found.values()})
        if places:
            return tuple(places)
        by_dry = sorted(range(len(windows)), key=lambda n: -self.dry_in(windows[n]))
        return tuple(sorted(by_dry[:2]))


_TURNS = 2.0  # [m/s2] across that is a corner (ours)


def settled_outcome(build: Build, base: BaseLap) -> Outcome:
    """A remedy in settled oil: a filter and a first row, never a verdict."""
    found = forecast_settled(build, base.log, base.corners)
    dry_time = found.dry_time
    return Outcome(
        dry_time.dry, None, None, None, 0, len(dry_time.dips), None, found.pan.oil_volume, base.dry
    )


def record_outcome(build: Build, base: BaseLap) -> Outcome | None:
    """A remedy in the circuit alone on the whole stored record; None where the pan would feel it.

    Only for a pan that is as it was, and that would hardly feel the other circuit: see
    `bilge_core.forecast.on_record.apart`.
    """
    if build.pan != base.build.pan or build.pickup != base.build.pickup:
        return None
    lap = circuit_lap(build, base.log, base.record, base.corners, band=False)
    own = circuit_lap(base.build, base.log, base.record, base.corners, band=False)
    if not apart(build, lap, base.build, own).is_little:
        return None
    over = lap.pressure
    return Outcome(
        base.dry, over.under, over.lowest / over.usual, over.lowest, len(over.dips), 0, None,
        in_pan(build, lap), base.dry,
    )  # fmt: skip


class InTheWindows:
    """A remedy over the windows of a lap, to be asked for one after the other."""

    def __init__(self, build: Build, base: BaseLap, seed: int = 0) -> None:
        self.windows = base.windows(build)
        self.worst = base.worst_two(self.windows)
        self._build, self._base = build, base
        self._runs = InWindows(
            build, base.log, base.record, self.windows, RESOLUTIONS["quick"], base.corners, seed
        )

    def run(self, number: int) -> Outcome:
        """One window."""
        run = self._runs.run(number)
        lies = self._base.lying(self._build, run.lap, run.counts)
        return _of_window(run, self._base.dry_in(run.window), lies)


_RAMP = (0.3, 0.7)  # of gas, nil to one (ours: starts scatter by 0.025 s in it, 0.10 in dry time)


def ramp_of(time: Array, gas_share: Array) -> float:
    """Gas share as a ramp from 0.3 to 0.7, over time [s].

    Parameters
    ----------
    time : ndarray, shape (n,)
        Rising, in even steps [s].
    gas_share : ndarray, shape (n,)

    Examples
    --------
    >>> round(ramp_of(np.array([0.0, 0.1, 0.2]), np.array([0.2, 0.5, 0.9])), 3)
    0.15
    """
    low, high = _RAMP
    step = float(np.median(np.diff(time))) if len(time) > 1 else 0.0
    return float(np.clip((gas_share - low) / (high - low), 0.0, 1.0).sum()) * step


def _of_window(run: WindowRun, base_dry: float, lies: Lying | None) -> Outcome:
    over = run.over
    return Outcome(
        run.dry_time.dry, over.under, over.lowest / over.usual, over.lowest, len(over.dips),
        len(run.dry_time.dips), 1, run.begins_with, base_dry, ramp_of(run.log.time, run.gas_share),
        lies, traced(run.log.time, run.pressure, run.gas_share),
    )  # fmt: skip


def of_windows(found: Mapping[int, Outcome], count: int) -> Outcome:
    """Windows of a lap together: sums, and the worst moment's pressure.

    Parameters
    ----------
    found : from a window's place to what it gave
    count : int
        How many the lap has; with all of them the figures are the lap's.

    Examples
    --------
    >>> one = Outcome(0.5, 0.2, 0.4, 1e5, 1, 2, 1, 4e-3, 0.8)
    >>> both = of_windows({0: one, 3: one}, 4)
    >>> both.dry, both.under, both.windows
    (1.0, 0.4, 2)
    """
    if not found:
        return Outcome(0.0, 0.0, None, None, 0, 0, 0, 0.0, 0.0)
    rows = list(found.values())
    worst = min(rows, key=lambda each: 1.0 if each.share is None else each.share)
    return Outcome(
        sum(each.dry for each in rows),
        sum(each.under or 0.0 for each in rows),
        worst.share,
        worst.lowest,
        sum(each.dips for each in rows),
        sum(each.mouth_dips for each in rows),
        None if len(rows) == count else len(rows),
        rows[0].pan,
        sum(each.base_dry for each in rows),
        sum(each.ramp for each in rows),
        together([each.lies for each in rows]),
        joined([each.trace for each in rows]),
    )


def varied(build: Build, log: Log, rung: Rung) -> tuple[Build, Log]:
    """A build and a lap as a proof changes them: more grip, less oil, hotter oil.

    Raises
    ------
    InvalidInput
        If there is not so much oil to take.
    """
    if rung == "grip":
        return build, with_grip(log, MORE_GRIP)
    oil = build.oil
    if rung == "less_oil":
        if oil.volume_l <= LESS_OIL:
            raise InvalidInput([Problem("oil.volume_l", f"is no more than {LESS_OIL:g} L")])
        less = oil.model_copy(update={"volume_l": round(oil.volume_l - LESS_OIL, 3)})
        return build.model_copy(update={"oil": less}), log
    if rung == "hot":
        hotter = min(oil.temperature_c + HOTTER, _HOTTEST)
        hot = oil.model_copy(update={"temperature_c": hotter})
        return build.model_copy(update={"oil": hot}), log
    return build, log


_HOTTEST = 180.0  # [°C] that the document takes


def lap_outcome(
    build: Build,
    base: BaseLap,
    rung: Rung = "lap",
    seed: int = 0,
    watch: Callable[[LookAt], None] | None = None,
) -> Outcome:
    """A remedy over a whole lap in moving oil, as it is or as a proof varies it."""
    changed, over = varied(build, base.log, rung)
    corners = None if rung == "grip" else base.corners
    found = forecast_moving(changed, over, "quick", corners, seed, watch)
    pressure = found.pressure
    lies = base.lying(changed, found.lap, np.ones(len(found.lap.time), dtype=bool))
    return Outcome(
        found.dry_time.dry, pressure.under, pressure.lowest / pressure.usual, pressure.lowest,
        len(pressure.dips), len(found.dry_time.dips), None, float(found.lap.volume[0]), base.dry,
        lies=lies, trace=traced(found.lap.time, found.lap.pressure, found.lap.mouth.gas_share),
    )  # fmt: skip


def base_lap(build: Build, log: Log, corners: tuple[Corner, ...], seed: int = 0) -> BaseLap:
    """A build's own quick run over a lap, to hold remedies against."""
    found = forecast_moving(build, log, "quick", corners, seed)
    lap, mouth, pressure = found.lap, found.lap.mouth, found.pressure
    base = BaseLap(
        build, log, corners, lap.time, mouth.gas_share, mouth.swallowed,
        found.dry_time.dry, pressure.under, pressure.lowest / pressure.usual, pressure.lowest,
    )  # fmt: skip
    return replace(base, lies=base.lying(build, lap, np.ones(len(lap.time), dtype=bool)))
