"""Reads of studies, always within a workshop."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.options.ladder import BASE
from bilge_core.options.search import LABELS, What, best_of, found_at, grid_of
from bilge_core.tell.options import RUNGS, options_out
from bilge_core.tell.remedies import read_kept
from builds.models import Build
from builds.selectors import build_of
from django.db.models import Sum
from django.utils import timezone
from loads.models import Lap
from runs.felt import felt_in
from runs.models import Run
from shop.selectors import prices_of

from studies.basis import base_key, base_of, document_of, room_left, titles_for
from studies.growth import candidates_of, results_of
from studies.models import Study, StudyTrial
from studies.schemas import OwnOut, PlaceOut, ProgressOut, SearchOut, StudyOut

UNDER_WAY = Study.UNDER_WAY


def latest_of(workshop: Workshop, build_id: int) -> Study | None:
    """The newest study of a build; None where there was none.

    Raises
    ------
    NotFound
        If the build is not the workshop's.
    """
    build = build_of(workshop, build_id)
    return _newest(build, "")


def search_of(workshop: Workshop, build_id: int, what: str) -> Study | None:
    """The newest search of a kind for a build; None where there was none.

    Raises
    ------
    NotFound
    """
    return _newest(build_of(workshop, build_id), what)


def _newest(build: Build, search: str) -> Study | None:
    rows = Study.objects.filter(workshop=build.workshop, build=build, search=search)
    return rows.select_related("state", "build", "workshop").first()


def _laps(study: Study) -> list[Lap]:
    return [each.lap for each in study.over.select_related("lap").defer("lap__samples")]


def _base_reached(study: Study, lap: Lap) -> float:
    """Share of the build's own run over the first lap that is done."""
    key = base_key(study, lap)
    run = Run.objects.filter(workshop=study.workshop, key=key).order_by("-id").first()
    if run is None:
        return 0.0
    if run.status == Run.FINISHED:
        return 1.0
    return min(1.0, run.reached_s / run.lasts_s) if run.lasts_s else 0.0


def _now(study: Study) -> list[str]:
    """What is under way, in words."""
    titles = {each.key: each.title for each in candidates_of(study)} | {BASE: "as it is"}
    running = study.trials.filter(status=StudyTrial.RUNNING)
    return [
        f"{titles.get(row.candidate, row.candidate)}: {RUNGS[row.rung]}"  # type: ignore[index]
        for row in running
    ]


def _progress(study: Study, lap: Lap) -> ProgressOut:
    over = study.trials.filter(status__in=(StudyTrial.DONE, StudyTrial.FAILED))
    ended = study.ended_at or timezone.now()
    begun = study.started_at or study.asked_at
    return ProgressOut(
        status=study.status,  # type: ignore[arg-type]
        reason=study.reason,
        ready=study.candidates is not None,
        base_reached=round(_base_reached(study, lap), 3),
        trials_done=over.count(),
        trials_known=study.trials.count(),
        now=_now(study) if study.status == Study.RUNNING else [],
        cpu_s=round(study.trials.aggregate(all=Sum("cpu_s"))["all"] or 0.0, 1),
        wall_s=round((ended - begun).total_seconds(), 1),
    )


def _titles_of(study: Study) -> dict[str, str]:
    """What remedies that are switched off are called: they are worked out for nothing else."""
    if not study.off:
        return {}
    titles = titles_for(study.state)
    return {key: titles.get(key, key) for key in study.off}


def is_current(study: Study) -> bool:
    """Whether a study is of its build as it stands, over the laps that it is judged by.

    Of the state itself: what is round the pan and the class's rules decide too, though the oil does
    not feel them. What was tried is known by what the oil feels, so trying again runs nothing.
    """
    laps, build = _laps(study), study.build
    judged = set(build.judged_by.values_list("lap_id", flat=True))
    return (
        build.current is not None
        and study.state_id == build.current_id
        and judged == {lap.pk for lap in laps}
        and felt_in(build.current, laps[0]) == study.felt
    )


def search_out(study: Study) -> SearchOut:
    """A search as it crosses the boundary: its grid, and the best place of it so far."""
    what: What = study.search  # type: ignore[assignment]
    results = results_of(study)
    grid = {each.candidate.key: each for each in grid_of(document_of(study.state), what)}
    found = {key: one for key in grid if (one := found_at(key, results)) is not None}
    best = best_of(found) if found else None
    labels = LABELS[what]
    return SearchOut(
        what=what, state=study.state.number, is_current=is_current(study),
        progress=_progress(study, _laps(study)[0]), across_label=labels[0], up_label=labels[1],
        places=[
            PlaceOut(
                key=key, across_mm=each.across, up_mm=each.up, reason=each.candidate.reason,
                dry_s=None if key not in found else round(found[key].dry, 2),
                under_s=None if key not in found else round(found[key].under, 2),
                starts=0 if key not in found else found[key].starts,
                alike=best is not None and key in best.alike,
            )
            for key, each in grid.items()
        ],
        best=None if best is None else best.key,
    )  # fmt: skip


def study_out(study: Study) -> StudyOut:
    """A study as it crosses the boundary."""
    laps = _laps(study)
    options = None
    if study.candidates is not None:
        offered = [read_kept(each) for each in candidates_of(study)]
        options = options_out(
            offered, results_of(study), base_of(study, laps[0]), room_left(study.state),
            prices_of(study.workshop), [lap.name for lap in laps],
            study.status == Study.FINISHED,
        )  # fmt: skip
    return StudyOut(
        id=study.pk, state=study.state.number, is_current=is_current(study),
        laps=[lap.name for lap in laps], off=study.off,
        off_titles=_titles_of(study),
        own=[OwnOut.model_validate({"system": "metric", **each}) for each in study.own],
        progress=_progress(study, laps[0]), options=options,
    )  # fmt: skip
