"""Coolers by effectiveness and number of transfer units, from what their makers rate them at."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import ht

from bilge_core.errors import InvalidQuantity

Flow = Literal["crossflow", "counterflow"]
"""How oil and the other side pass each other: air across a matrix, water against oil in a plate."""

OIL_HEAT = 2.2e3
"""Specific heat of hot engine oil [J/kg/K] (from memory: 2.1e3 to 2.3e3 at 100 °C)."""
WATER_HEAT, WATER_DENSITY = 4.19e3, 970.0  # [J/kg/K], [kg/m3] at 80 °C (from memory)
BTU_PER_HOUR = 0.29307107
"""[W], by definition."""
_HARDEST = 0.98
"""Of all that could be handed over, at most (ours): a rating that claims more is at another
temperature difference than is said."""


def capacity_rate(flow: float, density: float, heat: float = OIL_HEAT) -> float:
    """What a flow carries a kelvin [W/K].

    Parameters
    ----------
    flow : float
        [m3/s]
    density : float
        [kg/m3]
    heat : float
        Specific [J/kg/K].

    Examples
    --------
    >>> round(capacity_rate(40.0 / 60e3, 820.0))
    1203
    """
    return flow * density * heat


@dataclass(frozen=True)
class Exchanger:
    """A cooler as its rating tells.

    kind : crossflow or counterflow
    conductance : UA [W/K]
    other : capacity rate of air or water [W/K]
    """

    kind: Flow
    conductance: float
    other: float

    def effectiveness(self, oil: float, spoiled: float = 0.0) -> float:
        """Share of what could be handed over that is, at an oil's capacity rate [W/K].

        `spoiled` is the share of the conductance that gas in the oil takes away.
        """
        least, most = sorted((oil, self.other))
        if least <= 0.0:
            return 0.0
        units = self.conductance * (1.0 - spoiled) / least
        if units <= 0.0:
            return 0.0
        return float(ht.effectiveness_from_NTU(units, Cr=least / most, subtype=self.kind))

    def takes(self, oil: float, difference: float, spoiled: float = 0.0) -> float:
        """Heat taken out [W] at a difference between oil and air or water coming in [K]."""
        return self.effectiveness(oil, spoiled) * min(oil, self.other) * difference


def exchanger_rated(
    rating: float, difference: float, oil: float, other: float, kind: Flow
) -> Exchanger:
    """A cooler of a rating.

    Parameters
    ----------
    rating : float
        Heat that it takes out [W].
    difference : float
        Between oil and air or water coming in, at which it is rated [K].
    oil, other : float
        Capacity rates that it is rated at [W/K].
    kind : crossflow or counterflow

    Returns
    -------
    Exchanger

    Raises
    ------
    InvalidQuantity
        If it would take out more than there is.

    References
    ----------
    Effectiveness-NTU relations, as the library `ht` has them.

    Examples
    --------
    >>> cooler = exchanger_rated(12e3, 80.0, 1200.0, 400.0, "crossflow")
    >>> round(cooler.takes(1200.0, 80.0)), round(cooler.takes(600.0, 80.0))
    (12000, 11264)
    """
    if not (rating > 0.0 and difference > 0.0 and oil > 0.0 and other > 0.0):
        raise InvalidQuantity("rating", rating, "above 0, at flows and a difference above 0")
    least, most = sorted((oil, other))
    share = rating / (least * difference)
    if share >= _HARDEST:
        most_w = _HARDEST * least * difference
        raise InvalidQuantity(
            "rating", f"{rating / 1e3:.1f} kW",
            f"under {most_w / 1e3:.1f} kW at {difference:.0f} K between oil and what cools it",
        )  # fmt: skip
    units = ht.NTU_from_effectiveness(effectiveness=share, Cr=least / most, subtype=kind)
    return Exchanger(kind, float(units) * least, other)
