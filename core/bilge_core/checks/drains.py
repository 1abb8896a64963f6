"""Checks of drains and breathing: figures gathered for the rules."""

from __future__ import annotations

import numpy as np

from bilge_core.checks.fitted import near_bolt
from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Turbo
from bilge_core.document.circuit.feeding import Filter, RemoteFilter
from bilge_core.document.circuit.joining import Restrictor
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.drains.laid import Drain, Unplaced, place_of_boss
from bilge_core.drains.standing import Load, capacity
from bilge_core.forecast.back_ups import DrainForecast, DrainsForecast
from bilge_core.forecast.pulled import PulledForecast
from bilge_core.network import network_of
from bilge_core.network.order import order_of
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_gravity, up_from
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.rules import Check, bosses, drains
from bilge_core.scavenge.stages import swept_of
from bilge_core.settled import settle


def _field(build: Build, first: str) -> str:
    at = next(at for at, run in enumerate(build.circuit.runs) if run.id == first)
    return f"circuit.runs.{at}"


def least_fall(drain: Drain, up: Array) -> float:
    """The flattest stretch of a drain [degrees under level]; negative where it rises.

    Parameters
    ----------
    drain : Drain
    up : ndarray, shape (3,)

    Notes
    -----
    The first and the last hand's breadth of a hole through a wall are left out: a boss is level.
    """
    falls = drain.line.falls
    down = -(falls.tangents @ up)
    long = falls.lengths > 0.01
    return float(np.degrees(np.arcsin(np.clip(down[long].min(), -1.0, 1.0))))


def _reducers(build: Build, drain: Drain, field: str) -> list[Check | None]:
    """A turbo's gasket beside its outlet; of the line what comes before."""
    pieces = drain.line.pieces
    first = int(drain.line.piece[0])
    found: list[Check | None] = []
    drained = build.circuit.component(drain.component)
    if isinstance(drained, Turbo) and drained.gasket_mm and drained.drain_bore_mm:
        share = drained.gasket_mm / drained.drain_bore_mm
        found.append(drains.check_flanges(drain.name, share, field))
    widest = pieces[first].bore
    for piece in pieces[first + 1 :]:
        if not drains.REDUCER.holds(piece.bore / widest):
            share = piece.bore / widest
            found.append(drains.check_reducer(drain.name, piece.name, share, field))
            break
        widest = max(widest, piece.bore)
    return found


def _of_drain(build: Build, told: DrainForecast, up: Array, level: float) -> list[Check | None]:
    drain, field = told.drain, _field(build, told.drain.run)
    found: list[Check | None] = [
        drains.check_margin(drain.name, told.spare, told.flooded, field),
        *_reducers(build, drain, field),
        drains.check_fall(drain.name, least_fall(drain, up), field),
    ]
    load = drain.under(Load(up, float(np.linalg.norm(standing_gravity(build.car))), level))
    carries = capacity(drain.line, told.oil, load)
    found.append(drains.check_feed(drain.name, told.feed.most, carries, field))
    if drain.kind == "turbo" and drain.how == "gravity":
        narrowest = min(piece.bore for piece in drain.line.pieces)
        found.append(drains.check_bore(drain.name, narrowest, field))
    return found


def _entries(build: Build, forecast: DrainsForecast, up: Array, level: float) -> list[Check | None]:
    """Of each boss that a drain comes in by: its kind, its height over the oil, how it is made."""
    found: list[Check | None] = []
    step = float(forecast.log.time[1] - forecast.log.time[0])
    for index, boss in enumerate(build.pan.bosses):
        told = next((each for each in forecast.forecasts if each.drain.boss == boss.id), None)
        if told is None:
            continue
        field = f"pan.bosses.{index}"
        height = float(place_of_boss(boss) @ up) - level - 0.5e-3 * boss.bore_mm
        under = float((told.over.under > 0.0).sum()) * step
        found.append(bosses.check_drain(boss.name, height, under, field))
        if boss.fixing == "tapped":
            found.append(bosses.tapped(boss.name, f"{field}.fixing"))
        found.append(near_bolt(build, boss, field))
    return found


