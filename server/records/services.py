"""Taking records, and writing them anew."""

from __future__ import annotations

from accounts.models import User
from bilge_core.document.records import AnyRecord
from bilge_core.errors import InvalidInput, Problem
from builds.models import Build, BuildState
from builds.selectors import build_of
from config.errors import Conflict, NotFound
from django.db import transaction

from records.models import Record
from records.schemas import RecordIn

MOST_RECORDS = 2000
"""Of one build, those written anew counted."""


def keep(
    user: User, build: Build, state: BuildState, record: AnyRecord | None, replaces: Record | None
) -> Record:
    """Keep one record; whoever calls has checked what it replaces."""
    kind = record.kind if record is not None else replaces.kind if replaces is not None else ""
    return Record.objects.create(
        build=build,
        state=state,
        kind=kind,
        data=None if record is None else record.model_dump(mode="json"),
        replaces=replaces,
        made_by=user,
    )


@transaction.atomic
def take(user: User, build_id: int, wanted: RecordIn) -> Build:
    """Keep a record of a build, write one anew, or strike one out.

    Raises
    ------
    NotFound
    Conflict
        If what it replaces was written anew meanwhile.
    InvalidInput
        If there is nothing to keep or strike, or there are too many.
    """
    build = build_of(user.workshop, build_id, lock=True)
    state = build.states.filter(number=wanted.state).first()
    if state is None:
        raise NotFound(f"state {wanted.state} of this build")
    replaces = _replaced(build, wanted.replaces)
    if wanted.record is None and replaces is None:
        raise InvalidInput([Problem("record", "is missing: give one, or say which is struck out")])
    if wanted.record is not None and replaces is not None and wanted.record.kind != replaces.kind:
        raise InvalidInput([Problem("record.kind", f"must be {replaces.kind}, as it was")])
    if build.records.count() >= MOST_RECORDS:
        raise InvalidInput([Problem("record", f"{MOST_RECORDS} are the most of one build")])
    keep(user, build, state, wanted.record, replaces)
    return build


def _replaced(build: Build, record_id: int | None) -> Record | None:
    if record_id is None:
        return None
    found = build.records.filter(pk=record_id).select_related("made_by").first()
    if found is None:
        raise NotFound("record of this build")
    newer = Record.objects.filter(replaces=found).select_related("made_by").first()
    if newer is not None:
        raise Conflict(
            f"{newer.made_by.username} wrote this record anew while you worked: "
            "look at it, then go on from there."
        )
    return found
