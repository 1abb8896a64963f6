"""From the core's metres to the drawing's millimetres."""

from __future__ import annotations

import numpy as np
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.keep_outs import BoxKeepOut, CylinderKeepOut, PlaneKeepOut
from bilge_core.document.plates import Plate, VerticalPlate
from bilge_core.pan import Pan, PlacedPlate, inside_faces
from bilge_core.pan.sections import Section, cut_pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car, standing_gravity
from bilge_core.settled import Surface, level_curve, settle
from shapely import MultiPoint, Polygon

from forecasts.schemas import (
    AroundOut,
    CrankOut,
    CutGateOut,
    DrawingOut,
    FaceOut,
    GateOut,
    MouthOut,
    PlateOut,
    Ring,
    SectionOut,
    SolidOut,
    SurfaceOut,
    ZoneOut,
)


def _mm(metres: float, places: int = 2) -> float:
    return round(float(metres) * 1e3, places)


def _point(place: Array) -> tuple[float, float]:
    return _mm(place[0]), _mm(place[1])


def _ring(points: Array) -> Ring:
    return [_point(place) for place in points]


def _points(points: Array) -> list[tuple[float, float, float]]:
    return [(_mm(x), _mm(y), _mm(z)) for x, y, z in points]


def _plate(plate: PlacedPlate, measured: Plate, document: BuildDocument) -> PlateOut:
    pickup = document.pickup
    return PlateOut(
        name=plate.name,
        kind=plate.kind,
        mouth_side=measured.side_of(pickup.x_mm, pickup.y_mm)
        if isinstance(measured, VerticalPlate)
        else None,
        pieces_mm=[[_points(ring) for ring in rings] for rings in plate.pieces()],
        gates=[
            GateOut(
                name=gate.name,
                leaf=gate.leaf,
                corners_mm=_points(gate.corners),
                opens=tuple(gate.opens.round(6).tolist()),
            )
            for gate in plate.gates
        ],
    )


def section_out(section: Section) -> SectionOut:
    """A cut in millimetres."""
    return SectionOut(
        at_mm=_mm(section.at),
        inside_mm=[_ring(ring) for ring in section.inside],
        skirt_mm=[_ring(ring) for ring in section.skirt],
        metal_mm=[[_ring(ring) for ring in rings] for rings in section.metal],
        plates_mm=[(_point(line[0]), _point(line[1])) for line in section.plates],
        gates=[
            CutGateOut(
                plate=gate.plate,
                name=gate.name,
                hinge_mm=_point(gate.hinge),
                edge_mm=_point(gate.edge),
                opens=1 if gate.opens > 0 else -1,
            )
            for gate in section.gates
        ],
    )


def surface_out(surface: Surface) -> SurfaceOut:
    """A surface in millimetres."""
    x, y, z = (round(float(part), 6) for part in surface.normal)
    return SurfaceOut(normal=(x, y, z), level_mm=_mm(surface.level), cover_mm=_mm(surface.cover))


def mouth_out(pan: Pan) -> MouthOut:
    """The mouth in millimetres."""
    mouth = pan.mouth
    x, y, z = (_mm(part) for part in mouth.centre)
    return MouthOut(
        x_mm=x,
        y_mm=y,
        z_mm=z,
        half_length_mm=_mm(mouth.half_length),
        half_width_mm=_mm(mouth.half_width),
        is_round=mouth.is_round,
    )


def side_section(pan: Pan) -> SectionOut:
    """The side section through the mouth."""
    return section_out(cut_pan(pan, "y", float(pan.mouth.centre[1])))


def standing_surface(pan: Pan, document: BuildDocument) -> Surface:
    """The oil with the car at rest on level ground."""
    return settle(pan, standing_gravity(document.car))


_LONG = 3.0  # [m] how far a plane is drawn
_VIEWS = ((0, 1), (0, 2), (1, 2))  # plan, side, front


def _body_points(keep_out: BoxKeepOut | CylinderKeepOut) -> Array:
    """Points whose hull is the body, in its own frame [m]."""
    low, high = np.array(keep_out.from_mm) * 1e-3, np.array(keep_out.to_mm) * 1e-3
    if isinstance(keep_out, BoxKeepOut):
        grid = np.meshgrid(*zip(low, high, strict=True))
        return np.stack(grid, axis=-1).reshape(-1, 3)
    along = (high - low) / np.linalg.norm(high - low)
    aside = np.cross(along, [0.0, 0.0, 1.0] if abs(along[2]) < 0.9 else [1.0, 0.0, 0.0])
    aside /= np.linalg.norm(aside)
    turns = np.linspace(0.0, 2.0 * np.pi, 33)[:-1, None]
    rim = np.cos(turns) * aside + np.sin(turns) * np.cross(along, aside)
    radius = keep_out.diameter_mm * 0.5e-3
    return np.vstack([low + radius * rim, high + radius * rim])


