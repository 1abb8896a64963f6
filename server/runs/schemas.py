"""Runs as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from forecasts.schemas import DipOut, VerdictOut
from ninja import Field, Schema

Cells = Literal["quick", "bench", "fine"]
Status = Literal["waiting", "running", "finished", "cancelled", "failed"]


class RunIn(Schema):
    """What is to be run: the build as it stands over its lap."""

    build_id: int
    cells: Cells = "quick"
    seed: int = Field(default=0, ge=0, le=1000)
    automatic: bool = False


class PartialOut(Schema):
    """What is known of a run before it is finished."""

    dry_s: float
    dip_count: int
    oil_in_pan_l: float


class RunOut(Schema):
    """One run."""

    id: int
    build_id: int
    build_name: str
    state: int
    lap_id: int
    lap_name: str
    cells: Cells
    seed: int
    automatic: bool
    status: Status
    reason: str
    attempt: int
    reached_s: float
    lasts_s: float
    left_s: float | None
    partial: PartialOut | None
    cpu_s: float | None
    wall_s: float | None
    verdict: VerdictOut | None
    asked_at: datetime
    ended_at: datetime | None


class SpeedOut(Schema):
    """How long a second of a lap takes here, by what this machine's own runs took."""

    cells: Cells
    wall_s_per_s: float
    measured: bool


class RunsOut(Schema):
    """The runs of a workshop, newest first, and what new ones would take."""

    runs: list[RunOut]
    speeds: list[SpeedOut]


class MovingSamplesOut(Schema):
    """What was seen fifty times a second."""

    time_s: list[float]
    cover_mm: list[float]
    gas_share: list[float]
    crank_l: list[float]
    litres: dict[str, list[float]]
    gates_open: dict[str, list[float]]


class MovingOut(Schema):
    """What a run gave."""

    cells: Cells
    note: str
    verdict: VerdictOut
    duration_s: float
    dry_s: float
    draws_air_s: float
    least_cover_mm: float
    least_cover_at_s: float
    crank_in_oil_s: float
    dips: list[DipOut]
    passed_l: dict[str, float]
    samples: MovingSamplesOut


class LatestOut(Schema):
    """The runs of a build as it stands: under way, the finest finished, a last one that failed."""

    under_way: RunOut | None
    finished: RunOut | None
    figures: MovingOut | None
    failed: RunOut | None
    speeds: list[SpeedOut]
