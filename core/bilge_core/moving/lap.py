"""A lap in moving oil: the load of a log on a build, looked at fifty times a second."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.loads.log import Log
from bilge_core.moving.basin import Resolution, domain_of_pan, region_names
from bilge_core.moving.coupled import Coupled
from bilge_core.moving.domain import Domain
from bilge_core.moving.dry_engine import DryEngine, DrySide, TankSeen
from bilge_core.moving.engine import CircuitEngine
from bilge_core.moving.inlet import inlet_of
from bilge_core.moving.observe import CrankSweep, Observer
from bilge_core.moving.record import RATE as FRAME_RATE
from bilge_core.moving.record import FrameWriter, MouthPlace
from bilge_core.moving.seen import (
    MOUTHS,
    RATE,
    LookAt,
    MovingLap,
    mouth_seen,
    outlet_seen,
    scavenge_names,
)
from bilge_core.moving.start import start_simulation
from bilge_core.moving.viscosity import Wetting
from bilge_core.moving.ways_back import returns_of
from bilge_core.network import between_looks, met_over, network_of, steady
from bilge_core.network.on_the_way import OnTheWay
from bilge_core.network.records import Flowing
from bilge_core.network.running import settled_in, slips_on_gas
from bilge_core.oil import GRADES, density, kinematic_viscosity
from bilge_core.pan import Pan, running_oil
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity
from bilge_core.pickup.demand import demanded_flow
from bilge_core.pickup.mouth import Mouth
from bilge_core.quantities import si_from

_FRAME_EVERY = round(RATE / FRAME_RATE)
_LEAST_IN_PAN = 0.1e-3  # [m3] to begin a lap with (ours)
_FULLEST = 0.98  # of pan and skirt that oil may fill to begin with (ours)
_SPARE_FOR = 2.0  # [s] of all that the pump sweeps: particles that may come back at once (ours)
_MOST_SPARE = 60_000  # particles that room is kept for: 4 MB


def crank_sweep(build: Build) -> CrankSweep | None:
    """The crank's swept cylinder in the engine's frame, or None when it is not given."""
    crank = build.car.crank
    if crank is None:
        return None
    return CrankSweep(
        0.0,
        crank.height_mm * 1e-3,
        crank.swept_radius_mm * 1e-3,
        crank.from_x_mm * 1e-3,
        crank.to_x_mm * 1e-3,
    )


def wetting_of(build: Build) -> Wetting:
    """How thick the oil is, at its running temperature."""
    temperature = si_from(build.oil.temperature_c, "temperature", "°C")
    grade = GRADES[build.oil.grade]
    return Wetting(kinematic_viscosity(grade, temperature), density(grade, temperature))


def _in_pan(build: Build, pan: Pan, held: float) -> float:
    """Oil in the pan at the start [m3]: all there is, hot, less what the engine holds."""
    there = running_oil(build)
    if held > there - _LEAST_IN_PAN:
        words = (
            f"leaves nothing in the pan: the engine holds {held * 1e3:.1f} L as the lap begins, "
            f"of {there * 1e3:.1f} L (hot); pour more, or open the heads' drains"
        )
        raise InvalidInput([Problem("oil.volume_l", words)])
    room = pan.solid.volume * _FULLEST
    if there - held > room:
        words = (
            f"puts {(there - held) * 1e3:.1f} L in the pan as the lap begins; pan and skirt have "
            f"room for {room * 1e3:.1f} L"
        )
        raise InvalidInput([Problem("oil.volume_l", words)])
    return there - held


def _under(pan: Pan, mouth: Mouth) -> float:
    """The floor below a mouth, which was placed over one [m]."""
    floor = pan.floor_at(float(mouth.centre[0]), float(mouth.centre[1]))
    assert floor is not None
    return floor


class MovingOil:
    """A build's oil over a log, run look by look.

    Parameters
    ----------
    build : Build
    pan : Pan
        As assembled from it.
    log : Log
        Prepared.
    resolution : Resolution
    seed : int
        Starts with different seeds differ a little, for an ensemble.

    Raises
    ------
    InvalidQuantity
        If the log is too short to run.
    InvalidInput
        If the engine holds more oil than there is, with the field named.

    Notes
    -----
    The engine has long run as at the log's first moment; what its circuit then holds is not in
    the pan.
    """

    def __init__(
        self,
        build: Build,
        pan: Pan,
        log: Log,
        resolution: Resolution,
        seed: int = 0,
    ) -> None:
        if len(log.time) < 2:
            raise InvalidQuantity("log", f"{len(log.time)} samples", "of two samples or more")
        self.log = log
        self.resolution = resolution
        self._start = float(log.time[0])
        self._gravity = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
        self._build, self._pan, self._seed = build, pan, seed
        self.network = network_of(build)
        self._usual = steady(self.network)
        self._domain = domain_of_pan(pan, resolution)
        self._dry = DrySide.of(build, pan)
        mouths = [pan.mouth] if self._dry is None else [each.mouth for each in self._dry.mouths]
        self._inlets = tuple(inlet_of(each, _under(pan, each), self._domain) for each in mouths)
        self._places = MOUTHS if self._dry is None else scavenge_names(len(mouths))
        self._observer = Observer(self._domain, self._inlets, crank_sweep(build))
        self._names = region_names(self._domain, pan.mouth.centre)
        swept = float(demanded_flow(build.circuit.pump, float(log.engine_speed.max())))
        self._swept = _SPARE_FOR * swept
        first = settled_in(self.network, self._speed(0.0), self.load(0.0))
        self.begin_at(0.0, first)

    def begin_at(self, time: float, state: Flowing) -> None:
        """Put the oil anew: what a state of the circuit leaves, at rest under a moment's load.

        Parameters
        ----------
        time : float
            Since the start [s].
        state : Flowing
            Of the circuit at that moment; left as it is. What it has given back lies in the pan.

        Raises
        ------
        InvalidInput
            If the engine holds more oil than there is, with the field named.
        """
        build, pan, domain = self._build, self._pan, self._domain
        load, state = self.load(time), state.copy()
        state.given[:] = 0.0
        self.engine = self._engine(state, time)
        volume = _in_pan(build, pan, self.engine.held)
        oil = start_simulation(
            domain, volume, -load / np.linalg.norm(load), wetting_of(build),
            self.resolution.longest_step, self._seed,
            self._spare(domain, self.engine.held + self._swept),
        )  # fmt: skip
        oil.time = time
        portion = float(np.median(oil.rows[: oil.count, 15]))
        returns = returns_of(build, pan, self.network.ways, domain, portion)
        self.coupled = Coupled(oil, self._inlets, self.engine, returns, self._observer)

    def _engine(self, state: Flowing, time: float) -> CircuitEngine:
        """The circuit behind the pan; of a dry sump with what its tank holds to begin with."""
        if self._dry is None:
            return CircuitEngine(self.network, self._speed, state)
        speed = self._speed(time)
        fed = float(self._usual.drawn_at(np.array(speed)))
        on_way = OnTheWay(self._dry.way, self._dry.way.steady_shares(fed, speed))
        left = running_oil(self._build) - state.held - self._pan.oil_volume - on_way.held
        return DryEngine(self.network, self._speed, state, self._dry, max(left, 0.0), on_way)

    def _speed(self, time: float) -> float:
        """Of the crank [rad/s] at a time since the start [s]."""
        return float(np.interp(time, self.log.time - self._start, self.log.engine_speed))

    @staticmethod
    def _spare(domain: Domain, volume: float) -> int:
        usual = float(np.prod([float(np.median(size)) for size in domain.sizes]))
        return min(_MOST_SPARE, int(4.0 * volume / usual) + 64)

    def load(self, time: float) -> Array:
        """Apparent gravity in the engine's frame [m/s2] at a time since the start [s]."""
        at = self.log.time - self._start
        return np.array([np.interp(time, at, self._gravity[:, axis]) for axis in range(3)])

    def slipping(self, lap: MovingLap, sealing: float) -> Array:
        """Pressure in the gallery at a lap's looks, had the pump slipped otherwise on gas [Pa].

        The circuit alone, on the gas that the mouth was seen to draw: what that would change in the
        pan is left out. `sealing` is the guess `sealing_oil`.
        """
        seen = between_looks(lap.time, lap.mouth.swallowed)
        met = met_over(self.log.time, self.log.engine_speed, self._gravity, *seen)
        network = slips_on_gas(self.network, sealing)
        found = met.run(network).pressure[:, network.gallery]
        return np.asarray(np.interp(lap.time - lap.time[0], met.time, found))

    def frame_writer(self) -> FrameWriter:
        """For frames of this run."""
        places = map(MouthPlace.of, self._places, self._inlets)
        return FrameWriter(self._domain, list(places))

    @property
    def looks(self) -> int:
        """How many looks the whole log takes."""
        return int(np.floor(self.log.duration * RATE + 1e-6)) + 1

    def run(
        self, frames: FrameWriter | None = None, until: float | None = None
    ) -> Iterator[LookAt]:
        """Run the log, or on `until` a time [s]; each look as it is had, the first at rest.

        To stop, stop asking.
        """
        oil = self.coupled.oil
        first = round(oil.time * RATE)
        last = self.looks - 1 if until is None else min(self.looks - 1, round(until * RATE))
        for number in range(first, last + 1):
            end = number / RATE
            while oil.time < end - 1e-9:
                left = end - oil.time
                step = min(oil.settled_step(left), left)
                self.coupled.advance(step, self.load(oil.time + 0.5 * step))
            up = -self.load(end)
            sight = self.coupled.observer.look(oil, up / np.linalg.norm(up))
            if frames is not None and number % _FRAME_EVERY == 0:
                frames.add(end, oil.filling_flat, oil.gates_open)
            yield LookAt(
                end, sight, self.coupled.flows, self.engine.drawn, self.engine.pressure,
                self.coupled.held, self.engine.vessels, oil.gates_open.copy(), oil.flow,
                self._tank(self.load(end)),
            )  # fmt: skip

    def _tank(self, load: Array) -> TankSeen | None:
        return self.engine.tank(load) if isinstance(self.engine, DryEngine) else None

    def lap(self, looks: list[LookAt]) -> MovingLap:
        """Put looks together."""
        domain = self._domain
        gates = sorted(set(domain.gates.opening.tolist()))
        names = tuple(f"{o.plate}, {o.name}" for o in domain.openings)
        states = np.array([look.gates for look in looks], dtype=float).reshape(len(looks), -1)
        share = np.zeros((len(looks), len(gates)))
        for column, opening in enumerate(gates):
            faces = domain.gates.opening == opening
            area = domain.gates.area[faces].astype(float)
            share[:, column] = states[:, faces] @ area / area.sum()
        passed = np.array([look.passed for look in looks])[:, : len(names)]
        sights = [look.sight for look in looks]
        return MovingLap(
            time=self._start + np.array([look.time for look in looks]),
            mouths=(
                *([] if self._dry is None else [outlet_seen(looks)]),
                *(mouth_seen(looks, number, name) for number, name in enumerate(self._places)),
            ),
            pressure=np.array([look.pressure for look in looks]),
            usual=self._usual.gallery_at(np.array([self._speed(look.time) for look in looks])),
            centre=np.array([sight.centre for sight in sights]),
            regions=np.array([sight.regions for sight in sights]),
            region_names=self._names,
            crank=np.array([sight.crank for sight in sights]),
            in_tank=np.array([0.0 if look.tank is None else look.tank.volume for look in looks]),
            volume=np.array([sight.volume for sight in sights]),
            near=np.array([sight.near for sight in sights]),
            held=np.array([look.held for look in looks]),
            vessels=np.array([look.vessels for look in looks]),
            gates_open=share,
            gate_names=tuple(names[opening] for opening in gates),
            passed=passed,
            opening_names=names,
        )
