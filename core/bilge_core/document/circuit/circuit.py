"""The circuit: its components and runs, what of it forecasts ask, and what it cannot be."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator
from typing import TypeVar

from pydantic import Field

from bilge_core.document.circuit.calibration import Bearings, JetsTold
from bilge_core.document.circuit.component import Component, Port
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.document.circuit.engine_side import Gallery
from bilge_core.document.circuit.kinds import AnyComponent
from bilge_core.document.circuit.pumps import PanRegion, PressureStage, Relief
from bilge_core.document.circuit.run import End, HardLine, Hose, Run, contents_of
from bilge_core.document.ids import Id, is_id
from bilge_core.document.parts import Part
from bilge_core.errors import Problem

Kind = TypeVar("Kind", bound=Component)

DRAIN_BOSSES = frozenset({"turbo_drain", "return"})
"""Kinds of the pan's bosses that a run ends at."""

BOSS_PORT = Port("boss", "boss of the pan", "in", frozenset({"drain", "return"}))


class Circuit(Part):
    """All that oil goes through and back to the pan or the tank."""

    components: list[AnyComponent] = Field(max_length=120)
    runs: list[Run] = Field(default=[], max_length=200)
    gauge: Id = Field(default="", description="the component at which the pressure gauge sits")

    def of_kind(self, kind: type[Kind]) -> list[Kind]:
        """All components of a class, in the document's order."""
        return [each for each in self.components if isinstance(each, kind)]

    def component(self, component_id: str) -> AnyComponent | None:
        """The component of an id; None where there is none."""
        return next((each for each in self.components if each.id == component_id), None)

    @property
    def pump(self) -> PressureStage:
        """The first pressure stage; a build has one."""
        return self.of_kind(PressureStage)[0]

    @property
    def relief_bar(self) -> float | None:
        """Where the first relief opens; None where there is none or it is not known."""
        reliefs = self.of_kind(Relief)
        return reliefs[0].opens_bar if reliefs else None

    @property
    def bearings(self) -> Bearings | None:
        """What gauge readings told of the main gallery."""
        galleries = self.of_kind(Gallery)
        return galleries[0].bearings if galleries else None

    @property
    def jets_told(self) -> JetsTold | None:
        """What gauge readings told of the main gallery's jets."""
        galleries = self.of_kind(Gallery)
        return galleries[0].jets if galleries else None

    @property
    def tank(self) -> Tank | None:
        """The tank that the pump draws from; None: a wet sump."""
        run, seen = self.suction, set[str]()
        while run is not None and run.id not in seen:
            seen.add(run.id)
            before = self.component(run.start.component)
            if isinstance(before, Tank):
                return before
            here = run.start.component
            into = (r for r in self.runs if r.service == "suction" and r.end.component == here)
            run = next(into, None)
        return None

    @property
    def is_dry(self) -> bool:
        """Whether the pump draws from a tank: a dry sump."""
        return self.tank is not None

    @property
    def suction(self) -> Run | None:
        """The line into the pump's inlet: the pickup's tube, its joint at the end."""
        inlet = (self.pump.id, "inlet")
        return next((r for r in self.runs if (r.end.component, r.end.port) == inlet), None)

    @property
    def held_l(self) -> float | None:
        """Oil [L] that is away from the pan; None where no component says what it holds.

        What components hold, and what lines under pressure or on their way back hold full where
        bore and length are known. A pickup's tube lies in the pan's own oil.
        """
        held = [each.holds_l for each in self.components if each.holds_l is not None]
        if not held:
            return None
        lines = [
            contents_of(run) or 0.0
            for run in self.runs
            if run.service in ("pressure", "return") and isinstance(run.line, Hose | HardLine)
        ]
        return sum(held) + sum(lines) * 1e3

    def ends(self) -> Iterator[tuple[str, Run, End]]:
        """Every end of every run, with its path in the circuit."""
        for at, run in enumerate(self.runs):
            yield f"runs.{at}.start", run, run.start
            yield f"runs.{at}.end", run, run.end

    def port(self, component: Component, key: str, bosses: Collection[str]) -> Port | None:
        """The port of a component by its key; a pan region has the pan's bosses besides its own.

        Parameters
        ----------
        component : Component
        key : str
        bosses : collection of str
            Ids of the pan's bosses that a run may end at.
        """
        if isinstance(component, PanRegion) and key in bosses:
            return BOSS_PORT
        return component.port_of(key)

    def faults(self, bosses: Collection[str]) -> list[Problem]:
        """What cannot be, whatever else is joined later: each with its field.

        A port that is open is no fault here; `bilge_core.checks.circuit` tells of it.
        """
        faults = list(self._of_components())
        joined: Counter[tuple[str, str]] = Counter()
        for path, run, end in self.ends():
            component = self.component(end.component)
            if component is None:
                words = f"must be a component of the circuit, by its id (it is {end.component!r})"
                faults.append(Problem(f"circuit.{path}.component", words))
                continue
            port = self.port(component, end.port, bosses)
            joined[end.component, end.port] += 1
            words = fault_of_end(component, port, run, end, path.endswith("start"))
            if not words and port and not port.many and joined[end.component, end.port] > 1:
                words = f"of {component.name} is joined already; a port takes one run"
            if words:
                faults.append(Problem(f"circuit.{path}.port", words))
        return faults

    def _of_components(self) -> Iterator[Problem]:
        if not self.of_kind(PressureStage):
            yield Problem("circuit.components", "must have a pressure stage: what feeds the engine")
        for at, each in enumerate(self.components):
            for key in each.plugged:
                if each.port_of(key) is None:
                    field = f"circuit.components.{at}.plugged"
                    yield Problem(field, f"must be ports of {each.name} (it is {key!r})")
            senses = getattr(each, "senses", "")
            if senses and self.component(senses) is None:
                field = f"circuit.components.{at}.senses"
                yield Problem(field, f"must be a component by its id (it is {senses!r})")
        if self.gauge and self.component(self.gauge) is None:
            yield Problem("circuit.gauge", f"must be a component by its id (it is {self.gauge!r})")


def fault_of_end(
    component: Component, port: Port | None, run: Run, end: End, is_start: bool
) -> str:
    """Why a run cannot end at a port, in words that go on from the port's; empty where it can.

    Examples
    --------
    >>> from bilge_core.document.circuit.joining import Tee
    >>> tee = Tee(kind="tee", name="tee", plugged=["c"])
    >>> end = {"component": "c1", "port": "c"}
    >>> run = Run(name="to it", service="pressure", start=end, end=end, line={"kind": "open"})
    >>> fault_of_end(tee, tee.port_of("c"), run, run.end, is_start=False)
    'of tee is plugged'
    """
    if port is None and is_id(end.port):
        return (
            "is no boss of the pan that a line can end at, a turbo's drain or a return "
            f"({end.port}): lead {run.name} elsewhere first"
        )
    if port is None:
        known = ", ".join(each.key for each in component.PORTS)
        return f"must be a port of {component.name}: {known} (it is {end.port!r})"
    if end.port in component.plugged:
        return f"of {component.name} is plugged"
    if run.service not in port.services:
        takes = ", ".join(sorted(port.services))
        return f"of {component.name} takes {takes}, not {run.service}"
    if port.way == ("in" if is_start else "out"):
        return f"of {component.name} flows the other way: {port.words}"
    return ""
