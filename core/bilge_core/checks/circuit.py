"""A circuit held against what every circuit must be: fed once, shut, and with a way back."""

from __future__ import annotations

import networkx as nx

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import OIL, Component
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.document.circuit.feeding import Accumulator
from bilge_core.document.circuit.joining import Cover, DrainCock
from bilge_core.document.circuit.pumps import PanRegion, PressureStage
from bilge_core.network import GUESSES
from bilge_core.network.laws import AIR_PRESSURE, CHARGED_AT
from bilge_core.rules import Check, circuit

_Node = tuple[str, str]
"""A port: its component's id, and its key."""

_HOMES = (PanRegion, Tank)
_ENDS = (Accumulator, DrainCock, Cover)
"""What gives oil back the way it came, or lets none through."""


class _Flow:
    """Which port oil gets to from which: along runs, and through components."""

    def __init__(self, of: Circuit) -> None:
        self.by_id: dict[str, Component] = {each.id: each for each in of.components}
        self.graph = nx.DiGraph()
        self.pressure = nx.DiGraph()
        self.service: dict[_Node, str] = {}
        entered: set[_Node] = set()
        for run in of.runs:
            start, end = ((e.component, e.port) for e in (run.start, run.end))
            self.service |= {start: run.service, end: run.service}
            if run.service not in OIL:
                continue
            self.graph.add_edge(start, end)
            entered.add(end)
            if run.service == "pressure":
                self.pressure.add_edge(start, end)
        for name, key in entered:
            for port in self.by_id[name].from_port(key):
                there = (name, port.key)
                if there in self.service and (port.way != "both" or there not in entered):
                    self.graph.add_edge((name, key), there, bypass=port.bypass)
                    if self.service[there] == "pressure":
                        self.pressure.add_edge((name, key), there)


def _open_ports(build: Build, flow: _Flow) -> list[Check]:
    found = []
    of = build.circuit
    for at, each in enumerate(of.components):
        field = f"circuit.components.{at}"
        for port in each.PORTS:
            shut = (each.id, port.key) in flow.service or port.key in each.plugged
            if not (port.many or shut):
                found.append(circuit.check_port(each.name, port.words, field))
    joined = {key for _, key in flow.service}
    for at, boss in enumerate(build.pan.bosses):
        if boss.id in build.drain_bosses and boss.blocked == (boss.id in joined):
            found.append(circuit.check_boss(boss.name, boss.blocked, f"pan.bosses.{at}"))
    return found


def _sources(of: Circuit, flow: _Flow) -> list[Check]:
    fed: dict[str, list[str]] = {}
    for stage in of.of_kind(PressureStage):
        outlet = (stage.id, "outlet")
        if outlet in flow.pressure:
            reached = {name for name, _ in nx.descendants(flow.pressure, outlet)}
            for name in reached:
                fed.setdefault(name, []).append(stage.name)
    found = []
    for at, each in enumerate(of.components):
        under_pressure = any(
            flow.service.get((each.id, port.key)) == "pressure" for port in each.PORTS
        )
        if under_pressure and not isinstance(each, PressureStage):
            field = f"circuit.components.{at}"
            check = circuit.check_sources(each.name, fed.get(each.id, []), field)
            found += [check] if check else []
    return found


def _ways_back(of: Circuit, flow: _Flow) -> list[Check]:
    graph = flow.graph
    homes = {node for node in graph if isinstance(flow.by_id[node[0]], (*_HOMES, *_ENDS))}
    back: set[_Node] = set(homes)
    reverse = graph.reverse(copy=False)
    for home in homes:
        back |= nx.descendants(reverse, home)
    found = []
    for at, run in enumerate(of.runs):
        end = (run.end.component, run.end.port)
        into = flow.by_id[end[0]]
        if run.service in OIL and end not in back:
            port = into.port_of(end[1])
            words = port.words if port else end[1]
            found.append(circuit.check_way_back(into.name, words, f"circuit.runs.{at}"))
    return found


def _loops(flow: _Flow) -> list[Check]:
    around = nx.DiGraph(
        (a, b)
        for a, b, told in flow.graph.edges(data=True)
        if not told.get("bypass")
        and not any(isinstance(flow.by_id[name], _HOMES) for name, _ in (a, b))
    )
    try:
        cycle = nx.find_cycle(around)
    except nx.NetworkXNoCycle:
        return []
    names = dict.fromkeys(flow.by_id[node[0]].name for node, _ in cycle)
    return [circuit.check_loop(list(names))]


def _bottles(build: Build) -> list[Check]:
    """Bottles that take no oil, or too much of it."""
    of = build.circuit
    warmer = GUESSES["bottle_warmth"].likely / CHARGED_AT
    found: list[Check | None] = []
    for at, bottle in enumerate(of.components):
        if not isinstance(bottle, Accumulator):
            continue
        field = f"circuit.components.{at}"
        if bottle.precharge_bar is not None and of.relief_bar is not None:
            air = AIR_PRESSURE / 1e5
            warm = (bottle.precharge_bar + air) * warmer - air
            found.append(
                circuit.check_charge(bottle.name, warm, of.relief_bar, f"{field}.precharge_bar")
            )
        volume = bottle.volume_l
        found.append(
            circuit.check_size(bottle.name, volume, build.oil.volume_l, f"{field}.volume_l")
        )
    return [check for check in found if check is not None]


def check_circuit(build: Build) -> tuple[Check, ...]:
    """Whether a build's circuit checks out: one good check, or everything that is wrong.

    Parameters
    ----------
    build : Build

    Returns
    -------
    tuple of Check

    Notes
    -----
    A relief's bypass back to its pump's inlet is no closed loop: oil goes round it only while the
    rest is fed. A bottle gives back what it took the way it came.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> [each.state for each in check_circuit(build)]
    ['good']
    """
    of = build.circuit
    flow = _Flow(of)
    found = [
        *_open_ports(build, flow),
        *_sources(of, flow),
        *_ways_back(of, flow),
        *_loops(flow),
        *_bottles(build),
    ]
    return tuple(found) or (circuit.whole(len(of.components), len(of.runs)),)
