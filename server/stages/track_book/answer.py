"""What Track book asks, worked out."""

from __future__ import annotations

from accounts.models import User, Workshop
from bilge_core.agreement.book import Book, book_of, fitted_items
from bilge_core.agreement.book_entries import Item
from bilge_core.quantities import UnitSystem
from bilge_core.tell.book import Changed, book_out, changed_between
from bilge_core.tell.differences import differences_out
from bilge_core.tell.judged import DipsCount
from bilge_core.tell.strip_down import strip_down_out
from builds.models import Build
from builds.selectors import build_of, plain_document
from django.db import transaction
from django.utils import timezone
from records import books
from records.clocks import believed
from records.selectors import inspected

from stages.track_book.schemas import BookedIn, BookStageOut


def _changed(build: Build, book: Book, system: UnitSystem) -> dict[str, Changed]:
    """What differs in each session's car from the one before, in words."""
    found, documents = {}, {}
    numbers = {row.state for _, row in book.in_order}
    for state in build.states.filter(number__in=numbers):
        documents[state.number] = plain_document(state)
    before = None
    for entry, row in book.in_order:
        if before is not None and before != row.state:
            rows = differences_out(documents[before], documents[row.state], system)
            found[entry.id] = changed_between(rows)
        before = row.state
    return found


def _dips(build: Build) -> dict[str, DipsCount]:
    """What each session's laps came to."""
    rows = build.judged.values_list("session", "count")
    return {session: DipsCount.model_validate(count) for session, count in rows}


def _told(build: Build, system: UnitSystem) -> BookStageOut:
    assert build.current is not None
    driven = build.as_is or build.current
    document = driven.read
    usual = fitted_items(document)
    entries = books.entries_of(build)
    book = book_of(entries, usual)
    numbers = {row.state for row in (*book.sessions.values(), *book.hold_ups.values())}
    builds = {state.number: state.read for state in build.states.filter(number__in=numbers)}
    typed = {row.entry.id for row in entries if isinstance(row.entry, Item)}
    return BookStageOut(
        state=build.current.number, driven=driven.number,
        book=book_out(
            book, builds, _changed(build, book, system),
            frozenset(each.id for each in usual) - typed, timezone.localdate(),
            _dips(build), document,
        ),
        strip_down=strip_down_out(inspected(build)),
    )  # fmt: skip


def book(workshop: Workshop, build_id: int, system: UnitSystem = "metric") -> BookStageOut:
    """A car's track book.

    Raises
    ------
    NotFound
    """
    return _told(build_of(workshop, build_id), system)


@transaction.atomic
def written(
    user: User, build_id: int, rows: list[BookedIn], system: UnitSystem = "metric"
) -> BookStageOut:
    """Write down what was entered, each once.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(user.workshop, build_id, lock=True)
    for each in rows:
        if not books.is_kept(build, each.client_id):
            at = believed(each.at, build.made_at)
            books.keep(user, build, each.entry, each.client_id, at)
    return _told(build, system)
