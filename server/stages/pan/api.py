"""Pan: figures beside the drawing, and a depth that holds a volume."""

from __future__ import annotations

from typing import Literal

from accounts.requests import signed_in
from bilge_core.making.solids import Format
from bilge_core.tell.flat_drawing import FlatDrawingOut
from bilge_core.tell.making import MakingOut
from bilge_core.tell.pan import PanOut
from bilge_core.tell.printed import PrintedOut
from bilge_core.tell.scanned import ScannedOut
from builds.selectors import build_of
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import File, Form, Query, Router
from ninja.files import UploadedFile

from stages.pan import answer, scan
from stages.pan.schemas import DepthForIn, DepthForOut, DrawingIn, PrintIn, ScanIn, TracedIn

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
def get_making(request: HttpRequest, build_id: int) -> MakingOut:
    """Flat patterns of everything of the pan that is cut from sheet."""
    return answer.making(signed_in(request).workshop, build_id)


@router.get("/{int:build_id}/making/dxf", operation_id="export_patterns")
def export_patterns(request: HttpRequest, build_id: int, part: str = "") -> HttpResponse:
    """The patterns as DXF in millimetres; of one part alone, by its key."""
    made = answer.patterns(signed_in(request).workshop, build_id, part)
    return _as_file(request, build_id, part or "patterns", made.encode(), "image/vnd.dxf", "dxf")


@router.get("/{int:build_id}/making/svg", operation_id="draw_patterns")
def draw_patterns(request: HttpRequest, build_id: int, part: str = "") -> HttpResponse:
    """The patterns as SVG at full size; of one part alone, by its key."""
    made = answer.drawn(signed_in(request).workshop, build_id, part)
    return _as_file(request, build_id, part or "patterns", made.encode(), "image/svg+xml", "svg")


@router.get("/{int:build_id}/making/paper", operation_id="print_patterns")
def print_patterns(request: HttpRequest, build_id: int, part: str = "") -> HttpResponse:
    """The patterns at full size on A4 sheets, as PDF; of one part alone, by its key."""
    made = answer.on_paper(signed_in(request).workshop, build_id, part)
    return _as_file(request, build_id, part or "patterns", made, "application/pdf", "pdf")


@router.get("/{int:build_id}/printed", response=PrintedOut, operation_id="get_printed")
def get_printed(request: HttpRequest, build_id: int, asked: Query[PrintIn]) -> PrintedOut:
    """What is printed or milled of the pan: pieces, sizes, material."""
    return answer.to_print(signed_in(request).workshop, build_id, asked.read())


@router.get("/{int:build_id}/printed/{form}", operation_id="export_printed")
def export_printed(
    request: HttpRequest, build_id: int, form: Format | Literal["dxf"], asked: Query[PrintIn]
) -> HttpResponse:
    """The same as solids: STL, 3MF or GLB; the pickup's plate as DXF too."""
    made, kind, end = answer.print_file(signed_in(request).workshop, build_id, asked.read(), form)
    return _as_file(request, build_id, asked.what, made, kind, end)


@router.post("/{int:build_id}/scan", response=ScannedOut, operation_id="read_scan")
def read_scan(
    request: HttpRequest, build_id: int, file: File[UploadedFile], asked: Form[ScanIn]
) -> ScannedOut:
    """A closed mesh of the pan's inside as zones, for the act `pan_from_scan`."""
    return scan.scanned(signed_in(request).workshop, build_id, file, asked.read())


@router.post("/{int:build_id}/drawing", response=FlatDrawingOut, operation_id="read_drawing")
def read_drawing(
    request: HttpRequest, build_id: int, file: File[UploadedFile], asked: Form[DrawingIn]
) -> FlatDrawingOut:
    """A DXF laid over the pan: outlines and holes, for the act `flange_drawn`."""
    return answer.flat_drawing(signed_in(request).workshop, build_id, file, asked)


@router.post("/{int:build_id}/traced", response=FlatDrawingOut, operation_id="trace_flange")
def trace_flange(request: HttpRequest, build_id: int, asked: TracedIn) -> FlatDrawingOut:
    """Places picked on a photograph as a flat drawing, for the act `flange_drawn`."""
    return answer.traced(signed_in(request).workshop, build_id, asked)


def _as_file(
    request: HttpRequest, build_id: int, what: str, made: bytes, kind: str, end: str
) -> HttpResponse:
    build = build_of(signed_in(request).workshop, build_id)
    name = slugify(f"{build.name} {what}") or "pan"
    return HttpResponse(
        made, content_type=kind,
        headers={"Content-Disposition": f'attachment; filename="{name}.{end}"'},
    )  # fmt: skip
