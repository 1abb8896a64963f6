"""Where blow-by goes: gas ways out of the engine, and the pressure that they leave behind."""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import dataclass, field

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.car import Car
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.dry_and_gas import Breather
from bilge_core.document.circuit.engine_side import Crankcase, Head, TimingChest
from bilge_core.document.circuit.run import Open, Passage, Run, bore_of, length_of
from bilge_core.errors import InvalidInput, Problem
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.guesses import GUESSES, HEAD_DRAINS
from bilge_core.network.laws import line_flow
from bilge_core.network.pipes import ENDS, Resistance, hole_resistance, pipe_resistance
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.physics.turns import speed_of_rpm

GAS_DENSITY, GAS_VISCOSITY = 1.0, 2.0e-5
"""[kg/m3], [Pa s] of blow-by at about 80 °C, as air (from memory)."""
_FOOT_A_MINUTE = 0.3048**3 / 60.0  # [m3/s] of a cubic foot a minute, by definition
_HUNDRED_HORSES = 100.0 * 745.69987  # [W]
_BY_WEAR = {"sound": 1.0, "used": 2.0, "worn": 4.0}
"""Blow-by [ft3/min for every 100 hp] of sound, used and worn rings (from memory)."""
_FREE = 1.0  # [Pa s/m3] of what is open
_ROUNDS = 60
_TAKEN = 0.5  # of what a step of Newton promises, that it has to bring (ours)
MOST_PRESSURE = 30e3
"""[Pa] beyond which dipstick and seals let go (from memory: a few tenths of a bar)."""
AIR = ""
"""The node of the open air."""


def blow_by(build: Build, guessed: DrainGuesses) -> float:
    """Gas past the rings at full power [m3/s]: as measured, else of power and wear.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> round(blow_by(build, DrainGuesses()) * 60e3)  # nobody gave its power
    60
    """
    case = next(iter(build.circuit.of_kind(Crankcase)), None)
    if case is not None and case.blow_by_l_min is not None:
        return case.blow_by_l_min / 60e3
    if build.car.engine_power_kw is None:
        return guessed["blow_by"]
    by_power = _BY_WEAR[build.car.wear or "used"]
    return by_power * _FOOT_A_MINUTE * build.car.engine_power_kw * 1e3 / _HUNDRED_HORSES


def full_power_speed(car: Car) -> float:
    """Crank speed [rad/s] at which blow-by is told: of its power, else its top; else 6500 rpm."""
    return float(speed_of_rpm(car.power_rpm or car.top_rpm or 6500.0))


def blow_by_at(at_full: float, car: Car, speed: Array) -> Array:
    """Blow-by [m3/s] at crank speeds [rad/s], of what it is at full power [m3/s].

    Examples
    --------
    >>> car = Car(nose_points="front", lean_right_deg=0, nose_up_deg=0, top_rpm=6000)
    >>> blow_by_at(1e-3, car, speed_of_rpm(np.array([0.0, 3000.0, 9000.0]))).tolist()
    [0.0, 0.0005, 0.001]
    """
    return np.asarray(at_full * np.minimum(speed / full_power_speed(car), 1.0))


@dataclass(frozen=True)
class GasWay:
    """A way for gas from one space to another.

    run : id of the run, or of the component that it goes through
    name : as the builder has it
    start, end : components' ids, or `AIR`
    by : Resistance
    port : place of its port at the start, the engine's frame [m]; None where nobody gave it
    rise : how far it climbs over its port [m]
    """

    run: str
    name: str
    start: str
    end: str
    by: Resistance
    port: Array | None = None
    rise: float = 0.0


