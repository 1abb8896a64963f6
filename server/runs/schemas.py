"""Runs as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from builds.schemas import RevisionOut
from forecasts.schemas import DipOut, VerdictOut
from ninja import Field, Schema

Cells = Literal["quick", "bench", "fine"]
Status = Literal["waiting", "running", "finished", "cancelled", "failed"]


class StartsIn(Schema):
    """How many starts of a build as it stands are wanted, the first among them."""

    build_id: int
    cells: Cells = "quick"
    count: int = Field(default=5, ge=2, le=9)


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


class Summary(Schema):
    """What a run gave, in short."""

    verdict: VerdictOut
    dry_s: float
    least_cover_mm: float
    crank_in_oil_s: float


class RunOut(Schema):
    """One run."""

    id: int
    build_id: int
    build_name: str
    state: int
    revision: RevisionOut | None
    is_current: bool
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
    summary: Summary | None
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


class KeptFigures(Summary):
    """What a run gave, as it is kept."""

    cells: Cells
    duration_s: float
    draws_air_s: float
    least_cover_at_s: float
    dips: list[DipOut]
    passed_l: dict[str, float]
    samples: MovingSamplesOut


class MovingOut(KeptFigures):
    """What a run gave, with the model's name and what it leaves out."""

    model: str
    note: str


class KnownOut(Schema):
    """What the finest run of a build as it stands gave, and in which model."""

    build_id: int
    model: str
    summary: Summary


class StartsOut(Schema):
    """Dry time over starts that differ a little: mean and the sample's deviation."""

    dry_s: list[float]
    mean_s: float
    deviation_s: float


class LatestOut(Schema):
    """The runs of a build as it stands: under way, the finest finished, a last one that failed.

    `queued` waits behind the one under way; `starts` are those of the finest finished.
    """

    under_way: RunOut | None
    queued: int
    finished: RunOut | None
    starts: StartsOut | None
    failed: RunOut | None
    speeds: list[SpeedOut]
