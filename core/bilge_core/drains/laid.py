"""From a build's circuit to its drains: each line that oil falls through, from housing to pan."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.engine_side import Head, Turbo
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import HardLine, Hose, Run, bore_of, length_of
from bilge_core.document.fitted import Boss
from bilge_core.drains.line import DrainLine, FallingOil, Piece, foamed, line_along
from bilge_core.drains.pulled import Pulled
from bilge_core.drains.shared import Way, ways_of
from bilge_core.drains.standing import Load
from bilge_core.errors import InvalidQuantity
from bilge_core.network import Network
from bilge_core.network.breathing import place_of_port
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.guesses import GUESSES
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_up

From = Literal["turbo", "head"]
_MEETS = "where it meets the other's line"
How = Literal["gravity", "scavenged"]

_LENGTH = 200.0  # [mm] of a line that nobody measured (ours)
OUTFALL = 0.1
"""[m] under a junction that a stage empties: how low oil is taken to stand there (ours: out of the
way)."""
_NEAR = 1e-3  # [m] between a route's end and what it ends at, that is none


def falling_oil(network: Network, foam: float) -> FallingOil:
    """The network's hot oil with a share of gas in it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network import network_of
    >>> network = network_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> falling_oil(network, 0.5).density < 0.51 * network.oil.density
    True
    """
    oil = network.oil
    return foamed(oil.density, oil.viscosity / oil.density, foam)


@dataclass(frozen=True)
class Drain:
    """A drain with places at both ends.

    run : id of its first run
    component : id of what it drains
    kind : turbo or head
    name : as the builder has it
    how : by gravity, or to where it meets others that a stage pulls
    stage : id of that stage
    junction : id of where it meets them
    shares : by the id of a run that others' oil goes through too, the first runs of those drains
    boss : id of the pan's boss that it ends at; empty: at no boss
    line : DrainLine
    room : floor of the housing [m2]
    foam : share of gas in what it drains
    runs : ids of all its runs, from the housing down
    guessed : keys of the guesses used
    """

    run: str
    component: str
    kind: From
    name: str
    how: How
    stage: str
    junction: str
    shares: Mapping[str, tuple[str, ...]]
    boss: str
    line: DrainLine
    room: float
    foam: float
    runs: tuple[str, ...]
    guessed: tuple[str, ...]

    def oil(self, network: Network, foam: float | None = None) -> FallingOil:
        """What falls in it, with its own foam or another share."""
        return falling_oil(network, self.foam if foam is None else foam)

    def under(self, load: Load) -> Load:
        """A load as it meets it: no oil and no gas stand against it where a stage pulls."""
        if not self.junction:
            return load
        return Load(load.up, load.gravity, float(self.line.entry @ load.up) - OUTFALL)

    def carrying(self, times: Mapping[str, float]) -> Drain:
        """With others' oil in the runs that it shares: see `DrainLine.carrying`."""
        return replace(self, line=self.line.carrying(times)) if times else self


@dataclass(frozen=True)
class Unplaced:
    """A drain that cannot be told yet: what it wants, in words."""

    run: str
    component: str
    kind: From
    name: str
    wants: tuple[str, ...]
    stage: str = ""


@dataclass(frozen=True)
class Drains:
    """All drains of a build: those that fall, those pulled, those that want a place first."""

    placed: tuple[Drain, ...]
    unplaced: tuple[Unplaced, ...]
    pulled: tuple[Pulled, ...] = ()

    def with_placed(self, placed: tuple[Drain, ...]) -> Drains:
        """With others for those that fall."""
        return replace(self, placed=placed)


def place_of_boss(boss: Boss) -> Array:
    """A boss's middle in the engine's frame, shape (3,) [m].

    Examples
    --------
    >>> boss = Boss(kind="return", name="it", x_mm=100, y_mm=-80, depth_mm=30, bore_mm=16)
    >>> place_of_boss(boss).tolist()
    [0.1, -0.08, -0.03]
    """
    return np.array([boss.x_mm, boss.y_mm, -boss.depth_mm]) * 1e-3


@dataclass(frozen=True)
class _Ends:
    outlet: Array | None
    entry: Array | None
    boss: Boss | None


