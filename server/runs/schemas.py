"""Runs as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from bilge_core.moving import Fineness
from bilge_core.tell.check import SpreadOut
from bilge_core.tell.differences import DifferenceOut
from bilge_core.tell.moving import Summary, WindageOut
from bilge_core.tell.verdict import OverLap, VerdictOut
from builds.schemas import RevisionOut
from ninja import Field, Schema

Status = Literal["waiting", "running", "finished", "cancelled", "failed"]


class StartsIn(Schema):
    """How many starts of a build as it stands are wanted, the first among them."""

    build_id: int
    cells: Fineness = "quick"
    count: int = Field(default=5, ge=2, le=9)


class RunIn(Schema):
    """What is to be run: the build as it stands over a lap that it is judged by.

    Without a lap it is the one shown. An automatic run brings those over the other laps along.
    """

    build_id: int
    lap_id: int | None = None
    cells: Fineness = "quick"
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
    revision: RevisionOut | None
    is_current: bool
    lap_id: int
    lap_name: str
    cells: Fineness
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

    cells: Fineness
    wall_s_per_s: float
    measured: bool


class RunsOut(Schema):
    """The runs of a workshop, newest first, and what new ones would take."""

    runs: list[RunOut]
    speeds: list[SpeedOut]


class KnownOut(Schema):
    """A build as it stands over all laps it is judged by, where moving oil is known of one.

    `over` has the worst first; where moving oil is not known of a lap, settled oil is told.
    """

    build_id: int
    over: list[OverLap]


class LatestOut(Schema):
    """The runs of a build as it stands: under way, the finest finished, a last one that failed.

    `over` has the verdicts over all laps it is judged by, the worst first, of moving oil where it
    is known. `queued` waits behind the one under way; `starts` are those of the finest finished.
    """

    over: list[OverLap]
    elsewhere: int
    """Runs under way over its other laps."""
    under_way: RunOut | None
    queued: int
    finished: RunOut | None
    starts: SpreadOut | None
    thrown: str
    """What the crank throws beside the newest other run over the lap; empty where none tells."""
    failed: RunOut | None
    speeds: list[SpeedOut]


class SideOut(Schema):
    """One state of two: its figures, and by which model; `verdict` is null without a lap."""

    state: int
    name: str
    oil_l: float
    ground_mm: float | None
    verdict: VerdictOut | None
    model: str
    lowest_bar: float | None
    windage: WindageOut | None
    """Null where no run in moving oil is known, like the lowest pressure."""


class SideBySideOut(Schema):
    """Two states of a build over one lap, and what is to be built to get from one to the other."""

    lap_name: str | None
    sides: list[SideOut]
    thrown: str
    """What the crank throws after, beside before; empty where that is not known of both."""
    differences: list[DifferenceOut]
