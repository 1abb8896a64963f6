"""What slows the oil: walls, and its own viscosity where it is thick."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.domain import Domain
from bilge_core.moving.transfer import FAST, HALF, ZERO

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
def _spread(velocity, old, carried, fluid, blocked, strides, hx, hy, hz, where, rate):  # type: ignore[no-untyped-def]
    for a in range(3):
        field = velocity[a]
        old[:] = field
        flags = carried[a]
        for n in range(fluid.size):
            c = np.int64(fluid[n])
            if not flags[c]:
                continue
            packed = where[np.uint64(c)]
            i = packed >> 20
            j = (packed >> 10) & 1023
            k = packed & 1023
            total = ZERO
            for b in range(3):
                if b == 0:
                    own, low, high = hx[i], hx[i - 1], hx[i + 1]
                elif b == 1:
                    own, low, high = hy[j], hy[j - 1], hy[j + 1]
                else:
                    own, low, high = hz[k], hz[k - 1], hz[k + 1]
                s = strides[b]
                if flags[c - s] and not (b != a and (blocked[c] >> (2 * b)) & 1):
                    total += (old[c - s] - old[c]) / (own * HALF * (own + low))
                if flags[c + s] and not (b != a and (blocked[c] >> (2 * b + 1)) & 1):
                    total += (old[c + s] - old[c]) / (own * HALF * (own + high))
            field[c] = old[c] + rate * total


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
    old = np.empty(domain.cells, dtype=np.float32)
    for _ in range(passes):
        _spread(
            velocity, old, carried, domain.fluid, domain.blocked, domain.strides, *domain.sizes,
            domain.where, rate,
        )  # fmt: skip
    return passes