def _ends_of(build: Build, component: Component, runs: Sequence[Run]) -> _Ends:
    outlet = place_of_port(build.car, component, runs[0].start.port)
    if outlet is None and runs[0].route:
        outlet = np.array(runs[0].route[0].at_mm) * 1e-3
    boss = next((b for b in build.pan.bosses if b.id == runs[-1].end.port), None)
    if boss is not None:
        return _Ends(outlet, place_of_boss(boss), boss)
    last = build.circuit.component(runs[-1].end.component)
    entry = None if last is None else place_of_port(build.car, last, runs[-1].end.port)
    if runs[-1].route and (len(runs) > 1 or len(runs[-1].route) > 1):
        entry = np.array(runs[-1].route[-1].at_mm) * 1e-3
    return _Ends(outlet, entry, None)


def places_of(build: Build, run_id: str) -> tuple[Array | None, Array | None]:
    """Where a drain's first run begins and ends, in the engine's frame [m]; None: nobody said.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> outlet, entry = places_of(build, drains_of(build).placed[0].run)
    >>> bool(outlet[2] > entry[2])
    True
    """
    run = next(each for each in build.circuit.runs if each.id == run_id)
    component = build.circuit.component(run.start.component)
    assert component is not None
    ends = _ends_of(build, component, (run,))
    return ends.outlet, ends.entry


def _meets(build: Build, run: Run, onward: Run) -> Array | None:
    """Where a run gives way to the next [m]: what is between them, else what a route says."""
    between = build.circuit.component(run.end.component)
    place = None if between is None else place_of_port(build.car, between, run.end.port)
    if place is None and len(run.route) > 1:
        return np.array(run.route[-1].at_mm) * 1e-3
    if place is None and len(onward.route) > 1:
        return np.array(onward.route[0].at_mm) * 1e-3
    return place


def _route(build: Build, runs: Sequence[Run], ends: _Ends) -> tuple[list[Array], list[float]]:
    """Points and radii from the outlet to the entry; a route's own ends give way to theirs."""
    assert ends.outlet is not None and ends.entry is not None
    between: list[tuple[Array, float]] = []
    for at, run in enumerate(runs):
        inner = run.route[1:-1] if len(run.route) > 1 else run.route
        between += [(np.array(p.at_mm) * 1e-3, (p.radius_mm or 0.0) * 1e-3) for p in inner]
        meets = _meets(build, run, runs[at + 1]) if at + 1 < len(runs) else None
        if meets is not None:
            between.append((meets, 0.0))
    between = [
        (point, radius)
        for point, radius in between
        if min(np.linalg.norm(point - ends.outlet), np.linalg.norm(point - ends.entry)) > _NEAR
    ]
    clear, bends = [ends.outlet], [0.0]
    for here, radius in [*between, (ends.entry, 0.0)]:
        if np.linalg.norm(here - clear[-1]) > _NEAR:
            clear.append(here)
            bends.append(radius)
    return clear, bends


def _pieces(runs: Sequence[Run], boss: Boss | None, guessed: DrainGuesses) -> list[Piece]:
    pieces: list[Piece] = []
    for at, run in enumerate(runs):
        bore_mm, length = bore_of(run.line), length_of(run)
        bore = guessed["drain_line"] if bore_mm is None else bore_mm * 1e-3
        if at > 0 and run.start.narrowest_mm is not None:
            name = f"fitting at {run.name}"
            pieces.append(Piece(name, run.start.narrowest_mm * 1e-3, run=run.id))
        pieces.append(Piece(run.name, bore, (length or _LENGTH) * 1e-3, run.id))
        if run.end.narrowest_mm is not None:
            name = f"fitting at the end of {run.name}"
            pieces.append(Piece(name, run.end.narrowest_mm * 1e-3, run=run.id))
    if boss is not None:
        pieces.append(Piece(f"boss {boss.name}", boss.bore_mm * 1e-3, run=runs[-1].id))
    return pieces


def _outlets(component: Turbo | Head, first: Run) -> list[Piece]:
    holes: list[Piece] = []
    if isinstance(component, Turbo):
        if component.drain_bore_mm is not None:
            holes.append(Piece(f"outlet of {component.name}", component.drain_bore_mm * 1e-3))
        if component.gasket_mm is not None:
            holes.append(Piece(f"gasket of {component.name}", component.gasket_mm * 1e-3))
    if first.start.narrowest_mm is not None:
        holes.append(Piece(f"fitting at {component.name}", first.start.narrowest_mm * 1e-3))
    return holes


def _wants(build: Build, component: Component, way: Way, ends: _Ends) -> tuple[str, ...]:
    wants = []
    if ends.outlet is None:
        wants.append(f"where oil leaves {component.name}")
    runs = way.runs
    for run, onward in itertools.pairwise(runs):
        starts_to_share = onward.id in way.with_others and run.id not in way.with_others
        if starts_to_share and _meets(build, run, onward) is None:
            wants.append(_MEETS)
    if ends.entry is None:
        wants.append(_MEETS if way.junction else "where the line comes in")
    return tuple(wants)


