"""What the pump of a build asks of its pickup."""

from __future__ import annotations

import numpy as np

from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.draw_down import pump_volume_flow

SQUEEZED = 1.0 / 6.0
"""Of its volume at the mouth that gas takes up behind the pump."""


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


def drawn_flow(swept: Array, taken: Array, gas_share: Array) -> Array:
    """Volume flow [m3/s] through the mouth of a pump that draws oil and gas.

    ``min(swept, taken / (1 − α (1 − 1/6)))``: what the engine takes of oil alone, and more of it
    the more gas comes along, which the pump squeezes to a sixth; never more than the pump sweeps.

    Parameters
    ----------
    swept : ndarray
        All that the pump's chambers sweep [m3/s].
    taken : ndarray
        What the mouth gives when it finds oil alone, the relief's flow back left out [m3/s].
    gas_share : ndarray
        Of what is drawn, 0 to 1.

    Returns
    -------
    ndarray
        The same shape.

    Notes
    -----
    For settled oil alone: moving oil is drawn by the circuit's network itself. This follows it to
    2.4 L/min up to a gas share of 0.4 and to 5 at 0.6: the pump's slip is left out. A sixth is the
    ratio of absolute pressures at 5 bar; a pump that gives less pressure squeezes less.

    Examples
    --------
    >>> swept, taken = np.array([60.0, 60.0]), np.array([30.0, 30.0])
    >>> drawn_flow(swept, taken, np.array([0.0, 0.3])).round(1).tolist()  # on the relief
    [30.0, 40.0]
    """
    return np.asarray(np.minimum(swept, taken / (1.0 - gas_share * (1.0 - SQUEEZED))))
