"""What the pump of a build asks of its pickup."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.document.pump import GaugeReading
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.pickup.draw_down import pump_volume_flow
from bilge_core.rules import gauge


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
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0,
    ...     low_stage=LowStage(displacement_cm3=10, up_to_rpm=2000))
    >>> rpm = np.array([1900.0, 2100.0])
    >>> (demanded_flow(pump, speed_of_rpm(rpm)) * 60e3).round(1).tolist()  # L/min
    [19.0, 42.0]
    """
    high = pump_volume_flow(pump.displacement_cm3 * 1e-6, pump.drive_ratio, engine_speed)
    stage = pump.low_stage
    if stage is None or stage.unplugged:
        return high
    low = pump_volume_flow(stage.displacement_cm3 * 1e-6, pump.drive_ratio, engine_speed)
    switch_over = speed_of_rpm(stage.up_to_rpm)
    return np.asarray(np.where(np.asarray(engine_speed) < switch_over, low, high))


def relief_flow(
    pump: PressureStage,
    relief_bar: float | None,
    readings: Sequence[GaugeReading],
    temperature_c: float,
) -> float | None:
    """Volume flow [m3/s] at which the relief valve opens, from what the gauge showed below that.

    Parameters
    ----------
    pump : PressureStage
    relief_bar : float or None
        At which its relief opens; None where it is not known.
    readings : sequence of GaugeReading
    temperature_c : float
        Running temperature of the oil [°C].

    Returns
    -------
    float or None
        None when the relief or a reading well below it is not known.

    Notes
    -----
    The engine's bearings let oil through in proportion to pressure, as laminar flow does; jets and
    other orifices, which let through less at high pressure, are not told apart. The reading at the
    highest pressure below the relief, with oil about as warm, is the one taken.

    Examples
    --------
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0)
    >>> seen = [GaugeReading(engine_rpm=2000, pressure_bar=2.5, oil_temperature_c=100)]
    >>> round(relief_flow(pump, 5.0, seen, 105.0) * 60e3, 1)  # L/min: 40 at 2.5 bar, so 80 at 5 bar
    80.0
    """
    if relief_bar is None:
        return None
    telling = [
        reading
        for reading in readings
        if reading.pressure_bar > 0.0
        and not gauge.is_on_relief(reading.pressure_bar, relief_bar)
        and gauge.LIKE_WARMTH.holds(abs(reading.oil_temperature_c - temperature_c))
    ]
    if not telling:
        return None
    best = max(telling, key=lambda reading: reading.pressure_bar)
    flow = float(demanded_flow(pump, speed_of_rpm(best.engine_rpm)))
    return flow * relief_bar / best.pressure_bar


def drawn_flow(
    pump: PressureStage,
    relief_bar: float | None,
    readings: Sequence[GaugeReading],
    temperature_c: float,
    engine_speed: Array | float,
) -> Array:
    """Volume flow [m3/s] through the mouth: what the pump swallows less what its relief gives back.

    Parameters
    ----------
    pump : PressureStage
    relief_bar : float or None
        At which its relief opens; None where it is not known.
    readings : sequence of GaugeReading
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
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0)
    >>> seen = [GaugeReading(engine_rpm=2000, pressure_bar=2.5, oil_temperature_c=100)]
    >>> speed = speed_of_rpm(np.array([3000.0, 7000.0]))
    >>> (drawn_flow(pump, 5.0, seen, 100.0, speed) * 60e3).round(1).tolist()  # L/min
    [60.0, 80.0]
    """
    swallowed = demanded_flow(pump, engine_speed)
    most = relief_flow(pump, relief_bar, readings, temperature_c)
    return swallowed if most is None else np.minimum(swallowed, most)
