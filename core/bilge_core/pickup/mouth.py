"""The pickup's mouth: how far the oil covers it, and how much of it stands in air."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Mouth:
    """A mouth that faces the floor, parallel to the pan rail [m].

    centre : ndarray, shape (3,)
    half_length, half_width : float
        Half the size along and across the engine; equal, the radius, when round.
    is_round : bool
    """

    centre: Array
    half_length: float
    half_width: float
    is_round: bool

    def rim(self, points: int = 48) -> Array:
        """Points round the edge, shape (n, 3) [m]."""
        if self.is_round:
            angle = np.linspace(0.0, 2.0 * math.pi, points, endpoint=False)
            u, v = self.half_length * np.cos(angle), self.half_length * np.sin(angle)
        else:
            side = np.linspace(-1.0, 1.0, max(2, points // 4), endpoint=False)
            one = np.ones_like(side)
            u = self.half_length * np.concatenate([side, one, -side, -one])
            v = self.half_width * np.concatenate([-one, side, one, -side])
        return self.centre + np.column_stack([u, v, np.zeros_like(u)])


@njit(cache=True)
def bare_area_share(cover, normal_x, normal_y, half_length, half_width, is_round):  # type: ignore[no-untyped-def]
    """Share of the mouth's area above the surface, 0 to 1."""
    if is_round:
        reach = half_length * math.sqrt(normal_x * normal_x + normal_y * normal_y)
        if cover >= reach:
            return 0.0
        if cover <= -reach:
            return 1.0
        u = cover / reach
        return (math.acos(u) - u * math.sqrt(1.0 - u * u)) / math.pi
    # a rectangle: height over it is the sum of two even spreads, a trapezium
    a = abs(normal_x) * half_length
    b = abs(normal_y) * half_width
    wide = max(a, b)
    thin = min(a, b)
    height = abs(cover)
    if height >= wide + thin:
        beyond = 0.0
    elif height >= wide - thin:
        beyond = (wide + thin - height) ** 2 / (8.0 * wide * thin)
    else:
        beyond = (wide - height) / (2.0 * wide)
    return beyond if cover >= 0.0 else 1.0 - beyond


def bare_share(mouth: Mouth, normal: Array, level: float) -> float:
    """Share of the mouth's area that stands above the oil's surface.

    Parameters
    ----------
    mouth : Mouth
    normal : ndarray, shape (3,)
        "Up", of length one.
    level : float
        The surface's level along it [m].

    Returns
    -------
    float
        0 covered, 1 bare.

    Raises
    ------
    InvalidQuantity
        If the level is not a number.

    References
    ----------
    Area of a circular segment; cumulative area of a rectangle across a
    sloping line (both elementary geometry).

    Examples
    --------
    >>> mouth = Mouth(np.zeros(3), 0.02, 0.02, True)
    >>> bare_share(mouth, np.array([0.6, 0.0, 0.8]), 0.0)
    0.5
    """
    if math.isnan(level):
        raise InvalidQuantity("level", level, "a number")
    cover = level - float(np.dot(normal, mouth.centre))
    return float(
        bare_area_share(
            cover,
            float(normal[0]),
            float(normal[1]),
            mouth.half_length,
            mouth.half_width,
            mouth.is_round,
        )
    )