@dataclass(frozen=True)
class Breathing:
    """All gas ways of an engine, and where blow-by comes in."""

    ways: tuple[GasWay, ...]
    source: str
    nodes: tuple[str, ...] = field(default=())

    def pressures(self, flow: float, covered: Collection[str] = ()) -> dict[str, float]:
        """Pressure in each space [Pa] with a flow of blow-by [m3/s]; below nil where gas is pulled.

        `covered` are runs whose ports are under oil. A space with no way out left has infinity.

        Examples
        --------
        >>> hose = GasWay("r1", "hose", "c7", AIR, pipe_resistance(0.0141, 1.0, 1.0, 2e-5, 1.5))
        >>> one = Breathing((hose,), "c7", ("c7",))
        >>> round(one.pressures(120 / 60e3)["c7"])
        299
        >>> one.pressures(1e-3, {"r1"})["c7"]
        inf
        """
        open_ways = [way for way in self.ways if way.run not in covered]
        reached = _reaches_air(open_ways)
        found = {node: (0.0 if node in reached else math.inf) for node in self.nodes}
        if self.source not in reached or flow == 0.0:
            return found
        numbers = {node: at for at, node in enumerate(sorted(reached - {AIR}))}
        ways = [way for way in open_ways if way.start in reached and way.end in reached]
        pressure = _solved(ways, numbers, self.source, flow)
        return found | {node: float(pressure[at]) for node, at in numbers.items()}

    def flows(self, flow: float, pressures: dict[str, float]) -> dict[str, float]:
        """Gas through each way [m3/s] at pressures that were found."""
        found = {}
        for way in self.ways:
            across = pressures.get(way.start, 0.0) - pressures.get(way.end, 0.0)
            found[way.run] = _through(way.by, across)[0] if math.isfinite(across) else 0.0
        return found


def _through(by: Resistance, across: float) -> tuple[float, float]:
    law = line_flow.py_func
    q, slope = law(across, by.laminar, by.turbulent_from, by.extra, max(by.square, 1e-3))
    return float(q), float(slope)


def _reaches_air(ways: Collection[GasWay]) -> set[str]:
    reached = {AIR}
    while True:
        more = {
            node
            for way in ways
            if way.start in reached or way.end in reached
            for node in (way.start, way.end)
        }
        if more <= reached:
            return reached
        reached |= more


def _solved(ways: Collection[GasWay], numbers: dict[str, int], source: str, flow: float) -> Array:
    """Pressures at which what comes into every space leaves it: Newton's method, damped.

    A step is halved until it takes away at least half of what it promises: a whole step of a wide
    hole near nil only turns the sign of its pressure.
    """
    pressure = np.full(len(numbers), 10.0)

    def misses(tried: Array) -> tuple[Array, Array]:
        left = np.zeros(len(numbers))
        slopes = np.zeros((len(numbers), len(numbers)))
        left[numbers[source]] -= flow
        for way in ways:
            ends = [numbers.get(way.start), numbers.get(way.end)]
            high, low = (0.0 if end is None else float(tried[end]) for end in ends)
            q, slope = _through(way.by, high - low)
            for end, sign in zip(ends, (1.0, -1.0), strict=True):
                if end is None:
                    continue
                left[end] += sign * q
                for other, sign_too in zip(ends, (1.0, -1.0), strict=True):
                    if other is not None:
                        slopes[end, other] += sign * sign_too * slope
        return left, slopes

    left, slopes = misses(pressure)
    for _ in range(_ROUNDS):
        if np.abs(left).max() < 1e-9:
            break
        change = np.linalg.solve(slopes, left)
        share = 1.0
        while share > 1e-3:
            tried = pressure - share * change
            after, after_slopes = misses(tried)
            if np.abs(after).max() < (1.0 - _TAKEN * share) * np.abs(left).max():
                break
            share *= 0.5
        pressure, left, slopes = tried, after, after_slopes
    return pressure


