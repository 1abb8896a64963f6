"""Level of a volume of liquid in a solid under gravity from any side, exactly.

The volume of a tetrahedron below a plane is a piecewise cubic of the plane's
height, so a solid's volume below a level is a sum of them and the level is the
root of a monotone function. Nothing is tabulated or voxelised: the level is
right to rounding, and one solve costs microseconds.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from bilge_core.errors import ConvergenceError, InvalidQuantity
from bilge_core.pan.solid import Solid
from bilge_core.physics.arrays import Array

MOST_STEPS = 200

NO_TILT = 1e-12
"""A part of "up" smaller than this [-] is nil: it lifts no corner by as much as an atom, while
differences of such heights may not be parted by a float at all (ours)."""


@njit(cache=True)
def sorted_heights(vertices, tetrahedra, normal, out):  # type: ignore[no-untyped-def]
    """Each tetrahedron's four corners' heights along `normal`, rising, into `out`."""
    along = normal[0] if abs(normal[0]) > NO_TILT else 0.0
    across = normal[1] if abs(normal[1]) > NO_TILT else 0.0
    up = normal[2] if abs(normal[2]) > NO_TILT else 0.0
    for t in range(tetrahedra.shape[0]):
        for k in range(4):
            row = tetrahedra[t, k]
            height = vertices[row, 0] * along + vertices[row, 1] * across + vertices[row, 2] * up
            place = k
            while place > 0 and out[t, place - 1] > height:
                out[t, place] = out[t, place - 1]
                place -= 1
            out[t, place] = height


@njit(cache=True)
def tetrahedron_below(a, b, c, d, volume, level):  # type: ignore[no-untyped-def]
    """Volume of one tetrahedron below a level, and its derivative; corner heights rise a to d."""
    if level <= a:
        return 0.0, 0.0
    if level >= d:
        return volume, 0.0
    if level < b:  # one corner under: a smaller copy of the corner
        # shares one by one: the product of three hair's breadths may be nil to a float
        rise = level - a
        below = volume * (rise / (b - a)) * (rise / (c - a)) * (rise / (d - a))
        return below, 3.0 * below / rise
    if level < c:  # two corners under: a wedge of three tetrahedra, all terms positive
        ac, ad = (level - a) / (c - a), (level - a) / (d - a)
        bc, bd = (level - b) / (c - b), (level - b) / (d - b)
        rac, rad, rbc, rbd = 1.0 / (c - a), 1.0 / (d - a), 1.0 / (c - b), 1.0 / (d - b)
        share = bc * bd + ac * ad * (1.0 - bd) + ac * (1.0 - bc) * bd
        slope = (
            rbc * bd
            + bc * rbd
            + (rac * ad + ac * rad) * (1.0 - bd)
            - ac * ad * rbd
            + (rac * bd + ac * rbd) * (1.0 - bc)
            - ac * bd * rbc
        )
        return volume * share, volume * slope
    # three corners under: all but the top
    left = d - level
    above = volume * (left / (d - a)) * (left / (d - b)) * (left / (d - c))
    return volume - above, 3.0 * above / left


@njit(cache=True)
def _below(heights, volumes, level):  # type: ignore[no-untyped-def]
    """Volume below a level and its derivative, the surface's area."""
    total = 0.0
    area = 0.0
    for t in range(heights.shape[0]):
        part, slope = tetrahedron_below(
            heights[t, 0], heights[t, 1], heights[t, 2], heights[t, 3], volumes[t], level
        )
        total += part
        area += slope
    return total, area


@njit(cache=True)
def solve_level(vertices, tetrahedra, volumes, normal, volume, guess, heights):  # type: ignore[no-untyped-def]
    """Level along `normal` that has `volume` below it; Newton held inside a bracket."""
    sorted_heights(vertices, tetrahedra, normal, heights)
    low = heights[0, 0]
    high = heights[0, 3]
    whole = 0.0
    for t in range(heights.shape[0]):
        low = min(low, heights[t, 0])
        high = max(high, heights[t, 3])
        whole += volumes[t]
    if volume <= 0.0:
        return low
    if volume >= whole:
        return high
    tolerance = 1e-13 * whole
    level = guess if low < guess < high else 0.5 * (low + high)
    for _ in range(MOST_STEPS):
        below, area = _below(heights, volumes, level)
        residual = below - volume
        if abs(residual) <= tolerance or high - low < 1e-12:
            break
        if residual > 0.0:
            high = level
        else:
            low = level
        step = level - residual / area if area > 0.0 else low
        level = step if low < step < high else 0.5 * (low + high)
    return level


def _unit(normal: Array) -> Array:
    direction = np.asarray(normal, dtype=np.float64)
    length = float(np.linalg.norm(direction))
    if direction.shape != (3,) or not np.isfinite(length) or length == 0.0:
        raise InvalidQuantity("normal", normal, "three finite numbers, not all nil")
    return direction / length


def level_of_volume(solid: Solid, normal: Array, volume: float) -> float:
    """Level at which a volume comes to rest.

    Parameters
    ----------
    solid : Solid
        What holds the liquid.
    normal : ndarray, shape (3,)
        "Up": against apparent gravity. Any length.
    volume : float
        Liquid [m3], from 0 to `solid.volume`.

    Returns
    -------
    float
        Level [m]: the surface is where ``point · up = level``, `up` of length one.

    Raises
    ------
    InvalidQuantity
        If the volume is negative, not finite or more than the solid holds, or
        the normal has no direction.
    ConvergenceError
        If the level is not found; no case of it is known.

    References
    ----------
    Volume of a simplex cut by a plane; see the module's head.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism, solid_from_prisms
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> solid = solid_from_prisms([box])
    >>> round(level_of_volume(solid, np.array([0, 0, 1.0]), 0.005), 6)
    0.052083
    """
    if not np.isfinite(volume) or volume < 0.0 or volume > solid.volume * (1 + 1e-12):
        raise InvalidQuantity("volume", volume, f"0 to {solid.volume:.6f} m3, all that it holds")
    heights = np.empty((len(solid.volumes), 4))
    parts = (solid.vertices, solid.tetrahedra, solid.volumes)
    level = float(solve_level(*parts, _unit(normal), volume, np.nan, heights))
    residual = float(_below(heights, solid.volumes, level)[0]) - volume
    if abs(residual) > 1e-9 * solid.volume:
        raise ConvergenceError("level of a volume", MOST_STEPS, residual)
    return level


def volume_below(solid: Solid, normal: Array, level: float) -> float:
    """Volume [m3] of a solid below a level [m] along a normal; `level_of_volume` turned round.

    Raises
    ------
    InvalidQuantity
        If the level is not a number or the normal has no direction.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism, solid_from_prisms
    >>> solid = solid_from_prisms([Prism(shapely.box(0, 0, 1, 1), (0, 0, 0), (1, 0, 0))])
    >>> round(volume_below(solid, np.array([0, 0, 1.0]), 0.25), 9)
    0.25
    """
    if np.isnan(level):
        raise InvalidQuantity("level", level, "a number")
    heights = np.empty((len(solid.volumes), 4))
    sorted_heights(solid.vertices, solid.tetrahedra, _unit(normal), heights)
    return float(_below(heights, solid.volumes, level)[0])
