"""Forecasts and drawings as they cross the boundary: millimetres, litres, g."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Schema

Ring = list[tuple[float, float]]


class VerdictOut(Schema):
    """The verdict and who gave it. `no_lap` and `faulty` stand where there is no forecast."""

    state: Literal["runs_dry", "draws_air", "sound", "no_lap", "faulty"]
    headline: str
    sentence: str
    dry_s: float | None
    dip_count: int | None


class SectionOut(Schema):
    """A cut: the space below the rail and above it; place along the cut and height [mm]."""

    at_mm: float
    inside_mm: list[Ring]
    skirt_mm: list[Ring]


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


class DrawingOut(Schema):
    """The pan to draw."""

    zones: list[ZoneOut]
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
    hand: Literal["left", "right"]
    start_s: float
    end_s: float


class SamplesOut(Schema):
    """The lap sample by sample; all lists are of one length."""

    time_s: list[float]
    side_g: list[float]
    fore_g: list[float]
    speed_km_h: list[float]
    cover_mm: list[float]
    gas_share: list[float]
    normals: list[tuple[float, float, float]]
    level_mm: list[float]


class RoseOut(Schema):
    """Steady g at which the mouth goes dry, by where oil is thrown; null: holds to the limit."""

    thrown_deg: list[float]
    dry_from_g: list[float | None]
    limit_g: float


class LapForecastOut(Schema):
    """A lap's forecast."""

    lap_name: str
    duration_s: float
    dry_s: float
    draws_air_s: float
    least_cover_mm: float
    least_cover_at_s: float
    dips: list[DipOut]
    corners: list[CornerOut]
    samples: SamplesOut
    line_m: Ring


class SloshOut(Schema):
    """All that the Slosh screen draws for one state of a build."""

    state: int
    model: str
    model_note: str
    verdict: VerdictOut
    drawing: DrawingOut
    rose: RoseOut
    lap: LapForecastOut | None


class ShelfOut(Schema):
    """A build on the shelf, with a small side section."""

    id: int
    name: str
    lap_name: str | None
    changed_at: datetime
    verdict: VerdictOut
    side: SectionOut | None
    mouth: MouthOut | None
    standing: SurfaceOut | None