def _meeting_at_stages(build: Build, forecast: DrainsForecast) -> list[Check | None]:
    """Of each stage that more than one drain comes to: whether all fall that far, and its sweep."""
    found: list[Check | None] = []
    drains_to: dict[str, list[str]] = {}
    known: tuple[Drain | Unplaced, ...] = (*forecast.drains.placed, *forecast.drains.unplaced)
    for drain in known:
        if drain.stage:
            drains_to.setdefault(drain.stage, []).append(drain.run)
    told = {each.drain.run: each for each in forecast.forecasts}
    for stage_id, runs in drains_to.items():
        at, stage = next(
            (at, each) for at, each in enumerate(build.circuit.components) if each.id == stage_id
        )
        assert isinstance(stage, ScavengeStage)
        field = f"circuit.components.{at}"
        fall = all(run in told and drains.SPARE.holds(told[run].spare) for run in runs)
        found.append(drains.check_stage(stage.name, len(runs), fall, field))
        fed = [told[run] for run in runs if run in told]
        if len(fed) == len(runs):
            speed = fed[0].feed.speed
            comes = sum((each.feed.flow * each.oil.swells for each in fed), np.zeros(len(speed)))
            share = comes / swept_of(stage, speed)
            found.append(_sweep(stage.name, share, speed, field))
    return found


def _sweep(name: str, share: Array, speed: Array, field: str) -> Check:
    worst = int(np.argmax(share))
    rpm = float(rpm_of_speed(speed[worst]))
    return drains.check_sweep(name, float(share[worst]), rpm, field)


def _of_pulled(build: Build, told: PulledForecast) -> list[Check | None]:
    pulled = told.pulled
    at = next(at for at, c in enumerate(build.circuit.components) if c.id == pulled.stage.id)
    return [
        _sweep(pulled.stage.name, told.share, told.feed.speed, f"circuit.components.{at}"),
        drains.check_suction(pulled.name, told.suction, _field(build, pulled.run)),
    ]


def _feeds(build: Build) -> list[Check]:
    """Of each turbo: whether it is fed from behind a filter, and through a restrictor."""
    turbos = {each.id: each for each in build.circuit.of_kind(Turbo)}
    if not turbos:
        return []
    circuit = build.circuit
    order = order_of(build, network_of(build))
    line = [part.component for part in order.line]
    filters = {each.id for kind in (Filter, RemoteFilter) for each in circuit.of_kind(kind)}
    # where there is no filter nothing lies ahead of one
    first = next((at for at, part in enumerate(line) if part in filters), 0)
    found = []
    for branch in order.branches:
        parts = [circuit.component(part.component) for part in branch.parts]
        turbo = next((each for each in parts if each is not None and each.id in turbos), None)
        if turbo is None:
            continue
        at = next(at for at, each in enumerate(circuit.components) if each.id == turbo.id)
        field = f"circuit.components.{at}"
        if branch.root in line and line.index(branch.root) < first:
            root = circuit.component(branch.root)
            name = branch.root if root is None else root.name
            found.append(drains.check_filtered(turbo.name, name, field))
        if not any(isinstance(each, Restrictor) for each in parts):
            found.append(drains.check_restricted(turbo.name, field))
    return found


def check_drains(build: Build, pan: Pan, forecast: DrainsForecast) -> tuple[Check, ...]:
    """Check a build's drains and breathing over a lap.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.
    forecast : DrainsForecast
        Of it.

    Returns
    -------
    tuple of Check
        Trouble first.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.forecast.back_ups import forecast_drains
    >>> from bilge_core.loads.log import Log
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> log = Log(np.arange(0.0, 2.0, 0.1), *np.zeros((3, 20)), np.full(20, 500.0))
    >>> found = check_drains(build, assemble_pan(build), forecast_drains(build, log, ()))
    >>> "bad" in {check.state for check in found}  # at rest it drains
    False
    """
    standing = settle(pan, standing_gravity(build.car))
    up = up_from(standing_gravity(build.car))
    found: list[Check | None] = []
    for told in forecast.forecasts:
        found += _of_drain(build, told, up, standing.level)
    found += _entries(build, forecast, up, standing.level)
    found += _meeting_at_stages(build, forecast)
    for each in forecast.pulled:
        found += _of_pulled(build, each)
    found += _feeds(build)
    highest = float(forecast.case.pressure.max())
    found.append(drains.check_crankcase(highest, "circuit"))
    step = float(forecast.log.time[1] - forecast.log.time[0])
    for way in forecast.breathing.ways:
        under = forecast.under.get(way.run)
        if under is not None:
            found.append(drains.check_vent(way.name, float((under > 0.0).sum()) * step, "circuit"))
    order = {"bad": 0, "caution": 1, "good": 2}
    kept = [check for check in found if check is not None]
    return tuple(sorted(kept, key=lambda check: order[check.state]))
