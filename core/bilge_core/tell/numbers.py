"""From SI to the figures that everybody reads: millimetres, litres, rounded."""

from __future__ import annotations

from collections.abc import Iterable

from bilge_core.physics.arrays import Array

Point = tuple[float, float]
SpacePoint = tuple[float, float, float]
Ring = list[Point]


def mm(metres: float, places: int = 2) -> float:
    """Millimetres.

    Examples
    --------
    >>> mm(0.0123456)
    12.35
    """
    return round(float(metres) * 1e3, places)


def litres(volume: float, places: int = 3) -> float:
    """Litres of a volume [m3].

    Examples
    --------
    >>> litres(0.0047)
    4.7
    """
    return round(float(volume) * 1e3, places)


def point(place: Array) -> Point:
    """A place in a plane [mm]."""
    return mm(place[0]), mm(place[1])


def ring(points: Array) -> Ring:
    """An outline [mm]."""
    return [point(place) for place in points]


def space_point(place: Array, places: int = 2) -> SpacePoint:
    """A place [mm]."""
    x, y, z = place
    return mm(x, places), mm(y, places), mm(z, places)


def space_points(points: Iterable[Array]) -> list[SpacePoint]:
    """Places [mm]."""
    return [space_point(place) for place in points]


EVERY = 2
"""Moments of drains and breathing from one that is told to the next: 12.5 a second."""


def thinned(values: Array, scale: float, places: int) -> list[float]:
    """Every `EVERY`th of many values, in another unit, rounded.

    Examples
    --------
    >>> import numpy as np
    >>> thinned(np.array([0.0012, 1.0, 0.0034]), 1e3, 1)
    [1.2, 3.4]
    """
    shown: list[float] = (values[::EVERY] * scale).round(places).tolist()
    return shown