def _silhouette(points: Array, view: tuple[int, int]) -> Ring:
    hull = MultiPoint(points[:, view]).convex_hull
    return _ring(np.asarray(hull.exterior.coords)[:-1]) if isinstance(hull, Polygon) else []


def _plane_line(keep_out: PlaneKeepOut, turn: Array, view: tuple[int, int]) -> Ring:
    """Where a plane is seen on edge in a view: its line; nothing where it is seen otherwise."""
    normal = turn.T[:, keep_out.axis]  # in the engine's frame
    seen = normal[list(view)]
    if np.linalg.norm(seen) < 0.7:
        return []
    foot = normal * keep_out.at_mm * 1e-3
    along = np.array([-seen[1], seen[0]]) / np.linalg.norm(seen)
    middle = foot[list(view)]
    return _ring(np.array([middle - _LONG * along, middle + _LONG * along]))


def _around(document: BuildDocument) -> list[AroundOut]:
    rows = []
    for index, keep_out in enumerate(document.car.keep_outs):
        turn = engine_to_car(document.car) if keep_out.frame == "car" else np.eye(3)
        if isinstance(keep_out, PlaneKeepOut):
            plan, side, front = (_plane_line(keep_out, turn, view) for view in _VIEWS)
        else:
            points = _body_points(keep_out) @ turn
            plan, side, front = (_silhouette(points, view) for view in _VIEWS)
        rows.append(
            AroundOut(name=keep_out.name, index=index, plan_mm=plan, side_mm=side, front_mm=front)
        )
    return rows


def drawing_out(pan: Pan, document: BuildDocument) -> DrawingOut:
    """All that the three views need."""
    # the wedges under leaning walls come after the zones themselves, which keep their places
    cells = [(zone, zone.prism, zone.name) for zone in pan.zones] + [
        (zone, wedge, f"{zone.name}, wall {number}")
        for zone in pan.zones
        for number, wedge in enumerate(zone.wedges, start=1)
    ]
    zones = [
        ZoneOut(
            name=name,
            outline_mm=_ring(np.asarray(prism.outline.exterior.coords)[:-1]),
            # a plane's slopes have no unit: only its height is in millimetres
            floor=(_mm(prism.floor[0]), round(prism.floor[1], 6), round(prism.floor[2], 6)),
            top_mm=_mm(prism.top[0]),
            is_open=zone.is_open,
        )
        for zone, prism, name in cells
    ]
    curve = level_curve(pan, standing_gravity(document.car))
    pairs = zip(curve.volumes, curve.heights, strict=True)
    return DrawingOut(
        zones=zones,
        faces=[FaceOut(kind=f.kind, corners_mm=_points(f.corners)) for f in inside_faces(pan)],
        plates=[
            _plate(placed, measured, document)
            for placed, measured in zip(pan.plates, document.pan.plates, strict=True)
        ],
        solid=SolidOut(
            vertices_mm=_points(pan.solid.vertices), tetrahedra=pan.solid.tetrahedra.tolist()
        ),
        rail_mm=_ring(np.asarray(pan.rail.exterior.coords)[:-1]),
        side=side_section(pan),
        front=section_out(cut_pan(pan, "x", float(pan.mouth.centre[0]))),
        mouth=mouth_out(pan),
        skirt_height_mm=_mm(pan.skirt_height),
        lean_right_deg=document.car.lean_right_deg,
        nose_up_deg=document.car.nose_up_deg,
        nose_points=document.car.nose_points,
        standing=surface_out(standing_surface(pan, document)),
        oil_in_pan_l=round(pan.oil_volume * 1e3, 3),
        capacity_to_rail_l=round(pan.capacity_to_rail * 1e3, 3),
        level_curve_l_mm=[(round(float(v) * 1e3, 3), _mm(h)) for v, h in pairs],
        around=_around(document),
        crank=CrankOut(**document.car.crank.model_dump()) if document.car.crank else None,
    )
