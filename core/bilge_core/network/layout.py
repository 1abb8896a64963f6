"""Walks through a circuit from its pump and lays out what oil under pressure comes to."""

from __future__ import annotations

import math
from collections import deque
from dataclasses import dataclass

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.engine_side import Crankcase, Head, TimingChest
from bilge_core.document.circuit.pumps import PanRegion
from bilge_core.document.circuit.run import (
    HardLine,
    Open,
    Passage,
    Run,
    bore_of,
    contents_of,
    length_of,
)
from bilge_core.document.pickup import RoundMouth
from bilge_core.network.breathing import blow_by, full_power_speed, gas_ways
from bilge_core.network.draft import Draft, Hole, Port, Vessel
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.guesses import HEAD_DRAINS, Guessed
from bilge_core.network.oil import NetworkOil
from bilge_core.network.parts import LAYERS, Laying
from bilge_core.network.pipes import Resistance, bend_loss, hole_resistance, pipe_resistance
from bilge_core.network.records import AIR, MOUTH
from bilge_core.network.references import engine_of
from bilge_core.network.vessels import flooded_flow, hole_flow
from bilge_core.physics.gravity import STANDARD_GRAVITY

_PRESSED = frozenset({"pressure", "return"})
_FALLING = frozenset({"drain", "return", "scavenge"})
_ENTRY, _EXIT = 0.5, 1.0  # loss coefficients of a sharp entry and of an exit (from memory)
_AT_SIDE = 0.42  # of the width: how far a head's drains are from its middle (ours)
_ROWS = 6  # of drains along a floor that are told one by one
_MORE_LAG = 0.15 / (1000.0 * math.pi / 30.0)
"""[s per rad/s] that thrown oil takes longer: 0.15 s every 1000 rpm (ours)."""
_CHEST = (0.10, 0.05)  # [m] length and width of a timing chest's floor (ours)
_QUICKEST = 0.05  # of the usual time of oil on its way down, at least (ours)
_DEEPEST = 0.2  # [m] of oil over a head's drains that is looked for (ours)
_AIR_DENSITY, _AIR_VISCOSITY = 1.2, 1.8e-5  # [kg/m3], [Pa s] at 20 °C (from memory)
_FREE = 1e6  # [Pa s/m3] of a line back whose size nobody gave (ours: nearly nil)
_INLET_MIXES = 15e-6  # [m3] in which oil and gas mix before the pump (ours, from a trial)


