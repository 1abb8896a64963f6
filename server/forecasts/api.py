"""The shelf with its verdicts."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest
from ninja import Router

from forecasts.schemas import ShelfOut
from forecasts.shelf import shelf

router = Router()


@router.get("", response=list[ShelfOut], operation_id="get_shelf")
def get_shelf(request: HttpRequest) -> list[ShelfOut]:
    """Builds of the workshop with their verdicts."""
    return shelf(signed_in(request).workshop)
