"""Slosh: a build over its lap, over another, cut anywhere, and as it was for a run."""

from __future__ import annotations

from typing import Annotated, Literal

from accounts.requests import signed_in
from bilge_core.tell.drawing import SectionOut
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from stages.slosh import answer
from stages.slosh.schemas import LapForecastOut, SloshOut

router = Router()

Place = Annotated[float, Query(ge=-5000, le=5000, allow_inf_nan=False)]


@router.get("/{int:build_id}", response=SloshOut, operation_id="get_slosh")
def get_slosh(request: HttpRequest, build_id: int) -> HttpResponse:
    """The pan, and the lap settled in it."""
    made = answer.slosh(signed_in(request).workshop, build_id)
    return HttpResponse(made, content_type="application/json")


@router.get(
    "/{int:build_id}/laps/{int:lap_id}", response=LapForecastOut, operation_id="get_other_lap"
)
def get_other_lap(request: HttpRequest, build_id: int, lap_id: int) -> HttpResponse:
    """The build over another lap."""
    made = answer.other_lap(signed_in(request).workshop, build_id, lap_id)
    return HttpResponse(made, content_type="application/json")


@router.get("/{int:build_id}/section/{view}", response=SectionOut, operation_id="get_section")
def get_section(
    request: HttpRequest, build_id: int, view: Literal["side", "front"], at_mm: Place, state: int
) -> SectionOut:
    """A cut through a state of a build anywhere [mm]."""
    return answer.section(signed_in(request).workshop, build_id, view, at_mm, state)


@router.get("/of-run/{int:run_id}", response=SloshOut, operation_id="get_run_scene")
def get_run_scene(request: HttpRequest, run_id: int) -> HttpResponse:
    """The pan of a run and its lap in settled oil."""
    made = answer.scene_of_run(signed_in(request).workshop, run_id)
    return HttpResponse(made, content_type="application/json")
