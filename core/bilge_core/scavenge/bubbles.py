"""Bubbles that have the time to rise in a tank."""

from __future__ import annotations

import math

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.gravity import STANDARD_GRAVITY


def rise_speed(diameter: float, viscosity: float) -> float:
    """Speed at which a small bubble rises in oil [m/s].

    Parameters
    ----------
    diameter : float
        Of the bubble [m].
    viscosity : float
        Kinematic, of the oil [m2/s].

    Raises
    ------
    InvalidQuantity
        If anything is not positive.

    References
    ----------
    Stokes's law of a sphere whose surface does not slip, ``g d² / (18 ν)``: dirty oil's bubbles do
    not, and gas weighs nothing beside oil (from memory). Good below a Reynolds number of about one.

    Examples
    --------
    >>> round(rise_speed(1e-3, 12e-6), 4)  # a millimetre in hot oil
    0.0454
    """
    if min(diameter, viscosity) <= 0.0:
        raise InvalidQuantity("bubble", min(diameter, viscosity), "positive figures")
    return STANDARD_GRAVITY * diameter**2 / (18.0 * viscosity)


def least_bubble(way: float, seconds: float, viscosity: float) -> float:
    """The smallest bubble [m] that rises a way [m] in a time [s].

    Notes
    -----
    A cut size, and no promise of a gas share: how bubbles are sized is not known.

    Examples
    --------
    >>> round(least_bubble(0.25, 6.0, 12e-6) * 1e3, 2)  # mm
    0.96
    """
    if min(way, seconds, viscosity) <= 0.0:
        raise InvalidQuantity("bubble", min(way, seconds, viscosity), "positive figures")
    return math.sqrt(18.0 * viscosity * way / seconds / STANDARD_GRAVITY)
