"""The circuit as screens tell it: what each port is joined to, and whether all of it checks out."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from bilge_core.acts.taking_out import STAYS
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import known_by
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component, Faces, Port, Service, Way
from bilge_core.document.circuit.run import bore_of, contents_of
from bilge_core.lines.ports import faces_of, faces_word, place_of, thread_of
from bilge_core.shop.threads import NO_PORT, joint_of, joints
from bilge_core.tell.checks import CheckOut, check_out
from bilge_core.tell.numbers import SpacePoint, litres, space_point


class PortOut(BaseModel):
    """One port of a component. `takes_many`: a space or gallery with any number of openings."""

    key: str
    words: str
    way: Way
    services: list[Service]
    state: Literal["joined", "plugged", "open", "free"]
    takes_many: bool
    joined_to: list[str]
    """What is at the other end of its runs, by name."""
    thread: str
    """As the builder gave it, in words; empty: nobody did."""
    thread_key: str
    """As `set_port` takes it."""
    at_mm: SpacePoint | None
    """Its own place or its component's, from the rail's middle in the car's frame."""
    faces: Faces | None


class ComponentOut(BaseModel):
    """A component's ports, in its kind's order. `can_go`: it can be taken out."""

    id: str
    name: str
    can_go: bool
    ports: list[PortOut]


class LineRunOut(BaseModel):
    """A run in words, and what follows from what is known of it."""

    id: str
    name: str
    start: str
    end: str
    bore_mm: float | None
    """As measured, or of its dash size."""
    contents_l: float | None
    """Full."""


class JetsToldOut(BaseModel):
    """`share`: of what holes of their bore let through, what the jets do."""

    share: float
    uncertainty_pct: float
    source: str


class CalibratedOut(BaseModel):
    """What gauge readings told of the engine. `changed_since`: the circuit is another now."""

    flow_l_min: float
    at_bar: float
    uncertainty_pct: float
    source: str
    changed_since: bool
    jets: JetsToldOut | None


class CircuitOut(BaseModel):
    """A build's circuit in words.

    `told_apart`: the oil away from the pan follows from what its components and lines hold.
    """

    checks: list[CheckOut]
    components: list[ComponentOut]
    runs: list[LineRunOut]
    calibrated: CalibratedOut | None
    told_apart: bool
    is_dry: bool
    threads: dict[str, str]
    """Threads that a port can show, by what `set_port` takes."""


def _state(component: Component, port: Port, joined: bool) -> Literal[
    "joined", "plugged", "open", "free"
]:  # fmt: skip
    if joined:
        return "joined"
    if port.key in component.plugged:
        return "plugged"
    return "free" if port.many else "open"


def _thread(component: Component, key: str) -> tuple[str, str]:
    """A port's thread in words and as `set_port` takes it; what nobody gave is empty."""
    written = thread_of(component, key) or ""
    joint = joint_of(written) if written else None
    return (joint.words, f"{joint.thread} {joint.sex}") if joint else (written, "")


def _port(build: Build, component: Component, port: Port, joined_to: list[str]) -> PortOut:
    thread, key = _thread(component, port.key)
    place = place_of(build, component, port.key)
    way = faces_of(build, component, port.key)
    return PortOut(
        key=port.key,
        words=port.words,
        way=port.way,
        services=sorted(port.services),
        state=_state(component, port, bool(joined_to)),
        takes_many=port.many,
        joined_to=joined_to,
        thread=thread,
        thread_key=key,
        at_mm=None if place is None else space_point(place),
        faces=None if way is None else faces_word(way),
    )


def _ports(build: Build, component: Component) -> list[PortOut]:
    of = build.circuit
    names = {each.id: each.name for each in of.components}
    own = {port.key: list[str]() for port in component.PORTS}
    for run in of.runs:
        for here, there in ((run.start, run.end), (run.end, run.start)):
            if here.component == component.id:
                # a boss of the pan counts among the ways back into it
                own[here.port if here.port in own else "returns"].append(names[there.component])
    return [_port(build, component, port, own[port.key]) for port in component.PORTS]


def _calibrated(of: Circuit) -> CalibratedOut | None:
    told = of.bearings
    if told is None:
        return None
    return CalibratedOut(
        flow_l_min=told.flow_l_min,
        at_bar=told.at_bar,
        uncertainty_pct=told.uncertainty_pct,
        source=told.source,
        changed_since=told.circuit != known_by(of.model_dump(mode="json")),
        jets=None if of.jets_told is None else JetsToldOut(**of.jets_told.model_dump()),
    )


def circuit_out(build: Build) -> CircuitOut:
    """A build's circuit in words.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> told = circuit_out(read_build(Path("demo/dunlin.json").read_text()))
    >>> [(port.words, port.state, port.joined_to) for port in told.components[2].ports][:2]
    [('inlet', 'joined', ['pickup']), ('return of its relief', 'joined', ['relief valve'])]
    """
    of = build.circuit
    names = {each.id: each.name for each in of.components}
    bosses = {boss.id: boss.name for boss in build.pan.bosses}
    runs = []
    for run in of.runs:
        contents = contents_of(run)
        runs.append(
            LineRunOut(
                id=run.id,
                name=run.name,
                start=names[run.start.component],
                end=bosses.get(run.end.port) or names[run.end.component],
                bore_mm=bore_of(run.line),
                contents_l=None if contents is None else litres(contents),
            )
        )
    return CircuitOut(
        checks=[check_out(build, each) for each in check_circuit(build)],
        components=[
            ComponentOut(
                id=each.id,
                name=each.name,
                can_go=each.kind not in STAYS,
                ports=_ports(build, each),
            )
            for each in of.components
        ],
        runs=runs,
        calibrated=_calibrated(of),
        told_apart=of.held_l is not None,
        is_dry=of.is_dry,
        threads=joints(NO_PORT),
    )
