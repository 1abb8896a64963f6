"""Every line of a build: its ends, its way in the car, what it takes, what it is near."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.keep_outs import distance_to
from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.feeding import WaterSource
from bilge_core.document.circuit.route import Route, laid, turn_between, unit
from bilge_core.document.circuit.run import HardLine, Hose, Run, bore_of, length_of
from bilge_core.document.keep_outs import KeepOut
from bilge_core.errors import InvalidQuantity
from bilge_core.lines.chain import Chain, Own, chain_of, chains, screws
from bilge_core.lines.flows import Flows, flow_in
from bilge_core.lines.ports import BARE, PortEnd, dash_of, line_end, port_end
from bilge_core.network.pipes import ENDS, pipe_resistance
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.rules.lines import ROCKS, least_radius
from bilge_core.shop.fittings import Angle, cut_off
from bilge_core.shop.threads import tube_diameter

_STEP = 10e-3  # [m] between places that gaps are looked at (ours)
_HOSE_WALL = 3.5e-3  # [m] of a hose with its braid (ours)
_LOSS_OF_A_TURN = 0.3
"""Loss coefficient of a smooth quarter bend of three diameters (from memory, 0.2 to 0.4)."""
_LOSS_OF_A_HOSE_END: dict[Angle, float] = {0: 0.1, 45: 0.4, 90: 0.9}
"""Loss coefficients of hose ends (ours: makers do not give them)."""


@dataclass(frozen=True)
class LineEnd:
    """One end of a line with what is screwed together there.

    port : PortEnd
    chain : chosen, or the shortest; None: none is known
    others : further chains
    is_chosen : the builder chose it
    angle : of the hose end [°]; nil for a tube
    off : by which the hose end points past its hose [rad]; None: the port's way is not known
    meets : from the route's end to the port [m]; None: one of the two is not known
    """

    port: PortEnd
    chain: Chain | None
    others: tuple[Chain, ...]
    is_chosen: bool
    angle: Angle
    off: float | None
    meets: float | None


@dataclass(frozen=True)
class Gap:
    """The smallest gap between a line's outside and one thing round it.

    keep_out : its place among them
    name : str
    gap : [m], rocking taken off; below nil where they are in each other
    wanted : [m]
    rocks : one is carried by the engine, the other by the car
    at : where on the line's middle, car's frame, shape (3,) [m]
    """

    keep_out: int
    name: str
    gap: float
    wanted: float
    rocks: bool
    at: Array


@dataclass(frozen=True)
class Line:
    """A hose or hard line of a build.

    number : from 1, in the circuit's order
    run : Run
    ends : its two
    route : in the car's frame [m]; None: it is not laid
    fault : why what was told is no route; empty
    length : along it, slack counted [m]; None: not known
    bore, outside : [m]; None: not known
    least : radius of its bends [m]
    flow, cold_flow : hot at top speed, and cold [m3/s]; nil of a vent, of water as it is told
    speed : hot [m/s]; None: no bore, or a vent
    loss, cold_loss : of oil [Pa]; None: no bore, or no length
    gaps : the tightest first
    lowest : its outside's lowest place, car's frame [m]; None: not laid
    """

    number: int
    run: Run
    ends: tuple[LineEnd, LineEnd]
    route: Route | None
    fault: str
    length: float | None
    bore: float | None
    outside: float | None
    least: float
    flow: float
    cold_flow: float
    speed: float | None
    loss: float | None
    cold_loss: float | None
    gaps: tuple[Gap, ...]
    lowest: float | None

    @property
    def dash(self) -> int:
        """Its size, or one that is usual."""
        return dash_of(self.run)

    @property
    def hose(self) -> Hose | None:
        """Its hose; None: a hard line."""
        return self.run.line if isinstance(self.run.line, Hose) else None

    @property
    def cut(self) -> float | None:
        """Hose to cut [m]: its length without what its ends take; None: no length, or no hose."""
        if self.hose is None or self.length is None:
            return None
        if self.run.service in BARE:
            return self.length
        taken = sum(cut_off(max(self.dash, 3), end.angle) for end in self.ends)
        return max(self.length - taken, 0.0)


def is_line(run: Run) -> bool:
    """Whether a run is a hose or a hard line that somebody makes up.

    A pickup's tube is the pickup's own.
    """
    return isinstance(run.line, Hose | HardLine) and not (
        run.service == "suction" and run.start.port == "outlet" and isinstance(run.line, HardLine)
    )


def _turned(build: Build, run: Run) -> Array:
    return np.array([each.at_mm for each in run.route]) * 1e-3 @ engine_to_car(build.car).T


def _route_of(build: Build, run: Run) -> tuple[Route | None, str]:
    if len(run.route) < 2:
        return None, ""
    try:
        radii = [(each.radius_mm or 0.0) * 1e-3 for each in run.route[1:-1]]
        return laid(_turned(build, run), radii), ""
    except InvalidQuantity as error:
        return None, f"{error.value} must be {error.requirement}"


def _frames_differ(keep_out: KeepOut, ends: tuple[PortEnd, PortEnd]) -> bool:
    carried = keep_out.frame == "engine"
    return any(end.on_engine != carried for end in ends)


def gaps_of(
    build: Build, route: Route, outside: float, ends: tuple[PortEnd, PortEnd]
) -> tuple[Gap, ...]:
    """Gaps between a line and all that is round it, the tightest against what is wanted first.

    Parameters
    ----------
    build : Build
    route : Route
        Car's frame.
    outside : float
        Diameter [m].
    ends : tuple of PortEnd

    Notes
    -----
    At places 10 mm apart along its middle; between two of them it is nearer by no more than
    ``s² / 8 d``, under half a millimetre at 30 mm.
    """
    places, turn = route.sampled(_STEP), engine_to_car(build.car)
    found = []
    for index, keep_out in build.car.measured_keep_outs:
        there = places if keep_out.frame == "car" else places @ turn
        distance, _ = distance_to(there, keep_out)
        at = int(distance.argmin())
        rocks = _frames_differ(keep_out, ends)
        gap = float(distance[at]) - 0.5 * outside - (ROCKS if rocks else 0.0)
        found.append(Gap(index, keep_out.name, gap, keep_out.wanted_mm * 1e-3, rocks, places[at]))
    return tuple(sorted(found, key=lambda each: each.gap - each.wanted))


def _chosen(
    run: Run, which: str, port: PortEnd, own: Own
) -> tuple[Chain | None, tuple[Chain, ...], bool]:
    end = run.start if which == "start" else run.end
    wanted = line_end(run)
    known = chains(port.joint, wanted, own=own)
    if end.fittings:
        chosen = chain_of(list(end.fittings), own)
        if chosen is not None and screws(port.joint, chosen, wanted):
            return chosen, tuple(each for each in known if each != chosen), True
    return (known[0] if known else None), known[1:], False


def _leaves(route: Route, which: str) -> Array:
    """Which way the line goes from one of its ends."""
    points = route.points
    step = points[1] - points[0] if which == "start" else points[-2] - points[-1]
    return unit(step)


def _end(run: Run, which: str, port: PortEnd, route: Route | None, own: Own) -> LineEnd:
    end = run.start if which == "start" else run.end
    chain, others, chosen = _chosen(run, which, port, own)
    told = end.hose_end_deg if isinstance(run.line, Hose) else None
    angle: Angle = told or 0
    off = meets = None
    if route is not None and port.faces is not None:
        turns = turn_between(port.faces, _leaves(route, which))
        bent = sum(part.angle for part in chain.fittings) if chain else 0
        off = abs(turns - math.radians(angle + bent))
    if route is not None and port.place is not None:
        there = route.points[0] if which == "start" else route.points[-1]
        meets = float(np.linalg.norm(there - port.place))
    return LineEnd(port, chain, others, chosen, angle, off, meets)


def loss_of(run: Run, route: Route | None, length: float, bore: float, flow: float,
            density: float, viscosity: float) -> float:  # fmt: skip
    """Pressure that a line takes [Pa]: its friction, its bends, its ends.

    Parameters
    ----------
    run : Run
    route : Route or None
    length, bore : float
        [m]
    flow : float
        [m3/s]
    density, viscosity : float
        [kg/m3], dynamic [Pa s].

    References
    ----------
    Friction: `bilge_core.network.pipes`. Bends: in proportion to their angle.
    """
    turns = sum(arc.turn for arc in route.arcs) if route is not None else 0.0
    if isinstance(run.line, HardLine) and route is None:
        turns = sum(math.radians(bend.angle_deg) for bend in run.line.bends)
    minor = ENDS + _LOSS_OF_A_TURN * turns / (0.5 * math.pi)
    if isinstance(run.line, Hose):
        ends = (run.start.hose_end_deg or 0, run.end.hose_end_deg or 0)
        minor += sum(_LOSS_OF_A_HOSE_END[each] for each in ends)
    return pipe_resistance(bore, length, density, viscosity, minor).drop(flow)


def _outside(run: Run, bore: float | None) -> float | None:
    if isinstance(run.line, HardLine):
        if run.line.dash:
            return tube_diameter(run.line.dash)
        wall = (run.line.wall_mm or 0.9) * 1e-3
        return None if bore is None else bore + 2.0 * wall
    return None if bore is None else bore + 2.0 * _HOSE_WALL


def _water(build: Build) -> float:
    """What a plate cooler's water flows at [m3/s]; nil where nobody said."""
    told = [each.flow_l_min for each in build.circuit.of_kind(WaterSource)]
    return sum(each for each in told if each is not None) / 60e3


