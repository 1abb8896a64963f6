"""Pan: figures beside the drawing, and a depth that holds a volume."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.tell.making import MakingOut
from bilge_core.tell.pan import PanOut
from builds.selectors import build_of
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Query, Router

from stages.pan import answer
from stages.pan.schemas import DepthForIn, DepthForOut, MakingIn

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


@router.get("/{int:build_id}/making", response=MakingOut, operation_id="get_making")
def get_making(request: HttpRequest, build_id: int, wanted: Query[MakingIn]) -> MakingOut:
    """Flat patterns of everything of the pan that is cut from sheet."""
    return answer.making(signed_in(request).workshop, build_id, wanted)


@router.get("/{int:build_id}/making/dxf", operation_id="export_patterns")
def export_patterns(
    request: HttpRequest, build_id: int, wanted: Query[MakingIn], part: str = ""
) -> HttpResponse:
    """The patterns as DXF in millimetres; of one part alone, by its key."""
    made = answer.patterns(signed_in(request).workshop, build_id, wanted, part)
    return _as_file(request, build_id, part, made.encode(), "image/vnd.dxf", "dxf")


@router.get("/{int:build_id}/making/paper", operation_id="print_patterns")
def print_patterns(
    request: HttpRequest, build_id: int, wanted: Query[MakingIn], part: str = ""
) -> HttpResponse:
    """The patterns at full size on A4 sheets, as PDF; of one part alone, by its key."""
    made = answer.on_paper(signed_in(request).workshop, build_id, wanted, part)
    return _as_file(request, build_id, part, made, "application/pdf", "pdf")


def _as_file(
    request: HttpRequest, build_id: int, part: str, made: bytes, kind: str, end: str
) -> HttpResponse:
    build = build_of(signed_in(request).workshop, build_id)
    name = slugify(f"{build.name} {part or 'patterns'}") or "patterns"
    return HttpResponse(
        made, content_type=kind,
        headers={"Content-Disposition": f'attachment; filename="{name}.{end}"'},
    )  # fmt: skip
