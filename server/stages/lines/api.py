"""Lines: every run, its fittings, and the order."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.selectors import build_of
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from stages.lines import answer, files
from stages.lines.schemas import BesidesIn, LinesStageOut, TickIn

router = Router()


@router.get("/{int:build_id}", response=LinesStageOut, operation_id="get_lines")
def get_lines(request: HttpRequest, build_id: int) -> LinesStageOut:
    """All lines of a build with their checks, and the order for them."""
    return answer.lines(signed_in(request).workshop, build_id)


@router.put("/{int:build_id}/order/{key}", response=LinesStageOut, operation_id="tick_order")
def tick_order(request: HttpRequest, build_id: int, key: str, payload: TickIn) -> LinesStageOut:
    """Say how far a part of the order is."""
    return answer.tick(signed_in(request), build_id, key, payload.how_far)


@router.put("/{int:build_id}/besides/{key}", response=LinesStageOut, operation_id="buy_besides")
def buy_besides(request: HttpRequest, build_id: int, key: str, payload: BesidesIn) -> LinesStageOut:
    """Put a part of the catalogue on the order besides what the lines take."""
    return answer.besides(signed_in(request), build_id, key, payload)


def _as_file(request: HttpRequest, build_id: int, made: bytes, kind: str, end: str) -> HttpResponse:
    name = slugify(build_of(signed_in(request).workshop, build_id).name) or "build"
    return HttpResponse(
        made, content_type=kind,
        headers={"Content-Disposition": f'attachment; filename="{name}-order.{end}"'},
    )  # fmt: skip


@router.get("/{int:build_id}/csv", operation_id="export_order_csv")
def export_order_csv(request: HttpRequest, build_id: int) -> HttpResponse:
    """The order as CSV."""
    told = answer.lines(signed_in(request).workshop, build_id)
    return _as_file(request, build_id, files.as_csv(told), "text/csv; charset=utf-8", "csv")


@router.get("/{int:build_id}/spreadsheet", operation_id="export_order_spreadsheet")
def export_order_spreadsheet(request: HttpRequest, build_id: int) -> HttpResponse:
    """The order as a spreadsheet with sums that work, and a sheet of the lines."""
    told = answer.lines(signed_in(request).workshop, build_id)
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    return _as_file(request, build_id, files.as_spreadsheet(told), kind, "xlsx")


@router.get("/{int:build_id}/page", operation_id="print_order")
def print_order(request: HttpRequest, build_id: int) -> HttpResponse:
    """The order and every line's cut list, as PDF."""
    workshop = signed_in(request).workshop
    told = answer.lines(workshop, build_id)
    made = files.as_page(build_of(workshop, build_id).name, told)
    return _as_file(request, build_id, made, "application/pdf", "pdf")
