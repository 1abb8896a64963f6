"""The resistance of lines and holes, as the few figures that the network's law takes."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.network.laws import DISCHARGE
from bilge_core.physics.arrays import Array

ENDS = 1.5
"""Loss coefficients of a line's entry (0.5) and exit (1), from memory."""
_LAMINAR_TO = 2040.0  # Reynolds number, as in the library whose friction is fitted
_FASTEST = 12.0  # [m/s] up to which a line is fitted: beyond what any is run at
_POINTS = 48
_BEGINNINGS = np.linspace(0.7, 1.0, 13)  # of the turbulent terms, of the laminar's end (ours)
_HOLE_TURNS_AT = 30.0
"""Reynolds number of a small hole at which its linear part equals its square one (ours: the slope
at nil must be finite; at usual flows it changes nothing)."""


@dataclass(frozen=True)
class Resistance:
    """``Δp = laminar·q + extra·(q − q_c)₊ + square·(q − q_c)₊²``, and the inertia of what moves.

    laminar : [Pa s/m3]
    turbulent_from : q_c [m3/s]
    extra : [Pa s/m3]
    square : [Pa s2/m6]
    inertance : density times length over area [kg/m4]
    """

    laminar: float
    turbulent_from: float = 0.0
    extra: float = 0.0
    square: float = 0.0
    inertance: float = 0.0

    def drop(self, flow: float) -> float:
        """Pressure [Pa] that a flow [m3/s] takes.

        Examples
        --------
        >>> Resistance(laminar=1e8, square=1e11).drop(1e-3)
        200000.0
        """
        over = max(abs(flow) - self.turbulent_from, 0.0)
        size = self.laminar * abs(flow) + self.extra * over + self.square * over * over
        return math.copysign(size, flow)


def _not_negative(rows: Array, wanted: Array) -> Array:
    """Least squares of two terms, neither negative: both, or the better one alone."""
    both: Array = np.asarray(np.linalg.lstsq(rows, wanted, rcond=None)[0], dtype=np.float64)
    if (both >= 0.0).all():
        return both
    alone = np.diag([max(float(each @ wanted / (each @ each)), 0.0) for each in rows.T])
    return min(alone, key=lambda terms: float(np.sum((rows @ terms - wanted) ** 2)))


def _fitted(flow: Array, drop: Array, laminar: float, change: float) -> tuple[float, float, float]:
    """Where the turbulent terms begin, and both: of all beginnings the one that strays least."""
    best = (math.inf, change, 0.0, 0.0)
    for begins in (_BEGINNINGS * change).tolist():
        over = np.maximum(flow - begins, 0.0)
        rows = np.column_stack([over, over**2]) / drop[:, None]
        terms = _not_negative(rows, 1.0 - laminar * flow / drop)
        worst = float(np.abs(rows @ terms + laminar * flow / drop - 1.0).max())
        best = min(best, (worst, begins, float(terms[0]), float(terms[1])))
    return best[1:]


def pipe_resistance(
    bore: float, length: float, density: float, viscosity: float, minor: float = 0.0, many: int = 1
) -> Resistance:
    """A round line: its friction as `fluids` has it, fitted, and what bends and ends take.

    Parameters
    ----------
    bore, length : float
        [m]
    density : float
        [kg/m3]
    viscosity : float
        Dynamic [Pa s].
    minor : float
        Sum of loss coefficients of bends, entry and exit, on the mean speed's head [-].
    many : int
        Lines alike, side by side.

    Returns
    -------
    Resistance

    Raises
    ------
    InvalidQuantity
        If a figure is not positive.

    Notes
    -----
    ``a q + b q²`` is up to 57 % off where flow is laminar: the three terms here stay within 10 %
    (rms) of a smooth pipe's friction up to 12 m/s, and within 20 % but where flow turns turbulent:
    there friction itself jumps by half. Loss coefficients count from nil flow.

    References
    ----------
    Friction factors: `fluids.friction.friction_factor` (laminar 64/Re; turbulent after Clamond).
    Hagen and Poiseuille: ``Δp = 128 μ L q / (π d⁴)``.

    Examples
    --------
    >>> hot = pipe_resistance(0.014, 1.0, 820.0, 0.012)
    >>> round(hot.drop(10 / 60e3))  # 10 L/min, laminar [Pa]
    2121
    """
    for name, value in (
        ("bore", bore), ("length", length), ("density", density), ("viscosity", viscosity)
    ):  # fmt: skip
        if not (math.isfinite(value) and value > 0.0):
            raise InvalidQuantity(name, value, "above 0")
    from fluids.friction import friction_factor  # noqa: PLC0415 - 0.2 s that most calls do not need

    area = math.pi / 4.0 * bore * bore
    laminar = 128.0 * viscosity * length / (math.pi * bore**4)
    change = _LAMINAR_TO * viscosity / (density * bore) * area
    inertance = density * length / area
    heads = minor * density / (2.0 * area * area)
    fastest = max(_FASTEST * area, 2.0 * change)
    flow = np.geomspace(0.5 * change, fastest, _POINTS)
    drop = np.array(
        [
            friction_factor(density * each / area * bore / viscosity) * (each / area) ** 2
            for each in flow.tolist()
        ]
    )
    drop *= length / bore * 0.5 * density
    change, extra, square = _fitted(flow, drop, laminar, change)
    # heads·q² from nil, put into the same form: a tangent below the change, the rest above it
    return Resistance(
        (laminar + heads * change) / many,
        change * many,
        (extra + heads * change) / many,
        (square + heads) / many**2,
        inertance / many,
    )


def hole_resistance(bore: float, density: float, viscosity: float, many: int = 1) -> Resistance:
    """A sharp hole, or so many alike: a restrictor, a jet.

    Parameters
    ----------
    bore : float
        [m]
    density, viscosity : float
        [kg/m3], dynamic [Pa s]
    many : int

    Returns
    -------
    Resistance
        ``Δp = ρ/2 (q / C A)²``, with a little in proportion to q so that it has a slope at nil.

    Raises
    ------
    InvalidQuantity
        If a figure is not positive.

    Examples
    --------
    >>> hole = hole_resistance(0.002, 820.0, 0.012)
    >>> round(hole.drop(2.6 / 60e3) / 1e5, 1)  # 2.6 L/min through 2 mm [bar]
    2.1
    """
    for name, value in (("bore", bore), ("density", density), ("viscosity", viscosity)):
        if not (math.isfinite(value) and value > 0.0):
            raise InvalidQuantity(name, value, "above 0")
    area = math.pi / 4.0 * bore * bore
    square = density / (2.0 * (DISCHARGE * area) ** 2)
    turns_at = _HOLE_TURNS_AT * viscosity / (density * bore) * area
    return Resistance(square * turns_at / many, square=square / many**2)


def bend_loss(angle: float, radius: float, bore: float) -> float:
    """Loss coefficient of a bend in a round line [-].

    Parameters
    ----------
    angle : float
        [rad]
    radius, bore : float
        Of its middle line, of the line [m].

    References
    ----------
    `fluids.fittings.bend_rounded`, the method of W. M. Rennels, for turbulent flow in a smooth
    line.

    Examples
    --------
    >>> 0.1 < bend_loss(math.pi / 2, 0.045, 0.019) < 0.35
    True
    """
    from fluids.fittings import bend_rounded  # noqa: PLC0415

    tight = max(radius, 0.5 * bore * 1.001)
    return float(
        bend_rounded(Di=bore, angle=math.degrees(angle), fd=0.03, rc=tight, method="Rennels")
    )
