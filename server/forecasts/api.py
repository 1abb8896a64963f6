"""The shelf with its verdicts, and the Slosh screen's figures."""

from __future__ import annotations

from typing import Annotated, Literal

from accounts.requests import signed_in
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from forecasts import services
from forecasts.pan import depth_for, pan_figures
from forecasts.schemas import (
    DepthForIn,
    DepthForOut,
    LapForecastOut,
    PanOut,
    SectionOut,
    ShelfOut,
    SloshOut,
)

router = Router()

Place = Annotated[float, Query(ge=-5000, le=5000, allow_inf_nan=False)]


@router.get("/shelf", response=list[ShelfOut], operation_id="get_shelf")
def get_shelf(request: HttpRequest) -> list[ShelfOut]:
    """Builds of the workshop with their verdicts."""
    return services.shelf(signed_in(request).workshop)


@router.get("/slosh/{int:build_id}", response=SloshOut, operation_id="get_slosh")
def get_slosh(request: HttpRequest, build_id: int) -> HttpResponse:
    """The pan, and the lap settled in it."""
    made = services.slosh(signed_in(request).workshop, build_id)
    return HttpResponse(made, content_type="application/json")


@router.get(
    "/slosh/{int:build_id}/laps/{int:lap_id}", response=LapForecastOut, operation_id="get_other_lap"
)
def get_other_lap(request: HttpRequest, build_id: int, lap_id: int) -> LapForecastOut:
    """The build over another lap."""
    return services.other_lap(signed_in(request).workshop, build_id, lap_id)


@router.get("/slosh/{int:build_id}/section/{view}", response=SectionOut, operation_id="get_section")
def get_section(
    request: HttpRequest, build_id: int, view: Literal["side", "front"], at_mm: Place, state: int
) -> SectionOut:
    """A cut through a state of a build anywhere [mm]."""
    return services.section(signed_in(request).workshop, build_id, view, at_mm, state)


@router.get("/pan/{int:build_id}", response=PanOut, operation_id="get_pan_figures")
def get_pan_figures(request: HttpRequest, build_id: int) -> HttpResponse:
    """Fills, dips and checks of the pan."""
    made = pan_figures(signed_in(request).workshop, build_id)
    return HttpResponse(made, content_type="application/json")


@router.post(
    "/pan/{int:build_id}/depth-for", response=DepthForOut, operation_id="depth_for_capacity"
)
def depth_for_capacity(request: HttpRequest, build_id: int, payload: DepthForIn) -> DepthForOut:
    """How much deeper some zones must be for the pan to hold a volume."""
    return depth_for(signed_in(request).workshop, build_id, payload)
