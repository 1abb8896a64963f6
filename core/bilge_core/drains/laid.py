"""From a build's circuit to its drains: each line that oil falls through, from housing to pan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.engine_side import Crankcase, Head, Turbo
from bilge_core.document.circuit.pumps import PanRegion, ScavengeStage
from bilge_core.document.circuit.run import (
    HardLine,
    Hose,
    Run,
    bore_of,
    length_of,
)
from bilge_core.document.fitted import Boss
from bilge_core.drains.line import DrainLine, FallingOil, Piece, foamed, line_along
from bilge_core.errors import InvalidQuantity
from bilge_core.network import Network, network_of
from bilge_core.network.breathing import place_of_port
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.guesses import GUESSES, HEAD_DRAINS
from bilge_core.network.records import at_rest
from bilge_core.network.running import on_steadily
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car, standing_up
from bilge_core.physics.turns import speed_of_rpm

From = Literal["turbo", "head"]
How = Literal["gravity", "scavenged"]

_SPEEDS = speed_of_rpm(
    np.array([600.0, 1000.0, 1500.0, 2000.0, 3000.0, 4000.0, 5000.0, 6000.0, 7000.0, 8000.0, 9e3])
)
"""Crank speeds [rad/s] at which a feed is worked out; between them straight lines (ours)."""
_STEADY_FOR = 6.0  # [s] to come to rest at a speed (ours)
_NEAR = 1e-3  # [m] between a route's end and what it ends at, that is none


@dataclass(frozen=True)
class Feed:
    """What comes into a housing, running hot, mouth covered.

    speed : of the crank, rising, shape (n,) [rad/s]
    flow : oil without foam, shape (n,) [m3/s]
    """

    speed: Array
    flow: Array

    def at(self, speed: Array) -> Array:
        """At other speeds [m3/s]; a crank that stands feeds nothing."""
        known = np.concatenate([[0.0], self.speed])
        flow = np.concatenate([[0.0], np.maximum(self.flow, 0.0)])
        return np.asarray(np.interp(speed, known, flow))


@dataclass(frozen=True)
class Drain:
    """A drain with places at both ends.

    run : id of its first run
    component : id of what it drains
    kind : turbo or head
    name : as the builder has it
    how : by gravity, or pulled by a stage
    stage : id of that stage
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
    boss: str
    line: DrainLine
    room: float
    foam: float
    runs: tuple[str, ...]
    guessed: tuple[str, ...]

    def oil(self, network: Network, foam: float | None = None) -> FallingOil:
        """What falls in it, with its own foam or another share."""
        oil = network.oil
        share = self.foam if foam is None else foam
        return foamed(oil.density, oil.viscosity / oil.density, share)


@dataclass(frozen=True)
class Unplaced:
    """A drain that cannot be told yet: what it wants, in words."""

    run: str
    component: str
    kind: From
    name: str
    wants: tuple[str, ...]


@dataclass(frozen=True)
class Drains:
    """All drains of a build: those that can be told, and those that want a place first."""

    placed: tuple[Drain, ...]
    unplaced: tuple[Unplaced, ...]


def _in_engine(build: Build, component: Component, key: str) -> Array | None:
    place = place_of_port(component, key)
    if place is None or component.place is None or component.place.fixed_to == "engine":
        return place
    return np.asarray(place @ engine_to_car(build.car))


def place_of_boss(boss: Boss) -> Array:
    """A boss's middle in the engine's frame, shape (3,) [m].

    Examples
    --------
    >>> boss = Boss(kind="return", name="it", x_mm=100, y_mm=-80, depth_mm=30, bore_mm=16)
    >>> place_of_boss(boss).tolist()
    [0.1, -0.08, -0.03]
    """
    return np.array([boss.x_mm, boss.y_mm, -boss.depth_mm]) * 1e-3


