"""One body of oil in its domain, step by step."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving import cells as cell_kinds
from bilge_core.moving import poisson
from bilge_core.moving.domain import Domain
from bilge_core.moving.extend import fill_behind, pass_on
from bilge_core.moving.fields import System, fields_of
from bilge_core.moving.gates import hang_gates, hold_back, turn_gates
from bilge_core.moving.transfer import grid_to_particles, particles_to_grid
from bilge_core.moving.viscosity import Wetting, drag_rates, spread_viscosity
from bilge_core.moving.walk import move_particles, order_by_cell
from bilge_core.moving.ways import ways_in
from bilge_core.physics.arrays import Array, Single

_TOLERANCE = 1e-3  # rms of divergence times step [-] (ours: volume is kept by the particles)
_EVEN = 2e-3  # rms of what is left of a shift, over a cell's volume [-] (ours)
_MOST_ITERATIONS = 200  # of conjugate gradients; `Effort.unconverged` counts what was cut off
_RELAX = np.float32(0.3)
"""Of its crowding, what a cell sheds in a step [-]. Ours."""
_MOST_CROWDING = np.float32(0.5)  # of a cell's volume [-], shed at once (ours)
_MOST_SHIFT = np.float32(0.3)  # of a cell [-]: farther, and particles pass each other (ours)
_MOST_TURNS = 4  # of gates in one step: what still chatters then waits for the next (ours)
_SORT_EVERY = 8  # steps: particles of one cell lie together in memory (ours: by the clock)


LEAVES: dict[str, float] = {"rubber": 40.0, "metal": 15.0}
"""What it takes to swing a gate open, by its leaf [Pa].

