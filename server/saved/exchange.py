"""Builds in and out as files: a ZIP with records, work and photos, or the bare document."""

from __future__ import annotations

import io
import json
from datetime import datetime
from typing import Any

from accounts.models import User, Workshop
from bilge_core.document.export import Packed, packed, unpacked
from bilge_core.document.inspection import Inspected
from bilge_core.document.read import write_build
from bilge_core.document.records import AnyRecord, read_record, records_in
from bilge_core.document.sealed import LARGEST
from bilge_core.errors import InvalidInput, Problem
from builds import photos, selectors
from builds.models import Build
from builds.services import LARGEST_DOCUMENT_BYTES, new_from_states
from django.db import transaction
from django.utils.dateparse import parse_datetime
from ninja.files import UploadedFile
from records.models import Record
from records.selectors import standing
from records.services import MOST_RECORDS

from saved.work import keep_work, photos_in, states_of, work_of


def export(workshop: Workshop, build_id: int) -> tuple[Build, bytes]:
    """A build with its records that count, what was done on it and their photos, as one file.

    Raises
    ------
    NotFound
    InvalidInput
        If there is more than such a file holds.
    """
    build = selectors.build_of(workshop, build_id)
    rows, done = list(standing(build)), work_of(build)
    tokens = {token for row in rows for token in (row.data or {}).get("photos", [])}
    tokens |= photos_in(done)
    kept = build.photos.filter(token__in=tokens)
    records = [
        {
            "record": row.data,
            "state": row.state.number,
            "taken_by": row.taken_by or row.made_by.username,
            "taken_at": (row.taken_at or row.made_at).isoformat(),
        }
        for row in rows
    ]
    document = write_build(selectors.document_of(build)).encode()
    pictures = {photo.token: bytes(photo.data) for photo in kept}
    states = states_of(build, done)
    return build, packed(Packed(document, records, pictures, done, states))


@transaction.atomic
def import_build(user: User, upload: UploadedFile) -> Build:
    """A new build from a file: with its records, work and photos, where it has them.

    Raises
    ------
    InvalidInput
        Naming what is at fault; nothing is kept then.
    """
    if (upload.size or 0) > LARGEST:
        raise InvalidInput([Problem("file", f"is larger than {LARGEST // 1024**2} MB")])
    what = unpacked(upload.read())
    if len(what.document) > LARGEST_DOCUMENT_BYTES:
        raise InvalidInput([Problem("file", "is larger than 1 MB; a build document is a few kB")])
    taken = [_taken(row, at) for at, row in enumerate(what.records)]
    taken += [(record, "", None) for record in _in_the_document(what.document)]
    if len(taken) > MOST_RECORDS:
        raise InvalidInput([Problem("records.json", f"{MOST_RECORDS} records are the most")])
    shown = what.work.shown
    documents = {number: what.states[number] for number in what.work.states - {shown}}
    build, states = new_from_states(user, {**documents, shown: what.document}, shown, "from a file")
    tokens = {
        old: photos.add_bytes(user, build, io.BytesIO(data)).token
        for old, data in what.photos.items()
    }
    for record, by, at in taken:
        _keep(user, build, _with_photos(record, tokens), by, at)
    keep_work(user, build, what.work, states, tokens)
    return build


def _in_the_document(text: bytes) -> list[AnyRecord]:
    """What a document of before records had in it; one that cannot be read is refused later."""
    try:
        return records_in(json.loads(text))
    except (ValueError, RecursionError):
        return []


def _taken(row: Any, at: int) -> tuple[AnyRecord, str, datetime | None]:
    field = f"records.json.{at}"
    if not isinstance(row, dict):
        raise InvalidInput([Problem(field, "must be a record")])
    when, by = row.get("taken_at"), row.get("taken_by")
    try:
        read = parse_datetime(when) if isinstance(when, str) else None
    except ValueError:
        read = None
    if read is None or read.tzinfo is None or not isinstance(by, str):
        raise InvalidInput([Problem(field, "must say when it was taken, and by whom")])
    return read_record(row.get("record"), f"{field}.record"), by[:150], read


def _with_photos(record: AnyRecord, tokens: dict[str, str]) -> AnyRecord:
    """A record whose photos have the tokens that they are kept by here; others are left out."""
    if not isinstance(record, Inspected):
        return record
    kept = [tokens[token] for token in record.photos if token in tokens]
    return record.model_copy(update={"photos": kept})


def _keep(user: User, build: Build, record: AnyRecord, by: str, at: datetime | None) -> None:
    assert build.current is not None
    Record.objects.create(
        build=build,
        state=build.current,
        kind=record.kind,
        data=record.model_dump(mode="json"),
        made_by=user,
        taken_by=by,
        taken_at=at,
    )
