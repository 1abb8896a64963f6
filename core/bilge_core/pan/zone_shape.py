"""A zone of the pan in SI: what it is made of."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely import Polygon

from bilge_core.pan.solid import Prism, height_on


@dataclass(frozen=True)
class ZoneShape:
    """One zone in SI.

    name : str
    prism : Prism, all of it, or its core when its walls lean
    is_open : whether it is open up to the rail
    wedges : prisms under its leaning walls, or beside the first of a surface
    plan : its outline where its floor is a surface of triangles
    is_smooth : such a floor has one depth everywhere: no step, no wall within its outline
    """

    name: str
    prism: Prism
    is_open: bool
    wedges: tuple[Prism, ...] = ()
    plan: Polygon | None = None
    is_smooth: bool = False

    @property
    def is_surface(self) -> bool:
        """Its floor is a surface of triangles."""
        return self.plan is not None

    @property
    def prisms(self) -> tuple[Prism, ...]:
        """All that it is made of."""
        return (self.prism, *self.wedges)

    @property
    def outline(self) -> Polygon:
        """In plan, leaning walls and all [m]."""
        if self.plan is not None:
            return self.plan
        if not self.wedges:
            return self.prism.outline
        grown = shapely.union_all([prism.outline for prism in self.prisms], grid_size=1e-9)
        assert isinstance(grown, Polygon)
        return shapely.orient_polygons(grown)

    def floor_near(self, x: float, y: float) -> float:
        """Height of its floor at a place on its edge [m]."""
        if not self.wedges:
            return float(height_on(self.prism.floor, x, y))
        near = min(self.prisms, key=lambda prism: prism.outline.distance(shapely.Point(x, y)))
        return float(height_on(near.floor, x, y))
