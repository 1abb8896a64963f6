"""Runs in moving oil."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.quantities import UnitSystem
from bilge_core.tell.moving import MovingOut
from django.http import HttpRequest, HttpResponse
from ninja import Router

from runs import selectors, services
from runs.schemas import KnownOut, LatestOut, RunIn, RunOut, RunsOut, SideBySideOut, StartsIn
from runs.side_by_side import side_by_side

router = Router()


@router.get("", response=RunsOut, operation_id="list_runs")
def list_runs(request: HttpRequest) -> RunsOut:
    """The newest runs and what new ones would take."""
    services.put_back_lost()
    return selectors.runs_of(signed_in(request).workshop)


@router.post("", response=RunOut, operation_id="ask_for_run")
def ask_for_run(request: HttpRequest, payload: RunIn) -> RunOut:
    """Run a build as it stands over its lap, or find the run there is."""
    user = signed_in(request)
    run = services.ask_for_run(user, payload)
    return selectors.run_out(selectors.run_of(user.workshop, run.pk))


@router.get("/of-build/{int:build_id}", response=LatestOut, operation_id="get_latest_runs")
def get_latest_runs(request: HttpRequest, build_id: int) -> LatestOut:
    """What is under way and what is known for a build as it stands."""
    return selectors.latest_of(signed_in(request).workshop, build_id)


@router.get("/side-by-side/{int:build_id}", response=SideBySideOut, operation_id="get_side_by_side")
def get_side_by_side(
    request: HttpRequest, build_id: int, before: int, after: int, system: UnitSystem = "metric"
) -> SideBySideOut:
    """Any two states of a build beside each other."""
    workshop = signed_in(request).workshop
    return side_by_side(workshop, build_id, before, after, system)


@router.get("/{int:run_id}", response=RunOut, operation_id="get_run")
def get_run(request: HttpRequest, run_id: int) -> RunOut:
    """How far a run is."""
    return selectors.run_out(selectors.run_of(signed_in(request).workshop, run_id))


@router.post("/{int:run_id}/cancel", response=RunOut, operation_id="cancel_run")
def cancel_run(request: HttpRequest, run_id: int) -> RunOut:
    """End a run; one that has ended stays as it is."""
    return selectors.run_out(services.cancel_run(signed_in(request).workshop, run_id))


@router.get("/known", response=list[KnownOut], operation_id="list_known")
def list_known(request: HttpRequest) -> list[KnownOut]:
    """What the finest run of each build as it stands gave."""
    return selectors.known_of(signed_in(request).workshop)


@router.post("/starts", response=list[RunOut], operation_id="ask_for_starts")
def ask_for_starts(request: HttpRequest, payload: StartsIn) -> list[RunOut]:
    """Run a build as it stands from several starts, for the spread of its dry time."""
    user = signed_in(request)
    runs = services.ask_for_starts(user, payload)
    return [selectors.run_out(selectors.run_of(user.workshop, run.pk)) for run in runs]


@router.post(
    "/of-build/{int:build_id}/cancel", response=LatestOut, operation_id="cancel_runs_of_build"
)
def cancel_runs_of_build(request: HttpRequest, build_id: int) -> LatestOut:
    """End all that waits or is under way for a build."""
    workshop = signed_in(request).workshop
    services.cancel_runs_of_build(workshop, build_id)
    return selectors.latest_of(workshop, build_id)


@router.get("/{int:run_id}/figures", response=MovingOut, operation_id="get_run_figures")
def get_run_figures(request: HttpRequest, run_id: int, state: int | None = None) -> MovingOut:
    """What a finished run gave, its plates named as in a state of its build."""
    return selectors.figures_of_run(signed_in(request).workshop, run_id, state)


@router.get("/{int:run_id}/frames", operation_id="get_run_frames")
def get_run_frames(request: HttpRequest, run_id: int) -> HttpResponse:
    """The moving oil on record: a ZIP of NumPy arrays."""
    record = selectors.frames_of_run(signed_in(request).workshop, run_id)
    response = HttpResponse(record, content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="run-{run_id}.npz"'
    return response
