"""From a build document to the pan as a solid with its mouth and its oil."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from bilge_core.build import Build, RoundMouth, Zone
from bilge_core.errors import InvalidInput, Problem
from bilge_core.oil import GRADES, hot_volume_ratio
from bilge_core.pan.mouth import Mouth
from bilge_core.pan.plates import PlacedPlate, place_plates
from bilge_core.pan.solid import Plane, Prism, Solid, height_on, ramp_plane, solid_from_prisms
from bilge_core.quantities import si_from

Array = NDArray[np.float64]

_TOUCH = 1e-3  # [m] of shared edge and of opening height that make two zones one vessel
_SLACK = 0.05e-3  # [m] by which outlines may overlap: drawing accuracy


@dataclass(frozen=True)
class ZoneShape:
    """One zone in SI: its prism, and whether it is open up to the rail."""

    name: str
    prism: Prism
    is_open: bool


@dataclass(frozen=True)
class Pan:
    """The pan, ready to be filled.

    solid : Solid
        Everything below the top of the skirt.
    zones : tuple of ZoneShape
    rail : Polygon
        The outline at the pan rail [m].
    skirt_height : float
        [m]
    mouth : Mouth
    capacity_to_rail : float
        [m3], level on the rail.
    oil_volume : float
        Oil in the pan, running [m3].
    plates : tuple of PlacedPlate
        Drawn; settled oil passes them as if they were not there.
    """

    solid: Solid
    zones: tuple[ZoneShape, ...]
    rail: Polygon
    skirt_height: float
    mouth: Mouth
    capacity_to_rail: float
    oil_volume: float
    plates: tuple[PlacedPlate, ...] = ()

    def zone_at(self, x: float, y: float) -> int | None:
        """Which zone has the deepest floor at a place in plan [m], or None outside."""
        point = shapely.Point(x, y)
        heights = [
            (float(height_on(zone.prism.floor, x, y)), index)
            for index, zone in enumerate(self.zones)
            if zone.prism.outline.covers(point)
        ]
        return min(heights)[1] if heights else None

    def floor_at(self, x: float, y: float) -> float | None:
        """Height [m] of the deepest floor at a place in plan, below the rail negative, or None."""
        zone = self.zone_at(x, y)
        return None if zone is None else float(height_on(self.zones[zone].prism.floor, x, y))


def _metres(polygon: Polygon) -> Polygon:
    return shapely.orient_polygons(
        shapely.transform(polygon, lambda points: np.round(points * 1e-3, 9))
    )


def _floor_plane(zone: Zone, outline: Polygon) -> Plane:
    floor = zone.floor
    if floor.kind == "flat":
        return (-floor.depth_mm * 1e-3, 0.0, 0.0)
    column = 0 if floor.runs == "lengthways" else 1
    return ramp_plane(
        outline,
        lambda points: points[:, column],
        -floor.from_depth_mm * 1e-3,
        -floor.to_depth_mm * 1e-3,
    )


def _zone_shapes(build: Build) -> tuple[list[ZoneShape], list[Problem]]:
    shapes: list[ZoneShape] = []
    problems: list[Problem] = []
    for index, zone in enumerate(build.pan.zones):
        outline = _metres(zone.polygon)
        floor = _floor_plane(zone, outline)
        ceiling = 0.0 if zone.ceiling_depth_mm is None else -zone.ceiling_depth_mm * 1e-3
        corners = np.asarray(outline.exterior.coords)
        shallowest = float(height_on(floor, corners[:, 0], corners[:, 1]).max())
        if shallowest >= ceiling - 1e-4:
            problems.append(
                Problem(
                    f"pan.zones.{index}.ceiling_depth_mm",
                    f"the ceiling of {zone.name} must be above its floor, "
                    f"which is {-shallowest * 1e3:.0f} mm below the rail at its shallowest",
                )
            )
        shapes.append(
            ZoneShape(zone.name, Prism(outline, floor, (ceiling, 0.0, 0.0)), ceiling == 0.0)
        )
    return shapes, problems


def _opening_height(one: ZoneShape, other: ZoneShape) -> float:
    """Height [m] of the opening where two zones share an edge; negative when there is none."""
    shared = shapely.intersection(
        one.prism.outline.buffer(_SLACK, join_style="mitre"), other.prism.outline.boundary
    )
    if shared.length < _TOUCH:
        return -1.0
    place = shared.centroid
    floors = [float(height_on(z.prism.floor, place.x, place.y)) for z in (one, other)]
    return min(one.prism.top[0], other.prism.top[0]) - max(floors)


def _layout_problems(shapes: list[ZoneShape]) -> list[Problem]:
    problems: list[Problem] = []
    for index, one in enumerate(shapes):
        for other in shapes[:index]:
            overlap = one.prism.outline.intersection(other.prism.outline)
            if overlap.area > _SLACK * max(_TOUCH, overlap.length):
                problems.append(
                    Problem(
                        f"pan.zones.{index}.outline_mm",
                        f"{one.name} lies over {other.name} by {overlap.area * 1e4:.1f} cm2; "
                        "zones may share edges but not area",
                    )
                )
    reached, waiting = {0}, [0]
    while waiting:
        here = waiting.pop()
        for index in range(len(shapes)):
            if index not in reached and _opening_height(shapes[here], shapes[index]) > _TOUCH:
                reached.add(index)
                waiting.append(index)
    for index in sorted(set(range(len(shapes))) - reached):
        problems.append(
            Problem(
                f"pan.zones.{index}.outline_mm",
                f"{shapes[index].name} is not open to the zones before it; "
                "let its edge lie on theirs, with an opening between floor and ceiling",
            )
        )
    return problems


def _rail_outline(shapes: list[ZoneShape]) -> Polygon | None:
    """Union of the open zones, hairline gaps of drawing accuracy closed."""
    grown = shapely.union_all(
        [zone.prism.outline.buffer(_SLACK, join_style="mitre") for zone in shapes if zone.is_open]
    )
    rail = shapely.simplify(grown.buffer(-_SLACK, join_style="mitre"), 1e-6)
    if isinstance(rail, MultiPolygon) or rail.is_empty:
        return None
    return shapely.orient_polygons(rail)


def _mouth(build: Build, pan_floor: float) -> Mouth:
    pickup = build.pickup
    centre = np.array([pickup.x_mm * 1e-3, pickup.y_mm * 1e-3, pan_floor + pickup.gap_mm * 1e-3])
    mouth = pickup.mouth
    if isinstance(mouth, RoundMouth):
        return Mouth(centre, mouth.diameter_mm * 0.5e-3, mouth.diameter_mm * 0.5e-3, True)
    return Mouth(centre, mouth.length_mm * 0.5e-3, mouth.width_mm * 0.5e-3, False)


def _mouth_problems(pan: Pan) -> list[Problem]:
    below: list[tuple[float, float, float]] = []
    for x, y, z in pan.mouth.rim():
        floor = pan.floor_at(float(x), float(y))
        if floor is None:
            return [
                Problem(
                    "pickup.x_mm",
                    f"the mouth's edge, {x * 1e3:.0f} mm ahead of the rear face and "
                    f"{y * 1e3:.0f} mm left, is outside the pan; move the mouth or make it smaller",
                )
            ]
        below.append((z - floor, float(x), float(y)))
    clearance, x, y = min(below)
    if clearance < 0.0:
        return [
            Problem(
                "pickup.gap_mm",
                f"the mouth is {-clearance * 1e3:.1f} mm below the floor at {x * 1e3:.0f} mm ahead "
                f"of the rear face, {y * 1e3:.0f} mm left; the gap must clear the floor all round "
                "(common practice is 6.4 to 9.5 mm)",
            )
        ]
    return []


def oil_in_pan(build: Build) -> float:
    """Oil in the pan, running [m3]: what was poured, swollen hot, less what is held elsewhere.

    Raises
    ------
    InvalidInput
        If more oil is away from the pan than there is.

    Examples
    --------
    >>> from bilge_core.build import read_build
    >>> from pathlib import Path
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> 0.002 < oil_in_pan(build) < 0.010
    True
    """
    oil = build.oil
    ratio = hot_volume_ratio(GRADES[oil.grade], si_from(oil.temperature_c, "temperature", "°C"))
    hot = oil.volume_l * ratio
    if oil.away_l >= hot:
        raise InvalidInput(
            [
                Problem(
                    "oil.away_l",
                    f"{oil.away_l:.1f} L away from the pan leaves nothing of {hot:.1f} L (hot); "
                    "pour more oil or check what heads, cooler and filter hold",
                )
            ]
        )
    return (hot - oil.away_l) * 1e-3


def assemble_pan(build: Build) -> Pan:
    """Build the pan's solid, place the mouth and pour the oil.

    Parameters
    ----------
    build : Build

    Returns
    -------
    Pan

    Raises
    ------
    InvalidInput
        With the field named: zones that overlap or are cut off, a mouth below
        the floor or outside the pan, more oil than the engine holds.

    Notes
    -----
    The skirt is the rail's outline carried straight up; the crank and block
    webs that stand in it are left out, so it holds a little more than it does.

    Examples
    --------
    >>> from bilge_core.build import read_build
    >>> from pathlib import Path
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> pan.capacity_to_rail > pan.oil_volume
    True
    """
    shapes, problems = _zone_shapes(build)
    problems += _layout_problems(shapes)
    rail = _rail_outline(shapes)
    if rail is None and not problems:
        problems.append(
            Problem("pan.zones", "at least one zone must be open to the rail, and all in one piece")
        )
    if problems or rail is None:
        raise InvalidInput(problems)
    prisms = [zone.prism for zone in shapes]
    capacity = solid_from_prisms(prisms).volume
    height = build.pan.skirt_height_mm * 1e-3
    if height > 0.0:
        prisms.append(Prism(rail, (0.0, 0.0, 0.0), (height, 0.0, 0.0)))
    solid = solid_from_prisms(prisms)
    plates = place_plates(build.pan.plates, prisms)
    oil = oil_in_pan(build)
    if oil > solid.volume:
        raise InvalidInput(
            [
                Problem(
                    "oil.volume_l",
                    f"puts {oil * 1e3:.1f} L in the pan, hot; pan and skirt hold "
                    f"{solid.volume * 1e3:.1f} L (to the rail {capacity * 1e3:.1f} L)",
                )
            ]
        )
    at = (build.pickup.x_mm * 1e-3, build.pickup.y_mm * 1e-3)
    empty = Mouth(np.zeros(3), 0.0, 0.0, True)
    pan = Pan(solid, tuple(shapes), rail, height, empty, capacity, oil)
    floor = pan.floor_at(*at)
    if floor is None:
        raise InvalidInput(
            [
                Problem(
                    "pickup.x_mm",
                    f"the mouth's centre, {at[0] * 1e3:.0f} mm ahead of the rear face and "
                    f"{at[1] * 1e3:.0f} mm left, is outside the pan",
                )
            ]
        )
    mouth = _mouth(build, floor)
    placed = Pan(solid, tuple(shapes), rail, height, mouth, capacity, oil, plates)
    if problems := _mouth_problems(placed):
        raise InvalidInput(problems)
    return placed
