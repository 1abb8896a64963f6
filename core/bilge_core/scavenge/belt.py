"""A toothed belt from the crank to the pump: length, teeth, wrap."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import scipy

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.pulleys import radius_of
from bilge_core.rules.dry import DRIVE_RATIO


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


@dataclass(frozen=True)
class Wheel:
    """A wheel that a belt runs over, seen along its shaft.

    across, up : its middle [m]
    radius : of the belt's pitch line on it [m]
    is_inside : the belt's teeth are on it; else it presses on the belt's back from outside
    """

    across: float
    up: float
    radius: float
    is_inside: bool = True


@dataclass(frozen=True)
class Round:
    """A belt over wheels, in the order that it meets them, anticlockwise.

    length : of its pitch line [m]
    wraps : round each wheel [rad]
    straights : between each wheel and the next, both ends' places across and up [m]
    """

    length: float
    wraps: tuple[float, ...]
    straights: tuple[tuple[tuple[float, float], tuple[float, float]], ...]

    @property
    def spans(self) -> tuple[float, ...]:
        """The free lengths [m]."""
        return tuple(math.dist(*each) for each in self.straights)


def belt_round(wheels: Sequence[Wheel]) -> Round:
    """A closed belt over wheels, by its tangents.

    Parameters
    ----------
    wheels : sequence of Wheel
        In the order that a belt which runs anticlockwise meets them.

    Raises
    ------
    InvalidQuantity
        If two wheels touch.

    Notes
    -----
    A straight stretch leaves one wheel and meets the next as a tangent to both: between middles
    ``D`` apart it is ``sqrt(D^2 - k^2)`` long and turned by ``atan2(k, L)`` from the line of the
    middles, ``k`` the difference of the radii, each with a sign for the way it is gone round.

    Examples
    --------
    >>> pulleys = [Wheel(0.0, 0.0, radius_of(8e-3, 24)), Wheel(0.2, 0.0, radius_of(8e-3, 48))]
    >>> round(belt_round(pulleys).length * 1e3, 1)
    692.7
    """
    count = len(wheels)
    headings, straights = [], []
    for at, here in enumerate(wheels):
        there = wheels[(at + 1) % count]
        apart = math.hypot(there.across - here.across, there.up - here.up)
        signed = [each.radius if each.is_inside else -each.radius for each in (here, there)]
        offset = signed[1] - signed[0]
        if apart <= here.radius + there.radius:
            needs = (here.radius + there.radius) * 1e3
            raise InvalidQuantity(
                "distance of the shafts", f"{apart * 1e3:.0f} mm",
                f"more than {needs:.0f} mm, or the pulleys touch",
            )  # fmt: skip
        length = math.sqrt(apart**2 - offset**2)
        heading = math.atan2(there.up - here.up, there.across - here.across)
        heading -= math.atan2(offset, length)
        left = -math.sin(heading), math.cos(heading)
        straights.append(
            (
                (here.across - signed[0] * left[0], here.up - signed[0] * left[1]),
                (there.across - signed[1] * left[0], there.up - signed[1] * left[1]),
            )
        )
        headings.append(heading)
    wraps = tuple(
        ((headings[at] - headings[at - 1]) * (1.0 if each.is_inside else -1.0)) % (2.0 * math.pi)
        for at, each in enumerate(wheels)
    )
    free = sum(math.dist(*each) for each in straights)
    bent = sum(wrap * each.radius for wrap, each in zip(wraps, wheels, strict=True))
    return Round(free + bent, wraps, tuple(straights))


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
    smaller pulley; see `belt_round`.

    Examples
    --------
    >>> belt = belt_over(8e-3, 24, 48, 0.20)
    >>> round(belt.length * 1e3, 1), round(math.degrees(belt.wrap))
    (692.7, 162)
    """
    if min(pitch, crank_teeth, pump_teeth, centres) <= 0:
        raise InvalidQuantity("belt", min(pitch, crank_teeth, pump_teeth), "positive figures")
    small, large = sorted((crank_teeth, pump_teeth))
    found = belt_round(
        [Wheel(0.0, 0.0, radius_of(pitch, small)), Wheel(centres, 0.0, radius_of(pitch, large))]
    )
    return Belt(found.length, found.wraps[0], small * found.wraps[0] / (2.0 * math.pi))


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
        if abs(crank / pump - ratio) <= DRIVE_RATIO.most * ratio
    ]
    return tuple((crank, pump) for _, _, crank, pump in sorted(found)[:3])
