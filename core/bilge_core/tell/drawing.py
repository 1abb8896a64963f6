"""The pan to draw, in millimetres."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel
from shapely import MultiPoint, Polygon

from bilge_core.document.build import Build
from bilge_core.document.keep_outs import BoxKeepOut, CylinderKeepOut, PlaneKeepOut
from bilge_core.document.plates import Plate, VerticalPlate
from bilge_core.network import held_running
from bilge_core.pan import Pan, PlacedPlate, inside_faces
from bilge_core.pan.sections import Section, cut_pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car, standing_gravity
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.settled import Surface, level_curve, settle
from bilge_core.tell.numbers import Point, Ring, SpacePoint, litres, mm, point, ring, space_points


class CutGateOut(BaseModel):
    """A gate where a section goes through it; it opens toward greater places when `opens` is 1."""

    plate: str
    name: str
    hinge_mm: Point
    edge_mm: Point
    opens: Literal[1, -1]


class SectionOut(BaseModel):
    """A cut: the space below the rail and above it; place along the cut and height [mm].

    `metal_mm`: the sheet round it, each polygon as its rings, outer first.
    """

    at_mm: float
    inside_mm: list[Ring]
    skirt_mm: list[Ring]
    metal_mm: list[list[Ring]]
    plates_mm: list[tuple[Point, Point]]
    gates: list[CutGateOut]


class FaceOut(BaseModel):
    """A flat face of the inside; its right-hand normal points into the space [mm]."""

    kind: Literal["floor", "ceiling", "wall", "skirt"]
    corners_mm: list[SpacePoint]


class GateOut(BaseModel):
    """A gate: the ends of its hinge, then of its lower edge; `opens` is square to the plate."""

    name: str
    leaf: Literal["rubber", "metal"]
    corners_mm: list[SpacePoint]
    opens: SpacePoint


class PlateOut(BaseModel):
    """A plate as pieces, each as its rings, outer first; which side of it the mouth is on."""

    name: str
    kind: Literal["vertical", "horizontal"]
    mouth_side: Literal["left", "right"] | None
    pieces_mm: list[list[list[SpacePoint]]]
    gates: list[GateOut]


class SolidOut(BaseModel):
    """The space that oil can fill, as tetrahedra: four rows of `vertices_mm` each."""

    vertices_mm: list[SpacePoint]
    tetrahedra: list[tuple[int, int, int, int]]


class ZoneOut(BaseModel):
    """A zone in plan; its floor and top as planes ``z = p0 + p1 x + p2 y`` [mm]."""

    name: str
    outline_mm: Ring
    floor: tuple[float, float, float]
    top_mm: float
    is_open: bool
    is_piece: bool
    """One of many of a scanned floor: filled, neither outlined nor named by itself."""


class ScannedZoneOut(BaseModel):
    """A zone whose floor is a surface, as it is outlined and named."""

    name: str
    outline_mm: Ring
    is_open: bool


class MouthOut(BaseModel):
    """The mouth [mm]."""

    x_mm: float
    y_mm: float
    z_mm: float
    half_length_mm: float
    half_width_mm: float
    is_round: bool


class SurfaceOut(BaseModel):
    """A settled surface: ``normal · point = level`` in the engine's frame [mm]."""

    normal: tuple[float, float, float]
    level_mm: float
    cover_mm: float


class AroundOut(BaseModel):
    """The outline of one thing round the pan in each view, engine's frame [mm].

    A plane is a line of two points, or nothing where it is seen face on.
    """

    name: str
    index: int
    plan_mm: Ring
    side_mm: Ring
    front_mm: Ring


class CrankOut(BaseModel):
    """The crank's centreline and swept circle."""

    height_mm: float
    swept_radius_mm: float
    from_x_mm: float
    to_x_mm: float


