"""Reads of records, always within a workshop."""

from __future__ import annotations

from typing import Any

from bilge_core.agreement.strip_down import LookedAt
from bilge_core.document.records import (
    AnyRecord,
    InspectionRecord,
    PouredRecord,
    Records,
    read_record,
    records_from,
)
from builds.models import Build
from django.db.models import QuerySet
from django.utils import timezone

from records.models import Record
from records.schemas import RecordOut


def standing(build: Build) -> QuerySet[Record]:
    """The records of a build that count, in the order taken: none replaced, none struck out."""
    return build.records.filter(replaced_by=None, data__isnull=False).select_related(
        "state", "made_by"
    )


def record_out(record: Record) -> RecordOut:
    """A record as the web wants it."""
    read = read_record(record.data)
    return RecordOut(
        id=record.pk,
        kind=read.kind,
        record=read,
        state=record.state.number,
        taken_by=record.taken_by or record.made_by.username,
        taken_at=record.taken_at or record.made_at,
        written_anew=record.replaces_id is not None,
    )


def _zones(document: dict[str, Any]) -> set[str]:
    return {zone["id"] for zone in document["pan"]["zones"]}


def _is_of_this_pan(record: Record, build: Build) -> bool:
    """A pan that was begun anew shares no zone with the one that was dipped."""
    assert build.current is not None
    return bool(_zones(record.state.document) & _zones(build.current.document))


def records_for(build: Build) -> Records:
    """What checks and comparisons of a build as it stands go by."""
    read: list[AnyRecord] = []
    for row in standing(build):
        record = read_record(row.data)
        if not isinstance(record, PouredRecord) or _is_of_this_pan(row, build):
            read.append(record)
    return records_from(read)


def inspected(build: Build) -> list[LookedAt]:
    """All that was ever looked at on a build's pan and pickup, in the order written."""
    rows = build.records.filter(kind="inspection", data__isnull=False).select_related("made_by")
    struck = set(build.records.filter(data__isnull=True).values_list("replaces_id", flat=True))
    found = []
    for row in rows.order_by("id"):
        read = read_record(row.data)
        if row.pk not in struck and isinstance(read, InspectionRecord):
            on = timezone.localdate(row.taken_at or row.made_at)
            found.append(LookedAt(read, on, row.taken_by or row.made_by.username))
    return found
