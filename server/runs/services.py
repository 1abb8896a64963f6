"""Asking for runs, cancelling them, putting lost ones back."""

from __future__ import annotations

from accounts.models import User, Workshop
from bilge_core.errors import InvalidInput, Problem
from builds.models import Build
from builds.selectors import build_of, laps_of
from django.db import transaction
from django.db.models.functions import Now
from loads.models import Lap

from runs import lease
from runs.felt import felt_in, felt_over, result_key
from runs.models import Result, Run
from runs.schemas import RunIn, StartsIn
from runs.selectors import UNDER_WAY, run_of
from runs.tasks import carry_out

MOST_WAITING = 20
"""Of one workshop: a queue longer than this is a mistake."""


def _queue(run_id: int) -> None:
    transaction.on_commit(lambda: carry_out.enqueue(run_id))


def _make_way(build: Build) -> None:
    """Cancel the build's automatic runs of anything but what it is now."""
    runs = Run.objects.filter(build=build, automatic=True, status__in=UNDER_WAY)
    others = runs.exclude(felt__in=list(felt_over(build)))
    lease.end_those(others, Run.CANCELLED, "A newer edit took its place.")


def _lap_for(build: Build, lap_id: int | None) -> Lap:
    laps = laps_of(build)
    if not laps or build.lap is None:
        raise InvalidInput([Problem("build_id", "has no lap to run; import one or make one")])
    if lap_id is None:
        return build.lap
    found = next((lap for lap in laps if lap.pk == lap_id), None)
    if found is None:
        raise InvalidInput([Problem("lap_id", "is no lap that this build is judged by")])
    return found


def _waiting_in(workshop: Workshop) -> int:
    return Run.objects.filter(workshop=workshop, status__in=UNDER_WAY).count()


@transaction.atomic
def ask_for_run(user: User, wanted: RunIn) -> Run:
    """A run of a build as it stands over a lap: the one there is, or a new one.

    A result that is known is served at once; one that is under way is joined, though it was asked
    for on another state that the oil cannot tell from this one. An automatic one is followed by
    those over the other laps that the build is judged by, as far as the queue has room.

    Raises
    ------
    NotFound
        If the build is not the workshop's.
    InvalidInput
        If the build has no such lap, or too many runs wait already.
    """
    build = build_of(user.workshop, wanted.build_id, lock=True)
    lap = _lap_for(build, wanted.lap_id)
    if wanted.automatic:
        _make_way(build)
    run = _run_over(user, build, lap, wanted)
    for other in laps_of(build) if wanted.automatic else []:
        if other.pk != lap.pk and _waiting_in(user.workshop) < MOST_WAITING:
            _run_over(user, build, other, wanted)
    return run


def _run_over(user: User, build: Build, lap: Lap, wanted: RunIn) -> Run:
    """A run of a build, which is held, over a lap.

    Raises
    ------
    InvalidInput
    """
    state = build.current
    assert state is not None
    felt = felt_in(state, lap)
    key = result_key(felt, wanted.cells, wanted.seed)
    runs = Run.objects.filter(workshop=user.workshop, build=build, key=key)
    known = runs.filter(status__in=(*UNDER_WAY, Run.FINISHED)).order_by("-id").first()
    if known is not None:
        return known
    results = Result.objects.select_for_update().only("pk")  # held: not to be cleared away now
    result = results.filter(workshop=user.workshop, key=key).first()
    if result is None and _waiting_in(user.workshop) >= MOST_WAITING:
        raise InvalidInput(
            [Problem("build_id", f"waits behind {MOST_WAITING} runs; cancel some of them first")]
        )
    run = Run.objects.create(
        workshop=user.workshop,
        build=build,
        state=state,
        lap=lap,
        cells=wanted.cells,
        seed=wanted.seed,
        key=key,
        felt=felt,
        automatic=wanted.automatic,
        status=Run.FINISHED if result else Run.WAITING,
        result=result,
        queued_at=Now(),
        ended_at=Now() if result else None,
        reached_s=lap.duration_s if result else 0.0,
        lasts_s=lap.duration_s,
        asked_by=user,
    )
    if result is None:
        _queue(run.pk)
    run.refresh_from_db()
    return run


def cancel_run(workshop: Workshop, run_id: int) -> Run:
    """End a run that waits or is under way; one that has ended stays as it is.

    Raises
    ------
    NotFound
    """
    run = run_of(workshop, run_id)
    this = Run.objects.filter(pk=run.pk, status__in=UNDER_WAY)
    lease.end_those(this, Run.CANCELLED, "Cancelled.")
    return run_of(workshop, run_id)


@transaction.atomic
def ask_for_starts(user: User, wanted: StartsIn) -> list[Run]:
    """Runs of a build as it stands from starts that differ a little, all of them or none.

    Raises
    ------
    NotFound, InvalidInput
    """
    return [
        ask_for_run(user, RunIn(build_id=wanted.build_id, cells=wanted.cells, seed=seed))
        for seed in range(wanted.count)
    ]


def cancel_runs_of_build(workshop: Workshop, build_id: int) -> None:
    """End all that waits or is under way for a build.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    those = Run.objects.filter(build=build, status__in=UNDER_WAY)
    lease.end_those(those, Run.CANCELLED, "Cancelled.")


def put_back_lost() -> int:
    """Queue again what lost its worker; how many."""
    again = lease.put_back_lost()
    for run_id in again:
        carry_out.enqueue(run_id)
    return len(again)
