"""What each kind of component is to the network: ports joined, elements, what it holds."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.engine_side import Gallery, Head, Jets, Turbo
from bilge_core.document.circuit.feeding import (
    Accumulator,
    CheckValve,
    Cooler,
    Drop,
    Filter,
    PlateCooler,
    RemoteFilter,
    SandwichPlate,
    TakeOffPlate,
    Thermostat,
)
from bilge_core.document.circuit.joining import (
    Bulkhead,
    Cover,
    Restrictor,
    SenderTee,
    ShutOffValve,
    Tee,
)
from bilge_core.document.circuit.pumps import PressureStage, Regulator, Relief
from bilge_core.network.draft import Draft, Port
from bilge_core.network.guesses import Guessed
from bilge_core.network.laws import AIR_PRESSURE, CHARGED_AT, CHECK_OPENS, SEAT, STAYS_OPEN
from bilge_core.network.oil import NetworkOil
from bilge_core.network.pipes import Resistance, hole_resistance
from bilge_core.network.records import Kind
from bilge_core.network.references import Engine, jets_open, jets_resistance
from bilge_core.physics.turns import speed_of_rpm

_SLOPE = 0.15e5 / (10.0 / 60e3)
"""[Pa s/m3] of a relief past its opening: 0.15 bar every 10 L/min (ours)."""
_EASY = 1e6  # [Pa s/m3] of what hardly resists: a tenth of a millibar at 6 L/min (ours)
_DROP_AT = 40.0 / 60e3  # [m3/s] that a guessed drop is told at
_BYPASS_BORE = 10e-3  # [m] of a filter's bypass (ours)
_BALLS_TAKE = 0.4  # of a turbo's plain bearings, its ball bearings (from memory)
_BLEED = 0.05  # share that goes round by the cooler while a bleeding thermostat is shut (ours)
_OPENS_OVER = 12.0  # [K] in which a thermostat goes from shut to open (from memory)


@dataclass
class Laying:
    """What laying out a component needs."""

    build: Build
    oil: NetworkOil
    guessed: Guessed
    draft: Draft
    engine: Engine
    sink_of: Callable[[Component, str], int] = field(repr=False)
    thrown: int = 0
    said: float = 0.0
    """Oil under pressure [m3] that its builder told of, part by part."""

    @property
    def circuit(self) -> Circuit:
        """Of the build."""
        return self.build.circuit

    def hole(self, bore_mm: float | None, guess: str) -> Resistance:
        """A hole of a bore, or of a guessed one."""
        bore = self.guessed[guess] if bore_mm is None else bore_mm * 1e-3
        return hole_resistance(bore, self.oil.density, self.oil.viscosity)

    def holds(self, component: Component, guess: str) -> float:
        """Oil that a full component holds [m3]."""
        if component.holds_l is None:
            return self.guessed[guess]
        self.said += component.holds_l * 1e-3
        return component.holds_l * 1e-3


def _stage(lay: Laying, pump: PressureStage, _: str) -> None:
    low = pump.low_stage
    modes = low is not None and not low.unplugged
    lay.draft.join((pump.id, "inlet"), (pump.id, "relief_return"))
    lay.draft.element(
        Kind.STAGE, (pump.id, "stage"), (pump.id, "inlet"), (pump.id, "outlet"),
        displacement=pump.displacement_cm3 * 1e-6, ratio=pump.drive_ratio,
        low=low.displacement_cm3 * 1e-6 if low and modes else 0.0,
        switch=speed_of_rpm(low.up_to_rpm) if low and modes else 0.0,
        leak=lay.engine.leak, port=lay.engine.port,
    )  # fmt: skip


def _relief(lay: Laying, valve: Relief | Regulator, _: str) -> None:
    lay.draft.join((valve.id, "inlet"), (valve.id, "outlet"))
    wide = lay.hole(valve.bore_mm, "relief_bore")
    first = lay.circuit.of_kind(Relief)[:1] == [valve]
    opens = lay.guessed["relief"] if valve.opens_bar is None else valve.opens_bar * 1e5
    low = lay.circuit.pump.low_stage
    lowered = low.relief_bar if first and low is not None and not low.unplugged else None
    senses = lay.circuit.component(valve.senses) if valve.senses else None
    to = lay.sink_of(valve, "bypass")
    end: Port | int = to if to != _INTO_A_PORT else (valve.id, "bypass")
    at = None if senses is None or senses is valve else (senses.id, felt_at(senses))
    lay.draft.element(
        Kind.SENSED if at else Kind.VALVE, (valve.id, "relief"), (valve.id, "inlet"), end,
        senses=at, laminar=_EASY if at else _SLOPE, opens=opens, square=wide.square, leak=SEAT,
        lowered=0.0 if lowered is None else lowered * 1e5,
        all_open=_SLOPE * math.sqrt(opens / wide.square),  # so that it rises as any other
    )  # fmt: skip


def felt_at(component: Component) -> str:
    """The port at which a component's pressure is felt: where oil comes out of it, or its first."""
    out = [port.key for port in component.PORTS if port.way == "out" and not port.bypass]
    keys = [port.key for port in component.PORTS]
    for key in ("feed", "outlet", *out, *keys):
        if key in keys:
            return key
    return keys[0]