@dataclass
class _Walk:
    """One walk; `vessels` from component to the number of its vessel."""

    lay: Laying
    vessels: dict[str, int]

    @property
    def circuit(self) -> Circuit:
        return self.lay.build.circuit

    def runs_from(self, component: Component, key: str) -> list[Run]:
        """Runs that leave a port with oil that falls or goes back."""
        here = (component.id, key)
        return [
            run
            for run in self.circuit.runs
            if run.service in _FALLING and (run.start.component, run.start.port) == here
        ]

    def falls_to(self, run: Run) -> int:
        """The vessel that a run's oil falls to, or -1 - way; lines that meet are followed."""
        component = self.circuit.component(run.end.component)
        seen: set[str] = set()
        while component is not None and component.id not in seen:
            seen.add(component.id)
            if isinstance(component, TimingChest):
                return self.vessel_of(component)
            if isinstance(component, PanRegion | Crankcase):
                break
            onward = [
                each
                for each in self.circuit.runs
                if each.service in _FALLING and each.start.component == component.id
            ]
            if not onward:
                break
            run = onward[0]
            component = self.circuit.component(run.end.component)
        if isinstance(component, PanRegion) and component.port_of(run.end.port) is None:
            return -1 - self.lay.draft.way(run.end.port)
        return -1

    def vessel_of(self, component: Component) -> int:
        """The vessel of a head or a chest, made when it is first asked for."""
        if component.id not in self.vessels:
            make = self._head if isinstance(component, Head) else self._chest
            vessel = make(component)  # type: ignore[arg-type]
            self.vessels[component.id] = self.lay.draft.vessel(vessel)
        return self.vessels[component.id]

    def _chest(self, chest: TimingChest) -> Vessel:
        runs = self.runs_from(chest, "oil_out")
        bore = bore_of(runs[0].line) if runs else None
        hole = self.lay.guessed["chest_bore"] if bore is None else bore * 1e-3
        to = self.falls_to(runs[0]) if runs else -1
        foam = self.lay.guessed["head_foam"]
        return Vessel(chest.id, "floor", floor=(*_CHEST, foam), holes=[((0.0, 0.0, hole, 1.0), to)])

    def _head(self, head: Head) -> Vessel:
        guessed, engine = self.lay.guessed, self.lay.engine
        length = (
            guessed["head_length"] if head.floor_length_mm is None else head.floor_length_mm * 1e-3
        )
        width = guessed["head_width"] if head.floor_width_mm is None else head.floor_width_mm * 1e-3
        foam = guessed["head_foam"]
        holes: list[tuple[Hole, int]] = []
        runs = self.runs_from(head, "drains")
        for run in runs:
            bore, to = bore_of(run.line), self.falls_to(run)
            if isinstance(run.line, Passage):
                many = run.line.count if bore is not None else HEAD_DRAINS
                each = guessed["drain_bore"] if bore is None else bore * 1e-3
                holes += [(hole, to) for hole in _spread(many, each, length, width)]
            elif bore is not None:
                holes.append(((0.0, 0.0, bore * 1e-3, 1.0), to))
        if not holes:
            to = self.falls_to(runs[0]) if runs else -1
            spread = _spread(HEAD_DRAINS, guessed["drain_bore"], length, width)
            holes = [(hole, to) for hole in spread]
        vessel = Vessel(head.id, "floor", floor=(length, width, foam), holes=holes)
        self._gas_up(head, vessel)
        if head.holds_l is not None:
            over = lies_over_drains(vessel, engine.headed, engine.running, self.lay.oil.density)
            vessel.pocket = max(head.holds_l * 1e-3 - over, 0.0)
        return vessel

    def _gas_up(self, head: Head, vessel: Vessel) -> None:
        """Blow-by that goes up through a head's drains: where the head has a way out for gas."""
        build = self.lay.build
        if not self.circuit.of_kind(Crankcase) or not any(
            run.service == "vent" and run.start.component == head.id for run in self.circuit.runs
        ):
            return
        guessed = DrainGuesses()
        breathing, flow = gas_ways(build, guessed), blow_by(build, guessed)
        pressures = breathing.pressures(flow)
        up = {way.run for way in breathing.ways if way.end == head.id}
        flows = breathing.flows(flow, pressures)
        vessel.gas = max(sum(flows[run] for run in up), 0.0) / vessel.area
        vessel.push = max(pressures[breathing.source] - pressures.get(head.id, 0.0), 0.0)
        wall = head.wall_height_mm
        high = guessed["head_wall"] if wall is None else wall * 1e-3
        solid = self.lay.oil.density * (1.0 - vessel.floor[2])
        # oil over the walls round its drains finds its way down by the chest, gas or no gas
        vessel.shut = min(
            breathing.pressures(flow, up)[breathing.source], solid * STANDARD_GRAVITY * high
        )
        vessel.full_speed = full_power_speed(build.car)

    def sink_of(self, component: Component, key: str) -> int:
        """The end that oil leaves a component by; nil where a run leads it into the network."""
        draft = self.lay.draft
        if isinstance(component, Head):
            return draft.sink(self.vessel_of(component))
        runs = self.runs_from(component, key)
        if not runs:
            return draft.sink(-1)
        if LAYERS.get(type(self.circuit.component(runs[0].end.component))):  # type: ignore[arg-type]
            return 0
        return draft.sink(self.falls_to(runs[0]))

    def lay_run(self, run: Run) -> None:
        """A run between two ports of the network: a line, or nothing where it has no figures."""
        draft = self.lay.draft
        start = (run.start.component, run.start.port)
        end = (run.end.component, run.end.port)
        held = contents_of(run)
        by = line_resistance(run, self.lay.oil)
        if by is None:
            draft.join(start, end)
        else:
            draft.line((run.id, "line"), start, end, by)
        if held:
            self.lay.said += held
            draft.hold(start, 0.5 * held)
            draft.hold(end, 0.5 * held)

    def lay_ways_out(self) -> None:
        """Lines back to the pan from what lies behind a bypass: without them oil were shut in."""
        draft = self.lay.draft
        there = set(draft.ports)
        for run in self.circuit.runs:
            start = (run.start.component, run.start.port)
            onto = type(self.circuit.component(run.end.component))
            if run.service == "return" and start in there and onto not in LAYERS:
                by = line_resistance(run, self.lay.oil) or Resistance(_FREE)
                draft.line((run.id, "line"), start, draft.sink(self.falls_to(run)), by)


