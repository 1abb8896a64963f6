"""What the pump of a build asks of its pickup."""

from __future__ import annotations

import numpy as np

from bilge_core.document.circuit.calibration import Bearings
from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.draw_down import pump_volume_flow


def demanded_flow(pump: PressureStage, engine_speed: Array | float) -> Array:
    """Volume flow [m3/s] that a build's pump swallows, its low mode counted.

    Parameters
    ----------
    pump : PressureStage
    engine_speed : float or ndarray
        Crank's speed [rad/s].

    Returns
    -------
    ndarray
        The same shape as `engine_speed`.

    Raises
    ------
    InvalidQuantity
        If the speed is negative or not finite.

    Notes
    -----
    A two-stage pump is in its low mode below the switch-over and in its high
    mode above it; unplugged it stays in the high one (common practice, no
    published source). Full filling, as `pump_volume_flow`.

    Examples
    --------
    >>> from bilge_core.document.pump import LowStage
    >>> from bilge_core.physics.turns import speed_of_rpm
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0,
    ...     low_stage=LowStage(displacement_cm3=10, up_to_rpm=2000))
    >>> rpm = np.array([1900.0, 2100.0])
    >>> (demanded_flow(pump, speed_of_rpm(rpm)) * 60e3).round(1).tolist()  # L/min
    [19.0, 42.0]
    """
    speed: Array = np.asarray(engine_speed, dtype=np.float64)
    per_cm3: Array = pump_volume_flow(1e-6, pump.drive_ratio, speed)
    return per_cm3 * pump.displacement_at(rpm_of_speed(speed))


def relief_flow(
    relief_bar: float | None, bearings: Bearings | None, temperature_c: float
) -> float | None:
    """Volume flow [m3/s] at which the relief valve opens, from what the gauge told below that.

    Parameters
    ----------
    relief_bar : float or None
        At which it opens; None where it is not known.
    bearings : Bearings or None
        What the engine was seen to let through.
    temperature_c : float
        Running temperature of the oil [°C].

    Returns
    -------
    float or None
        None when the relief or what the engine lets through well below it is not known.

    Notes
    -----
    In proportion to pressure: see `bearings_told`.

    Examples
    --------
    >>> told = Bearings(flow_l_min=40, at_bar=2.5, oil_temperature_c=100, uncertainty_pct=16,
    ...                 source="a reading")
    >>> round(relief_flow(5.0, told, 105.0) * 60e3, 1)  # L/min: 40 at 2.5 bar, so 80 at 5 bar
    80.0
    """
    if relief_bar is None or bearings is None or not bearings.tells(relief_bar, temperature_c):
        return None
    return bearings.flow_l_min / 60e3 * relief_bar / bearings.at_bar


def drawn_flow(
    pump: PressureStage,
    relief_bar: float | None,
    bearings: Bearings | None,
    temperature_c: float,
    engine_speed: Array | float,
) -> Array:
    """Volume flow [m3/s] through the mouth: what the pump swallows less what its relief gives back.

    Parameters
    ----------
    pump : PressureStage
    relief_bar : float or None
        At which its relief opens; None where it is not known.
    bearings : Bearings or None
        What the engine was seen to let through.
    temperature_c : float
        Running temperature of the oil [°C].
    engine_speed : float or ndarray
        Crank's speed [rad/s].

    Returns
    -------
    ndarray
        The same shape as `engine_speed`.

    Raises
    ------
    InvalidQuantity
        If the speed is negative or not finite.

    Notes
    -----
    The relief is taken to return to the pump's own inlet, as most do (common practice, no published
    source), so that what it lets go is not drawn through the mouth again. Where the relief's
    opening cannot be told, all that the pump swallows is drawn.

    Examples
    --------
    >>> from bilge_core.physics.turns import speed_of_rpm
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0)
    >>> told = Bearings(flow_l_min=40, at_bar=2.5, oil_temperature_c=100, uncertainty_pct=16,
    ...                 source="a reading")
    >>> speed = speed_of_rpm(np.array([3000.0, 7000.0]))
    >>> (drawn_flow(pump, 5.0, told, 100.0, speed) * 60e3).round(1).tolist()  # L/min
    [60.0, 80.0]
    """
    swallowed = demanded_flow(pump, engine_speed)
    most = relief_flow(relief_bar, bearings, temperature_c)
    return swallowed if most is None else np.minimum(swallowed, most)
