"""Where oil comes back to the pan: along the skirt, or at a boss."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.ops import nearest_points

from bilge_core.document.build import Build
from bilge_core.moving.domain import Domain
from bilge_core.moving.returns import Returns, returns_at
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array

_PLACES_A_SIDE = 4  # of drain-backs along the skirt (ours, until the engine is drawn)
_INSET = 0.012  # [m] of the drain-backs from the skirt's wall (ours)


def _drain_backs(pan: Pan) -> Array:
    """Places along both sides of the skirt, half way up it or just below the rail without one."""
    inner = pan.rail.buffer(-_INSET)
    outline = pan.rail if inner.is_empty else inner
    low, right, high, left = outline.bounds
    x = np.linspace(low, high, _PLACES_A_SIDE + 2)[1:-1]
    z = 0.5 * pan.skirt_height if pan.skirt_height > 0.0 else -1e-3
    return np.array([[place, side, z] for place in x.tolist() for side in (right, left)])


def _places_of(way: str, build: Build, pan: Pan) -> Array:
    """Where oil comes back by a way: along the skirt, or at a boss."""
    if not way:
        return _drain_backs(pan)
    boss = next(each for each in build.pan.bosses if each.id == way)
    inner = pan.plan.buffer(-_INSET)
    at = shapely.Point(boss.x_mm * 1e-3, boss.y_mm * 1e-3)
    inside = nearest_points(pan.plan if inner.is_empty else inner, at)[0]
    floor = pan.floor_at(inside.x, inside.y)
    height = min(max(-boss.depth_mm * 1e-3, (floor or 0.0) + 5e-3), pan.skirt_height - 1e-3)
    return np.array([[inside.x, inside.y, height]])


def returns_of(
    build: Build, pan: Pan, ways: tuple[str, ...], domain: Domain, portion: float
) -> tuple[Returns, ...]:
    """Where oil comes back by each way; one at a boss on the wall at the nearest place inside.

    Parameters
    ----------
    build : Build
    pan : Pan
    ways : tuple of str
        A boss's id, or nothing for the drain-backs along the skirt.
    domain : Domain
    portion : float
        Of a particle that comes back [m3].

    Returns
    -------
    tuple of Returns
    """
    down = np.array([0.0, 0.0, -1.0])
    return tuple(returns_at(domain, _places_of(way, build, pan), portion, down) for way in ways)
