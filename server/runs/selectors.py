"""Reads of runs, always within a workshop."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from itertools import chain
from typing import Any

from accounts.models import Workshop
from bilge_core.document.reach import names_of_mouths, names_of_openings
from bilge_core.errors import BilgeError
from bilge_core.forecast.moving import moving_name, spread_of_starts
from bilge_core.moving import Fineness
from bilge_core.tell.check import SpreadOut, spread_out
from bilge_core.tell.moving import (
    KeptFigures,
    MovingOut,
    Summary,
    WindageOut,
    moving_out,
    thrown_beside,
    throws_any,
)
from bilge_core.tell.verdict import OverLap, faulty, worst_first
from builds.models import Build
from builds.schemas import RevisionOut
from builds.selectors import build_of, builds_of, document_of, revision_out, state_of
from config.errors import NotFound
from django.db.models import Avg, F, QuerySet
from django.utils import timezone
from forecasts.verdicts import SETTLED_NAME, over_lap, verdict_over
from loads.models import Lap

from runs.felt import felt_in, felt_over
from runs.models import Result, Run
from runs.schemas import (
    KnownOut,
    LatestOut,
    PartialOut,
    RunOut,
    RunsOut,
    SpeedOut,
)
from runs.surfaces import of_run

MOST_RUNS = 100
UNDER_WAY = (Run.WAITING, Run.RUNNING)
_FINEST_FIRST: tuple[Fineness, ...] = ("fine", "bench", "quick")
_GUESSED: dict[Fineness, float] = {"quick": 0.4, "bench": 3.0, "fine": 5.0}
"""Seconds a second of a lap takes, until this machine has run one."""


def _runs(workshop: Workshop) -> QuerySet[Run]:
    return (
        Run.objects.filter(workshop=workshop)
        .select_related("build__current", "build__lap", "state__revision", "lap", "result")
        .defer(
            "lap__samples",
            "build__lap__samples",
            "result__frames",
            "result__figures",
            "state__document",
        )
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


_TOLD_FROM = 0.03
"""Share of a lap before which its pace is that of getting ready (ours: from 3 % on it is within a
third of the end's)."""


def _left(run: Run) -> float | None:
    """Seconds a run under way will still take, by its own pace so far."""
    if run.status != Run.RUNNING or run.started_at is None:
        return None
    if run.reached_s < _TOLD_FROM * run.lasts_s:
        return None
    spent = (timezone.now() - run.started_at).total_seconds()
    return round(max(0.0, spent * (run.lasts_s / run.reached_s - 1.0)), 1)


def _revision(run: Run) -> RevisionOut | None:
    named = getattr(run.state, "revision", None)
    return revision_out(named) if named else None


def run_out(run: Run, felt: Collection[str] | None = None) -> RunOut:
    """A run as it crosses the boundary; `felt`: in its build now, worked out when not given.

    It is of its build as it stands when it is over any lap that the build is judged by.
    """
    now = felt_over(run.build) if felt is None else felt
    result = run.result
    return RunOut(
        id=run.pk,
        build_id=run.build_id,
        build_name=run.build.name,
        state=run.state.number,
        revision=_revision(run),
        is_current=run.felt in now,
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
        summary=Summary.model_validate(result.summary) if result else None,
        asked_at=run.asked_at,
        ended_at=run.ended_at,
    )


def speeds_of(workshop: Workshop) -> list[SpeedOut]:
    """What a second of a lap takes in each size of cell, by the workshop's last runs."""
    rows = Result.objects.filter(workshop=workshop).values_list("runs__cells")
    known = dict(rows.annotate(pace=Avg(F("wall_s") / F("runs__lasts_s"))))
    paces = {cells: known.get(cells) for cells in reversed(_FINEST_FIRST)}
    return [
        SpeedOut(
            cells=cells,
            wall_s_per_s=round(pace, 3) if pace else _GUESSED[cells],
            measured=pace is not None,
        )
        for cells, pace in paces.items()
    ]


def runs_of(workshop: Workshop) -> RunsOut:
    """The newest runs of a workshop."""
    runs = list(_runs(workshop)[:MOST_RUNS])
    builds = {run.build_id: run.build for run in runs}
    felt = {key: felt_over(build) for key, build in builds.items()}
    return RunsOut(
        runs=[run_out(run, felt[run.build_id]) for run in runs], speeds=speeds_of(workshop)
    )


def _named(kept: KeptFigures, document: dict[str, Any]) -> KeptFigures:
    """The same with the builder's names of mouths and openings, which a run knows by place."""
    names, drawn = names_of_openings(document), names_of_mouths(document)
    mouths = [
        mouth.model_copy(update={"name": drawn.get(mouth.name, mouth.name)})
        for mouth in kept.mouths
    ]
    samples = kept.samples
    gates = {names.get(key, key): share for key, share in samples.gates_open.items()}
    passed = {names.get(key, key): litres for key, litres in kept.passed_l.items()}
    named = samples.model_copy(update={"gates_open": gates})
    return kept.model_copy(update={"passed_l": passed, "samples": named, "mouths": mouths})


def figures_kept(run: Run) -> KeptFigures:
    """What is kept of a finished run.

    Raises
    ------
    NotFound
        If it has no result, or that has gone meanwhile.
    """
    found = Result.objects.filter(pk=run.result_id or 0).values_list("figures", flat=True).first()
    if found is None:
        raise NotFound("result of this run")
    return KeptFigures.model_validate(found)


def figures_of_run(workshop: Workshop, run_id: int, state: int | None = None) -> MovingOut:
    """What a finished run gave, plates and openings named as in a state of its build.

    Without one they are named as in the state that it was asked for on.

    Raises
    ------
    NotFound
        If the run has no result, or its build no such state.
    """
    run = run_of(workshop, run_id)
    named_by = run.state if state is None else state_of(workshop, run.build_id, state)
    return moving_out(_named(figures_kept(run), named_by.document))


def frames_of_run(workshop: Workshop, run_id: int) -> bytes:
    """The moving oil of a finished run on record, see `bilge_core.moving.record`.

    Raises
    ------
    NotFound
        If the run has no result.
    """
    result_id = run_of(workshop, run_id).result_id
    if result_id is None:
        raise NotFound("result of this run")
    return bytes(Result.objects.values_list("frames", flat=True).get(pk=result_id))


def _finest(runs: Iterable[Run]) -> dict[str, Run]:
    """Of finished runs the finest for each thing felt."""
    finest: dict[str, Run] = {}
    for run in runs:
        held = finest.setdefault(run.felt, run)
        if _FINEST_FIRST.index(run.cells) < _FINEST_FIRST.index(held.cells):
            finest[run.felt] = run
    return finest


def known_over(workshop: Workshop, felt: Collection[str]) -> dict[str, Run]:
    """The finest finished run for each thing felt."""
    return _finest(_runs(workshop).filter(status=Run.FINISHED, seed=0, felt__in=list(felt)))


def _usual(runs: Iterable[Run]) -> Iterable[Run]:
    """Finished ones, begun as usual."""
    return (run for run in runs if run.status == Run.FINISHED and run.seed == 0)


def _over_laps(build: Build, felt: Mapping[str, Lap], known: Mapping[str, Run]) -> list[OverLap]:
    """Verdicts over the laps a build is judged by, the worst first; settled where none is known.

    Settled verdicts are those given before or given now: they take hundredths of a second.
    """
    document = document_of(build)

    def told(key: str, lap: Lap) -> OverLap:
        run = known.get(key)
        if run is not None and run.result is not None:
            name = moving_name(run.cells)  # type: ignore[arg-type]
            verdict = Summary.model_validate(run.result.summary).verdict
            return over_lap(build, document, lap, verdict, name, of_run(run))
        try:
            verdict = verdict_over(build, document, lap)
        except BilgeError as error:  # one faulty build must not hide the others
            verdict = faulty(str(error))
        return over_lap(build, document, lap, verdict, SETTLED_NAME)

    return worst_first([told(key, lap) for key, lap in felt.items()])


def over_laps(build: Build) -> list[OverLap]:
    """The verdicts over all laps that a build is judged by, the worst first."""
    felt = felt_over(build)
    return _over_laps(build, felt, known_over(build.workshop, felt))


def known_of(workshop: Workshop) -> list[KnownOut]:
    """What is known in moving oil of each build of a workshop as it stands."""
    felt = {build: felt_over(build) for build in builds_of(workshop)}
    known = known_over(workshop, [key for over in felt.values() for key in over])
    return [
        KnownOut(build_id=build.pk, over=_over_laps(build, over, known))
        for build, over in felt.items()
        if any(key in known for key in over)
    ]


def _starts(runs: Iterable[Run], cells: str) -> SpreadOut | None:
    """Dry times of the starts there are, when there is more than one."""
    finished = (run for run in runs if run.status == Run.FINISHED and run.cells == cells)
    told = {run.seed: run.result.summary for run in finished if run.result}
    if len(told) < 2:
        return None
    dry = [told[seed]["dry_s"] for seed in sorted(told)]
    under = [told[seed]["verdict"].get("under_s") or 0.0 for seed in sorted(told)]
    return spread_out(spread_of_starts(dry, under))


def finished_of(build: Build, felt: str) -> Run | None:
    """The finest finished run of a build of all that the oil feels, begun as usual."""
    return _finished(_runs(build.workshop).filter(build=build, felt=felt, status=Run.FINISHED))


def _finished(runs: Iterable[Run]) -> Run | None:
    kept = [run for run in _usual(runs) if run.result is not None]
    return min(kept, key=lambda run: _FINEST_FIRST.index(run.cells), default=None)


_LOOKED_BACK = 12
"""Runs of other states that are looked at for one to show a preview on (ours)."""


def others_of(build: Build, lap: Lap) -> list[Run]:
    """The newest finished runs of a build's other states over a lap, made by today's code."""
    runs = (
        _runs(build.workshop)
        .filter(build=build, lap=lap, status=Run.FINISHED, seed=0, result__isnull=False)
        .defer(None)
        .defer("lap__samples", "build__lap__samples", "result__frames", "result__figures")
    )
    seen: dict[str, Run] = {}
    for run in runs[: 4 * _LOOKED_BACK]:
        seen.setdefault(run.felt, run)
    found = list(seen.values())[:_LOOKED_BACK]
    return [run for run in found if run.felt == felt_in(run.state, lap)]


_LOOKED_AT = 5  # of the newest runs: older ones may not tell it


def _thrown_beside(build: Build, finished: Run) -> str:
    """What the crank throws beside the newest other run of its lap and cells.

    Of this build first, then of another whose crank throws any.
    """
    mine = _windage_of(finished)
    over = _runs(build.workshop).filter(status=Run.FINISHED, lap=finished.lap, cells=finished.cells)
    own, others = over.filter(build=build).exclude(felt=finished.felt), over.exclude(build=build)
    for run in chain(own[:_LOOKED_AT], others[:_LOOKED_AT]) if mine else ():
        other = _windage_of(run)
        is_own = run.build_id == build.pk
        if mine and other and (is_own or throws_any(other)):
            named = _revision(run)
            name = f"R{named.number} {named.name}" if named else f"state {run.state.number}"
            return thrown_beside(mine, other, name if is_own else f"{run.build.name}, {name}")
    return ""


def _windage_of(run: Run) -> WindageOut | None:
    """What the crank throws in a run; None where it does not tell."""
    return Summary.model_validate(run.result.summary).windage if run.result else None


def latest_of(workshop: Workshop, build_id: int) -> LatestOut:
    """The runs of a build as it stands over its lap.

    Raises
    ------
    NotFound
        If the build is not the workshop's.
    """
    build = build_of(workshop, build_id)
    # what the oil cannot tell from the build as it stands counts as that
    felt = felt_over(build)
    shown = felt_in(build.current, build.lap) if build.current and build.lap else "no lap"
    # this is asked twice a second while a run is under way: all that is looked at comes in one read
    rows = list(_runs(workshop).filter(felt__in=[*felt, shown]))
    mine = [run for run in rows if run.build_id == build.pk]
    runs = [run for run in mine if run.felt == shown]
    # the one that runs comes before those that wait, and these in their order
    under_way = sorted(
        (run for run in runs if run.status in UNDER_WAY), key=lambda run: (run.status, run.pk)
    )
    finished = _finished(runs)
    last = runs[0] if runs else None
    return LatestOut(
        over=_over_laps(build, felt, _finest(_usual(rows))),
        elsewhere=sum(
            run.status in UNDER_WAY and run.felt in felt and run.lap_id != build.lap_id
            for run in mine
        ),
        failed=run_out(last, felt) if last and last.status == Run.FAILED else None,
        speeds=speeds_of(workshop),
        under_way=run_out(under_way[0], felt) if under_way else None,
        queued=max(0, len(under_way) - 1),
        finished=run_out(finished, felt) if finished else None,
        starts=_starts(runs, finished.cells) if finished else None,
        thrown=_thrown_beside(build, finished) if finished else "",
    )


def somebody_waits() -> bool:
    """Whether a run waits for a worker."""
    return Run.objects.filter(status=Run.WAITING).exists()
