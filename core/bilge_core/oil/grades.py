"""The oil grades offered, with typical figures and the SAE J300 ranges."""

from __future__ import annotations

import json
from dataclasses import dataclass
from importlib.resources import files

from bilge_core.errors import InvalidQuantity


@dataclass(frozen=True)
class Grade:
    """Typical figures of a grade: viscosities [m2/s] at 40, 100 °C, density [kg/m3] at 15 °C."""

    name: str
    viscosity_at_40_c: float
    viscosity_at_100_c: float
    density_at_15_c: float


_DATA = json.loads(files("bilge_core.oil").joinpath("grades.json").read_text(encoding="utf-8"))

GRADES: dict[str, Grade] = {
    row["name"]: Grade(
        row["name"],
        row["viscosity_40_mm2_s"] * 1e-6,
        row["viscosity_100_mm2_s"] * 1e-6,
        float(row["density_15_kg_m3"]),
    )
    for row in _DATA["grades"]
}


def sae_range_at_100_c(grade: str) -> tuple[float, float]:
    """Kinematic viscosity range [m2/s] at 100 °C that SAE J300 sets for a grade's hot number.

    Parameters
    ----------
    grade : str
        Such as ``"5W-40"`` or ``"SAE 50"``.

    Returns
    -------
    tuple of float
        Lowest (included) and highest (excluded) viscosity [m2/s].

    Raises
    ------
    InvalidQuantity
        If SAE J300 knows no such hot number.

    References
    ----------
    SAE J300, table of high-temperature grades (from memory).

    Examples
    --------
    >>> sae_range_at_100_c("5W-40")
    (1.25e-05, 1.63e-05)
    """
    hot = grade.replace("-", " ").split()[-1]
    ranges = _DATA["sae_j300_100_c_mm2_s"]
    if hot not in ranges:
        raise InvalidQuantity("grade", grade, f"a grade that ends in one of {', '.join(ranges)}")
    lowest, highest = ranges[hot]
    return round(lowest * 1e-6, 10), round(highest * 1e-6, 10)
