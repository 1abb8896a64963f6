"""Laps: list, look at a file, keep it."""

from __future__ import annotations

from accounts.requests import signed_in
from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile

from loads import selectors, services
from loads.models import Lap
from loads.schemas import GripIn, LapIn, LapOut, LapPreviewOut, ManoeuvreIn, PreviewIn

router = Router()


@router.get("", response=list[LapOut], operation_id="list_laps")
def list_laps(request: HttpRequest) -> QuerySet[Lap]:
    """Laps of the workshop."""
    return selectors.laps_of(signed_in(request).workshop)


@router.post("/preview", response=LapPreviewOut, operation_id="preview_lap")
def preview_lap(
    request: HttpRequest, file: File[UploadedFile], form: Form[PreviewIn]
) -> LapPreviewOut:
    """What a file holds, with the columns given or as its headings say; nothing is kept."""
    return services.preview_lap(file, form.columns)


@router.post("", response={201: LapOut}, operation_id="keep_lap")
def keep_lap(request: HttpRequest, file: File[UploadedFile], lap: Form[LapIn]) -> Status[Lap]:
    """Keep a lap."""
    return Status(201, services.keep_lap(signed_in(request), file, lap))


@router.post("/manoeuvre", response={201: LapOut}, operation_id="keep_manoeuvre")
def keep_manoeuvre(request: HttpRequest, payload: ManoeuvreIn) -> Status[Lap]:
    """Keep a manoeuvre among the laps."""
    return Status(201, services.keep_manoeuvre(signed_in(request), payload))


@router.post("/{int:lap_id}/grip", response={201: LapOut}, operation_id="keep_with_grip")
def keep_with_grip(request: HttpRequest, lap_id: int, payload: GripIn) -> Status[Lap]:
    """Keep a lap as it would be with other tyres."""
    return Status(201, services.keep_with_grip(signed_in(request), lap_id, payload))