def _chain(circuit: Circuit, first: Run) -> list[Run]:
    """A drain's runs through tees, fittings and valves, as far as a stage, the pan or the block."""
    chain = [first]
    while True:
        component = circuit.component(chain[-1].end.component)
        if component is None or isinstance(component, PanRegion | Crankcase | ScavengeStage):
            return chain
        onward = [
            run
            for run in circuit.runs
            if run.start.component == component.id
            and run.service in ("drain", "scavenge")
            and run not in chain
        ]
        if not onward:
            return chain
        chain.append(onward[0])


@dataclass(frozen=True)
class _Ends:
    outlet: Array | None
    entry: Array | None
    boss: Boss | None


def _ends_of(build: Build, component: Component, chain: list[Run]) -> _Ends:
    port = chain[0].start.port
    outlet = _in_engine(build, component, port)
    if outlet is None and chain[0].route:
        outlet = np.array(chain[0].route[0].at_mm) * 1e-3
    boss = next((b for b in build.pan.bosses if b.id == chain[-1].end.port), None)
    if boss is not None:
        return _Ends(outlet, place_of_boss(boss), boss)
    last = build.circuit.component(chain[-1].end.component)
    entry = None if last is None else _in_engine(build, last, chain[-1].end.port)
    if chain[-1].route and (len(chain) > 1 or len(chain[-1].route) > 1):
        entry = np.array(chain[-1].route[-1].at_mm) * 1e-3
    return _Ends(outlet, entry, None)


def _route(chain: list[Run], ends: _Ends) -> tuple[list[Array], list[float]]:
    """Points and radii from the outlet to the entry; a route's own ends give way to theirs."""
    assert ends.outlet is not None and ends.entry is not None
    points: list[Array] = []
    radii: list[float] = []
    for run in chain:
        for point in run.route:
            points.append(np.array(point.at_mm) * 1e-3)
            radii.append((point.radius_mm or 0.0) * 1e-3)
    if points and len(points) > 1:
        points, radii = points[1:-1], radii[1:-1]
    between = [
        (point, radius)
        for point, radius in zip(points, radii, strict=True)
        if min(np.linalg.norm(point - ends.outlet), np.linalg.norm(point - ends.entry)) > _NEAR
    ]
    kept = [ends.outlet, *(point for point, _ in between), ends.entry]
    clear = [kept[0]]
    bends = [0.0]
    for here, radius in zip(kept[1:], [*(radius for _, radius in between), 0.0], strict=True):
        if np.linalg.norm(here - clear[-1]) > _NEAR:
            clear.append(here)
            bends.append(radius)
    return clear, bends


def _pieces(chain: list[Run], boss: Boss | None, guessed: DrainGuesses) -> list[Piece]:
    pieces: list[Piece] = []
    for at, run in enumerate(chain):
        bore_mm, length = bore_of(run.line), length_of(run)
        bore = guessed["drain_line"] if bore_mm is None else bore_mm * 1e-3
        if at > 0 and run.start.narrowest_mm is not None:
            pieces.append(Piece(f"fitting at {run.name}", run.start.narrowest_mm * 1e-3))
        pieces.append(Piece(run.name, bore, (length or 200.0) * 1e-3))
        if run.end.narrowest_mm is not None:
            pieces.append(Piece(f"fitting at the end of {run.name}", run.end.narrowest_mm * 1e-3))
    if boss is not None:
        pieces.append(Piece(f"boss {boss.name}", boss.bore_mm * 1e-3))
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


