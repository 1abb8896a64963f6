"""What the engine lets through, parted among bearings, heads, jets and turbos."""

from __future__ import annotations

import math
from dataclasses import dataclass

from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Gallery, Head, Jets, Turbo
from bilge_core.network.guesses import Guessed
from bilge_core.network.laws import DISCHARGE
from bilge_core.network.oil import NetworkOil
from bilge_core.network.pipes import Resistance, hole_resistance
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.quantities import si_from

_LEAST_BEARINGS = 0.2
"""Of all that the engine lets through, at least this is the bearings' (ours): where jets and
turbos as drawn would take more than the gauge saw, the gauge or the drawing is wrong."""
_LEAK_AT = 4e5  # [Pa] that a pump's leak is told at
_LEAK_TURNS = 25.0  # [turns of the pump a second] that it is told at
_TURBO_AT = 3e5  # [Pa] that what a turbo takes is told at
_PORT_AT = 7000.0 / 60.0  # [turns of the crank a second] that a pump's inlet port is told at
_ON_RELIEF = 0.9  # of the relief's opening that the gallery then has: filter and cooler take some
_RUNNING = 4000.0  # [rpm] at which what the engine holds is told, or 0.6 of its top (ours)


@dataclass(frozen=True)
class Engine:
    """Resistances of what the gallery feeds, running oil.

    bearings, head, turbo : [Pa s/m3]; of one head, one turbo
    leak : of the pump with oil in it [m3/s/Pa]
    port : discharge area of the pump's inlet [m2]
    running : crank speed at which what the engine holds is told [rad/s]
    spray : of what holes of the jets' bore let through, what the jets do
    thrown, headed : oil off the bearings, and into one head, at that speed [m3/s]
    """

    bearings: float
    head: float
    turbo: float
    leak: float
    port: float
    running: float
    spray: float
    thrown: float
    headed: float


def jets_resistance(jets: Jets, oil: NetworkOil, share: float = 1.0) -> Resistance:
    """Of all jets of a set together, once open; they let through a share of what such holes do."""
    holes = hole_resistance(jets.bore_mm * 1e-3, oil.density, oil.viscosity, jets.count)
    return Resistance(laminar=holes.laminar / share, square=holes.square / share**2)


def jets_open(jets: Jets, guessed: Guessed) -> float:
    """Pressure at which they open [Pa]."""
    return guessed["jets_open"] if jets.opens_bar is None else jets.opens_bar * 1e5


def running_speed(build: Build) -> float:
    """Crank speed [rad/s] at which what stands in a running engine is told."""
    top = build.car.top_rpm
    return float((min(_RUNNING, 0.6 * top) if top else _RUNNING) * math.pi / 30.0)


def engine_of(build: Build, oil: NetworkOil, guessed: Guessed) -> Engine:
    """Part what the gauge saw, or what engines usually take, among all that is fed.

    Notes
    -----
    Bearings and heads let oil through in proportion to pressure over viscosity, jets as holes.
    What is told of the bearings counts all that the engine lets through, pump's slip and all.
    """
    circuit = build.circuit
    pump, told = circuit.pump, circuit.bearings
    relief = guessed["relief"] if circuit.relief_bar is None else circuit.relief_bar * 1e5
    swept = pump.displacement_cm3 * 1e-6 * pump.drive_ratio
    displacement = pump.displacement_cm3 * 1e-6
    leak = guessed["pump_leak"] * displacement * _LEAK_TURNS / _LEAK_AT * oil.at_100 / oil.viscosity
    if told is None:
        rpm = float(rpm_of_speed(guessed["onto_relief"]))
        flow, pressure, thick = swept * rpm / 60.0, relief, oil.viscosity
    else:
        flow, pressure = told.flow_l_min / 60e3, si_from(told.at_bar, "pressure", "bar")
        thick = oil.viscosity_at(told.oil_temperature_c)
    flow = max(flow - leak * oil.viscosity / thick * pressure, 0.5 * flow)
    heads = len(circuit.of_kind(Head))
    headed = guessed["head_share"] * flow / heads if heads else 0.0
    turbo = guessed["turbo_takes"]
    turbos = len(circuit.of_kind(Turbo)) * turbo * pressure / _TURBO_AT
    spray = circuit.jets_told.share if circuit.jets_told else 1.0
    sprayed = 0.0
    for jets in circuit.of_kind(Jets):
        over = pressure - jets_open(jets, guessed)
        if over > 0.0:
            sprayed += math.sqrt(over / jets_resistance(jets, oil, spray).square)
    thrown = max(flow - headed * heads - turbos - sprayed, _LEAST_BEARINGS * flow)
    galleries = max(1, len(circuit.of_kind(Gallery)))
    warm = oil.viscosity / thick
    running = running_speed(build)
    least = min(swept * running / (2.0 * math.pi) / flow, _ON_RELIEF * relief / pressure / warm)
    return Engine(
        bearings=pressure / thrown * warm * galleries,
        head=pressure / headed * warm if headed else 1e15,
        turbo=_TURBO_AT / turbo * oil.viscosity / oil.at_100,
        leak=leak,
        port=DISCHARGE * swept * _PORT_AT / guessed["inlet_speed"],
        running=running,
        spray=spray,
        thrown=thrown * least,
        headed=headed * least,
    )
