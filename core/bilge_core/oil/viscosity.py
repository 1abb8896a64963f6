"""Viscosity against temperature."""

from __future__ import annotations

import math

from bilge_core.errors import InvalidQuantity
from bilge_core.oil.grades import Grade

_T_40 = 313.15
_T_100 = 373.15


def kinematic_viscosity(grade: Grade, temperature: float) -> float:
    """Kinematic viscosity [m2/s] of a grade at a temperature [K], by ASTM D341.

    ``log10 log10(ν + 0.7) = A − B log10 T`` with ν in mm2/s and T in kelvin,
    A and B from the grade's figures at 40 and 100 °C.

    Parameters
    ----------
    grade : Grade
        One of `GRADES`, or one with the figures of a data sheet.
    temperature : float
        Oil temperature [K], 233 to 473 K.

    Returns
    -------
    float
        Kinematic viscosity [m2/s].

    Raises
    ------
    InvalidQuantity
        If the temperature is outside 233 to 473 K.

    Notes
    -----
    The 0.7 form holds from 2 mm2/s up; shear thinning of multigrades is left out.

    References
    ----------
    ASTM D341, simplified equation.

    Examples
    --------
    >>> from bilge_core.oil import GRADES
    >>> round(kinematic_viscosity(GRADES["10W-60"], 373.15) * 1e6, 2)
    23.0
    """
    if not 233.0 <= temperature <= 473.0:
        raise InvalidQuantity("temperature", temperature, "233 to 473 K (-40 to 200 °C)")

    def doubled_log(viscosity: float) -> float:
        return math.log10(math.log10(viscosity * 1e6 + 0.7))

    at_40 = doubled_log(grade.viscosity_at_40_c)
    at_100 = doubled_log(grade.viscosity_at_100_c)
    slope = (at_40 - at_100) / (math.log10(_T_100) - math.log10(_T_40))
    level = at_40 - slope * (math.log10(temperature) - math.log10(_T_40))
    return float((10.0 ** (10.0**level) - 0.7) * 1e-6)