def _line(build: Build, number: int, run: Run, hot: Flows, cold: Flows, own: Own) -> Line | None:
    first, last = port_end(build, run, run.start), port_end(build, run, run.end)
    if first is None or last is None:
        return None
    route, fault = _route_of(build, run)
    told = length_of(run)
    length = None if told is None else told * 1e-3
    bore_mm = bore_of(run.line)
    bore = None if bore_mm is None else bore_mm * 1e-3
    outside = _outside(run, bore)
    line = run.line
    wall = line.wall_mm * 1e-3 if isinstance(line, HardLine) and line.wall_mm else None
    flow = slow = 0.0
    if run.service == "water":
        flow = slow = _water(build)
    elif run.service != "vent":  # gas is judged on Drains
        flow, slow = flow_in(build, run, hot), flow_in(build, run, cold)
    area = None if bore is None or not flow else math.pi / 4.0 * bore**2
    loss = slow_loss = None
    if bore is not None and length and run.service in ("pressure", "return", "suction"):
        loss = loss_of(run, route, length, bore, flow, hot.density, hot.viscosity)
        slow_loss = loss_of(run, route, length, bore, slow, cold.density, cold.viscosity)
    gaps: tuple[Gap, ...] = ()
    lowest: float | None = None
    if route is not None and outside is not None:
        gaps = gaps_of(build, route, outside, (first, last))
        lowest = float(route.sampled(_STEP)[:, 2].min()) - 0.5 * outside
    ends = _end(run, "start", first, route, own), _end(run, "end", last, route, own)
    return Line(
        number, run, ends, route, fault, length, bore, outside,
        least_radius(line.kind, getattr(line, "dash", None), outside or 16e-3, wall), flow, slow,
        None if area is None else flow / area, loss, slow_loss,
        gaps, lowest,
    )  # fmt: skip


def line_runs(circuit: Circuit) -> tuple[Run, ...]:
    """All runs of a circuit that are hoses or hard lines, in its order."""
    return tuple(run for run in circuit.runs if is_line(run))


def lines_of(build: Build, hot: Flows, cold: Flows, own: Own = ()) -> tuple[Line, ...]:
    """All lines of a build, numbered in the circuit's order.

    Parameters
    ----------
    build : Build
    hot, cold : Flows
        See `flows_hot` and `flows_cold`.
    own : tuple of Fitting
        What the workshop keeps besides the starting set.

    Returns
    -------
    tuple of Line
    """
    runs = line_runs(build.circuit)
    found = (_line(build, at, run, hot, cold, own) for at, run in enumerate(runs, start=1))
    return tuple(each for each in found if each is not None)
