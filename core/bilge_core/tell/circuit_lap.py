"""The circuit over a lap, and its bottle, as everybody reads them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import AnyComponent
from bilge_core.forecast.on_record import CircuitLap
from bilge_core.network import Network
from bilge_core.network.order import Order, Part, order_of
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.tell.verdict import PressureOut, pressure_out

_EVERY = 10
"""Steps of the circuit from one sample told to the next: 20 a second."""


class PartOut(BaseModel):
    """A component where oil comes by it; `enters`, `leaves`: nodes of the samples."""

    component: str
    enters: int
    leaves: int


class BranchOut(BaseModel):
    """Parts off the line from `root`, a component in line or the gallery."""

    root: str
    parts: list[PartOut]


class ElementOut(BaseModel):
    """What lets oil through: of which component or run, and what of it."""

    of: str
    what: str


class LayoutOut(BaseModel):
    """A circuit in the order in which oil goes through it; numbers are places in the samples."""

    pump: str
    inlet: int
    outlet: int
    gallery: int
    gallery_id: str
    line: list[PartOut]
    branches: list[BranchOut]
    elements: list[ElementOut]
    vessels: list[ElementOut]
    bottles: list[str]


class CircuitSamplesOut(BaseModel):
    """Twenty a second; nodes, elements, vessels and bottles by the layout's numbers."""

    time_s: list[float]
    rpm: list[float]
    mouth_gas: list[float]
    gallery_bar: list[float]
    usual_bar: list[float]
    measured_bar: list[float] | None
    """As logged; null where the log has none."""
    pressure_bar: list[list[float]]
    gas: list[list[float]]
    flow_l_min: list[list[float]]
    held_l: list[list[float]]
    charge_l: list[list[float]]


class CircuitLapOut(BaseModel):
    """A circuit over a lap."""

    pressure: PressureOut
    samples: CircuitSamplesOut
    in_pan_l: list[float]


def _part(part: Part) -> PartOut:
    return PartOut(component=part.component, enters=part.enters, leaves=part.leaves)


def layout_out(build: Build, network: Network) -> LayoutOut:
    """A build's circuit as it is drawn.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network import network_of
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> told = layout_out(build, network_of(build))
    >>> told.elements[0].what, len(told.line)
    ('suction', 4)
    """
    order: Order = order_of(build, network)
    bottles = [each for each in network.node_of if _kind(build, each[0]) == "accumulator"]
    bottles.sort(key=lambda port: int(network.still.nodes["bottle"][network.node_of[port]]))
    gallery = next(
        component for (component, _), node in network.node_of.items()
        if node == network.gallery and _kind(build, component) == "gallery"
    )  # fmt: skip
    return LayoutOut(
        pump=build.circuit.pump.id,
        inlet=network.inlet,
        outlet=network.outlet,
        gallery=network.gallery,
        gallery_id=gallery,
        line=[_part(part) for part in order.line],
        branches=[
            BranchOut(root=branch.root, parts=[_part(part) for part in branch.parts])
            for branch in order.branches
        ],
        elements=[ElementOut(of=of, what=what) for of, what in network.elements],
        vessels=[ElementOut(of=of, what=what) for of, what in network.vessels],
        bottles=[component for component, _ in bottles],
    )


def _kind(build: Build, component: str) -> str:
    found: AnyComponent | None = build.circuit.component(component)
    return "" if found is None else found.kind


def _columns(rows: Array, scale: float, places: int) -> list[list[float]]:
    return [column.round(places).tolist() for column in (rows[::_EVERY] * scale).T]


def circuit_lap_out(lap: CircuitLap, in_pan: float) -> CircuitLapOut:
    """A circuit over a lap; `in_pan` is the oil in the pan as it begins [m3]."""
    trace, every, held = lap.trace, slice(None, None, _EVERY), lap.held
    measured = lap.log.oil_pressure
    return CircuitLapOut(
        pressure=pressure_out(lap.pressure),
        in_pan_l=((in_pan + held[0] - held[every]) * 1e3).round(2).tolist(),
        samples=CircuitSamplesOut(
            time_s=lap.log.time[every].round(3).tolist(),
            rpm=rpm_of_speed(lap.log.engine_speed[every]).round(0).tolist(),
            mouth_gas=lap.met.gas[every].round(2).tolist(),
            gallery_bar=(lap.gallery[every] / 1e5).round(2).tolist(),
            usual_bar=(lap.usual[every] / 1e5).round(2).tolist(),
            measured_bar=None if measured is None else (measured[every] / 1e5).round(2).tolist(),
            pressure_bar=_columns(trace.pressure, 1e-5, 2),
            gas=_columns(trace.gas, 1.0, 2),
            flow_l_min=_columns(trace.flow, 60e3, 2),
            held_l=_columns(trace.held, 1e3, 3),
            charge_l=_columns(trace.charge, 1e3, 3),
        ),
    )


Basis = Literal["own", "preview", "settled"]
