"""Records of a build: what counts, and taking one."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.schemas import BuildOut
from builds.selectors import build_of, build_out
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import File, Router, Status
from ninja.files import UploadedFile

from records import exchange, selectors, services
from records.schemas import RecordIn, RecordOut

router = Router()


@router.post("/import", response={201: BuildOut}, operation_id="import_build")
def import_build(request: HttpRequest, file: File[UploadedFile]) -> Status[BuildOut]:
    """A new build from a file: with records and photos, or a bare document."""
    return Status(201, build_out(exchange.import_build(signed_in(request), file)))


@router.get("/{int:build_id}/export", operation_id="export_build")
def export_build(request: HttpRequest, build_id: int) -> HttpResponse:
    """The build with its records and photos as one file."""
    build, data = exchange.export(signed_in(request).workshop, build_id)
    name = slugify(build.name) or "build"
    return HttpResponse(
        data,
        content_type="application/zip",
        headers={"Content-Disposition": f'attachment; filename="{name}.zip"'},
    )


@router.get("/{int:build_id}/records", response=list[RecordOut], operation_id="list_records")
def list_records(request: HttpRequest, build_id: int) -> list[RecordOut]:
    """The records that count, in the order taken."""
    build = build_of(signed_in(request).workshop, build_id)
    return [selectors.record_out(row) for row in selectors.standing(build)]


@router.post("/{int:build_id}/records", response={201: list[RecordOut]}, operation_id="take_record")
def take_record(request: HttpRequest, build_id: int, payload: RecordIn) -> Status[list[RecordOut]]:
    """Keep a record, write one anew or strike one out; what counts then."""
    build = services.take(signed_in(request), build_id, payload)
    return Status(201, [selectors.record_out(row) for row in selectors.standing(build)])
