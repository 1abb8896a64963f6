"""What the pump of a build asks of its pickup."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bilge_core.pressure.suction import pump_volume_flow
from bilge_core.supply import Pump

Array = NDArray[np.float64]


def demanded_flow(pump: Pump, engine_speed: Array | float) -> Array:
    """Volume flow [m3/s] that a build's pump swallows, its low mode counted.

    Parameters
    ----------
    pump : Pump
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
    >>> from bilge_core.supply import LowStage
    >>> pump = Pump(displacement_cm3=20, drive_ratio=1.0,
    ...             low_stage=LowStage(displacement_cm3=10, up_to_rpm=2000))
    >>> rpm = np.array([1900.0, 2100.0])
    >>> (demanded_flow(pump, rpm * math.pi / 30) * 60e3).round(1).tolist()  # L/min
    [19.0, 42.0]
    """
    high = pump_volume_flow(pump.displacement_cm3 * 1e-6, pump.drive_ratio, engine_speed)
    stage = pump.low_stage
    if stage is None or stage.unplugged:
        return high
    low = pump_volume_flow(stage.displacement_cm3 * 1e-6, pump.drive_ratio, engine_speed)
    switch_over = stage.up_to_rpm * math.pi / 30.0
    return np.asarray(np.where(np.asarray(engine_speed) < switch_over, low, high))
