"""Drains over a lap: where they back up, by how much they are short; the crankcase beside."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.document.build import Build
from bilge_core.drains.crankcase import CrankcaseOverLap, crankcase_over
from bilge_core.drains.feeds import Feed, feeds_of, with_others
from bilge_core.drains.laid import OUTFALL, Drain, Drains, drains_of
from bilge_core.drains.line import FallingOil
from bilge_core.drains.over_lap import DrainOverLap, Met, drain_over
from bilge_core.drains.standing import Load, Stands, stands
from bilge_core.forecast.dips import joined_stretches, stretches_above
from bilge_core.forecast.pulled import PulledForecast, pulled_by_stages
from bilge_core.loads.corners import Corner, place_on_lap
from bilge_core.loads.log import Log, at_times
from bilge_core.network import Network, network_of
from bilge_core.network.breathing import (
    MOST_PRESSURE,
    Breathing,
    blow_by,
    blow_by_at,
    full_power_speed,
    gas_ways,
)
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.rules.drains import BACKS_UP
from bilge_core.scavenge.vacuum import breathing_when_pulled
from bilge_core.settled.lap import settled_levels

EVERY = 0.04
"""[s] from one moment that is told to the next: 25 a second, as the moving oil is on record."""

Surface = Callable[[Array], Array]
"""From a place in the engine's frame, shape (3,) [m], to how high the pan's oil stands there at
each moment, along "up", shape (n,) [m]."""


@dataclass(frozen=True)
class BackUp:
    """One stretch in which oil stands over the seals of what a drain drains.

    start, end : [s]
    short : head that is short, at its worst [m], and when, `worst_at` [s]
    load : horizontal load there [g]
    corner : number, or None on a straight
    hand : of the turn there, or None
    place : such as ``in corner 6``
    """

    start: float
    end: float
    short: float
    worst_at: float
    load: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str

    @property
    def lasts(self) -> float:
        """[s]"""
        return self.end - self.start


@dataclass(frozen=True)
class DrainForecast:
    """One drain over a lap.

    drain : Drain
    feed : Feed
    oil : FallingOil
    met : Met
    over : DrainOverLap
    back_ups : longest first
    spare : head to spare at its worst [m]; where it backs up, minus what is short
    spare_at : [s]
    """

    drain: Drain
    feed: Feed
    oil: FallingOil
    met: Met
    over: DrainOverLap
    back_ups: tuple[BackUp, ...]
    spare: float
    spare_at: float

    @property
    def flooded(self) -> float:
        """Time in back-ups [s]."""
        return sum(each.lasts for each in self.back_ups)


@dataclass(frozen=True)
class DrainsForecast:
    """All drains of a build over a lap, and its breathing.

    drains : Drains
    log : Log, at the moments that are told
    corners : tuple of Corner
    ups : shape (n, 3), engine's frame
    levels : of settled oil, shape (n,) [m]
    blow_by : shape (n,) [m3/s]
    let_out : blow-by, less the gas that a dry sump's stages pull, shape (n,) [m3/s]
    breathing : Breathing
    case : CrankcaseOverLap
    under : from a vent's run to how deep its port is under oil, shape (n,) [m]
    forecasts : worst first
    pulled : by a stage of their own
    """

    drains: Drains
    log: Log
    corners: tuple[Corner, ...]
    ups: Array
    levels: Array
    blow_by: Array
    let_out: Array
    breathing: Breathing
    case: CrankcaseOverLap
    under: Mapping[str, Array]
    forecasts: tuple[DrainForecast, ...]
    pulled: tuple[PulledForecast, ...]

    @property
    def worst(self) -> DrainForecast | None:
        """The drain with least head to spare."""
        return self.forecasts[0] if self.forecasts else None


def find_back_ups(log: Log, over: DrainOverLap, corners: tuple[Corner, ...]) -> tuple[BackUp, ...]:
    """Stretches with oil over the seals, longest first; gaps under 0.05 s are joined.

    Parameters
    ----------
    log : Log
        At the moments of `over`.
    over : DrainOverLap
    corners : tuple of Corner
    """
    found = []
    for start, end, _ in joined_stretches(stretches_above(log.time, -over.room, 0.0)):
        if not BACKS_UP.holds(end - start):
            continue
        inside = np.flatnonzero((log.time >= start) & (log.time <= end))
        if not len(inside):
            inside = np.array([int(np.argmin(np.abs(log.time - start)))])
        short = np.maximum(-over.margin[inside], -over.room[inside])
        worst = int(inside[int(np.argmax(short))])
        load = math.hypot(float(log.leftward[worst]), float(log.forward[worst])) / STANDARD_GRAVITY
        corner, place = place_on_lap(corners, float(log.time[worst]))
        found.append(
            BackUp(
                start, end, float(short.max()), float(log.time[worst]), load,
                corner.number if corner else None, corner.hand if corner else None, place,
            )
        )  # fmt: skip
    return tuple(sorted(found, key=lambda each: -each.lasts))


def even_times(log: Log, every: float = EVERY) -> Array:
    """Evenly spaced times over a log [s], two at least."""
    count = max(2, math.floor((log.time[-1] - log.time[0]) / every + 1e-9) + 1)
    times: Array = log.time[0] + every * np.arange(count)
    return times


@dataclass(frozen=True)
class Tried:
    """What a reader tries instead of the guess: None leaves it.

    foam : share of gas in what turbos drain
    blow_by : at full power [m3/s]
    """

    foam: float | None = None
    blow_by: float | None = None


AS_GUESSED = Tried()


def fed_drains(build: Build, network: Network) -> tuple[Drains, Mapping[str, Feed]]:
    """A build's drains, each with what others bring into it, and what comes into their housings.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> drains, feeds = fed_drains(build, network_of(build))
    >>> [drain.run in feeds for drain in drains.placed]
    [True]
    """
    drains = drains_of(build)
    feeds = feeds_of(build, drains, network)
    return with_others(drains, feeds), feeds


@dataclass(frozen=True)
class AtLoad:
    """Drains under one steady load, at full power.

    up : shape (3,), engine's frame
    level : of the pan's oil, along it [m]
    pressure : of the crankcase [Pa]
    stands : each drain with how oil stands in it
    """

    up: Array
    level: float
    pressure: float
    stands: tuple[tuple[Drain, Stands], ...]


def drains_at(build: Build, forward: float, leftward: float, tried: Tried = AS_GUESSED) -> AtLoad:
    """A build's drains under a steady load, the feeds at their most.

    Parameters
    ----------
    build : Build
    forward, leftward : float
        The car's acceleration [m/s2].
    tried : Tried

    Returns
    -------
    AtLoad

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> right, left = (drains_at(build, 4.0, side).stands[0][1] for side in (-9.0, 9.0))
    >>> right.margin < left.margin
    True
    """
    pan, network, guessed = assemble_pan(build), network_of(build), DrainGuesses()
    felt = apparent_gravity(build.car, forward, leftward)
    up = up_from(felt)
    level = level_of_volume(pan.solid, up, pan.oil_volume)
    at_full = blow_by(build, guessed) if tried.blow_by is None else tried.blow_by
    breathing = gas_ways(build, guessed)
    full = np.array([full_power_speed(build.car)])
    breathing, [left] = breathing_when_pulled(build, network, breathing, np.array([at_full]), full)
    pressure = min(breathing.pressures(float(left))[breathing.source], MOST_PRESSURE)
    drains, feeds = fed_drains(build, network)
    gravity = float(np.linalg.norm(felt))
    found = []
    for drain in drains.placed:
        if drain.run in feeds:
            oil = drain.oil(network, tried.foam if drain.kind == "turbo" else None)
            flow = max(feeds[drain.run].most, 1e-9)
            load = drain.under(Load(up, gravity, level, pressure))
            found.append((drain, stands(drain.line, flow, oil, load)))
    return AtLoad(up, level, pressure, tuple(found))


def forecast_drains(
    build: Build,
    log: Log,
    corners: tuple[Corner, ...],
    tried: Tried = AS_GUESSED,
    surface: Surface | None = None,
    network: Network | None = None,
) -> DrainsForecast:
    """Forecast the drains of a build over a lap.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    corners : tuple of Corner
    tried : Tried
    surface : callable, optional
        How high the pan's oil stands at a place, at `even_times`; settled oil's when not given.
    network : Network, optional
        Of the build.

    Returns
    -------
    DrainsForecast

    Raises
    ------
    InvalidInput
        If the build cannot hold together, with the field named.

    Notes
    -----
    The feed is what the circuit steadily lets through at each moment's speed: a dip of the gallery
    would bring less.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 2.0, 0.1), *np.zeros((3, 20)), np.full(20, 500.0))
    >>> found = forecast_drains(build, log, ())
    >>> found.forecasts, bool(20 < found.case.pressure[0] < 500)
    ((), True)
    """
    pan = assemble_pan(build)
    network = network_of(build) if network is None else network
    there = at_times(log, even_times(log))
    felt = apparent_gravity(build.car, there.forward, there.leftward, there.upward)
    ups = np.ascontiguousarray(up_from(felt))
    gravity = np.linalg.norm(felt, axis=1)
    levels = settled_levels(pan.solid, pan.oil_volume, ups)
    heights = (lambda _: levels) if surface is None else surface
    guessed = DrainGuesses()
    breathing = gas_ways(build, guessed)
    at_full = blow_by(build, guessed) if tried.blow_by is None else tried.blow_by
    gas = blow_by_at(at_full, build.car, there.engine_speed)
    pulled, left = breathing_when_pulled(build, network, breathing, gas, there.engine_speed)
    under = {
        way.run: heights(way.port) - ups @ way.port
        for way in breathing.ways
        if way.port is not None and way.start == breathing.source
    }
    case = crankcase_over(pulled, left, network.oil.density, gravity, under, EVERY)
    drains, feeds = fed_drains(build, network)
    forecasts = []
    for drain in drains.placed:
        if drain.run not in feeds:
            continue
        oil = drain.oil(network, tried.foam if drain.kind == "turbo" else None)
        flow = feeds[drain.run].at(there.engine_speed)
        if drain.junction:
            surface_there, push = ups @ drain.line.entry - OUTFALL, np.zeros(len(gas))
        else:
            surface_there, push = heights(drain.line.entry), case.pressure
        met = Met(there.time, ups, gravity, surface_there, flow, push)
        over = drain_over(drain.line, drain.room, oil, met)
        back_ups = find_back_ups(there, over, corners)
        least = int(np.argmin(over.room))
        spare, at = float(over.room[least]), float(there.time[least])
        if back_ups:
            worst = max(back_ups, key=lambda each: each.short)
            spare, at = -worst.short, worst.worst_at
        forecasts.append(
            DrainForecast(drain, feeds[drain.run], oil, met, over, back_ups, max(spare, 0.0)
                          if not back_ups else spare, at)
        )  # fmt: skip
    forecasts.sort(key=lambda each: each.spare)
    return DrainsForecast(
        drains, there, corners, ups, levels, gas, left, breathing, case, under, tuple(forecasts),
        pulled_by_stages(drains, feeds, network, tried.foam),
    )  # fmt: skip