def lies_over_drains(
    vessel: Vessel, flow: float, speed: float = 0.0, density: float = 820.0
) -> float:
    """Oil [m3] that lies on a level floor when a flow [m3/s] comes in and as much goes out.

    `speed` of the crank [rad/s], with which blow-by goes up against it; `density` of the oil
    [kg/m3].

    Examples
    --------
    >>> four = [((0.0, 0.0, 0.012, 1.0), -1)] * 4
    >>> head = Vessel("c8", "floor", floor=(0.42, 0.14, 0.15), holes=four)
    >>> round(lies_over_drains(head, 4.5 / 60e3) * 1e3, 2)
    0.25
    """
    length, width, foam = vessel.floor
    share = min(speed / vessel.full_speed, 1.0) if vessel.full_speed else 0.0
    heavy = density * (1.0 - foam)
    push, shut = (
        each * share * share / (heavy * STANDARD_GRAVITY) for each in (vessel.push, vessel.shut)
    )
    falls, lets = (
        hole_flow.py_func,
        flooded_flow.py_func,
    )  # as Python: to compile it alone would take a second
    low, high = 0.0, _DEEPEST
    for _ in range(50):
        depth = 0.5 * (low + high)
        out = 0.0
        for hole, _ in vessel.holes:
            bore, gas = hole[2], vessel.gas * share * math.pi / 4.0 * hole[2] ** 2
            through = falls(depth if gas <= 0.0 else depth - push, bore, STANDARD_GRAVITY)
            if gas > 0.0:
                stops = falls(depth - shut, bore, STANDARD_GRAVITY)
                through = max(min(through, lets(bore, STANDARD_GRAVITY, heavy, gas)), stops)
            out += hole[3] * through
        low, high = (depth, high) if out < flow / (1.0 - foam) else (low, depth)
    return length * width * depth * (1.0 - foam)


def _account_for_the_rest(walk: _Walk) -> None:
    """What the builder says is away, and no component says for itself, is held to.

    That is the crankcase's figure, or all of it where no component says anything. It counts what
    parts without a figure of their own hold, heads and oil off the crank among them; what is left
    over is films and pockets, and where it falls short oil is quicker off the crank.
    """
    lay, circuit, draft = walk.lay, walk.circuit, walk.lay.draft
    crankcase = next(iter(circuit.of_kind(Crankcase)), None)
    said = None if crankcase is None else crankcase.holds_l
    if circuit.held_l is not None and said is None:
        return
    rest = lay.build.oil.away_l if said is None else said
    heads = [
        walk.vessels[head.id]
        for head in circuit.of_kind(Head)
        if head.id in walk.vessels and head.holds_l is None
    ]
    thrown = draft.vessels[0]
    usual = (thrown.lags[0] + thrown.lags[1] * lay.engine.running) * lay.engine.thrown
    numbers, _, _ = draft.numbered()
    unsaid = float(draft.volumes(numbers).sum()) - lay.said + draft.tube_volume
    unsaid += sum(
        lies_over_drains(
            draft.vessels[head], lay.engine.headed, lay.engine.running, lay.oil.density
        )
        for head in heads
    )
    left = rest * 1e-3 - unsaid - usual
    if left < 0.0 and said is not None:
        lag, more, _ = thrown.lags
        thrown.lags = (lag, more, max((usual + left) / usual, _QUICKEST))
    keeping = [draft.vessels[head] for head in heads] or [thrown]
    for vessel in keeping:
        vessel.pocket = max(left, 0.0) / len(keeping)