def drains_of(build: Build, instead: Mapping[str, float] | None = None) -> Drains:
    """Every line that oil falls through from a turbo or, outside the engine, from a head.

    Parameters
    ----------
    build : Build
    instead : mapping of str to float, optional
        Guesses to set otherwise than they are likely to be: see `DRAIN_GUESSES`.

    Returns
    -------
    Drains

    Notes
    -----
    A route is taken to be fixed to the engine. One that nobody drew goes straight from outlet to
    entry. A boss is where its line comes in, wherever the route says that it ends.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> drains_of(read_build(Path("demo/dunlin.json").read_text())).placed
    ()
    """
    placed: list[Drain] = []
    unplaced: list[Unplaced] = []
    pulled: list[Pulled] = []
    circuit = build.circuit
    firsts = [run for run in circuit.runs if _drained(circuit, run) is not None]
    ways = ways_of(circuit, firsts)
    for run in firsts:
        component, way = _drained(circuit, run), ways[run.id]
        assert component is not None
        guessed = DrainGuesses(instead)
        if way.alone:
            pulled.append(_pulled(circuit, component, way, guessed))
            continue
        ends = _ends_of(build, component, way.runs)
        wants = _wants(build, component, way, ends)
        if not wants:
            try:
                placed.append(_drain(build, component, way, ends, guessed))
                continue
            except InvalidQuantity as error:
                wants = (f"a route that can be followed ({error.requirement})",)
        kind = _kind_of(component)
        unplaced.append(Unplaced(run.id, component.id, kind, run.name, wants, way.stage))
    return Drains(tuple(placed), tuple(unplaced), tuple(pulled))


def _drained(circuit: Circuit, run: Run) -> Turbo | Head | None:
    """What a run drains if it is a drain's first one; a head's passages stand elsewhere."""
    component = circuit.component(run.start.component)
    if run.service not in ("drain", "scavenge"):
        return None
    if isinstance(component, Turbo):
        return component
    if isinstance(component, Head) and isinstance(run.line, Hose | HardLine):
        return component
    return None


def _kind_of(component: Turbo | Head) -> From:
    return "turbo" if isinstance(component, Turbo) else "head"


def _side(told_mm: float | None, guess: str) -> float:
    """Of a head's floor [m]: as told, else as the network guesses it."""
    return GUESSES[guess].likely if told_mm is None else told_mm * 1e-3


def _foam(component: Turbo | Head, guessed: DrainGuesses) -> float:
    return guessed[f"{_kind_of(component)}_foam"]


def _pulled(circuit: Circuit, component: Turbo | Head, way: Way, guessed: DrainGuesses) -> Pulled:
    stage = circuit.component(way.stage)
    assert isinstance(stage, ScavengeStage)
    pieces = tuple(_pieces(way.runs, None, guessed))
    foam = _foam(component, guessed)
    return Pulled(
        way.runs[0].id, component.id, _kind_of(component), way.runs[0].name, stage, pieces, foam,
        tuple(run.id for run in way.runs), guessed.used,
    )  # fmt: skip


def _drain(
    build: Build, component: Turbo | Head, way: Way, ends: _Ends, guessed: DrainGuesses
) -> Drain:
    assert ends.outlet is not None
    up, runs = standing_up(build.car), way.runs
    foam = _foam(component, guessed)
    if isinstance(component, Turbo):
        height = component.seal_height_mm
        over = guessed["seal_height"] if height is None else height * 1e-3
        room = guessed["housing_floor"]
    else:
        wall = component.wall_height_mm
        over = guessed["head_wall"] if wall is None else wall * 1e-3
        room = _side(component.floor_length_mm, "head_length") * _side(
            component.floor_width_mm, "head_width"
        )
    points, radii = _route(build, runs, ends)
    pieces = _pieces(runs, ends.boss, guessed)
    seal = ends.outlet + over * up
    line = line_along(np.array(points), radii, pieces, _outlets(component, runs[0]), seal)
    return Drain(
        runs[0].id, component.id, _kind_of(component), runs[0].name,
        "scavenged" if way.stage else "gravity", way.stage, way.junction, way.with_others,
        ends.boss.id if ends.boss else "", line, room, foam, tuple(run.id for run in runs),
        guessed.used,
    )  # fmt: skip