def _half_and_half(drop: Drop | None, guessed: float, laminar: float, thick: float) -> Resistance:
    """A drop as its maker gives it, so much of it in proportion to flow and viscosity."""
    pressure, flow = (guessed, _DROP_AT) if drop is None else (drop.drop_bar * 1e5,
                                                               drop.flow_l_min / 60e3)  # fmt: skip
    return Resistance(
        max(laminar * pressure / flow * thick, _EASY),
        square=(1.0 - laminar) * pressure / flow**2,
    )


def _filtered(
    lay: Laying, part: Filter | RemoteFilter, start: Port, end: Port, side_by_side: int
) -> None:
    thick = lay.oil.viscosity / lay.oil.at_100
    guess = lay.guessed["filter_drop"] if part.drop is None else 0.0
    by = _half_and_half(part.drop, guess, 1.0, thick)
    many = side_by_side if part.drop is None else 1
    lay.draft.line((part.id, "element"), start, end, Resistance(by.laminar / many))
    opens = lay.guessed["filter_bypass"] if part.bypass_bar is None else part.bypass_bar * 1e5
    wide = hole_resistance(_BYPASS_BORE, lay.oil.density, lay.oil.viscosity)
    lay.draft.element(
        Kind.VALVE, (part.id, "bypass"), start, end, laminar=0.2 * _SLOPE, opens=opens,
        square=wide.square, leak=SEAT,
    )  # fmt: skip
    held = lay.holds(part, "filter_holds") * (side_by_side if part.holds_l is None else 1)
    lay.draft.hold(start, 0.5 * held)
    lay.draft.hold(end, 0.5 * held)


def _filter(lay: Laying, part: Filter, _: str) -> None:
    _filtered(lay, part, (part.id, "inlet"), (part.id, "outlet"), 1)


def _remote(lay: Laying, part: RemoteFilter, _: str) -> None:
    lay.draft.join((part.id, "in_left"), (part.id, "in_right"))
    lay.draft.join((part.id, "out_left"), (part.id, "out_right"))
    _filtered(lay, part, (part.id, "in_left"), (part.id, "out_left"), part.filters)


def _cooler(lay: Laying, part: Cooler | PlateCooler, _: str) -> None:
    thick = lay.oil.viscosity / lay.oil.at_100
    guess = lay.guessed["cooler_drop"] if part.drop is None else 0.0
    by = _half_and_half(part.drop, guess, 0.5, thick)
    start, end = (part.id, "inlet"), (part.id, "outlet")
    lay.draft.line((part.id, "matrix"), start, end, by)
    held = lay.holds(part, "cooler_holds")
    lay.draft.hold(start, 0.5 * held)
    lay.draft.hold(end, 0.5 * held)


def _take_off(lay: Laying, part: SandwichPlate | Thermostat, _: str) -> None:
    """To the cooler and past it, as far open as its thermostat is at the running temperature."""
    opens = part.thermostat_c if isinstance(part, SandwichPlate) else part.opens_c
    share = 1.0
    if opens is not None:
        share = min(max((lay.build.oil.temperature_c - opens) / _OPENS_OVER, 0.0), 1.0)
        share = max(share, _BLEED if getattr(part, "bleeds", True) else 1e-4)
    lay.draft.join((part.id, "cooler_in"), (part.id, "outlet"))
    wide = lay.hole(None, "valve_bore")
    inlet = (part.id, "inlet")
    through = Resistance(_EASY / share, square=wide.square / share**2)
    lay.draft.line((part.id, "to cooler"), inlet, (part.id, "cooler_out"), through)
    if share < 1.0:
        rest = 1.0 - share
        past = Resistance(_EASY / rest, square=wide.square / rest**2)
        lay.draft.line((part.id, "past cooler"), inlet, (part.id, "outlet"), past)


