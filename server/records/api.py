"""Records of a build: what counts, and taking one."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.selectors import build_of
from django.http import HttpRequest
from ninja import Router, Status

from records import selectors, services
from records.schemas import RecordIn, RecordOut

router = Router()


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
