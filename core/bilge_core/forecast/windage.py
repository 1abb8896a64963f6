"""What the crank throws of the oil that its sweep reaches, and the power that takes.

Read off a run in which the crank stands still: nothing of it comes back to the oil. That oil
thrown off is worth a ratio between two pans; litres and kilowatts are our own estimate.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.network.guesses import Guess
from bilge_core.physics.arrays import Array
from bilge_core.rules.crank import SPLASH, THROWN_ALIKE

AT_LEAST = 1.0
"""Of a run, before anything is said of it [s]: single splashes say nothing (ours)."""

_OUT = 0.9  # of the swept radius, where oil is carried along (ours)
TURNOVER = Guess(
    "crank_turnover", "time in which what the crank's sweep reaches is thrown out of it",
    0.10, 0.05, 0.2, "s", 1.0, "ours: fitted to coupled models of our own",
)  # fmt: skip
CARRIED = Guess(
    "crank_carries", "how far thrown oil comes to the speed of the throws",
    0.8, 0.5, 1.0, "", 1.0, "ours",
)  # fmt: skip


@dataclass(frozen=True)
class Likely:
    """A figure that is a guess, and between which it likely lies."""

    low: float
    likely: float
    high: float


@dataclass(frozen=True)
class Windage:
    """Means over a run.

    reached : oil in the crank's sweep [m3]
    thrown : [m3/s]
    power : that it takes from the crank [W]
    """

    reached: float
    thrown: Likely
    power: Likely


def find_windage(
    reached: Array, speed: Array, radius: float, density: float, step: float
) -> Windage | None:
    """What a crank throws over a run, and what that takes.

    Oil is thrown as fast as the sweep is emptied, ``q = V/T``, and leaves it with a share of the
    throws' speed: ``P = rho q s (w r)^2`` (Euler's equation of turbomachines).

    Parameters
    ----------
    reached : ndarray, shape (n,)
        Oil in the crank's sweep [m3].
    speed : ndarray, shape (n,)
        The crank's [rad/s].
    radius : float
        That rods and weights sweep [m].
    density : float
        The oil's [kg/m3].
    step : float
        From one sample to the next [s].

    Returns
    -------
    Windage or None
        None for a run of under a second.

    Raises
    ------
    InvalidQuantity
        If there are not as many of each, or radius, density or step is not over nil.

    Examples
    --------
    A fifth of a litre all the time, at 6000 rpm and 80 mm:

    >>> found = find_windage(np.full(100, 0.2e-3), np.full(100, 628.32), 0.08, 850.0, 0.02)
    >>> round(found.thrown.likely * 1e3, 3), round(found.power.likely)  # L/s, W
    (2.0, 2783)
    >>> round(found.power.low), round(found.power.high)
    (870, 6958)
    """
    if reached.shape != speed.shape:
        raise InvalidQuantity("speed", f"{len(speed)} samples", f"{len(reached)}, as of the oil")
    for name, value in (("radius", radius), ("density", density), ("step", step)):
        if not value > 0.0:
            raise InvalidQuantity(name, str(value), "over 0")
    if len(reached) * step < AT_LEAST:
        return None
    energy = float(np.mean(reached * (speed * _OUT * radius) ** 2)) * density  # rho V (w r)^2 [J]
    mean = float(np.mean(reached))
    slow, usual, quick = (1.0 / each for each in (TURNOVER.high, TURNOVER.likely, TURNOVER.low))
    slips, carries, drags = CARRIED.low, CARRIED.likely, CARRIED.high
    return Windage(
        reached=mean,
        thrown=Likely(mean * slow, mean * usual, mean * quick),
        power=Likely(energy * slow * slips, energy * usual * carries, energy * quick * drags),
    )


def thrown_against(reached: float, before: float, name: str) -> str | None:
    """How much is thrown beside what another pan throws, in words that say no more than they can.

    Parameters
    ----------
    reached, before : float
        Oil in the crank's sweep, on average, here and in the other [m3].
    name : of the other

    Returns
    -------
    str or None
        None where neither is more than a splash.

    Examples
    --------
    >>> thrown_against(0.38e-3, 0.2e-3, "R2"), thrown_against(0.19e-3, 0.2e-3, "R2")
    ('1.9 times what R2 throws', 'about as much as R2')
    >>> thrown_against(0.2e-3, 0.01e-3, "R2"), thrown_against(0.01e-3, 0.2e-3, "R2")
    ('R2 throws next to nothing', 'next to nothing, unlike R2')
    """
    here, there = reached > SPLASH.most, before > SPLASH.most
    if not here or not there:
        return f"next to nothing, unlike {name}" if there else (
            f"{name} throws next to nothing" if here else None
        )  # fmt: skip
    times = reached / before
    if THROWN_ALIKE.holds(times):
        return f"about as much as {name}"
    return f"{times:.1f} times what {name} throws"
