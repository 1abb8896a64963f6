"""Builds in and out as one file."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.schemas import BuildOut
from builds.selectors import build_out
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import File, Router, Status
from ninja.files import UploadedFile

from saved import exchange

router = Router()


@router.post("/import", response={201: BuildOut}, operation_id="import_build")
def import_build(request: HttpRequest, file: File[UploadedFile]) -> Status[BuildOut]:
    """A new build from a file: with records, work and photos, or a bare document."""
    return Status(201, build_out(exchange.import_build(signed_in(request), file)))


@router.get("/{int:build_id}/export", operation_id="export_build")
def export_build(request: HttpRequest, build_id: int) -> HttpResponse:
    """The build with its records, what was done on it and photos as one file."""
    build, data = exchange.export(signed_in(request).workshop, build_id)
    name = slugify(build.name) or "build"
    return HttpResponse(
        data,
        content_type="application/zip",
        headers={"Content-Disposition": f'attachment; filename="{name}.zip"'},
    )
