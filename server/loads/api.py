"""Laps: files, what they hold, and the laps kept of them."""

from __future__ import annotations

from collections.abc import Iterator

from accounts.requests import signed_in
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile

from loads import detail, selectors, services, understanding, uploads
from loads.models import Lap
from loads.schemas import (
    CornersIn,
    GripIn,
    KeepLapsIn,
    KeepManoeuvresIn,
    LapDetailOut,
    LapNameIn,
    LapOut,
    LogUploadOut,
    ManoeuvresIn,
    ManoeuvreTraceOut,
    ReadingIn,
    ReadingStep,
)

router = Router()


@router.get("", response=list[LapOut], operation_id="list_laps")
def list_laps(request: HttpRequest) -> QuerySet[Lap]:
    """Laps of the workshop."""
    return selectors.laps_of(signed_in(request).workshop)


@router.get("/files", response=list[LogUploadOut], operation_id="list_logs")
def list_logs(request: HttpRequest) -> list[LogUploadOut]:
    """Files uploaded and still there, newest first."""
    return selectors.uploads_of(signed_in(request).workshop)


@router.post("/files", response={201: LogUploadOut}, operation_id="upload_log")
def upload_log(request: HttpRequest, file: File[UploadedFile]) -> Status[LogUploadOut]:
    """Upload a logger's file; its rows are read by the next call."""
    return Status(201, selectors.upload_out(uploads.receive_log(signed_in(request), file)))


@router.delete("/files/{int:file_id}", response={204: None}, operation_id="delete_log")
def delete_log(request: HttpRequest, file_id: int) -> Status[None]:
    """Remove an uploaded file; laps kept of it stay."""
    uploads.drop_log(uploads.upload_of(signed_in(request).workshop, file_id))
    return Status(204, None)


@router.post(
    "/files/{int:file_id}/reading", response={200: ReadingStep}, operation_id="understand_log"
)
def understand_log(request: HttpRequest, file_id: int, payload: ReadingIn) -> HttpResponse:
    """Read a file: a line of JSON after each step, the last with what was understood."""
    steps = understanding.understand_log(signed_in(request), file_id, payload.reading)

    def lines() -> Iterator[str]:
        for step in steps:
            yield step.model_dump_json(exclude_none=True) + "\n"

    answer = StreamingHttpResponse(lines(), content_type="application/x-ndjson")
    answer.headers["Cache-Control"] = "no-store"
    return answer  # type: ignore[return-value]


@router.post("", response={201: list[LapOut]}, operation_id="keep_laps")
def keep_laps(request: HttpRequest, payload: KeepLapsIn) -> Status[list[Lap]]:
    """Keep laps of an uploaded file."""
    return Status(201, services.keep_laps(signed_in(request), payload))


@router.get("/{int:lap_id}", response=LapDetailOut, operation_id="get_lap")
def get_lap(request: HttpRequest, lap_id: int) -> LapDetailOut:
    """A lap to look at."""
    return detail.lap_detail(signed_in(request).workshop, lap_id)


@router.patch("/{int:lap_id}", response=LapOut, operation_id="rename_lap")
def rename_lap(request: HttpRequest, lap_id: int, payload: LapNameIn) -> Lap:
    """Call a lap something else."""
    return services.rename_lap(signed_in(request), lap_id, payload)


@router.delete("/{int:lap_id}", response={204: None}, operation_id="delete_lap")
def delete_lap(request: HttpRequest, lap_id: int, even_if_used: bool = False) -> Status[None]:
    """Remove a lap; one that builds are judged by only when that is meant."""
    services.delete_lap(signed_in(request), lap_id, even_if_used)
    return Status(204, None)


@router.put("/{int:lap_id}/corners", response=LapDetailOut, operation_id="edit_corners")
def edit_corners(request: HttpRequest, lap_id: int, payload: CornersIn) -> LapDetailOut:
    """Say where the corners are and what they are called, or have them found again."""
    user = signed_in(request)
    services.edit_corners(user, lap_id, payload)
    return detail.lap_detail(user.workshop, lap_id)


@router.post("/manoeuvre", response={201: LapOut}, operation_id="keep_manoeuvre")
def keep_manoeuvre(request: HttpRequest, payload: KeepManoeuvresIn) -> Status[Lap]:
    """Keep manoeuvres in a row among the laps, as one load."""
    return Status(201, services.keep_manoeuvres(signed_in(request), payload))


@router.post("/manoeuvre/trace", response=ManoeuvreTraceOut, operation_id="trace_manoeuvre")
def trace_manoeuvre(request: HttpRequest, payload: ManoeuvresIn) -> ManoeuvreTraceOut:
    """A load as it is typed, to be drawn; nothing is kept."""
    return services.trace_manoeuvres(payload)


@router.post("/{int:lap_id}/grip", response={201: LapOut}, operation_id="keep_with_grip")
def keep_with_grip(request: HttpRequest, lap_id: int, payload: GripIn) -> Status[Lap]:
    """Keep a lap as it would be with other tyres."""
    return Status(201, services.keep_with_grip(signed_in(request), lap_id, payload))
