"""What slows the oil: walls, and its own viscosity where it is thick."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.domain import Domain
from bilge_core.moving.transfer import FAST, ZERO
from bilge_core.physics.arrays import Single

_FELT = (
    1e-2  # of a cell's size squared over the step [-]: below this viscosity moves nothing (ours)
)
_STABLE = 0.15  # diffusion number of a pass [-]; explicit in three dimensions is stable to 1/6
_MOST_PASSES = 60  # of viscosity in a step: thicker oil moves as if it were thinner (ours)


@dataclass(frozen=True)
class Wetting:
    """What the oil is to its walls.

    viscosity : kinematic [m2/s]
    density : [kg/m3]
    frequency : of the slosh that the boundary layer swings with [1/s]
    speed, length : of the flow along walls, for its friction factor [m/s], [m]
    """

    viscosity: float
    density: float
    frequency: float = 1.5
    speed: float = 1.0
    length: float = 0.3

    def __post_init__(self) -> None:
        for name in ("viscosity", "density", "frequency", "speed", "length"):
            value = getattr(self, name)
            if not (math.isfinite(value) and value > 0.0):
                raise InvalidQuantity(name, value, "finite and above nil")


def drag_rates(wetting: Wetting) -> tuple[float, float, float]:
    """Coefficients of wall drag: laminar [m/s], times speed [-], times shear over a cell [m2/s].

    A wall slows the oil beside it by ``s0 + ½ cf |u|``; ``s0 = √(ν ω / 2)`` is the mean drag of
    an oscillating boundary layer (Stokes), ``cf = 1.328 / √Re``, or ``0.074 / Re^0.2`` from
    Re = 5e5 on, a flat plate's (Blasius, Prandtl; both from memory).

    Examples
    --------
    >>> laminar, turbulent, viscous = drag_rates(Wetting(1.2e-5, 850.0))
    >>> round(laminar, 4), round(turbulent, 4), viscous
    (0.0075, 0.0042, 1.2e-05)
    """
    swing = 2.0 * math.pi * wetting.frequency
    reynolds = wetting.speed * wetting.length / wetting.viscosity
    friction = 1.328 / math.sqrt(reynolds) if reynolds < 5e5 else 0.074 / reynolds**0.2
    return math.sqrt(0.5 * wetting.viscosity * swing), 0.5 * min(friction, 0.1), wetting.viscosity


@njit(cache=True, fastmath=FAST, error_model="numpy")
def _spread(velocity, old, carried, fluid, blocked, strides, curves, where, rate):  # type: ignore[no-untyped-def]
    """One pass; `curves`: for each axis and place, what a difference to the cell before and to the
    one after counts for [1/m2]."""
    for a in range(3):
        field = velocity[a]
        old[:] = field
        flags = carried[a]
        for n in range(fluid.size):
            c = np.int64(fluid[n])
            if not flags[np.uint64(c)]:
                continue
            packed = where[np.uint64(c)]
            own = old[np.uint64(c)]
            shut = np.int64(blocked[np.uint64(c)])
            total = ZERO
            for b in range(3):
                row = np.uint64((packed >> (20 - 10 * b)) & 1023)
                s = strides[b]
                low = np.uint64(c - s)
                if flags[low] and not (b != a and (shut >> (2 * b)) & 1):
                    total += (old[low] - own) * curves[b, row, 0]
                high = np.uint64(c + s)
                if flags[high] and not (b != a and (shut >> (2 * b + 1)) & 1):
                    total += (old[high] - own) * curves[b, row, 1]
            field[np.uint64(c)] = own + rate * total


def _curves(sizes: tuple[Single, Single, Single]) -> Single:
    """See `_spread`; shape (3, longest, 2) [1/m2]."""
    table = np.zeros((3, max(len(size) for size in sizes), 2), dtype=np.float32)
    for axis, size in enumerate(sizes):
        apart = 0.5 * (size[1:] + size[:-1])
        table[axis, 1 : len(size), 0] = 1.0 / (size[1:] * apart)
        table[axis, : len(size) - 1, 1] = 1.0 / (size[:-1] * apart)
    return table


def spread_viscosity(
    domain: Domain,
    velocity: NDArray[np.float32],
    carried: NDArray[np.bool_],
    viscosity: float,
    step: float,
) -> int:
    """Even out velocities by the oil's own viscosity, in as many passes as are stable.

    Thin hot oil is left alone: over one step its viscosity moves nothing at the size of a cell.

    Parameters
    ----------
    domain : Domain
    velocity : ndarray, shape (3, n) [m/s]
        Changed in place.
    carried : ndarray of bool, shape (3, n)
        Faces that oil reaches.
    viscosity : float
        Kinematic [m2/s].
    step : float
        [s]

    Returns
    -------
    int
        Passes made.

    Notes
    -----
    At most 60 passes: oil so thick that these are too few moves as if it were thinner.
    """
    smallest = min(float(size.min()) for size in domain.sizes)
    number = viscosity * step / smallest**2
    if number < _FELT:
        return 0
    passes = min(_MOST_PASSES, math.ceil(number / _STABLE))
    rate = np.float32(min(viscosity * step / passes, _STABLE * smallest**2))
    old, curves = np.empty(domain.cells, dtype=np.float32), _curves(domain.sizes)
    for _ in range(passes):
        _spread(
            velocity, old, carried, domain.fluid, domain.blocked, domain.strides, curves,
            domain.where, rate,
        )  # fmt: skip
    return passes