class EngineHoldsOut(BaseModel):
    """What the engine holds while it runs level, by its circuit, at a crank speed."""

    rpm: int
    total_l: float
    pressed_l: float
    heads_l: float
    thrown_l: float
    coming_back_l: float = 0.0
    learned_l: float = 0.0
    """Up top beyond what the circuit's parts hold, by the track book."""


class DrawingOut(BaseModel):
    """The pan to draw."""

    zones: list[ZoneOut]
    scanned: list[ScannedZoneOut]
    faces: list[FaceOut]
    plates: list[PlateOut]
    solid: SolidOut
    rail_mm: Ring
    side: SectionOut
    front: SectionOut
    mouth: MouthOut
    skirt_height_mm: float
    lean_right_deg: float
    nose_up_deg: float
    nose_points: Literal["front", "rear", "left", "right"]
    standing: SurfaceOut
    oil_in_pan_l: float
    held: EngineHoldsOut
    capacity_to_rail_l: float
    level_curve_l_mm: list[tuple[float, float]]
    around: list[AroundOut]
    crank: CrankOut | None


def _plate(plate: PlacedPlate, measured: Plate, document: Build) -> PlateOut:
    pickup = document.pickup
    return PlateOut(
        name=plate.name,
        kind=plate.kind,
        mouth_side=measured.side_of(pickup.x_mm, pickup.y_mm)
        if isinstance(measured, VerticalPlate)
        else None,
        pieces_mm=[[space_points(edge) for edge in rings] for rings in plate.pieces()],
        gates=[
            GateOut(
                name=gate.name,
                leaf=gate.leaf,
                corners_mm=space_points(gate.corners),
                opens=tuple(gate.opens.round(6).tolist()),
            )
            for gate in plate.gates
        ],
    )


def section_out(section: Section) -> SectionOut:
    """A cut in millimetres."""
    return SectionOut(
        at_mm=mm(section.at),
        inside_mm=[ring(edge) for edge in section.inside],
        skirt_mm=[ring(edge) for edge in section.skirt],
        metal_mm=[[ring(edge) for edge in rings] for rings in section.metal],
        plates_mm=[(point(line[0]), point(line[1])) for line in section.plates],
        gates=[
            CutGateOut(
                plate=gate.plate,
                name=gate.name,
                hinge_mm=point(gate.hinge),
                edge_mm=point(gate.edge),
                opens=1 if gate.opens > 0 else -1,
            )
            for gate in section.gates
        ],
    )


def surface_out(surface: Surface) -> SurfaceOut:
    """A surface in millimetres."""
    x, y, z = (round(float(part), 6) for part in surface.normal)
    return SurfaceOut(normal=(x, y, z), level_mm=mm(surface.level), cover_mm=mm(surface.cover))


def mouth_out(pan: Pan) -> MouthOut:
    """The mouth in millimetres."""
    mouth = pan.mouth
    x, y, z = (mm(part) for part in mouth.centre)
    return MouthOut(
        x_mm=x,
        y_mm=y,
        z_mm=z,
        half_length_mm=mm(mouth.half_length),
        half_width_mm=mm(mouth.half_width),
        is_round=mouth.is_round,
    )


def side_section(pan: Pan) -> SectionOut:
    """The side section through the mouth."""
    return section_out(cut_pan(pan, "y", float(pan.mouth.centre[1])))


def standing_surface(pan: Pan, document: Build) -> Surface:
    """The oil with the car at rest on level ground."""
    return settle(pan, standing_gravity(document.car))


_LONG = 3.0  # [m] how far a plane is drawn
_VIEWS = ((0, 1), (0, 2), (1, 2))  # plan, side, front


def _corners_of(keep_out: BoxKeepOut | CylinderKeepOut) -> Array:
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
    return ring(np.asarray(hull.exterior.coords)[:-1]) if isinstance(hull, Polygon) else []