def _take_off_plate(lay: Laying, part: TakeOffPlate, _: str) -> None:
    lay.draft.join((part.id, "inlet"), (part.id, "line_out"))
    lay.draft.join((part.id, "line_in"), (part.id, "outlet"))


def _bottle(lay: Laying, part: Accumulator, _: str) -> None:
    cold = lay.guessed["precharge"] if part.precharge_bar is None else part.precharge_bar * 1e5
    volume = part.volume_l * 1e-3
    amount = (cold + AIR_PRESSURE) * volume / CHARGED_AT
    lay.draft.bottles.append(((part.id, "line"), volume, amount))
    lay.draft.hold((part.id, "line"), 0.0)


def _check(lay: Laying, part: CheckValve, _: str) -> None:
    wide = lay.hole(part.bore_mm, "valve_bore")
    opens = CHECK_OPENS if part.opens_bar is None else part.opens_bar * 1e5
    lay.draft.element(
        Kind.VALVE, (part.id, "valve"), (part.id, "inlet"), (part.id, "outlet"),
        laminar=_EASY, opens=opens, square=wide.square, leak=SEAT,
    )  # fmt: skip


def _shut_off(lay: Laying, part: ShutOffValve, entered: str) -> None:
    wide = lay.hole(part.bore_mm, "valve_bore")
    near, far = (part.id, entered), (part.id, "b" if entered == "a" else "a")
    if part.worked == "electric" and part.opens_bar is not None:
        lay.draft.element(
            Kind.SHUT_OFF, (part.id, "valve"), near, far, senses=near, laminar=wide.laminar,
            opens=part.opens_bar * 1e5, square=wide.square, holds=STAYS_OPEN,
        )  # fmt: skip
    else:
        lay.draft.line((part.id, "valve"), near, far, wide)


def _restrictor(lay: Laying, part: Restrictor, _: str) -> None:
    by = hole_resistance(part.bore_mm * 1e-3, lay.oil.density, lay.oil.viscosity)
    lay.draft.line((part.id, "hole"), (part.id, "a"), (part.id, "b"), by)


def _open_all(lay: Laying, part: Component, _: str) -> None:
    lay.draft.join(*((part.id, port.key) for port in part.PORTS))


def _gallery(lay: Laying, part: Gallery, _: str) -> None:
    feed = (part.id, "feed")
    lay.draft.join(feed, (part.id, "second_feed"), (part.id, "tappings"))
    lay.draft.hold(feed, lay.holds(part, "gallery_holds"))
    lay.draft.line((part.id, "bearings"), feed, lay.thrown, Resistance(lay.engine.bearings))
    lay.draft.gallery = lay.draft.gallery or feed


def _jets(lay: Laying, part: Jets, _: str) -> None:
    by = jets_resistance(part, lay.oil, lay.engine.spray)
    lay.draft.element(
        Kind.VALVE, (part.id, "jets"), (part.id, "feed"), lay.thrown,
        laminar=by.laminar, opens=jets_open(part, lay.guessed), square=by.square, leak=SEAT,
    )  # fmt: skip


def _head(lay: Laying, part: Head, _: str) -> None:
    to = lay.sink_of(part, "drains")
    lay.draft.line((part.id, "cams"), (part.id, "feed"), to, Resistance(lay.engine.head))


def _turbo(lay: Laying, part: Turbo, _: str) -> None:
    to = lay.sink_of(part, "drain")
    by = lay.engine.turbo / (_BALLS_TAKE if part.bearing == "ball" else 1.0)
    lay.draft.line((part.id, "bearings"), (part.id, "feed"), to, Resistance(by))


_INTO_A_PORT = 0
"""What `sink_of` answers where a bypass is led to a port of the network: the pump's inlet."""

LAYERS: dict[type[Component], Callable[..., None]] = {
    PressureStage: _stage, Relief: _relief, Regulator: _relief, Filter: _filter,
    RemoteFilter: _remote, SandwichPlate: _take_off, Thermostat: _take_off,
    TakeOffPlate: _take_off_plate, Cooler: _cooler, PlateCooler: _cooler, Accumulator: _bottle,
    CheckValve: _check, ShutOffValve: _shut_off, Restrictor: _restrictor, Tee: _open_all,
    SenderTee: _open_all, Bulkhead: _open_all, Cover: _open_all, Gallery: _gallery, Jets: _jets,
    Head: _head, Turbo: _turbo,
}  # fmt: skip
"""By kind: what has no row is no part of the network under pressure."""
