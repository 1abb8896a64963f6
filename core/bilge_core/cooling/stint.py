"""The oil's temperature over a stint, and where it comes to rest."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

HOTTEST = 470.0
"""[K] to which the oil's own figures reach: hotter than that it is not followed."""


@dataclass(frozen=True)
class Heat:
    """What warms and cools the oil.

    given : into it [W]
    stored : by oil and the metal that goes with it, a kelvin [J/K]
    lost : through pan and block to the air, a kelvin [W/K]
    air : [K]
    taken : by coolers, from the oil's temperature [K] to heat [W]
    """

    given: float
    stored: float
    lost: float
    air: float
    taken: Callable[[float], float]

    def left(self, temperature: float) -> float:
        """What warms the oil on at a temperature [W]."""
        return self.given - self.lost * (temperature - self.air) - self.taken(temperature)


def steady_temperature(heat: Heat) -> float | None:
    """Where the oil's temperature comes to rest [K]; None: hotter than is followed.

    Examples
    --------
    >>> round(steady_temperature(Heat(5e3, 1e4, 50.0, 300.0, lambda _: 0.0)), 6)
    400.0
    """
    if heat.left(HOTTEST) > 0.0:
        return None
    return float(brentq(heat.left, heat.air, HOTTEST, xtol=1e-6))


def stint(heat: Heat, begin: float, lasts: float, points: int = 121) -> tuple[Array, Array]:
    """The oil's temperature over a stint.

    Parameters
    ----------
    heat : Heat
    begin : float
        Temperature to begin with [K].
    lasts : float
        [s]
    points : int

    Returns
    -------
    pair of ndarray, shape (points,)
        Times [s] and temperatures [K], up to the hottest that is followed.

    Raises
    ------
    InvalidQuantity
        If it does not last, or nothing stores heat.

    Examples
    --------
    >>> time, warm = stint(Heat(5e3, 1e4, 50.0, 300.0, lambda _: 0.0), 300.0, 200.0, 3)
    >>> bool(abs(warm[-1] - (400.0 - 100.0 / 2.718281828)) < 0.01)
    True
    """
    if not (lasts > 0.0 and heat.stored > 0.0):
        raise InvalidQuantity("stint", lasts, "above 0 s, with oil in the engine")
    time = np.linspace(0.0, lasts, points)
    found = solve_ivp(
        lambda _, warm: [heat.left(min(float(warm[0]), HOTTEST)) / heat.stored],
        (0.0, lasts), [begin],
        t_eval=time, rtol=1e-7, atol=1e-4, max_step=lasts / 20.0,
    )  # fmt: skip
    return time, np.minimum(found.y[0], HOTTEST)
