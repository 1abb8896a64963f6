"""Boxes of oil for the tests of the detailed solver, and for its page of figures in docs."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from bilge_core.moving.coupled import Coupled
from bilge_core.moving.domain import build_domain
from bilge_core.moving.exchange import Drawn
from bilge_core.moving.grading import graded_faces
from bilge_core.moving.inlet import Inlet, inlet_of, oil_shares
from bilge_core.moving.observe import Observer
from bilge_core.moving.returns import returns_at
from bilge_core.moving.simulation import Simulation
from bilge_core.moving.start import start_simulation
from bilge_core.moving.viscosity import Wetting
from bilge_core.pan import Prism
from bilge_core.pan.plates import place_plates
from bilge_core.pickup.mouth import Mouth

G = 9.81  # as the outside results have it
OIL = Wetting(viscosity=1.2e-5, density=850.0)
UP = np.array([0.0, 0.0, 1.0])
REST = np.array([0.0, 0.0, -G])
VOF = Path(__file__).parent / "reference" / "vof"

Load = Callable[[float], np.ndarray]


def prism_box(length: float, width: float, height: float) -> Prism:
    return Prism(shapely.box(0, 0, length, width), (0.0, 0.0, 0.0), (height, 0.0, 0.0))


def even_lines(size: Sequence[float], cell: float | Sequence[float]) -> tuple[Any, Any, Any]:
    """Faces as near to a cell size as divides the box evenly."""
    cells = [cell] * 3 if isinstance(cell, int | float) else list(cell)
    x, y, z = (
        np.linspace(0.0, long, max(2, round(long / c)) + 1)
        for long, c in zip(size, cells, strict=True)
    )
    return x, y, z


def lines_with(
    size: Sequence[float], cell: float, wanted: Sequence[Sequence[float]]
) -> tuple[Any, Any, Any]:
    """Faces that lie on wanted places."""
    x, y, z = (graded_faces(0.0, long, cell, [w]) for long, w in zip(size, wanted, strict=True))
    return x, y, z


def box_of_oil(
    size: Sequence[float],
    cell: float | Sequence[float],
    volume: float,
    *,
    plates: Sequence[Any] = (),
    lines: tuple[Any, Any, Any] | None = None,
    wetting: Wetting = OIL,
    up: np.ndarray = UP,
    **more: Any,
) -> Simulation:
    """A box of oil at rest; `more`: longest step, seed of the start, where it is vented."""
    prisms = [prism_box(*size)]
    domain = build_domain(
        prisms, place_plates(plates, prisms), lines or even_lines(size, cell), more.get("vent")
    )
    longest, seed = more.get("longest", 0.01), more.get("seed", 0)
    return start_simulation(domain, volume, up, wetting, longest, seed)


def run(
    oil: Simulation,
    span: float,
    load: Load | np.ndarray,
    look: Callable[[], Any] | None = None,
    every: float = 0.02,
) -> list[Any]:
    """Run on for a span [s]; what `look` gave at the end of each stretch."""
    seen = []
    begun = oil.time
    for number in range(1, round(span / every) + 1):
        end = begun + number * every
        while oil.time < end - 1e-9:
            left = end - oil.time
            step = min(oil.settled_step(left), left)
            oil.advance(step, load(oil.time + 0.5 * step) if callable(load) else load)
        if look is not None:
            seen.append(look())
    return seen


def violent_load(time: float) -> np.ndarray:
    """1.2 g to the side ramped in 0.3 s and held to 3 s, then 1.3 g lengthways: the case c4."""
    side = np.interp(time, [0.0, 0.3, 3.0, 3.3], [0.0, 1.2, 1.2, 0.0])
    along = np.interp(time, [3.0, 3.3], [0.0, -1.3])
    return np.array([along * G, side * G, -G])


def outside(name: str) -> Any:
    """One of the outside results, by column name."""
    return np.genfromtxt(VOF / f"{name}.csv", delimiter=",", names=True)


@dataclass
class Probe:
    """The outside results' probe: 40 x 40 x 16 mm on the floor in the middle of the box."""

    inlet: Inlet

    @classmethod
    def in_box(cls, oil: Simulation) -> Probe:
        return cls(
            inlet_of(Mouth(np.array([0.2, 0.12, 0.008]), 0.02, 0.02, False), 0.0, oil.domain)
        )

    def share(self, oil: Simulation) -> float:
        out = np.zeros(len(self.inlet.cells), dtype=np.float32)
        domain = oil.domain
        oil_shares(
            self.inlet.cells, oil.kind_flat, oil.filling_flat, domain.area, domain.strides, out
        )
        return float(out.astype(float) @ self.inlet.part)


