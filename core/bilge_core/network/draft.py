"""What a network is put together in: ports joined to nodes, elements between, vessels, ways."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from bilge_core.network.pipes import Resistance
from bilge_core.network.records import AIR, Kind
from bilge_core.physics.arrays import Array

Port = tuple[str, str]
"""A component's id and the key of one of its ports."""

At = Port | int
"""Where an element begins or ends: at a port, or at an end by its number."""

Hole = tuple[float, float, float, float]
"""Its x and y from the floor's middle, its bore [m], and how many alike."""

_LEAST_VOLUME = 20e-6
"""[m3] of a node besides what its parts hold: passages and fittings that nobody draws (ours)."""


@dataclass
class Vessel:
    """Oil that is no longer under pressure.

    component, what : "thrown" oil, or a "floor"
    lags : at rest [s], more with crank speed [s per rad/s], factor on both
    floor : length, width [m], share of gas
    pocket : oil that films and pockets keep while the engine runs [m3]
    holes : x, y [m], bore [m], how many; and the vessel that each falls to, or -1 - way
    gas : blow-by up through the holes at full power, for each square metre of them [m/s]
    push, shut : the pressure that drives it, and that with the holes shut [Pa]
    full_speed : crank speed of full power [rad/s]
    """

    component: str
    what: str
    lags: tuple[float, float, float] = (1.0, 0.0, 1.0)
    floor: tuple[float, float, float] = (1.0, 1.0, 0.0)
    pocket: float = 0.0
    holes: list[tuple[Hole, int]] = field(default_factory=list)
    gas: float = 0.0
    push: float = 0.0
    shut: float = 0.0
    full_speed: float = 0.0

    @property
    def area(self) -> float:
        """Of all its holes [m2]."""
        return sum(hole[3] * math.pi / 4.0 * hole[2] ** 2 for hole, _ in self.holes)


class Draft:
    """Ports are joined where nothing is between them; what is joined is one node."""

    def __init__(self) -> None:
        self._under: dict[Port, Port] = {}
        self._holds: dict[Port, float] = {}
        self.kinds: list[int] = []
        self.figures: list[dict[str, float]] = []
        self.names: list[tuple[str, str]] = []
        self.senses: list[Port | None] = []
        self._starts: list[At] = []
        self._ends: list[At] = []
        self.sinks: list[int] = []
        self.vessels: list[Vessel] = []
        self.ways: list[str] = []
        self.bottles: list[tuple[Port, float, float]] = []
        self.gallery: Port | None = None
        self.tube_volume = 0.0

    @property
    def ports(self) -> list[Port]:
        """All ports that are under pressure or sucked at."""
        return list(self._under)

    def joined(self, port: Port) -> Port:
        """The port that stands for all that are joined to one."""
        self._under.setdefault(port, port)
        while self._under[port] != port:
            port = self._under[port]
        return port

    def join(self, *ports: Port) -> None:
        """Nothing is between these ports.

        Examples
        --------
        >>> draft = Draft()
        >>> draft.join(("c1", "a"), ("c1", "b")); draft.join(("c1", "b"), ("c2", "a"))
        >>> draft.joined(("c2", "a")) == draft.joined(("c1", "a"))
        True
        """
        first = self.joined(ports[0])
        for port in ports[1:]:
            self._under[self.joined(port)] = first

    def hold(self, port: Port, volume: float) -> None:
        """A port's node holds so much more oil [m3]."""
        self.joined(port)
        self._holds[port] = self._holds.get(port, 0.0) + volume

    def element(
        self, kind: Kind, name: tuple[str, str], start: At, end: At, senses: Port | None = None,
        **figures: float,
    ) -> None:  # fmt: skip
        """An element from one place to another; figures by the fields of `ELEMENT`."""
        for at in (start, end, senses):
            if isinstance(at, tuple):
                self.joined(at)
        self.kinds.append(int(kind))
        self.names.append(name)
        self.figures.append(figures)
        self.senses.append(senses)
        self._starts.append(start)
        self._ends.append(end)

    def line(
        self, name: tuple[str, str], start: At, end: At, by: Resistance, suction: bool = False
    ) -> None:
        """A line of a resistance."""
        self.element(
            Kind.LINE, name, start, end, laminar=by.laminar, turbulent_from=by.turbulent_from,
            extra=by.extra, square=by.square, inertance=by.inertance, is_suction=suction,
        )  # fmt: skip

    def way(self, boss: str) -> int:
        """The number of a way back to the pan, by the boss that it ends at."""
        if boss not in self.ways:
            self.ways.append(boss)
        return self.ways.index(boss)

    def sink(self, to: int) -> int:
        """The end at which oil leaves to a vessel, or to a way as -1 - way."""
        if to not in self.sinks:
            self.sinks.append(to)
        return AIR - 1 - self.sinks.index(to)

    def vessel(self, vessel: Vessel) -> int:
        """Its number; one that others fall into is told first."""
        self.vessels.append(vessel)
        return len(self.vessels) - 1

    def turn_vessels(self) -> None:
        """Number vessels anew, so that those that others fall into come after them."""
        last = len(self.vessels) - 1

        def turned(to: int) -> int:
            return last - to if to >= 0 else to

        self.vessels.reverse()
        self.sinks = [turned(to) for to in self.sinks]
        for vessel in self.vessels:
            vessel.holes = [(hole, turned(to)) for hole, to in vessel.holes]

    def numbered(self) -> tuple[dict[Port, int], list[int], list[int]]:
        """Nodes by their joined ports, and the elements' starts and ends in numbers."""
        nodes: dict[Port, int] = {}
        for port in self._under:
            nodes.setdefault(self.joined(port), len(nodes))

        def number(at: At) -> int:
            return at if isinstance(at, int) else nodes[self.joined(at)]

        starts = [number(at) for at in self._starts]
        ends = [number(at) for at in self._ends]
        return nodes, starts, ends

    def volumes(self, nodes: Mapping[Port, int]) -> Array:
        """Of each node [m3]."""
        volume = np.full(len(nodes), _LEAST_VOLUME)
        for port, held in self._holds.items():
            volume[nodes[self.joined(port)]] += held
        return volume
