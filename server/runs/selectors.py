"""Reads of runs, always within a workshop."""

from __future__ import annotations

from accounts.models import Workshop
from builds.selectors import build_of
from config.errors import NotFound
from django.db.models import Avg, F, QuerySet
from django.utils import timezone

from runs.models import Result, Run
from runs.schemas import Cells, LatestOut, MovingOut, PartialOut, RunOut, RunsOut, SpeedOut

MOST_RUNS = 100
_FINEST_FIRST: tuple[Cells, ...] = ("fine", "bench", "quick")
_GUESSED: dict[Cells, float] = {"quick": 0.4, "bench": 3.0, "fine": 5.0}
"""Seconds a second of a lap takes, until this machine has run one."""


def _runs(workshop: Workshop) -> QuerySet[Run]:
    return (
        Run.objects.filter(workshop=workshop)
        .select_related("build", "state", "lap", "result")
        .defer("lap__samples", "result__frames", "state__document")
    )


def run_of(workshop: Workshop, run_id: int) -> Run:
    """One run of a workshop.

    Raises
    ------
    NotFound
        If it is not there, or belongs to another workshop.
    """
    run = _runs(workshop).filter(pk=run_id).first()
    if run is None:
        raise NotFound("run")
    return run


def _left(run: Run) -> float | None:
    """Seconds a run under way will still take, by its own pace so far."""
    if run.status != Run.RUNNING or run.started_at is None or run.reached_s <= 0.0:
        return None
    spent = (timezone.now() - run.started_at).total_seconds()
    return round(max(0.0, spent * (run.lasts_s / run.reached_s - 1.0)), 1)


def run_out(run: Run) -> RunOut:
    """A run as it crosses the boundary."""
    result = run.result
    return RunOut(
        id=run.pk,
        build_id=run.build_id,
        build_name=run.build.name,
        state=run.state.number,
        lap_id=run.lap_id,
        lap_name=run.lap.name,
        cells=run.cells,  # type: ignore[arg-type]
        seed=run.seed,
        automatic=run.automatic,
        status=run.status,  # type: ignore[arg-type]
        reason=run.reason,
        attempt=run.attempt,
        reached_s=round(run.reached_s, 2),
        lasts_s=round(run.lasts_s, 2),
        left_s=_left(run),
        partial=PartialOut.model_validate(run.partial) if run.partial else None,
        cpu_s=round(result.cpu_s, 1) if result else None,
        wall_s=round(result.wall_s, 1) if result else None,
        verdict=MovingOut.model_validate(result.figures).verdict if result else None,
        asked_at=run.asked_at,
        ended_at=run.ended_at,
    )


def speeds_of(workshop: Workshop) -> list[SpeedOut]:
    """What a second of a lap takes in each size of cell, by the workshop's last runs."""
    speeds = []
    for cells in reversed(_FINEST_FIRST):
        known = Result.objects.filter(workshop=workshop, runs__cells=cells)
        pace = known.aggregate(pace=Avg(F("wall_s") / F("runs__lasts_s")))["pace"]
        speeds.append(
            SpeedOut(
                cells=cells,
                wall_s_per_s=round(pace, 3) if pace else _GUESSED[cells],
                measured=pace is not None,
            )
        )
    return speeds


def runs_of(workshop: Workshop) -> RunsOut:
    """The newest runs of a workshop."""
    return RunsOut(
        runs=[run_out(run) for run in _runs(workshop)[:MOST_RUNS]], speeds=speeds_of(workshop)
    )


def figures_of_run(workshop: Workshop, run_id: int) -> MovingOut:
    """What a finished run gave.

    Raises
    ------
    NotFound
        If the run has no result.
    """
    result = run_of(workshop, run_id).result
    if result is None:
        raise NotFound("result of this run")
    return MovingOut.model_validate(result.figures)


def frames_of_run(workshop: Workshop, run_id: int) -> bytes:
    """The moving oil of a finished run on record, see `bilge_core.freesurface.frames`.

    Raises
    ------
    NotFound
        If the run has no result.
    """
    result_id = run_of(workshop, run_id).result_id
    if result_id is None:
        raise NotFound("result of this run")
    return bytes(Result.objects.values_list("frames", flat=True).get(pk=result_id))


def latest_of(workshop: Workshop, build_id: int) -> LatestOut:
    """The runs of a build as it stands over its lap.

    Raises
    ------
    NotFound
        If the build is not the workshop's.
    """
    build = build_of(workshop, build_id)
    runs = _runs(workshop).filter(build=build, state=build.current_id, lap=build.lap_id)
    under_way = runs.filter(status__in=(Run.WAITING, Run.RUNNING)).first()
    finished = None
    for cells in _FINEST_FIRST:
        finished = runs.filter(status=Run.FINISHED, cells=cells, seed=0).first()
        if finished is not None:
            break
    last = runs.first()
    return LatestOut(
        failed=run_out(last) if last and last.status == Run.FAILED else None,
        speeds=speeds_of(workshop),
        under_way=run_out(under_way) if under_way else None,
        finished=run_out(finished) if finished else None,
        figures=MovingOut.model_validate(finished.result.figures)
        if finished and finished.result
        else None,
    )