def _wants(component: Component, ends: _Ends) -> tuple[str, ...]:
    wants = []
    if ends.outlet is None:
        wants.append(f"where oil leaves {component.name}")
    if ends.entry is None:
        wants.append("where the line comes into the pan")
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
    circuit = build.circuit
    for run in circuit.runs:
        component = circuit.component(run.start.component)
        if run.service not in ("drain", "scavenge"):
            continue
        if isinstance(component, Turbo):
            kind: From = "turbo"
        elif isinstance(component, Head) and isinstance(run.line, Hose | HardLine):
            kind = "head"
        else:
            continue
        chain = _chain(circuit, run)
        ends = _ends_of(build, component, chain)
        wants = _wants(component, ends)
        if wants:
            unplaced.append(Unplaced(run.id, component.id, kind, run.name, wants))
            continue
        try:
            placed.append(_drain(build, component, kind, chain, ends, DrainGuesses(instead)))
        except InvalidQuantity as error:
            words = f"a route that can be followed ({error.requirement})"
            unplaced.append(Unplaced(run.id, component.id, kind, run.name, (words,)))
    return Drains(tuple(placed), tuple(unplaced))


def _side(told_mm: float | None, guess: str) -> float:
    """Of a head's floor [m]: as told, else as the network guesses it."""
    return GUESSES[guess].likely if told_mm is None else told_mm * 1e-3


def _drain(
    build: Build, component: Turbo | Head, kind: From, chain: list[Run], ends: _Ends,
    guessed: DrainGuesses,
) -> Drain:  # fmt: skip
    assert ends.outlet is not None
    up = standing_up(build.car)
    foam = guessed["turbo_foam" if kind == "turbo" else "head_foam"]
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
    points, radii = _route(chain, ends)
    pieces = _pieces(chain, ends.boss, guessed)
    seal = ends.outlet + over * up
    line = line_along(np.array(points), radii, pieces, _outlets(component, chain[0]), seal)
    last = build.circuit.component(chain[-1].end.component)
    stage = last.id if isinstance(last, ScavengeStage) else ""
    return Drain(
        chain[0].id, component.id, kind, chain[0].name, "scavenged" if stage else "gravity", stage,
        ends.boss.id if ends.boss else "", line, room, foam, tuple(run.id for run in chain),
        guessed.used,
    )  # fmt: skip


def feeds_of(build: Build, drains: Drains, network: Network | None = None) -> Mapping[str, Feed]:
    """What comes into each drain, by its first run's id, running hot.

    Parameters
    ----------
    build : Build
    drains : Drains
        Of it.
    network : Network, optional
        Of it, or of it with its oil at another temperature.

    Returns
    -------
    mapping of str to Feed
        A turbo's is what its feed lets through. A head's outside line is taken to carry as much of
        what its head is fed as it has of the area of all its drains.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> feeds_of(build, drains_of(build))
    {}
    """
    if not drains.placed:
        return {}
    network = network_of(build) if network is None else network
    elements = {
        drain.run: network.elements.index((drain.component, _FED_BY[drain.kind]))
        for drain in drains.placed
        if (drain.component, _FED_BY[drain.kind]) in network.elements
    }
    state = at_rest(network.still)
    flows: dict[str, list[float]] = {run: [] for run in elements}
    for speed in _SPEEDS.tolist():
        on_steadily(state, speed, _STEADY_FOR)
        for run, element in elements.items():
            flows[run].append(float(state.elements["flow"][element]))
    return {
        drain.run: Feed(_SPEEDS, np.array(flows[drain.run]) * _share_of_head(build, drain))
        for drain in drains.placed
        if drain.run in flows
    }


_FED_BY: Mapping[From, str] = {"turbo": "bearings", "head": "cams"}
"""What lets oil into each, as the network names it."""


def _share_of_head(build: Build, drain: Drain) -> float:
    """Of what a head is fed, what its outside line is taken to carry: by area."""
    if drain.kind == "turbo":
        return 1.0
    whole = mine = 0.0
    for run in build.circuit.runs:
        if run.start.component != drain.component or run.service != "drain":
            continue
        bore = bore_of(run.line) or GUESSES["drain_bore"].likely * 1e3
        many = getattr(run.line, "count", 1)
        if bore_of(run.line) is None and not isinstance(run.line, Hose | HardLine):
            many = HEAD_DRAINS
        whole += many * bore * bore
        if run.id == drain.run:
            mine += bore * bore
    return mine / whole if whole else 1.0
