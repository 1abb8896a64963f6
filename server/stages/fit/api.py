"""Fit: rounds of offering up."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.selectors import build_of
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from stages.fit import answer, page
from stages.fit.schemas import FitStageOut, OfferedAllIn

router = Router()


@router.get("/{int:build_id}", response=FitStageOut, operation_id="get_fit")
def get_fit(request: HttpRequest, build_id: int) -> FitStageOut:
    """Rounds, places with what was forecast, wanted and found, and the envelope."""
    return answer.fit(signed_in(request).workshop, build_id)


@router.post("/{int:build_id}/entries", response=FitStageOut, operation_id="enter_on_fit")
def enter_on_fit(request: HttpRequest, build_id: int, payload: OfferedAllIn) -> FitStageOut:
    """Keep what was found or said, each once however often it is sent; what is not let is told."""
    return answer.entered(signed_in(request), build_id, payload.entries)


@router.get("/{int:build_id}/page", operation_id="print_fit")
def print_fit(request: HttpRequest, build_id: int) -> HttpResponse:
    """The round to take to the bench: envelope, places, boxes for what is found, as PDF."""
    workshop = signed_in(request).workshop
    name = build_of(workshop, build_id).name
    made = page.as_page(name, answer.fit(workshop, build_id))
    return HttpResponse(
        made, content_type="application/pdf",
        headers={
            "Content-Disposition": f'attachment; filename="{slugify(name) or "build"}-fit.pdf"'
        },
    )  # fmt: skip
