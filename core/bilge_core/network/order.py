"""A circuit in the order in which oil goes through it: what lies in line, what branches off."""

from __future__ import annotations

from dataclasses import dataclass

import networkx as nx

from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.engine_side import Gallery
from bilge_core.document.circuit.joining import Tee
from bilge_core.network.assembly import Network
from bilge_core.network.draft import Port

_PRESSED = frozenset({"pressure", "return"})


@dataclass(frozen=True)
class Part:
    """A component as oil comes by it.

    component : its id
    enters, leaves : numbers of the nodes before and behind it; the same where it has nothing
        between, or where it is an end
    """

    component: str
    enters: int
    leaves: int


@dataclass(frozen=True)
class Branch:
    """Parts off the line, from where they leave it.

    root : id of the component in line, or of the gallery
    parts : in order; the last is an end, or what goes back
    """

    root: str
    parts: tuple[Part, ...]


@dataclass(frozen=True)
class Order:
    """From the pump's outlet to the gallery, and all that branches off.

    line : in order, without pump and gallery
    branches : in the order in which they leave the line
    """

    line: tuple[Part, ...]
    branches: tuple[Branch, ...]


def _graph(build: Build, network: Network) -> nx.DiGraph[Port]:
    """Ports that oil under pressure goes through, from each to those that it goes on to."""
    graph: nx.DiGraph[Port] = nx.DiGraph()
    circuit = build.circuit
    for run in circuit.runs:
        start = (run.start.component, run.start.port)
        end = (run.end.component, run.end.port)
        if run.service in _PRESSED and start in network.node_of and end in network.node_of:
            graph.add_edge(start, end)
            if isinstance(circuit.component(end[0]), Tee):  # a tee gives and takes
                graph.add_edge(end, start)
    present = set(graph.nodes)
    for component in circuit.components:
        for port in component.PORTS:
            here = (component.id, port.key)
            onward = [
                (component.id, each.key)
                for each in component.from_port(port.key)
                if (component.id, each.key) in present and not each.bypass
            ]
            if here in present:
                # where there is a way round by a cooler, that is the line
                graph.add_edges_from((here, each) for each in onward[:1])
                if component.WAYS is None:
                    graph.add_edges_from((here, each) for each in onward)
    return graph


def _parts(network: Network, ports: list[Port], leave_out: set[str]) -> tuple[Part, ...]:
    """Ports in order as the components that they are of, each once, where oil first enters it."""
    found: dict[str, list[int]] = {}
    for port in ports:
        if port[0] not in leave_out:
            found.setdefault(port[0], []).append(network.node_of[port])
    return tuple(Part(each, nodes[0], nodes[-1]) for each, nodes in found.items())


def order_of(build: Build, network: Network) -> Order:
    """What oil under pressure comes by.

    Parameters
    ----------
    build : Build
    network : Network
        Of it.

    Returns
    -------
    Order
        A part of which oil comes by twice, such as a plate that sends it round by a cooler, stands
        where it is first entered, between the nodes of its first and of its last port.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network.assembly import network_of
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> order = order_of(build, network_of(build))
    >>> [build.circuit.component(part.component).kind for part in order.line]
    ['relief', 'sandwich_plate', 'cooler', 'filter']
    """
    graph = _graph(build, network)
    circuit = build.circuit
    start = (circuit.pump.id, "outlet")
    galleries = {each.id for each in circuit.of_kind(Gallery)}
    feeds = [port for port in graph.nodes if port[0] in galleries and port[1] != "tappings"]
    if start not in graph:
        return Order((), ())
    ways = nx.single_source_shortest_path(graph, start)
    way = min((ways[feed] for feed in feeds if feed in ways), key=len, default=[start])
    line = _parts(network, way, {start[0], *galleries})
    on_line = {port[0] for port in way}
    branches = []
    ends = [port for port in ways if port[0] not in on_line | galleries]
    for component in dict.fromkeys(port[0] for port in ends):
        mine = [port for port in ends if port[0] == component]
        onward = {
            after[0] for port in mine for after in graph.successors(port) if after[0] != component
        }
        if onward - on_line - galleries - {before[0] for before in ways[mine[0]]}:
            continue  # something lies behind it: it is told on that one's way
        path = max((ways[port] for port in mine), key=len)
        root = [port[0] for port in path if port[0] in on_line | galleries][-1]
        off = [port for port in path if port[0] not in on_line | galleries]
        branches.append(Branch(root, _parts(network, off, set())))
    places = {each: at for at, each in enumerate([start[0], *(p.component for p in line)])}
    branches.sort(key=lambda each: places.get(each.root, len(places)))
    return Order(line, tuple(branches))


def component_of(build: Build, part: Part) -> Component:
    """The component of a part of its order."""
    component = build.circuit.component(part.component)
    assert component is not None  # an order is made from its own build
    return component
