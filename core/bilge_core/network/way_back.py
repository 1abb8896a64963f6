"""A dry sump's way back: lines, coolers and separator between the pan's mouths and the tank.

Oil and gas go through them in the order in which they came in, as in the suction tube: what a stage
brings is in the tank only once all that was ahead of it has gone in. Meanwhile it is in no tank:
with stages that sweep two or three times what the engine is fed, a third to a half of all that
these lines hold is oil.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.dry_and_gas import Separator, Tank
from bilge_core.document.circuit.feeding import Cooler, Filter, PlateCooler
from bilge_core.document.circuit.pumps import PickupTube, ScavengeStage
from bilge_core.document.circuit.run import Open, Run, contents_of
from bilge_core.network.guesses import Guessed, known_of
from bilge_core.physics.arrays import Array

TAKEN_OUT = 0.7
"""Share of its gas that a separator takes out (ours, a guess: makers give more, at one flow)."""
_COOLS = (Cooler, PlateCooler)
_HOLDS = ((_COOLS, "cooler_holds"), (Filter, "filter_holds"))
"""What holds something without being told, and the guess of it."""


def lines_behind(circuit: Circuit, stage: str) -> tuple[list[PickupTube], list[Run]]:
    """The pickups that a stage draws by, and the lines: back through whatever joins them."""
    found: list[PickupTube] = []
    lines: list[Run] = []
    waiting, seen = [stage], {stage}
    while waiting:
        here = waiting.pop(0)
        for run in circuit.runs:
            if run.service != "scavenge" or run.end.component != here:
                continue
            lines.append(run)
            before = circuit.component(run.start.component)
            if before is None or before.id in seen:
                continue
            seen.add(before.id)
            if isinstance(before, PickupTube):
                found.append(before)
            else:
                waiting.append(before.id)
    return found, lines


def swept_by(per_turn: float, ratio: float, speed: Array | float) -> Array:
    """What a stage sweeps at crank speeds [rad/s]: [m3/s], gas and oil.

    Parameters
    ----------
    per_turn : float
        Displacement [m3].
    ratio : float
        Turns of the pump per turn of the crank.
    speed : array_like

    Examples
    --------
    >>> swept_by(14e-6, 0.5, 2 * math.pi * 100.0).round(6).item()
    0.0007
    """
    turns = np.asarray(speed, dtype=np.float64) / (2.0 * math.pi) * ratio
    return np.asarray(turns * per_turn)


@dataclass(frozen=True)
class WayBack:
    """Sections of the way back, each ahead of the one that it goes on into; k of them, s stages.

    volumes : of what each holds, gas and oil [m3], shape (k,)
    onward : the section that it goes on into, -1: the tank, shape (k,)
    kept : share of gas that goes on at its end, less than 1 where a separator is, shape (k,)
    entries : the section that each stage's oil comes into, shape (s,)
    draws : whether each stage draws from the pan, shape (s,)
    per_radian : what each stage sweeps per radian of the crank [m3], shape (s,)
    rough : how many of its lines have no bore or no length, and count as empty
    cooler : the section that a cooler is in; -1: there is none
    taken : keys of the guesses used
    """

    volumes: Array
    onward: NDArray[np.int64]
    kept: Array
    entries: NDArray[np.int64]
    draws: NDArray[np.bool_]
    per_radian: Array
    rough: int = 0
    cooler: int = -1
    taken: tuple[str, ...] = ()

    @property
    def joined(self) -> int:
        """The section where all has come together: separator's, else cooler's, else the last."""
        apart = np.flatnonzero(self.kept < 1.0)
        if apart.size:
            return int(apart[0])
        return self.cooler if self.cooler >= 0 else len(self.volumes) - 1

    def _steady(self, fed: float, speed: float) -> tuple[Array, Array]:
        """Volume and oil through each section [m3/s], as much coming back as is fed."""
        swept = self.per_radian * speed
        drawing = float(swept[self.draws].sum())
        share = min(fed / drawing, 1.0) if drawing > 0.0 else 0.0
        volume, oil = np.zeros(len(self.volumes)), np.zeros(len(self.volumes))
        np.add.at(volume, self.entries, swept)
        np.add.at(oil, self.entries, swept * share * self.draws)
        for at, (into, kept) in enumerate(zip(self.onward, self.kept, strict=True)):
            if into >= 0:
                volume[into] += oil[at] + (volume[at] - oil[at]) * kept
                oil[into] += oil[at]
        return volume, oil

    def steady_shares(self, fed: float, speed: float) -> Array:
        """Share of oil in each section, when as much is brought back as the engine is fed.

        Parameters
        ----------
        fed : float
            Oil [m3/s].
        speed : float
            Of the crank [rad/s].

        Returns
        -------
        ndarray, shape (k,)
        """
        volume, oil = self._steady(fed, speed)
        return np.divide(oil, volume, out=np.zeros_like(oil), where=volume > 0.0)

    def takes(self, fed: float, speed: float) -> Array:
        """Time from each stage's mouths to the tank [s], running like that; shape (s,).

        Examples
        --------
        >>> one = WayBack(np.array([2e-3]), np.array([-1]), np.ones(1), np.zeros(1, dtype=int),
        ...               np.ones(1, dtype=bool), np.array([1e-6]))
        >>> one.takes(fed=2e-4, speed=500.0).tolist()
        [4.0]
        """
        volume, _ = self._steady(fed, speed)
        still = np.divide(
            self.volumes, volume, out=np.full(len(volume), math.inf), where=volume > 0.0
        )
        for at in range(len(volume) - 1, -1, -1):
            if self.onward[at] >= 0:
                still[at] += still[self.onward[at]]
        return np.asarray(still[self.entries])

    def holds(self, shares: Array) -> float:
        """Oil in all sections [m3] at such shares of it.

        Examples
        --------
        >>> one = WayBack(np.array([2e-3]), np.array([-1]), np.ones(1), np.zeros(1, dtype=int),
        ...               np.ones(1, dtype=bool), np.array([1e-6]))
        >>> one.holds(one.steady_shares(fed=2e-4, speed=500.0))
        0.0008
        """
        return float(self.volumes @ shares)


_Key = tuple[str, str]


def _volume_of(part: Component, guessed: Guessed) -> float:
    if part.holds_l is not None:
        return part.holds_l * 1e-3
    return next((guessed[key] for kind, key in _HOLDS if isinstance(part, kind)), 0.0)


@dataclass(frozen=True)
class _Section:
    """Where it begins, its lines, its parts, what it goes on into, the share of gas that is kept
    at its end, and whether a cooler is in it.
    """

    begins: _Key
    lines: tuple[Run, ...]
    parts: tuple[Component, ...]
    into: _Key | None
    kept: float = 1.0
    cools: bool = False

    def volume(self, guessed: Guessed) -> float:
        """What it holds [m3]."""
        parts = sum(_volume_of(each, guessed) for each in self.parts)
        return parts + sum(contents_of(run) or 0.0 for run in self.lines)

    @property
    def rough(self) -> int:
        closed = [run for run in self.lines if not isinstance(run.line, Open)]
        return sum(contents_of(run) is None for run in closed)


def _sections(circuit: Circuit) -> Iterator[_Section]:
    """From the stages to the tank: a new one at each joint, and on both sides of a separator."""
    returns = [run for run in circuit.runs if run.service == "return"]
    onward = {run.start.component: run for run in reversed(returns)}
    ends = [run.end.component for run in onward.values()]
    waiting: list[_Key] = [(each.id, "out") for each in circuit.of_kind(ScavengeStage)]
    seen = set(waiting)
    while waiting:
        key = here, side = waiting.pop(0)
        part = circuit.component(here)
        parts = (part,) if side == "in" and part is not None else ()
        if side == "in" and isinstance(part, Separator):
            found = _Section(key, (), parts, (here, "out"), 1.0 - TAKEN_OUT)
        else:
            lines = lines_behind(circuit, here)[1] if isinstance(part, ScavengeStage) else []
            into: _Key | None = None
            passed, cools = {here}, isinstance(part, _COOLS) and side == "in"
            while (run := onward.get(here)) is not None:
                lines.append(run)
                here = run.end.component
                part = circuit.component(here)
                if part is None or isinstance(part, Tank) or here in passed:
                    break
                if isinstance(part, Separator) or ends.count(here) > 1:
                    into = (here, "in")
                    break
                parts = (*parts, part)
                cools |= isinstance(part, _COOLS)
                passed.add(here)
            found = _Section(key, tuple(lines), parts, into, cools=cools)
        yield found
        if found.into is not None and found.into not in seen:
            seen.add(found.into)
            waiting.append(found.into)


def way_back_of(build: Build, instead: Mapping[str, float] | None = None) -> WayBack | None:
    """The way back of a build; None where no scavenge stage draws.

    Lines of which nobody told a bore or a length hold nothing; nor does a separator that nobody
    told of. `instead` has guesses that are to be other than likely, by key [SI].

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> way = way_back_of(read_build(Path("demo/curlew.json").read_text()))
    >>> len(way.entries), 2.0e-3 < float(way.volumes.sum()) < 2.5e-3
    (3, True)
    >>> way_back_of(read_build(Path("demo/dunlin.json").read_text())) is None
    True
    """
    circuit = build.circuit
    stages = circuit.of_kind(ScavengeStage)
    if not stages:
        return None
    rows = {each.begins: each for each in _sections(circuit)}
    guessed = Guessed(instead, known_of(build))

    def far(key: _Key) -> int:
        """How many sections there are to the tank; a ring's end at its own length."""
        count, at = 0, rows[key].into
        while at is not None and count < len(rows):
            count, at = count + 1, rows[at].into
        return count

    keys = sorted(rows, key=far, reverse=True)
    place = {key: at for at, key in enumerate(keys)}
    onward = [-1 if (into := rows[key].into) is None else place[into] for key in keys]
    return WayBack(
        np.array([rows[key].volume(guessed) for key in keys]),
        np.array([into if into > at else -1 for at, into in enumerate(onward)], dtype=np.int64),
        np.array([rows[key].kept for key in keys]),
        np.array([place[each.id, "out"] for each in stages], dtype=np.int64),
        np.array([bool(lines_behind(circuit, each.id)[0]) for each in stages]),
        np.array([
            float(swept_by(each.displacement_cm3 * 1e-6, each.drive_ratio, 1.0)) for each in stages
        ]),
        sum(each.rough for each in rows.values()),
        next((at for at, key in enumerate(keys) if rows[key].cools), -1),
        guessed.used,
    )  # fmt: skip
