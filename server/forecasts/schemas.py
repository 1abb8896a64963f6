"""Forecasts and drawings as they cross the boundary: millimetres, litres, g."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from bilge_core.rules import Fix
from builds.schemas import Part
from ninja import Schema
from pydantic import Field

Point = tuple[float, float]
SpacePoint = tuple[float, float, float]
Ring = list[Point]


class VerdictOut(Schema):
    """The verdict and who gave it. `no_lap` and `faulty` stand where there is no forecast."""

    state: Literal["runs_dry", "draws_air", "sound", "no_lap", "faulty"]
    headline: str
    sentence: str
    dry_s: float | None
    dip_count: int | None


class CutGateOut(Schema):
    """A gate where a section goes through it; it opens toward greater places when `opens` is 1."""

    plate: str
    name: str
    hinge_mm: Point
    edge_mm: Point
    opens: Literal[1, -1]


class SectionOut(Schema):
    """A cut: the space below the rail and above it; place along the cut and height [mm].

    `metal_mm`: the sheet round it, each polygon as its rings, outer first.
    """

    at_mm: float
    inside_mm: list[Ring]
    skirt_mm: list[Ring]
    metal_mm: list[list[Ring]]
    plates_mm: list[tuple[Point, Point]]
    gates: list[CutGateOut]


class FaceOut(Schema):
    """A flat face of the inside; its right-hand normal points into the space [mm]."""

    kind: Literal["floor", "ceiling", "wall", "skirt"]
    corners_mm: list[SpacePoint]


class GateOut(Schema):
    """A gate: the ends of its hinge, then of its lower edge; `opens` is square to the plate."""

    name: str
    leaf: Literal["rubber", "metal"]
    corners_mm: list[SpacePoint]
    opens: SpacePoint


class PlateOut(Schema):
    """A plate as pieces, each as its rings, outer first; which side of it the mouth is on."""

    name: str
    kind: Literal["vertical", "horizontal"]
    mouth_side: Literal["left", "right"] | None
    pieces_mm: list[list[list[SpacePoint]]]
    gates: list[GateOut]


class SolidOut(Schema):
    """The space that oil can fill, as tetrahedra: four rows of `vertices_mm` each."""

    vertices_mm: list[SpacePoint]
    tetrahedra: list[tuple[int, int, int, int]]


class ZoneOut(Schema):
    """A zone in plan; its floor and top as planes ``z = p0 + p1 x + p2 y`` [mm]."""

    name: str
    outline_mm: Ring
    floor: tuple[float, float, float]
    top_mm: float
    is_open: bool


class MouthOut(Schema):
    """The mouth [mm]."""

    x_mm: float
    y_mm: float
    z_mm: float
    half_length_mm: float
    half_width_mm: float
    is_round: bool


class SurfaceOut(Schema):
    """A settled surface: ``normal · point = level`` in the engine's frame [mm]."""

    normal: tuple[float, float, float]
    level_mm: float
    cover_mm: float


class AroundOut(Schema):
    """The outline of one thing round the pan in each view, engine's frame [mm].

    A plane is a line of two points, or nothing where it is seen face on.
    """

    name: str
    index: int
    plan_mm: Ring
    side_mm: Ring
    front_mm: Ring


class CrankOut(Schema):
    """The crank's centreline and swept circle."""

    height_mm: float
    swept_radius_mm: float
    from_x_mm: float
    to_x_mm: float


class DrawingOut(Schema):
    """The pan to draw."""

    zones: list[ZoneOut]
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
    capacity_to_rail_l: float
    level_curve_l_mm: list[tuple[float, float]]
    around: list[AroundOut]
    crank: CrankOut | None


class DipOut(Schema):
    """One dip."""

    rank: int
    start_s: float
    end_s: float
    dry_s: float
    worst_s: float
    cover_mm: float
    load_g: float
    corner: int | None
    hand: Literal["left", "right"] | None
    place: str
    words: str


class CornerOut(Schema):
    """One corner."""

    number: int
    name: str | None
    hand: Literal["left", "right"]
    start_s: float
    end_s: float


class SamplesOut(Schema):
    """The lap sample by sample; all lists are of one length.

    `to_cover_l`: what the pan would have to hold for the mouth to be covered.
    """

    time_s: list[float]
    side_g: list[float]
    fore_g: list[float]
    speed_km_h: list[float]
    cover_mm: list[float]
    gas_share: list[float]
    normals: list[tuple[float, float, float]]
    level_mm: list[float]
    to_cover_l: list[float]
    distance_m: list[float]


