"""From the core's metres to the drawing's millimetres."""

from __future__ import annotations

import numpy as np
from bilge_core.build import Build as BuildDocument
from bilge_core.loads.frames import apparent_gravity
from bilge_core.measure import mouth_side
from bilge_core.pan import Pan, PlacedPlate, inside_faces
from bilge_core.pan.sections import Section, cut_pan
from bilge_core.plates import Plate, VerticalPlate
from bilge_core.statics import Surface, level_curve, settle
from numpy.typing import NDArray

from forecasts.schemas import (
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

Array = NDArray[np.float64]


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
        mouth_side=mouth_side(measured, pickup.x_mm, pickup.y_mm)
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
    return settle(pan, apparent_gravity(document.car, 0.0, 0.0))


def drawing_out(pan: Pan, document: BuildDocument) -> DrawingOut:
    """All that the three views need."""
    zones = [
        ZoneOut(
            name=zone.name,
            outline_mm=_ring(np.asarray(zone.prism.outline.exterior.coords)[:-1]),
            # a plane's slopes have no unit: only its height is in millimetres
            floor=(
                _mm(zone.prism.floor[0]),
                round(zone.prism.floor[1], 6),
                round(zone.prism.floor[2], 6),
            ),
            top_mm=_mm(zone.prism.top[0]),
            is_open=zone.is_open,
        )
        for zone in pan.zones
    ]
    gravity = apparent_gravity(document.car, 0.0, 0.0)
    curve = level_curve(pan, gravity)
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
    )