Ours: the stiffness of a rubber leaf, the weight of a metal one a little off the upright.
"""


@dataclass
class Effort:
    """What the solution cost so far.

    steps : of time
    solves : of the pressure; more than steps where gates turned
    iterations : of conjugate gradients, pressure and shift together
    unconverged : solves that were cut off
    """

    steps: int = 0
    solves: int = 0
    iterations: int = 0
    unconverged: int = 0


@dataclass
class Simulation:
    """Oil in a domain under a load that the caller gives step by step.

    domain : Domain
    rows, cell, count : the particles, see `bilge_core.moving.transfer`
    wetting : viscosity and wall drag
    time : [s]
    flow : volume that passed each opening so far [m3]
    gates_open : for each gate face
    """

    domain: Domain
    rows: Single
    cell: NDArray[np.int32]
    count: int
    wetting: Wetting
    longest_step: float
    courant: float = 3.0
    time: float = 0.0
    effort: Effort = field(default_factory=Effort)

    def __post_init__(self) -> None:
        domain = self.domain
        self._fields = fields_of(domain)
        self._system = System.of(len(domain.fluid) + 1)
        self._area = domain.shut_area.copy()
        self._share = domain.share.copy()
        passes = np.where(domain.area > 0.0, np.float32(1.0), np.float32(0.0))
        partly = (domain.share >= 0.5) & (domain.area > 0.0)
        passes = np.where(partly, np.maximum(domain.share, 0.0), passes).astype(np.float32)
        self._up, self._down = passes, passes.copy()
        gates = domain.gates
        self._nearness = poisson.nearness_of(domain.sizes)
        narrow = (domain.share < 0.5) & (domain.area > 0.0)
        narrow[gates.axis, gates.face] = True
        self._narrow = np.argwhere(narrow).astype(np.int32)
        self._ways = ways_in(domain, passes)
        self._rest = np.zeros(len(self.rows), dtype=np.int32)
        self.gates_open = np.zeros(len(gates.face), dtype=np.bool_)
        self._before = np.zeros(len(gates.face), dtype=np.float32)
        self._flow = np.zeros(max(1, len(domain.openings)))
        self._state = np.array([0x9E3779B97F4A7C15], dtype=np.uint64)
        self._spare = (np.empty_like(self.rows), np.empty_like(self.cell))
        self._travel = np.zeros((len(self.rows), 3), dtype=np.float32)
        self._leak = np.where(gates.leak > 0.0, gates.leak, 0.0).astype(np.float32)
        stiffness = {
            number: LEAVES[opening.gate.leaf]
            for number, opening in enumerate(domain.openings)
            if opening.gate is not None
        }
        self._leaf = np.array([stiffness[o] for o in gates.opening.tolist()], dtype=np.float64)
        self._fastest = 0.0
        self._usual = float(np.prod([float(np.median(size)) for size in domain.sizes]))
        self._stale = True
        self._sorted = False
        self._hang()
        self._measure()

    # -- what can be asked ---------------------------------------------------------------------

    @property
    def volume(self) -> float:
        """Oil in the domain [m3]."""
        return float(self.rows[: self.count, 15].sum(dtype=np.float64))

    @property
    def flow(self) -> Array:
        """Volume that has passed each opening [m3], the way its gate opens, else up or left."""
        return self._flow.copy()

    @property
    def filling(self) -> Single:
        """Filling of each cell, shape (nx, ny, nz)."""
        return np.asarray(self.domain.unpadded(self.filling_flat), dtype=np.float32)

    @property
    def filling_flat(self) -> Single:
        """The same, padded and flat."""
        if self._stale:
            self._measure()
        return self._fields.filling

    @property
    def kind_flat(self) -> NDArray[np.uint8]:
        """Oil, shut-in or open air; padded and flat, see `bilge_core.moving.cells`."""
        self._sort_cells()
        return self._fields.kind

    def places(self) -> Array:
        """Where the particles are, shape (count, 3) [m]."""
        nx, ny, nz = self.domain.shape
        at = np.unravel_index(self.cell[: self.count], (nx + 2, ny + 2, nz + 2))
        return np.stack(
            [
                line[index - 1] + self.rows[: self.count, axis] * sizes[index]
                for axis, (line, sizes, index) in enumerate(
                    zip(self.domain.lines, self.domain.sizes, at, strict=True)
                )
            ],
            axis=1,
        )

    def centre_of_mass(self) -> Array:
        """Shape (3,) [m]."""
        volumes = self.rows[: self.count, 15].astype(np.float64)
        return np.asarray(volumes @ self.places() / volumes.sum())

    def kinetic_energy(self) -> float:
        """Over density [m5/s2]: half of volume times speed squared."""
        rows = self.rows[: self.count].astype(np.float64)
        return float(0.5 * (rows[:, 15] * (rows[:, 3:6] ** 2).sum(axis=1)).sum())

    def settled_step(self, span: float) -> float:
        """The longest step [s] that divides a span evenly within the Courant number and the cap."""
        longest = self.longest_step
        if self._fastest > 0.0:
            longest = min(longest, self.courant / self._fastest)
        return span / max(1, math.ceil(span / longest - 1e-9))

    # -- one step ------------------------------------------------------------------------------

    def advance(self, step: float, load: Array, sink: Single | None = None) -> None:
        """One step of time.

        Parameters
        ----------
        step : float
            [s], no longer than `settled_step` allows.
        load : ndarray, shape (3,)
            Apparent gravity over the step [m/s2].
        sink : ndarray, shape (n,), optional
            What is drawn from each cell [m3/s]; the caller takes the particles out.

        Raises
        ------
        InvalidQuantity
            If the step or the load is not finite or the step is not positive.
        """
        if not (math.isfinite(step) and step > 0.0):
            raise InvalidQuantity("step", step, "above 0 s")
        if not np.all(np.isfinite(load)):
            raise InvalidQuantity("load", "not a number", "finite")
        f, domain = self._fields, self.domain
        self._sort_cells()
        push = (np.asarray(load) * step).astype(np.float32)
        cell_kinds.start_velocities(f.momentum, f.velocity, f.carried)
        self._slow_down(np.float32(step))
        cell_kinds.push_velocities(f.velocity, f.carried, push, domain.still)
        count = poisson.list_cells(f.kind, domain.fluid, f.listed, f.place)
        cell_kinds.mix_with_air(
            f.velocity, f.air, f.carried, f.filling, f.kind, f.listed, count, domain.strides,
            push, domain.area,
        )  # fmt: skip
        poisson.conductances(
            f.kind, f.filling, f.listed, count, domain.strides, domain.area, self._nearness,
            f.conductance,
        )  # fmt: skip
        self._project(count, step, f.sink if sink is None else sink)
        self._even_out(count)
        self._move(step)
        self.time += step
        self.effort.steps += 1
        if self.effort.steps % _SORT_EVERY == 0:
            self._order()
        self._stale = True

    def _order(self) -> None:
        """Particles of one cell together: into the spare rows, which take the others' place."""
        rows, cell = self._spare
        order_by_cell(self.rows, self.cell, self.count, self.domain.cells, rows, cell)
        self._spare = self.rows, self.cell
        self.rows, self.cell = rows, cell

    def measure_again(self) -> None:
        """To be called when particles were taken out."""
        self._stale = True

    @property
    def free_rows(self) -> int:
        """How many particles more there is room for."""
        return len(self.rows) - self.count

    def add(self, rows: Single, cell: NDArray[np.int32]) -> None:
        """Put particles in; no more than `free_rows`."""
        end = self.count + len(rows)
        self.rows[self.count : end] = rows
        self.cell[self.count : end] = cell
        self.count = end
        self._stale = True

    def _slow_down(self, step: np.float32) -> None:
        f, domain = self._fields, self.domain
        laminar, turbulent, viscous = drag_rates(self.wetting)
        cell_kinds.wall_drag(
            f.velocity, f.values, domain.drag_faces, domain.drag_walls, step,
            np.float32(laminar), np.float32(turbulent), np.float32(viscous),
        )  # fmt: skip
        cell_kinds.opening_loss(f.velocity, domain.jet_faces, domain.jet_loss, step)
        spread_viscosity(domain, f.velocity, f.carried, self.wetting.viscosity, float(step))

    def _hang(self) -> None:
        domain, gates = self.domain, self.domain.gates
        hang_gates(
            gates.axis, gates.face, gates.sign, domain.area, domain.shut_area, self.gates_open,
            domain.share, self._leak, self._area, self._share, self._up, self._down,
        )  # fmt: skip

    def _solve(self, count: int, right: Single, start: Single, tolerance: float) -> None:
        s = self._system
        iterations = poisson.solve(
            count, s.upper, s.lower, s.links, s.diagonal, s.pivot, s.steps, right, start,
            s.vectors[1], s.vectors[2], s.vectors[3], s.vectors[4], tolerance, _MOST_ITERATIONS,
        )  # fmt: skip
        self.effort.iterations += iterations if iterations >= 0 else _MOST_ITERATIONS
        self.effort.unconverged += iterations < 0

    def _equations(self, count: int) -> None:
        f, s = self._fields, self._system
        poisson.assemble(
            f.listed, count, f.place, self.domain.strides, self._area, f.conductance,
            s.upper, s.lower, s.links, s.diagonal,
        )  # fmt: skip
        poisson.factorise(count, s.upper, s.lower, s.links, s.diagonal, s.pivot, s.steps)

    def _project(self, count: int, step: float, sink: Single) -> None:
        f, s, domain, gates = self._fields, self._system, self.domain, self.domain.gates
        listed = f.listed[:count]
        x, right = s.vectors[5], s.vectors[0]
        x[:count] = f.pressure[listed]
        self._before[:] = f.velocity[gates.axis, gates.face]
        tolerance = _TOLERANCE * self._usual / step
        spacing = 1.0 / np.maximum(f.conductance[gates.axis, gates.face], 1e-6)
        stiff = (step * self._leaf / self.wetting.density / spacing).astype(np.float32)
        for turn in range(_MOST_TURNS):
            self._hang()
            self._equations(count)
            poisson.balance(f.listed, count, domain.strides, self._area, f.velocity, sink, right)
            self._solve(count, right, x, tolerance)
            self.effort.solves += 1
            last = turn == _MOST_TURNS - 1
            if not len(gates.face) or last:
                break
            turned = turn_gates(
                gates.axis, gates.face, gates.sign, self.gates_open, self._before, f.conductance,
                f.place, domain.strides, x, stiff,
            )  # fmt: skip
            if not turned:
                break
        f.pressure[:] = 0.0
        f.pressure[listed] = x[:count]
        poisson.correct(
            f.listed, count, f.place, domain.strides, self._area, f.conductance, x, f.velocity,
            f.settled,
        )  # fmt: skip
        hold_back(gates.axis, gates.face, gates.sign, self.gates_open, f.velocity)
        f.air[:] = f.velocity
        poisson.scale_partly_open(f.velocity, self._share, self._area, self._narrow)

    def _even_out(self, count: int) -> None:
        f, s, domain = self._fields, self._system, self.domain
        x, right = s.vectors[5], s.vectors[0]
        poisson.crowding(
            f.listed, count, domain.strides, f.kind, f.filling, domain.room, self._area, _RELAX,
            _MOST_CROWDING, right,
        )  # fmt: skip
        x[:] = 0.0
        self._solve(count, right, x, _EVEN * self._usual)
        f.shift[:] = 0.0
        poisson.correct(
            f.listed, count, f.place, domain.strides, self._area, f.conductance, x, f.shift,
            f.settled,
        )  # fmt: skip
        poisson.limit_shift(
            f.shift, f.listed, count, *domain.sizes, domain.where, domain.strides, _MOST_SHIFT
        )

    def _move(self, step: float) -> None:
        f, domain = self._fields, self.domain
        pass_on(
            f.velocity, f.settled, f.carried, domain.blocked, f.values, domain.fluid,
            domain.strides, f.mended,
        )  # fmt: skip
        fill_behind(f.velocity, f.settled, domain.behind, domain.strides)
        fill_behind(f.shift, f.settled, domain.behind, domain.strides)
        self._fastest, left = grid_to_particles(
            self.rows, self.cell, self.count, *domain.sizes, domain.where, domain.blocked, f.kind,
            f.velocity, f.shift, np.float32(step), self._ways, self._travel, self._rest,
        )  # fmt: skip
        move_particles(
            self.rows, self.cell, self._rest, left, self._travel, *domain.sizes, domain.where,
            self._up, self._down, domain.opening_at, domain.cut, domain.walls, self._flow,
            self._state,
        )  # fmt: skip

    def _sort_cells(self) -> None:
        if self._stale:
            self._measure()
        if not self._sorted:
            f, domain = self._fields, self.domain
            cell_kinds.sort_cells(
                f.filling, domain.fluid, self._area, domain.vent, domain.strides, f.kind, f.stack
            )
            self._sorted = True

    def _measure(self) -> None:
        """Spread the particles over the grid: momentum, density, filling."""
        f, domain = self._fields, self.domain
        particles_to_grid(
            self.rows,
            self.cell,
            self.count,
            *domain.sizes,
            domain.where,
            domain.blocked,
            f.momentum,
            f.density,
        )
        cell_kinds.fillings(f.density, domain.when_full, domain.fluid, f.filling)
        self._stale = False
        self._sorted = False