class RoseOut(Schema):
    """Steady g at which the mouth goes dry, by where oil is thrown; null: holds to the limit."""

    thrown_deg: list[float]
    dry_from_g: list[float | None]
    limit_g: float


class LapForecastOut(Schema):
    """A lap's forecast; `zones_l` holds for each zone what lies in it, sample by sample."""

    lap_id: int
    lap_name: str
    verdict: VerdictOut
    duration_s: float
    dry_s: float
    draws_air_s: float
    least_cover_mm: float
    least_cover_at_s: float
    dips: list[DipOut]
    corners: list[CornerOut]
    samples: SamplesOut
    zones_l: list[list[float]]
    line_m: Ring


class TiltOut(Schema):
    """The settled oil over a grid of loads, to be interpolated for the load pad.

    Rows go by forward, columns by leftward acceleration, both at `loads_g`. "Up" in the engine's
    frame is ``at_rest + fore_g · per_fore_g + side_g · per_side_g``, and the surface where
    ``point · up`` is the height.
    """

    loads_g: list[float]
    at_rest: tuple[float, float, float]
    per_fore_g: tuple[float, float, float]
    per_side_g: tuple[float, float, float]
    height_mm: list[list[float]]
    to_cover_l: list[list[float]]
    zones_l: list[list[list[float]]]


class HeldOut(Schema):
    """Edges of the rose if what lies in the mouth's zone were all: one for each volume."""

    zone: int
    volumes_l: list[float]
    dry_from_g: list[list[float | None]]


class SloshOut(Schema):
    """All that the Slosh screen draws for one state of a build."""

    state: int
    model: str
    model_note: str
    verdict: VerdictOut
    drawing: DrawingOut
    rose: RoseOut
    held: HeldOut
    tilt: TiltOut
    lap: LapForecastOut | None


class ShelfOut(Schema):
    """A build on the shelf, with a small side section."""

    id: int
    name: str
    lap_name: str | None
    changed_at: datetime
    invented: list[Part]
    verdict: VerdictOut
    side: SectionOut | None
    mouth: MouthOut | None
    standing: SurfaceOut | None


class FillOut(Schema):
    """Oil standing at any fill: level against litres, and which way is up [mm, L]."""

    normal: SpacePoint
    lowest_mm: float
    curve_l_mm: list[Point]


class DipPointOut(Schema):
    """One pour-and-dip point beside the computed level; null beyond what the pan holds."""

    poured_l: float
    dipped_mm: float
    computed_mm: float | None


class ExplanationOut(Schema):
    """A dimension that would explain the mismatch."""

    what: str
    change_mm: float
    rms_mm: float


class CheckOut(Schema):
    """One check of the pan."""

    state: Literal["good", "caution", "bad"]
    words: str
    field: str
    fix: Fix | None
    wanted: str
    """By which rule, in words."""
    source: str


class GroundOut(Schema):
    """The gap under the pan's lowest corner, which is at `at_mm` in the engine's frame."""

    gap_mm: float
    at_mm: SpacePoint
    margin_mm: float | None


class ClearanceOut(Schema):
    """The smallest gap to one keep-out; places in the engine's frame."""

    name: str
    index: int
    gap_mm: float
    wanted_mm: float
    at_mm: tuple[float, float, float]
    to_mm: tuple[float, float, float]


class MarkOut(Schema):
    """A mark of the dipstick, and what stands in the pan at it."""

    name: str
    level_mm: float
    litres: float


class DepthForIn(Schema):
    """A volume to hold to the rail, and the zones that may go down for it."""

    capacity_l: float = Field(gt=0, le=200)
    zones: list[int] = Field(min_length=1, max_length=40)


class DepthForOut(Schema):
    """How much deeper those zones must be."""

    by_mm: float


class PanOut(Schema):
    """What the Pan screen shows beside the drawing."""

    level: FillOut
    in_car: FillOut
    dips: list[DipPointOut]
    rms_mm: float | None
    explanations: list[ExplanationOut]
    checks: list[CheckOut]
    lowest_below_rail_mm: float
    ground: GroundOut | None
    clearances: list[ClearanceOut]
    marks: list[MarkOut]
    at_mark_l: float | None