def place_of_port(car: Car, component: Component, key: str) -> Array | None:
    """A port's own place, else its component's, in the engine's frame [m]; None: nobody gave it.

    Examples
    --------
    >>> turbo = {"kind": "turbo", "name": "turbo", "place": {"at_mm": [100, 200, 150]}}
    >>> from bilge_core.document.circuit.engine_side import Turbo
    >>> car = Car(nose_points="front", lean_right_deg=0, nose_up_deg=0)
    >>> place_of_port(car, Turbo.model_validate(turbo), "drain").tolist()
    [0.1, 0.2, 0.15]
    """
    own = next((each.at_mm for each in component.ports if each.port == key), None)
    if own is None and component.place is not None:
        own = component.place.at_mm
    if own is None:
        return None
    place: Array = np.array(own) * 1e-3
    if component.place is None or component.place.fixed_to == "engine":
        return place
    return np.asarray(place @ engine_to_car(car))


def gas_ways(build: Build, guessed: DrainGuesses) -> Breathing:
    """All gas ways of a build.

    Raises
    ------
    InvalidInput
        If it has no crankcase: nothing says where blow-by comes in.

    Notes
    -----
    Hoses as lines, a breather as an orifice, drains of a head as far as oil leaves them free for
    gas. Tees and cans take nothing.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> ways = gas_ways(build, DrainGuesses())
    >>> [way.name for way in ways.ways if way.end == AIR]
    ['breather']
    """
    circuit = build.circuit
    case = next(iter(circuit.of_kind(Crankcase)), None)
    if case is None:
        raise InvalidInput(
            [Problem("circuit.components", "must have a crankcase: blow-by comes in there")]
        )
    ways = [_vent(build, run, guessed) for run in circuit.runs if run.service == "vent"]
    for breather in circuit.of_kind(Breather):
        bore = (
            guessed["breather_opening"]
            if breather.opening_mm is None
            else breather.opening_mm * 1e-3
        )
        by = hole_resistance(bore, GAS_DENSITY, GAS_VISCOSITY)
        ways.append(GasWay(breather.id, breather.name, breather.id, AIR, by))
    ways += [
        _up_drains(run, guessed)
        for run in circuit.runs
        if run.service == "drain"
        and isinstance(circuit.component(run.start.component), Head | TimingChest)
        and isinstance(circuit.component(run.end.component), Crankcase | TimingChest)
    ]
    nodes = dict.fromkeys(end for way in ways for end in (way.start, way.end) if end != AIR)
    return Breathing(tuple(ways), case.id, tuple(nodes | {case.id: None}))


def _vent(build: Build, run: Run, guessed: DrainGuesses) -> GasWay:
    start = build.circuit.component(run.start.component)
    port = None
    if run.route:
        port = np.array(run.route[0].at_mm) * 1e-3
    elif start is not None:
        port = place_of_port(build.car, start, run.start.port)
    if isinstance(run.line, Open):
        by, rise = Resistance(_FREE), 0.0
    else:
        bore, length = bore_of(run.line), length_of(run)
        wide = guessed["vent_bore"] if bore is None else bore * 1e-3
        long = guessed["vent_length"] if length is None else length * 1e-3
        by = pipe_resistance(wide, long, GAS_DENSITY, GAS_VISCOSITY, ENDS)
        rise = guessed["vent_rise"]
        if run.route:
            heights = [point.at_mm[2] * 1e-3 for point in run.route]
            rise = max(heights) - heights[0]
    return GasWay(run.id, run.name, run.start.component, run.end.component, by, port, rise)


def _up_drains(run: Run, guessed: DrainGuesses) -> GasWay:
    """Gas goes up where oil comes down: from the lower space to the upper one."""
    free = guessed["gas_in_passages"]
    bore_mm = bore_of(run.line)
    bore = GUESSES["drain_bore"].likely if bore_mm is None else bore_mm * 1e-3
    many = run.line.count if isinstance(run.line, Passage) else 1
    many = HEAD_DRAINS if bore_mm is None else many
    wide = bore * math.sqrt(free)
    by = hole_resistance(wide, GAS_DENSITY, GAS_VISCOSITY, many)
    return GasWay(run.id, run.name, run.end.component, run.start.component, by)
