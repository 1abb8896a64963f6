"""How far the pan is from the ground."""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.document.build import Build
from bilge_core.pan import Pan
from bilge_core.physics.axes import standing_up


@dataclass(frozen=True)
class GroundClearance:
    """The gap under the pan's lowest corner, car standing on level ground.

    gap : float [m], negative when it would stand in the ground
    at : tuple of float
        The corner in the engine's frame [m].
    margin : float or None
        Gap less what is wanted [m].
    """

    gap: float
    at: tuple[float, float, float]
    margin: float | None


def ground_clearance(build: Build, pan: Pan) -> GroundClearance | None:
    """The smallest gap between pan and ground.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.

    Returns
    -------
    GroundClearance or None
        None when the rail's height above the ground is not known.

    Notes
    -----
    Of the pan's inside: the sheet, a drain plug and the car's roll, dive and springs come off it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> gap = ground_clearance(build, assemble_pan(build))
    >>> round(gap.gap * 1e3), round(gap.margin * 1e3)
    (58, 13)
    """
    height = build.car.rail_height_mm
    if height is None:
        return None
    up = standing_up(build.car)
    heights = pan.solid.vertices @ up
    lowest = int(heights.argmin())
    gap = height * 1e-3 + float(heights[lowest])
    wanted = build.car.least_ground_mm
    x, y, z = pan.solid.vertices[lowest].tolist()
    return GroundClearance(gap, (x, y, z), None if wanted is None else gap - wanted * 1e-3)
