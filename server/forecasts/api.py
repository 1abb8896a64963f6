"""The shelf with its verdicts, and the Slosh screen's figures."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest
from ninja import Router

from forecasts import services
from forecasts.schemas import ShelfOut, SloshOut

router = Router()


@router.get("", response=list[ShelfOut], operation_id="list_builds")
def list_builds(request: HttpRequest) -> list[ShelfOut]:
    """Builds of the workshop with their verdicts."""
    return services.shelf(signed_in(request).workshop)


@router.get("/{int:build_id}/slosh", response=SloshOut, operation_id="get_slosh")
def get_slosh(request: HttpRequest, build_id: int) -> SloshOut:
    """The pan, and the lap settled in it."""
    return services.slosh(signed_in(request).workshop, build_id)
