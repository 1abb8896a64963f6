"""Heads over a lap: what lies in them, which drains face downhill, what freer returns would buy."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Head
from bilge_core.document.circuit.run import Passage, Run, bore_of
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.network import met_over, network_of
from bilge_core.network.assembly import Network
from bilge_core.network.vessels import floor_level
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity

_STEP = 0.02  # [s] of the circuit over the lap: oil on a floor takes seconds (ours)
_FREER = 1.25  # of a passage's bore: drilled out so much (ours)
_STEEPEST = 0.05  # cosine at which a floor is taken to stand on its edge, as in the network


@dataclass(frozen=True)
class HeadInCorner:
    """A head at a corner's middle.

    corner : Corner
    held : oil in it [m3]
    wet : of each drain, whether oil lies over it
    """

    corner: Corner
    held: float
    wet: tuple[bool, ...]


@dataclass(frozen=True)
class HeadOverLap:
    """A head over a lap.

    component : its id
    name : as its builder has it
    drains : x, y from the floor's middle, bore [m], how many alike: a row each
    measured : whether its builder told its drains
    time : [s]
    held : oil in it, shape (n,) [m3]
    pocket : of that, in films and pockets whatever its drains are [m3]
    depth : greatest depth over its floor, at the wall that it is thrown to, shape (n,) [m]
    corners : at each corner's middle
    gas_up : blow-by up through its drains at full power [m3/s]
    freer : mean beyond films and pockets with drains drilled out a quarter wider [m3]
    """

    component: str
    name: str
    drains: Array
    measured: bool
    time: Array
    held: Array
    pocket: float
    depth: Array
    corners: tuple[HeadInCorner, ...]
    gas_up: float
    freer: float


def _held(network: Network, build: Build, log: Log, at: int) -> tuple[Array, Array]:
    """Times [s] and oil in one vessel [m3], the mouth covered all lap."""
    felt = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    met = met_over(log.time, log.engine_speed, felt, log.time, np.zeros(len(log.time)), _STEP)
    trace = met.run(network, met.settled(network))
    return log.time[0] + trace.time, trace.held[:, at]


def _up(build: Build, log: Log, time: Array) -> Array:
    felt = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    there = np.column_stack([np.interp(time, log.time, felt[:, k]) for k in range(3)])
    up: Array = -there / np.linalg.norm(there, axis=1)[:, None]
    up[:, 2] = np.maximum(up[:, 2], _STEEPEST)
    return up


def _levels(network: Network, at: int, held: Array, up: Array) -> Array:
    """Height of the oil along up from the floor's middle, moment by moment [m]."""
    row = network.still.vessels[at]
    volume = np.maximum(held - row["pocket"], 0.0) / (1.0 - row["foam"])
    return np.array(
        [
            floor_level(float(v), row["length"], row["width"], *u)
            for v, u in zip(volume, up, strict=True)
        ]
    )


def _with_freer(build: Build, head: Head) -> Build:
    def freer(run: Run) -> Run:
        mine = run.start.component == head.id and isinstance(run.line, Passage)
        bore = bore_of(run.line)
        if not mine or bore is None:
            return run
        line = run.line.model_copy(update={"bore_mm": bore * _FREER})
        return run.model_copy(update={"line": line})

    runs = [freer(run) for run in build.circuit.runs]
    return build.model_copy(update={"circuit": build.circuit.model_copy(update={"runs": runs})})


def heads_over(
    build: Build, log: Log, corners: tuple[Corner, ...], network: Network | None = None
) -> tuple[HeadOverLap, ...]:
    """Every head of a build over a lap.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    corners : tuple of Corner
    network : Network, optional
        Of the build.

    Returns
    -------
    tuple of HeadOverLap

    Raises
    ------
    InvalidInput
        If its circuit cannot be run, with the field named.

    Notes
    -----
    The feed is that of a covered mouth: a dip brings less. Places of drains nobody told are spread
    along both sides of the floor.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 2.0, 0.1), *np.zeros((3, 20)), np.full(20, 500.0))
    >>> (head,) = heads_over(build, log, ())
    >>> head.name, len(head.drains), bool(head.freer < head.held.mean())
    ('head', 6, True)
    """
    network = network_of(build) if network is None else network
    found = []
    for head in build.circuit.of_kind(Head):
        at = [at for at, (of, _) in enumerate(network.vessels) if of == head.id]
        if at:
            found.append(_of_head(build, log, corners, network, head, at[0]))
    return tuple(found)


def _of_head(
    build: Build, log: Log, corners: tuple[Corner, ...], network: Network, head: Head, at: int
) -> HeadOverLap:
    time, held = _held(network, build, log, at)
    up = _up(build, log, time)
    levels = _levels(network, at, held, up)
    row = network.still.vessels[at]
    holes = network.still.holes[network.still.holes["vessel"] == at]
    drains = np.column_stack([holes[name] for name in ("x", "y", "bore", "many")])
    lowest = -0.5 * (np.abs(up[:, 0]) * row["length"] + np.abs(up[:, 1]) * row["width"])
    inside = []
    for corner in corners:
        moment = int(np.argmin(np.abs(time - 0.5 * (corner.start + corner.end))))
        over = levels[moment] - drains[:, :2] @ up[moment, :2]
        inside.append(HeadInCorner(corner, float(held[moment]), tuple((over > 0.0).tolist())))
    measured = any(
        run.start.component == head.id and run.service == "drain" and bore_of(run.line) is not None
        for run in build.circuit.runs
    )
    area = float((drains[:, 3] * np.pi / 4.0 * drains[:, 2] ** 2).sum())
    return HeadOverLap(
        head.id, head.name, drains, measured, time, held, float(row["pocket"]),
        np.maximum(levels - lowest, 0.0) / np.maximum(up[:, 2], _STEEPEST), tuple(inside),
        float(row["gas"]) * area, mean_held(_freer_network(build, head), build, log, head.id),
    )  # fmt: skip


def _freer_network(build: Build, head: Head) -> Network:
    """Of a build whose head drains more freely: what was told a quarter wider, or the guess."""
    wider = _with_freer(build, head)
    if wider.circuit != build.circuit:
        return network_of(wider)
    network = network_of(build)
    still = network.still.copy()
    at = next(at for at, (of, _) in enumerate(network.vessels) if of == head.id)
    mine = still.holes["vessel"] == at
    still.holes["bore"][mine] *= _FREER
    return replace(network, still=still)


def mean_held(network: Network, build: Build, log: Log, head: str) -> float:
    """Mean of what a head holds over a lap beyond its films and pockets [m3], by its id.

    Nil where it is no part of a network. Films and pockets are left out: they are what brings the
    whole to what the builder says, whatever its drains are.

    Parameters
    ----------
    network : Network
        Of the build, or of it with something else.
    build : Build
    log : Log
    head : str
    """
    found = [at for at, (of, _) in enumerate(network.vessels) if of == head]
    if not found:
        return 0.0
    pocket = float(network.still.vessels["pocket"][found[0]])
    return max(float(_held(network, build, log, found[0])[1].mean()) - pocket, 0.0)
