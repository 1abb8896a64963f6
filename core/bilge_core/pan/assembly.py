"""From a build document to the pan as a solid with its mouth and its oil."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from bilge_core.document.build import Build
from bilge_core.document.floors import FlatFloor, RampFloor, SurfaceFloor
from bilge_core.document.pan import Zone
from bilge_core.document.pickup import RoundMouth
from bilge_core.document.remembered import all_but_its_name, remembered
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan.draft import drafted_prisms
from bilge_core.pan.filling import oil_in_pan
from bilge_core.pan.plates import PlacedPlate, place_plates
from bilge_core.pan.solid import Plane, Prism, Solid, height_on, ramp_plane, solid_from_prisms
from bilge_core.pan.surface import surface_prisms
from bilge_core.pan.zone_shape import ZoneShape
from bilge_core.pickup.mouth import Mouth
from bilge_core.rules.mouth import gap_words

_TOUCH = 1e-3  # [m] of shared edge and of opening height that make two zones one vessel
_HAIRLINE = 0.1e-3  # [m] of gap between outlines that is none
_SLACK = 0.05e-3  # [m] by which outlines may overlap: drawing accuracy


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

    @property
    def plan(self) -> shapely.Geometry:
        """All zones in plan, side boxes too, hairline gaps between them closed [m]."""
        return shapely.union_all(
            [zone.outline.buffer(_HAIRLINE, join_style="mitre") for zone in self.zones]
        )

    def zone_at(self, x: float, y: float) -> int | None:
        """Which zone has the deepest floor at a place in plan [m], or None outside."""
        point = shapely.Point(x, y)
        heights = [
            (float(height_on(prism.floor, x, y)), index)
            for index, zone in enumerate(self.zones)
            for prism in zone.prisms
            if prism.outline.covers(point)
        ]
        return min(heights)[1] if heights else None

    def floor_at(self, x: float, y: float) -> float | None:
        """Height [m] of the deepest floor at a place in plan, below the rail negative, or None."""
        point = shapely.Point(x, y)
        heights = [
            float(height_on(prism.floor, x, y))
            for zone in self.zones
            for prism in zone.prisms
            if prism.outline.covers(point)
        ]
        return min(heights) if heights else None


def _metres(polygon: Polygon) -> Polygon:
    return shapely.orient_polygons(
        shapely.transform(polygon, lambda points: np.round(points * 1e-3, 9))
    )


def _scanned(
    zone: Zone, floor: SurfaceFloor, outline: Polygon, index: int
) -> tuple[ZoneShape, list[Problem]]:
    """A zone over a surface: the largest of its pieces, and the others as wedges beside it."""
    ceiling = 0.0 if zone.ceiling_depth_mm is None else -zone.ceiling_depth_mm * 1e-3
    prisms = surface_prisms(floor, outline, ceiling)
    smooth = len({(x, y) for x, y, _ in floor.places_mm}) == len(floor.places_mm)
    shape = ZoneShape(zone.name, prisms[0], ceiling == 0.0, prisms[1:], outline, smooth)
    if -floor.shallowest_mm * 1e-3 < ceiling - 1e-4:
        return shape, []
    words = (
        f"the ceiling of {zone.name} must be above its floor, which is "
        f"{floor.shallowest_mm:.0f} mm below the rail at its shallowest"
    )
    return shape, [Problem(f"pan.zones.{index}.ceiling_depth_mm", words)]


def _floor_plane(zone: Zone, floor: FlatFloor | RampFloor, outline: Polygon) -> Plane:
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
        if isinstance(zone.floor, SurfaceFloor):
            shape, problem = _scanned(zone, zone.floor, outline, index)
            shapes.append(shape)
            problems += problem
            continue
        floor = _floor_plane(zone, zone.floor, outline)
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


def _leaning(outline: Polygon, others: list[Polygon]) -> list[bool]:
    """For each edge of an outline: whether no other zone shares it."""
    corners = np.asarray(outline.exterior.coords)
    return [
        all(
            shapely.LineString([a, b]).intersection(other.buffer(_SLACK)).length < _TOUCH
            for other in others
        )
        for a, b in itertools.pairwise(corners)
    ]


def _with_draft(build: Build, shapes: list[ZoneShape]) -> tuple[list[ZoneShape], list[Problem]]:
    """Zones whose outer walls lean, cut into core and wedges."""
    drafted: list[ZoneShape] = []
    problems: list[Problem] = []
    for index, (zone, shape) in enumerate(zip(build.pan.zones, shapes, strict=True)):
        if zone.draft_deg == 0.0:
            drafted.append(shape)
            continue
        outline = shape.prism.outline
        others = [other.prism.outline for other in shapes if other is not shape]
        try:
            core, wedges = drafted_prisms(
                outline,
                shape.prism.floor,
                shape.prism.top[0],
                _leaning(outline, others),
                math.radians(zone.draft_deg),
            )
        except InvalidQuantity as error:
            problems.append(Problem(f"pan.zones.{index}.draft_deg", f"must be {error.requirement}"))
            drafted.append(shape)
            continue
        drafted.append(ZoneShape(shape.name, core, shape.is_open, wedges))
    return drafted, problems


def _opening_height(one: ZoneShape, other: ZoneShape) -> float:
    """Height [m] of the opening where two zones share an edge; negative when there is none."""
    shared = shapely.intersection(
        one.outline.buffer(_SLACK, join_style="mitre"), other.outline.boundary
    )
    if shared.length < _TOUCH:
        return -1.0
    place = shared.centroid
    floors = [z.floor_near(place.x, place.y) for z in (one, other)]
    return min(one.prism.top[0], other.prism.top[0]) - max(floors)


def _layout_problems(shapes: list[ZoneShape]) -> list[Problem]:
    problems: list[Problem] = []
    for index, one in enumerate(shapes):
        for other in shapes[:index]:
            overlap = one.outline.intersection(other.outline)
            if overlap.area > _SLACK * max(_TOUCH, overlap.length):
                problems.append(
                    Problem(
                        f"pan.zones.{index}.outline_mm",
                        f"{one.name} lies over {other.name} by {overlap.area * 1e4:.1f} cm²; "
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
        [zone.outline.buffer(_SLACK, join_style="mitre") for zone in shapes if zone.is_open]
    )
    rail = shapely.simplify(grown.buffer(-_SLACK, join_style="mitre"), 1e-6)
    if isinstance(rail, MultiPolygon) or rail.is_empty:
        return None
    return shapely.orient_polygons(rail)


def _mouth(build: Build, pan_floor: float) -> Mouth:
    pickup = build.pickup
    centre = np.array([pickup.x_mm * 1e-3, pickup.y_mm * 1e-3, pan_floor + pickup.gap_mm * 1e-3])
    along, across = (half * 1e-3 for half in pickup.mouth.half_mm)
    return Mouth(centre, along, across, isinstance(pickup.mouth, RoundMouth))


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
                f"({gap_words()})",
            )
        ]
    return []


@remembered(all_but_its_name, most=64)
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
    >>> from bilge_core.document.read import read_build
    >>> from pathlib import Path
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> pan.capacity_to_rail > pan.oil_volume
    True
    """
    shapes, problems = _zone_shapes(build)
    problems += _layout_problems(shapes)
    if not problems:
        shapes, problems = _with_draft(build, shapes)
    rail = _rail_outline(shapes)
    if rail is None and not problems:
        problems.append(
            Problem("pan.zones", "at least one zone must be open to the rail, and all in one piece")
        )
    if problems or rail is None:
        raise InvalidInput(problems)
    prisms = [prism for zone in shapes for prism in zone.prisms]
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
