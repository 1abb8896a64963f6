"""Reads of laps, always within a workshop."""

from __future__ import annotations

import json

from accounts.models import Workshop
from config.errors import NotFound
from django.db.models import QuerySet

from loads.models import Lap, LogUpload
from loads.schemas import LogUploadOut


def laps_of(workshop: Workshop) -> QuerySet[Lap]:
    """Laps of a workshop, newest first, without their samples."""
    return Lap.objects.filter(workshop=workshop).defer("samples")


def lap_of(workshop: Workshop, lap_id: int) -> Lap:
    """One lap of a workshop.

    Raises
    ------
    NotFound
        If it is not there, or belongs to another workshop.
    """
    lap = Lap.objects.filter(workshop=workshop, pk=lap_id).first()
    if lap is None:
        raise NotFound("lap")
    return lap


def known_by(lap: Lap | None) -> bytes:
    """What answers over a lap are known by: its samples, and its corners, which words name."""
    if lap is None:
        return b"no lap"
    return f"{lap.digest} {json.dumps(lap.corners)}".encode()


def upload_out(upload: LogUpload) -> LogUploadOut:
    """An uploaded file as it crosses the boundary."""
    return LogUploadOut(
        id=upload.pk,
        name=upload.name,
        size_mb=round(upload.size / 1e6, 2),
        made_at=upload.made_at,
    )


def uploads_of(workshop: Workshop) -> list[LogUploadOut]:
    """Uploaded files of a workshop, newest first."""
    return [upload_out(upload) for upload in LogUpload.objects.filter(workshop=workshop)]