@dataclass
class ViolentRun:
    """The case c4 as run here, every 20 ms."""

    time: np.ndarray
    centre: np.ndarray
    probe: np.ndarray


def violent_run(cell: float | Sequence[float], seed: int = 0, longest: float = 0.01) -> ViolentRun:
    oil = box_of_oil((0.4, 0.24, 0.14), cell, 0.005, seed=seed, longest=longest)
    probe = Probe.in_box(oil)
    seen = run(oil, 5.0, violent_load, lambda: (oil.time, *oil.centre_of_mass(), probe.share(oil)))
    rows = np.array(seen)
    return ViolentRun(rows[:, 0], rows[:, 1:4], rows[:, 4])


class DelayLine:
    """The plainest engine: a steady flow by each mouth, and all oil comes back a fixed time after
    it was drawn.

    It begins full, as if the pump had long run.
    """

    def __init__(self, flow: float | Sequence[float], delay: float, filled: bool = True) -> None:
        self.flow = np.atleast_1d(np.asarray(flow, dtype=float))
        self.delay, self.time = delay, 0.0
        whole, parts = float(self.flow.sum()), 50
        self.line = [
            ((n + 1) * delay / parts, whole * delay / parts) for n in range(parts if filled else 0)
        ]

    def draw(self, start: float, step: float, load: np.ndarray, oil_shares: np.ndarray) -> Drawn:
        oil = self.flow * oil_shares * step
        self.time = start + step
        if oil.sum() > 0.0:
            self.line.append((self.time + self.delay, float(oil.sum())))
        return Drawn(self.flow, oil)

    def give(self) -> np.ndarray:
        due = [oil for at, oil in self.line if at <= self.time + 1e-9]
        self.line = self.line[len(due) :]
        return np.array([sum(due)])

    @property
    def held(self) -> float:
        return math.fsum(oil for _, oil in self.line)


def pumped_box(cell: float | Sequence[float], flow: float, delay: float, longest: float) -> Coupled:
    """The reference box with a pump and drain-backs."""
    oil = box_of_oil((0.4, 0.24, 0.14), cell, 0.005, longest=longest)
    mouth = Mouth(np.array([0.2, 0.12, 0.008]), 0.02, 0.02, False)
    inlet = inlet_of(mouth, 0.0, oil.domain)
    portion = float(np.median(oil.rows[: oil.count, 15]))
    places = np.array([[x, y, 0.12] for x in (0.05, 0.15, 0.25, 0.35) for y in (0.02, 0.22)])
    returns = returns_at(oil.domain, places, portion, -UP)
    engine = DelayLine(flow, delay)
    return Coupled(oil, (inlet,), engine, (returns,), Observer(oil.domain, (inlet,), None))


def run_coupled(
    coupled: Coupled, span: float, load: Load | np.ndarray, look: Callable[[], Any] | None = None
) -> list[Any]:
    """Run pan and engine on for a span [s], looking every 20 ms."""
    oil, seen = coupled.oil, []
    begun = oil.time
    for number in range(1, round(span / 0.02) + 1):
        end = begun + number * 0.02
        while oil.time < end - 1e-9:
            step = min(oil.settled_step(end - oil.time), end - oil.time)
            coupled.advance(step, load(oil.time + 0.5 * step) if callable(load) else load)
        if look is not None:
            seen.append(look())
    return seen


def keep(oil: Simulation, mask: np.ndarray) -> None:
    """Leave only the particles that a mask picks, at rest."""
    kept = np.flatnonzero(mask)
    oil.rows[: len(kept)] = oil.rows[kept]
    oil.rows[: len(kept), 3:15] = 0.0
    oil.cell[: len(kept)] = oil.cell[kept]
    oil.count = len(kept)
    oil.measure_again()


def litres(oil: Simulation, mask: np.ndarray) -> float:
    """Of the particles that a mask picks [m3]."""
    return float(oil.rows[: oil.count, 15][mask].sum(dtype=float))
