"""Track books: sessions and what was looked at, as they were written."""

from __future__ import annotations

from datetime import datetime

from accounts.models import User
from bilge_core.agreement.book import Booked
from bilge_core.agreement.book_entries import AnyBooked, Session, read_booked
from bilge_core.document.work_file import MOST_ENTRIES
from bilge_core.errors import InvalidInput, Problem
from builds.models import Build, BuildState

from records.models import BookEntry


def entries_of(build: Build) -> tuple[Booked, ...]:
    """All that was written, in the order kept."""
    rows = build.book_entries.select_related("made_by", "state")
    return tuple(
        Booked(read_booked(row.data), row.by, row.happened_at, row.state.number) for row in rows
    )


def is_kept(build: Build, client_id: str) -> bool:
    """Whether what was written under that id is kept already."""
    return build.book_entries.filter(client_id=client_id).exists()


def state_driven(build: Build, entry: AnyBooked) -> BuildState:
    """The state that the car is in; a session that is written anew keeps its own."""
    assert build.current is not None
    if isinstance(entry, Session):
        rows = build.book_entries.filter(data__kind="session", data__id=entry.id)
        first = rows.select_related("state").first()
        if first is not None:
            return first.state
    return build.as_is or build.current


def keep(user: User, build: Build, entry: AnyBooked, client_id: str, at: datetime) -> None:
    """Keep one entry.

    Raises
    ------
    InvalidInput
        If there are too many.
    """
    if build.book_entries.count() >= MOST_ENTRIES:
        raise InvalidInput([Problem("entries", f"{MOST_ENTRIES} are the most of one build")])
    BookEntry.objects.create(
        build=build, client_id=client_id, state=state_driven(build, entry), made_by=user,
        happened_at=at, data=entry.model_dump(mode="json"),
    )  # fmt: skip
