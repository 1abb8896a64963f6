"""A toothed belt from the crank to the pump: length, teeth, wrap."""

from __future__ import annotations

import math
from dataclasses import dataclass

import scipy

from bilge_core.errors import InvalidQuantity


@dataclass(frozen=True)
class Belt:
    """A belt over two pulleys.

    length : of its pitch line [m]
    wrap : round the smaller pulley [rad]
    meshing : teeth of the smaller pulley in the belt
    """

    length: float
    wrap: float
    meshing: float


def belt_over(pitch: float, crank_teeth: int, pump_teeth: int, centres: float) -> Belt:
    """A belt over a crank's and a pump's pulley.

    Parameters
    ----------
    pitch : float
        From tooth to tooth [m].
    crank_teeth, pump_teeth : int
    centres : float
        Between the shafts [m].

    Raises
    ------
    InvalidQuantity
        If the pulleys touch, or a figure is not positive.

    References
    ----------
    Exact geometry of an open belt: ``2 C sin(θ/2) + r θ + R (2π − θ)``, θ the wrap round the
    smaller pulley.

    Examples
    --------
    >>> belt = belt_over(8e-3, 24, 48, 0.20)
    >>> round(belt.length * 1e3, 1), round(math.degrees(belt.wrap))
    (692.7, 162)
    """
    if min(pitch, crank_teeth, pump_teeth, centres) <= 0:
        raise InvalidQuantity("belt", min(pitch, crank_teeth, pump_teeth), "positive figures")
    radii = sorted(teeth * pitch / (2.0 * math.pi) for teeth in (crank_teeth, pump_teeth))
    if centres <= radii[0] + radii[1]:
        raise InvalidQuantity(
            "distance of the shafts",
            f"{centres * 1e3:.0f} mm",
            f"more than {sum(radii) * 1e3:.0f} mm, or the pulleys touch",
        )
    wrap = math.pi - 2.0 * math.asin((radii[1] - radii[0]) / centres)
    straight = 2.0 * centres * math.sin(wrap / 2.0)
    length = straight + radii[0] * wrap + radii[1] * (2.0 * math.pi - wrap)
    return Belt(length, wrap, min(crank_teeth, pump_teeth) * wrap / (2.0 * math.pi))


def centres_for(pitch: float, crank_teeth: int, pump_teeth: int, belt_teeth: int) -> float:
    """Distance between the shafts [m] that a belt of so many teeth is taut at.

    Raises
    ------
    InvalidQuantity
        If it is too short for the pulleys.

    Examples
    --------
    >>> round(centres_for(8e-3, 24, 48, 90) * 1e3, 1)
    213.8
    """
    wanted = belt_teeth * pitch
    least = (crank_teeth + pump_teeth) * pitch / (2.0 * math.pi) * (1.0 + 1e-9)

    def over(centres: float) -> float:
        return belt_over(pitch, crank_teeth, pump_teeth, centres).length - wanted

    if over(least) > 0.0:
        raise InvalidQuantity("belt", f"{belt_teeth} teeth", "long enough for both pulleys")
    return float(scipy.optimize.brentq(over, least, wanted, xtol=1e-9))


def drive_teeth(ratio: float, least: int = 18, most: int = 72) -> tuple[tuple[int, int], ...]:
    """Pulleys that come nearest to a drive ratio, crank's and pump's teeth; the best three.

    Parameters
    ----------
    ratio : float
        Turns of the pump per turn of the crank.
    least, most : int
        Teeth that pulleys are made with (from memory: below 18 a belt of 8 mm wears).

    Examples
    --------
    >>> drive_teeth(0.5)[0]
    (18, 36)
    """
    found = [
        (abs(crank / pump - ratio), crank + pump, crank, pump)
        for crank in range(least, most + 1)
        for pump in range(least, most + 1)
        if abs(crank / pump - ratio) <= 0.02 * ratio
    ]
    return tuple((crank, pump) for _, _, crank, pump in sorted(found)[:3])
