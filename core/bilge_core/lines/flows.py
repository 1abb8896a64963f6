"""What flows in each line, hot at top speed and cold at a fast idle, from the network at rest."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import Run
from bilge_core.network import Network, network_of
from bilge_core.network.conditions import at_temperature
from bilge_core.network.records import at_rest
from bilge_core.network.running import on_steadily, suction_of
from bilge_core.physics.turns import rpm_of_speed, speed_of_rpm
from bilge_core.scavenge.sizing import top_speed

COLD = 20.0
"""[°C] of a cold start (ours)."""
COLD_RPM = 1500.0
"""[rpm] at which a cold engine is held (ours)."""
_STEADY_FOR = 8.0  # [s]
_LITTLE = 1.0 / 60e3  # [m3/s] in a line that flows only now and then


@dataclass(frozen=True)
class Flows:
    """Flows in lines [m3/s], by the ids of runs and components.

    main : what the pump draws
    through : by element, the largest of each part
    scavenged : what each scavenge stage sweeps, gas and all
    density, viscosity : of that oil [kg/m3], [Pa s]
    rpm, temperature_c : at which
    """

    main: float
    through: Mapping[str, float]
    scavenged: Mapping[str, float]
    density: float
    viscosity: float
    rpm: float
    temperature_c: float


def _flows(build: Build, network: Network, rpm: float, temperature_c: float) -> Flows:
    state = at_rest(network.still)
    speed = float(speed_of_rpm(rpm))
    on_steadily(state, speed, _STEADY_FOR)
    through: dict[str, float] = {}
    for (of, _), flow in zip(network.elements, np.abs(state.elements["flow"]), strict=True):
        through[of] = max(through.get(of, 0.0), float(flow))
    scavenged = {
        each.id: rpm / 60.0 * each.drive_ratio * each.displacement_cm3 * 1e-6
        for each in build.circuit.of_kind(ScavengeStage)
    }
    main = abs(float(state.elements["flow"][suction_of(network)]))
    oil = network.oil
    return Flows(main, through, scavenged, oil.density, oil.viscosity, rpm, temperature_c)


def flows_hot(build: Build) -> Flows:
    """At the top speed, oil as it runs.

    Raises
    ------
    InvalidInput
        If the circuit cannot be run.
    """
    rpm = round(float(rpm_of_speed(top_speed(build))), 6)
    return _flows(build, network_of(build), rpm, build.oil.temperature_c)


def flows_cold(build: Build) -> Flows:
    """Just started, oil at 20 °C.

    Raises
    ------
    InvalidInput
        If the circuit cannot be run.
    """
    cold = at_temperature(build, COLD)
    return _flows(cold, network_of(cold), COLD_RPM, COLD)


_IN_LINE = frozenset(
    {
        "cooler",
        "plate_cooler",
        "filter",
        "remote_filter",
        "check_valve",
        "restrictor",
        "sender_tee",
        "turbo",
        "jets",
    }
)
"""Kinds that everything that a line brings goes through."""


def flow_in(build: Build, run: Run, flows: Flows) -> float:
    """What flows in a run [m3/s]: its own element's, else its ends', else the pump's.

    Notes
    -----
    A line of a bottle, and any other that flows only now and then, is taken to feed the engine by
    itself: it carries what the pump draws. Lines of scavenge stages carry what those sweep, gas and
    all; where lines of several are joined, all of it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> hot = flows_hot(build)
    >>> run = next(each for each in build.circuit.runs if each.name == "to the cooler")
    >>> 20 < flow_in(build, run, hot) * 60e3 < 40
    True
    """
    if run.service == "scavenge":
        own = _stages_after(build, run)
        return sum(flows.scavenged[each] for each in own)
    if run.service == "return" and flows.scavenged:
        before = _stages_before(build, run)
        if before:
            return sum(flows.scavenged[each] for each in before)
    flow = flows.through.get(run.id)
    for end in (run.start, run.end):
        component = build.circuit.component(end.component)
        if flow is None and component is not None and component.kind in _IN_LINE:
            flow = flows.through.get(component.id)
    if run.service == "pressure" and flow is not None and flow < _LITTLE:
        flow = None if not _is_small(build, run) else flow
    return flows.main if flow is None else flow


def _is_small(build: Build, run: Run) -> bool:
    """Whether a line feeds something that takes little: a turbo, jets, a restrictor's own."""
    kinds = set()
    for end in (run.start, run.end):
        component = build.circuit.component(end.component)
        kinds.add(component.kind if component else "")
    return bool(kinds & {"turbo", "jets", "restrictor"})


def _stages_before(build: Build, run: Run) -> set[str]:
    """Scavenge stages whose oil goes through a run on its way to the tank."""
    stages = {each.id for each in build.circuit.of_kind(ScavengeStage)}
    found, waiting, seen = set[str](), [run.start.component], set[str]()
    while waiting:
        here = waiting.pop()
        if here in seen:
            continue
        seen.add(here)
        if here in stages:
            found.add(here)
            continue
        waiting += [
            each.start.component
            for each in build.circuit.runs
            if each.end.component == here and each.service == "return"
        ]
    return found


def _stages_after(build: Build, run: Run) -> set[str]:
    stages = {each.id for each in build.circuit.of_kind(ScavengeStage)}
    here, seen = run.end.component, set[str]()
    while here not in stages and here not in seen:
        seen.add(here)
        onward = (
            each for each in build.circuit.runs
            if each.start.component == here and each.service == "scavenge"
        )  # fmt: skip
        following = next(onward, None)
        if following is None:
            return set()
        here = following.end.component
    return {here} & stages