def _plane_line(keep_out: PlaneKeepOut, turn: Array, view: tuple[int, int]) -> Ring:
    """Where a plane is seen on edge in a view: its line; nothing where it is seen otherwise."""
    normal = turn.T[:, keep_out.axis]  # in the engine's frame
    seen = normal[list(view)]
    if np.linalg.norm(seen) < 0.7:
        return []
    foot = normal * keep_out.at_mm * 1e-3
    along = np.array([-seen[1], seen[0]]) / np.linalg.norm(seen)
    middle = foot[list(view)]
    return ring(np.array([middle - _LONG * along, middle + _LONG * along]))


def _around(document: Build) -> list[AroundOut]:
    rows = []
    for index, keep_out in enumerate(document.car.keep_outs):
        turn = engine_to_car(document.car) if keep_out.frame == "car" else np.eye(3)
        if isinstance(keep_out, PlaneKeepOut):
            plan, side, front = (_plane_line(keep_out, turn, view) for view in _VIEWS)
        else:
            points = _corners_of(keep_out) @ turn
            plan, side, front = (_silhouette(points, view) for view in _VIEWS)
        rows.append(
            AroundOut(name=keep_out.name, index=index, plan_mm=plan, side_mm=side, front_mm=front)
        )
    return rows


def _held(document: Build) -> EngineHoldsOut:
    held = held_running(document)
    return EngineHoldsOut(
        rpm=round(float(rpm_of_speed(held.speed))),
        total_l=litres(held.total, 2),
        pressed_l=litres(held.pressed, 2),
        heads_l=litres(held.up_top, 2),
        thrown_l=litres(held.thrown, 2),
        coming_back_l=litres(held.coming_back, 2),
        learned_l=litres(held.learned, 2),
    )


def drawing_out(pan: Pan, document: Build) -> DrawingOut:
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
            outline_mm=ring(np.asarray(prism.outline.exterior.coords)[:-1]),
            # a plane's slopes have no unit: only its height is in millimetres
            floor=(mm(prism.floor[0]), round(prism.floor[1], 6), round(prism.floor[2], 6)),
            top_mm=mm(prism.top[0]),
            is_open=zone.is_open, is_piece=zone.is_surface,
        )
        for zone, prism, name in cells
    ]  # fmt: skip
    scanned = [
        ScannedZoneOut(
            name=zone.name, outline_mm=ring(np.asarray(zone.plan.exterior.coords)[:-1]),
            is_open=zone.is_open,
        )
        for zone in pan.zones
        if zone.plan is not None
    ]  # fmt: skip
    curve = level_curve(pan, standing_gravity(document.car))
    pairs = zip(curve.volumes, curve.heights, strict=True)
    return DrawingOut(
        zones=zones,
        scanned=scanned,
        faces=[FaceOut(kind=f.kind, corners_mm=space_points(f.corners)) for f in inside_faces(pan)],
        plates=[
            _plate(placed, measured, document)
            for placed, measured in zip(pan.plates, document.pan.plates, strict=True)
        ],
        solid=SolidOut(
            vertices_mm=space_points(pan.solid.vertices), tetrahedra=pan.solid.tetrahedra.tolist()
        ),
        rail_mm=ring(np.asarray(pan.rail.exterior.coords)[:-1]),
        side=side_section(pan),
        front=section_out(cut_pan(pan, "x", float(pan.mouth.centre[0]))),
        mouth=mouth_out(pan),
        skirt_height_mm=mm(pan.skirt_height),
        lean_right_deg=document.car.lean_right_deg,
        nose_up_deg=document.car.nose_up_deg,
        nose_points=document.car.nose_points,
        standing=surface_out(standing_surface(pan, document)),
        oil_in_pan_l=litres(pan.oil_volume),
        held=_held(document),
        capacity_to_rail_l=litres(pan.capacity_to_rail),
        level_curve_l_mm=[(litres(v), mm(h)) for v, h in pairs],
        around=_around(document),
        crank=CrankOut(**document.car.crank.model_dump()) if document.car.crank else None,
    )
