"""How oil swells as it warms: a pan filled cold stands higher hot."""

from __future__ import annotations

import math

from bilge_core.errors import InvalidQuantity
from bilge_core.oil.grades import Grade

POURED_TEMPERATURE = 293.15
"""Temperature [K] at which oil is measured into the engine: a workshop at 20 °C."""

_K1 = 0.6278  # kg/(m3 K), lubricating oils


def _volume_correction(density_at_15_c: float, temperature: float) -> float:
    """Volume at 15 °C over volume at the temperature [K]."""
    alpha = _K1 / density_at_15_c
    rise = temperature - 288.15
    return math.exp(-alpha * rise * (1.0 + 0.8 * alpha * rise))


def hot_volume_ratio(grade: Grade, temperature: float) -> float:
    """Volume of oil at a temperature [K] over its volume as poured, at 20 °C.

    Parameters
    ----------
    grade : Grade
        The oil.
    temperature : float
        Running temperature [K], 233 to 473 K.

    Returns
    -------
    float
        About 1.07 at 110 °C.

    Raises
    ------
    InvalidQuantity
        If the temperature is outside 233 to 473 K.

    References
    ----------
    ASTM D1250 (API MPMS 11.1, 1980), table 54D for lubricating oils:
    ``VCF = exp(-α Δt (1 + 0.8 α Δt))``, ``α = 0.6278 / ρ15`` (from memory).

    Examples
    --------
    >>> from bilge_core.oil import GRADES
    >>> round(hot_volume_ratio(GRADES["10W-60"], 383.15), 3)
    1.073
    """
    if not 233.0 <= temperature <= 473.0:
        raise InvalidQuantity("temperature", temperature, "233 to 473 K (-40 to 200 °C)")
    density = grade.density_at_15_c
    return _volume_correction(density, POURED_TEMPERATURE) / _volume_correction(
        density, temperature
    )


def density(grade: Grade, temperature: float) -> float:
    """Density [kg/m3] of a grade at a temperature [K], as `hot_volume_ratio` has it.

    Raises
    ------
    InvalidQuantity
        If the temperature is outside 233 to 473 K.

    Examples
    --------
    >>> from bilge_core.oil.grades import GRADES
    >>> 780 < density(GRADES["10W-60"], 383.15) < 830
    True
    """
    ratio = hot_volume_ratio(grade, temperature)
    at_pouring = grade.density_at_15_c * _volume_correction(
        grade.density_at_15_c, POURED_TEMPERATURE
    )
    return at_pouring / ratio