def _spread(many: int, bore: float, length: float, width: float) -> list[Hole]:
    """Drains along both sides of a floor."""
    rows = min(_ROWS, max(1, many // 2))
    sides = (_AT_SIDE, -_AT_SIDE) if many > 1 else (0.0,)
    share = many / (rows * len(sides))
    return [
        (length * ((row + 0.5) / rows - 0.5), side * width, bore, share)
        for row in range(rows)
        for side in sides
    ]


def line_resistance(run: Run, oil: NetworkOil) -> Resistance | None:
    """Of a run, its bends and ends counted; None where its bore or length nobody gave."""
    line = run.line
    bore = bore_of(line)
    length = length_of(run)
    if isinstance(line, Open) or bore is None or not length:
        return None
    bends = line.bends if isinstance(line, HardLine) else []
    minor = sum(
        bend_loss(math.radians(bend.angle_deg), bend.radius_mm * 1e-3, bore * 1e-3)
        for bend in bends
    )
    many = line.count if isinstance(line, Passage) else 1
    return pipe_resistance(bore * 1e-3, length * 1e-3, oil.density, oil.viscosity, minor, many)


def _suction(walk: _Walk) -> None:
    """Mouth, screen and tube as one line into the pump's inlet, its oil going through as a plug."""
    lay, build = walk.lay, walk.lay.build
    run = build.circuit.suction
    line = None if run is None or isinstance(run.line, Open) else run.line
    bore_mm = None if line is None else bore_of(line)
    length_mm = None if run is None else length_of(run)
    bore = lay.guessed["suction_bore"] if bore_mm is None else bore_mm * 1e-3
    length = lay.guessed["suction_length"] if not length_mm else length_mm * 1e-3
    bends = line.bends if isinstance(line, HardLine) else []
    minor = _ENTRY + _EXIT
    for bend in bends:
        minor += bend_loss(math.radians(bend.angle_deg), bend.radius_mm * 1e-3, bore)
    if not build.circuit.is_dry:
        minor = _with_mouth(build, bore, minor)
    by = pipe_resistance(bore, length, lay.oil.density, lay.oil.viscosity, minor)
    inlet: Port = (build.circuit.pump.id, "inlet")
    lay.draft.line((run.id if run else "", "suction"), MOUTH, inlet, by, suction=True)
    lay.draft.tube_volume = math.pi / 4.0 * bore * bore * length
    lay.draft.hold(inlet, _INLET_MIXES)
    leak = run.end.leak_mm if run is not None else None
    if leak:
        air = hole_resistance(leak * 1e-3, _AIR_DENSITY, _AIR_VISCOSITY)
        lay.draft.line((run.id if run else "", "joint"), AIR, inlet, air)


def _with_mouth(build: Build, bore: float, minor: float) -> float:
    """A loss coefficient of the speed in a tube of a bore [m], screen and gap added."""
    mouth = build.pickup.mouth
    if isinstance(mouth, RoundMouth):
        area = math.pi / 4.0 * mouth.diameter_mm**2
        around = math.pi * mouth.diameter_mm
    else:
        area = mouth.length_mm * mouth.width_mm
        around = 2.0 * (mouth.length_mm + mouth.width_mm)
    tube = math.pi / 4.0 * (bore * 1e3) ** 2
    if build.pickup.screen is not None:
        minor += (tube / (area * build.pickup.screen.open_pct / 100.0)) ** 2
    return minor + (tube / max(around * max(build.pickup.gap_mm, 1.0), 1.0)) ** 2


def _thrown(lay: Laying) -> None:
    crankcase = next(iter(lay.circuit.of_kind(Crankcase)), None)
    lags = (lay.guessed["thrown_lag"], _MORE_LAG, 1.0)
    vessel = Vessel(crankcase.id if crankcase else "", "thrown", lags=lags)
    lay.thrown = lay.draft.sink(lay.draft.vessel(vessel))


def lay_out(build: Build, oil: NetworkOil, guessed: Guessed) -> Draft:
    """Lay out all that the pump of a build draws through and feeds."""
    draft = Draft()
    draft.way("")
    lay = Laying(build, oil, guessed, draft, engine_of(build, oil, guessed), lambda _, __: 0)
    walk = _Walk(lay, {})
    lay.sink_of = walk.sink_of
    _thrown(lay)
    _suction(walk)
    circuit = build.circuit
    pump = circuit.pump
    laid: set[str] = set()
    waiting: deque[Port] = deque([(pump.id, "outlet")])
    done: set[int] = set()
    while waiting:
        component_id, key = waiting.popleft()
        component = circuit.component(component_id)
        layer = None if component is None else LAYERS.get(type(component))
        if component is None or layer is None:
            continue
        if component_id not in laid:
            laid.add(component_id)
            layer(lay, component, key)
        for at, run in enumerate(circuit.runs):
            ends = [(run.start.component, run.start.port), (run.end.component, run.end.port)]
            if at in done or run.service not in _PRESSED or component_id not in (
                ends[0][0], ends[1][0]
            ):  # fmt: skip
                continue
            other = ends[1] if ends[0][0] == component_id else ends[0]
            onto = circuit.component(other[0])
            if onto is None or type(onto) not in LAYERS:
                continue
            done.add(at)
            walk.lay_run(run)
            waiting.append(other)
    walk.lay_ways_out()
    _account_for_the_rest(walk)
    draft.turn_vessels()
    return draft
