"""Drains: each drain over the lap, the pan's wall unrolled, breathing; a change tried on them."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.tell.drains_at import AtLoadOut
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from stages.drains import answer
from stages.drains.schemas import (
    AssumedIn,
    DrainsStageOut,
    DrainTrialIn,
    DrainTrialOut,
    LoadIn,
)

router = Router()


@router.get("/{int:build_id}", response=DrainsStageOut, operation_id="get_drains")
def get_drains(request: HttpRequest, build_id: int, assumed: Query[AssumedIn]) -> HttpResponse:
    """Every drain of a build over its lap, worst first; its wall, its breathing."""
    made = answer.drains(signed_in(request).workshop, build_id, assumed)
    return HttpResponse(made, content_type="application/json")


@router.get("/{int:build_id}/at", response=AtLoadOut, operation_id="get_drains_at")
def get_drains_at(request: HttpRequest, build_id: int, load: Query[LoadIn]) -> AtLoadOut:
    """Every drain of a build under one steady load, at full power."""
    return answer.at_load(signed_in(request).workshop, build_id, load)


@router.post("/{int:build_id}/try", response=DrainTrialOut, operation_id="try_drain")
def try_drain(request: HttpRequest, build_id: int, payload: DrainTrialIn) -> DrainTrialOut:
    """A drain set otherwise over the lap; nothing is kept."""
    return answer.trial(signed_in(request).workshop, build_id, payload)
