"""Pan: figures beside the drawing, and a depth that holds a volume."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.tell.pan import PanOut
from django.http import HttpRequest, HttpResponse
from ninja import Router

from stages.pan import answer
from stages.pan.schemas import DepthForIn, DepthForOut

router = Router()


@router.get("/{int:build_id}", response=PanOut, operation_id="get_pan_figures")
def get_pan_figures(request: HttpRequest, build_id: int) -> HttpResponse:
    """Fills, dips and checks of the pan."""
    made = answer.pan_figures(signed_in(request).workshop, build_id)
    return HttpResponse(made, content_type="application/json")


@router.post("/{int:build_id}/depth-for", response=DepthForOut, operation_id="depth_for_capacity")
def depth_for_capacity(request: HttpRequest, build_id: int, payload: DepthForIn) -> DepthForOut:
    """How much deeper some zones must be for the pan to hold a volume."""
    return answer.depth_for(signed_in(request).workshop, build_id, payload)
