"""Draw-down at the mouth: how deep it must be covered before air comes along."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array

CRAYA_POINT_SINK = 0.69
"""Constant of the point sink's critical depth (Craya 1949, from memory)."""


def pump_volume_flow(displacement: float, drive_ratio: float, engine_speed: Array | float) -> Array:
    """Volume [m3/s] that the pump swallows.

    Parameters
    ----------
    displacement : float
        Per turn of the pump [m3].
    drive_ratio : float
        Pump turns per turn of the crank [-].
    engine_speed : float or ndarray
        Crank's speed [rad/s].

    Returns
    -------
    ndarray
        Volume flow [m3/s], the same shape as `engine_speed`.

    Raises
    ------
    InvalidQuantity
        If an argument is negative or not finite.

    Notes
    -----
    Full volumetric efficiency and no return from the relief valve to the
    pump's own inlet: the most that the mouth can be asked for.

    Examples
    --------
    >>> round(float(pump_volume_flow(15e-6, 1.0, 6000 * 2 * math.pi / 60)) * 60000, 3)  # L/min
    90.0
    """
    speed = np.asarray(engine_speed, dtype=np.float64)
    for name, value in (("displacement", displacement), ("drive ratio", drive_ratio)):
        if not (math.isfinite(value) and value >= 0.0):
            raise InvalidQuantity(name, value, "finite and not negative")
    if not np.all(np.isfinite(speed)) or np.any(speed < 0.0):
        raise InvalidQuantity("engine speed", "negative or not a number", "finite, not negative")
    return np.asarray(displacement * drive_ratio * speed / (2.0 * math.pi))


def critical_depth(volume_flow: Array | float, apparent_gravity: Array | float) -> Array:
    """Cover [m] below which a draw-down carries air into a point sink.

    ``h_c = 0.69 (Q² / g_app)^(1/5)``

    Parameters
    ----------
    volume_flow : float or ndarray
        What is drawn [m3/s].
    apparent_gravity : float or ndarray
        Its length [m/s2].

    Returns
    -------
    ndarray
        Critical depth [m].

    Raises
    ------
    InvalidQuantity
        If the flow is negative, gravity is not positive, or either is not finite.

    Notes
    -----
    For a sink in open liquid. A mouth that faces a floor close below it is
    sheltered by its own rim and draws down later; that is not counted here,
    so this errs to the safe side.

    References
    ----------
    Craya, A. (1949), selective withdrawal; the constant from memory.

    Examples
    --------
    >>> round(float(critical_depth(30 / 60000, 9.80665)) * 1000, 1)  # 30 L/min, 1 g
    20.9
    """
    flow = np.asarray(volume_flow, dtype=np.float64)
    gravity = np.asarray(apparent_gravity, dtype=np.float64)
    if not np.all(np.isfinite(flow)) or np.any(flow < 0.0):
        raise InvalidQuantity("volume flow", "negative or not a number", "finite, not negative")
    if not np.all(np.isfinite(gravity)) or np.any(gravity <= 0.0):
        raise InvalidQuantity("apparent gravity", "nil or not a number", "finite and positive")
    return np.asarray(CRAYA_POINT_SINK * (flow**2 / gravity) ** 0.2)


@njit(cache=True)
def _gas_share(cover, critical, bare):  # type: ignore[no-untyped-def]
    entrained = 0.0
    if critical > 0.0 and 0.0 <= cover < critical:
        short = 1.0 - cover / critical
        entrained = 0.5 * short * short
    return max(bare, entrained)


def gas_share(cover: float, critical: float, bare: float) -> float:
    """Gas over all that the pump draws at one moment, for a settled surface.

    The greater of the mouth's bare share and the entrainment, which rises as
    ``½ (1 − cover/h_c)²`` from nil at the critical depth to a half where the
    surface reaches the mouth's centre.

    Parameters
    ----------
    cover : float
        Oil above the mouth's centre, square to its surface [m].
    critical : float
        Critical depth [m].
    bare : float
        Share of the mouth's area in air, 0 to 1.

    Returns
    -------
    float
        0 to 1; the pickup draws air above 0.05 and runs dry above 0.5.

    Raises
    ------
    InvalidQuantity
        If the bare share is outside 0 to 1 or anything is not a number.

    Notes
    -----
    The curve between the two ends is ours and rests on no measurement; it does
    not move the moment at which the pickup runs dry.

    Examples
    --------
    >>> gas_share(0.010, 0.020, 0.0)
    0.125
    """
    if math.isnan(cover) or not math.isfinite(critical) or not 0.0 <= bare <= 1.0:
        raise InvalidQuantity("bare share", bare, "0 to 1, with numbers for cover and depth")
    return float(_gas_share(cover, critical, bare))


gas_share_kernel = _gas_share
"""The same for compiled loops; arguments are trusted."""
