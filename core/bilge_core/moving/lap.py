"""A lap in moving oil: the load of a log on a build, looked at fifty times a second."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.moving.basin import Resolution, domain_of_pan, region_names
from bilge_core.moving.coupled import Coupled
from bilge_core.moving.domain import Domain
from bilge_core.moving.exchange import DelayLine, Engine
from bilge_core.moving.inlet import inlet_of
from bilge_core.moving.observe import CrankSweep, Observer, Sight
from bilge_core.moving.record import RATE as FRAME_RATE
from bilge_core.moving.record import FrameWriter
from bilge_core.moving.returns import returns_at
from bilge_core.moving.start import start_simulation
from bilge_core.moving.viscosity import Wetting
from bilge_core.oil import GRADES, density, kinematic_viscosity
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity
from bilge_core.pickup.demand import drawn_flow
from bilge_core.quantities import si_from
from bilge_core.rules.crank import SPLASH

RATE = 50.0
"""Looks [1/s]: a dip of a twentieth of a second is seen two or three times."""

DELAY = 2.0
"""[s] after which drawn oil is back in the pan, where nothing else says so. Ours."""

_FRAME_EVERY = round(RATE / FRAME_RATE)
_PLACES_A_SIDE = 4  # of drain-backs along the skirt (ours, until the engine is drawn)
_INSET = 0.012  # [m] of the drain-backs from the skirt's wall (ours)
_MOST_SPARE = 60_000  # particles that room is kept for: 4 MB


@dataclass(frozen=True)
class MovingLap:
    """What was seen, every array with one row a look; `time` is the log's own [s].

    time : shape (n,)
    gas_share : of all that the pump draws, 0 to 1
    cover : [m]
    drawn : at the mouth, oil and gas [m3/s]
    centre : of mass, shape (n, 3) [m]
    regions : litres between plates, shape (n, regions) [m3]
    region_names : tuple of str
    crank : that the crank's sweep reaches [m3]
    volume : in the pan [m3]
    held : outside it [m3]
    gates_open : share of each gate that stands open, shape (n, gates)
    gate_names : tuple of str
    passed : through each opening since the start, the way its gate opens, else up or to the
        plate's left, shape (n, openings) [m3]
    opening_names : tuple of str
    """

    time: Array
    gas_share: Array
    cover: Array
    drawn: Array
    centre: Array
    regions: Array
    region_names: tuple[str, ...]
    crank: Array
    volume: Array
    held: Array
    gates_open: Array
    gate_names: tuple[str, ...]
    passed: Array
    opening_names: tuple[str, ...]

    def crank_time(self) -> float:
        """Time in which the crank's sweep reaches oil [s]: more of it than a splash."""
        return float((self.crank > SPLASH.most).sum() / RATE)


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


def _drain_backs(pan: Pan) -> Array:
    """Places along both sides of the skirt, half way up it or just below the rail without one."""
    inner = pan.rail.buffer(-_INSET)
    outline = pan.rail if inner.is_empty else inner
    low, right, high, left = outline.bounds
    x = np.linspace(low, high, _PLACES_A_SIDE + 2)[1:-1]
    z = 0.5 * pan.skirt_height if pan.skirt_height > 0.0 else -1e-3
    return np.array([[place, side, z] for place in x.tolist() for side in (right, left)])


def wetting_of(build: Build) -> Wetting:
    """How thick the oil is, at its running temperature."""
    temperature = si_from(build.oil.temperature_c, "temperature", "°C")
    grade = GRADES[build.oil.grade]
    return Wetting(kinematic_viscosity(grade, temperature), density(grade, temperature))


def _demand(build: Build, log: Log) -> Callable[[float], float]:
    flow = drawn_flow(
            build.circuit.pump, build.circuit.relief_bar, build.circuit.bearings,
            build.oil.temperature_c, log.engine_speed,
        )  # fmt: skip
    return lambda time: float(np.interp(time, log.time - log.time[0], flow))


@dataclass(frozen=True)
class LookAt:
    """One look during a run: time since the start [s], what was seen, and what stands outside."""

    time: float
    sight: Sight
    drawn: float
    held: float
    gates: NDArray[np.bool_]
    passed: Array


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
    engine : callable, optional
        From demand at the mouth (time [s] to flow [m3/s]) to the engine that holds oil; a delay
        line when not given.

    Raises
    ------
    InvalidQuantity
        If the log is too short to run.
    """

    def __init__(
        self,
        build: Build,
        pan: Pan,
        log: Log,
        resolution: Resolution,
        seed: int = 0,
        engine: Callable[[Callable[[float], float]], Engine] | None = None,
    ) -> None:
        if len(log.time) < 2:
            raise InvalidQuantity("log", f"{len(log.time)} samples", "of two samples or more")
        self.log = log
        self.resolution = resolution
        self._start = float(log.time[0])
        self._gravity = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
        demand = _demand(build, log)
        held = engine(demand) if engine else DelayLine(demand, DELAY)
        domain = domain_of_pan(pan, resolution)
        first = self.load(0.0)
        spare = self._spare(domain, held.held + DELAY * demand(0.0))
        oil = start_simulation(
            domain, pan.oil_volume, -first / np.linalg.norm(first), wetting_of(build),
            resolution.longest_step, seed, spare,
        )  # fmt: skip
        floor = pan.floor_at(float(pan.mouth.centre[0]), float(pan.mouth.centre[1]))
        assert floor is not None  # the pan was assembled with the mouth over a floor
        inlet = inlet_of(pan.mouth, floor, domain)
        observer = Observer(domain, inlet, crank_sweep(build))
        portion = float(np.median(oil.rows[: oil.count, 15]))
        returns = returns_at(domain, _drain_backs(pan), portion, np.array([0.0, 0.0, -1.0]))
        self.coupled = Coupled(oil, inlet, held, returns, observer)
        self._demand = demand
        self._names = region_names(domain, pan.mouth.centre)

    @staticmethod
    def _spare(domain: Domain, volume: float) -> int:
        usual = float(np.prod([float(np.median(size)) for size in domain.sizes]))
        return min(_MOST_SPARE, int(4.0 * volume / usual) + 64)

    def load(self, time: float) -> Array:
        """Apparent gravity in the engine's frame [m/s2] at a time since the start [s]."""
        at = self.log.time - self._start
        return np.array([np.interp(time, at, self._gravity[:, axis]) for axis in range(3)])

    @property
    def looks(self) -> int:
        """How many looks the whole log takes."""
        return int(np.floor(self.log.duration * RATE + 1e-6)) + 1

    def run(self, frames: FrameWriter | None = None) -> Iterator[LookAt]:
        """Run the log; each look as it is had, the first at rest. To stop, stop asking."""
        oil = self.coupled.oil
        for number in range(self.looks):
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
                end, sight, self._demand(end), self.coupled.held, oil.gates_open.copy(), oil.flow
            )

    def lap(self, looks: list[LookAt]) -> MovingLap:
        """Put looks together."""
        domain = self.coupled.oil.domain
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
            gas_share=np.array([1.0 - sight.oil_share for sight in sights]).clip(0.0, 1.0),
            cover=np.array([sight.cover for sight in sights]),
            drawn=np.array([look.drawn for look in looks]),
            centre=np.array([sight.centre for sight in sights]),
            regions=np.array([sight.regions for sight in sights]),
            region_names=self._names,
            crank=np.array([sight.crank for sight in sights]),
            volume=np.array([sight.volume for sight in sights]),
            held=np.array([look.held for look in looks]),
            gates_open=share,
            gate_names=tuple(names[opening] for opening in gates),
            passed=passed,
            opening_names=names,
        )
