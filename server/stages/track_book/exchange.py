"""A car's whole track book in and out as one file."""

from __future__ import annotations

import hashlib
import json

from accounts.models import User, Workshop
from bilge_core.agreement.book import Booked, book_of, used_in
from bilge_core.agreement.book_entries import AnyBooked, read_booked
from bilge_core.agreement.book_file import (
    BookFile,
    JudgedInFile,
    read_book,
    write_book,
)
from bilge_core.agreement.judged import judge, kept_of, read_kept_laps
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.sealed import LARGEST
from bilge_core.document.work_file import MOST_ENTRIES, EntryInFile
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.tell.judged import ForecastKept, judged_out
from builds import photos
from builds.models import Build, BuildState
from builds.selectors import build_of
from builds.services import new_from_states
from config.spreadsheets import csv_of
from django.db import transaction
from ninja.files import UploadedFile
from pydantic import ValidationError
from records import books
from records.models import BookEntry, SessionJudged

from stages.track_book.schemas import MOST_LAPS

_HEADINGS = (
    "day", "circuit", "track", "tyres", "laps", "engine ran [h]", "oil", "level before [mm]",
    "level after [mm]", "poured in [L]", "catch can [ml]", "oil, hottest [C]", "outside [C]",
    "lowest pressure [bar]", "oil used [L]", "what the driver says",
)  # fmt: skip


def _name(data: bytes) -> str:
    """What a photo is called in a file: by what is in it."""
    return hashlib.sha256(data).hexdigest()[:32]


def _table(rows: tuple[Booked, ...], documents: dict[int, BuildDocument]) -> str:
    lines = []
    for entry, row in book_of(rows).in_order:
        used = used_in(entry, documents[row.state]).oil
        lines.append([
            "" if cell is None else cell
            for cell in (
                entry.on.isoformat(), entry.circuit, entry.weather, entry.tyres, entry.laps,
                entry.hours, entry.oil, entry.level_before_mm, entry.level_after_mm, entry.added_l,
                entry.can_ml, entry.hottest_c, entry.ambient_c, entry.lowest_bar,
                None if used is None else round(used * 1e3, 2), entry.words,
            )
        ])  # fmt: skip
    return csv_of(_HEADINGS, lines)


def saved(workshop: Workshop, build_id: int) -> tuple[Build, bytes]:
    """A build's whole book as one file.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    driven = build.as_is or build.current
    rows = list(build.book_entries.select_related("state", "made_by"))
    states = {row.state.number: row.state for row in rows} | {driven.number: driven}
    numbers = {number: at for at, number in enumerate(sorted(states), start=1)}
    pictures = {photo.token: bytes(photo.data) for photo in build.photos.all()}
    names = {token: _name(data) for token, data in pictures.items()}
    used = {token for row in rows for token in row.data.get("photos", [])}
    judged = list(build.judged.order_by("session"))
    documents = {n: state.read for n, state in states.items()}
    book = BookFile(
        driven=numbers[driven.number],
        entries=[
            EntryInFile(
                client_id=row.client_id, by=row.by, at=row.happened_at,
                state=numbers[row.state.number], entry=photos.renamed(row.data, names),
            )
            for row in rows
        ],
        states={
            numbers[number]: (json.dumps(documents[number].model_dump(mode="json"), indent=1)
                              + "\n").encode()
            for number in states
        },
        judged=[
            JudgedInFile(session=row.session, lag_s=row.lag_s, forecast=row.forecast)
            for row in judged
        ],
        laps={row.session: bytes(row.kept) for row in judged},
        photos={names[token]: pictures[token] for token in used if token in pictures},
        table=_table(books.entries_of(build), documents),
    )  # fmt: skip
    return build, write_book(book)


@transaction.atomic
def brought_in(user: User, upload: UploadedFile) -> Build:
    """A new build with its whole book, from a file.

    Raises
    ------
    InvalidInput
        Naming what is at fault; nothing is kept then.
    """
    if (upload.size or 0) > LARGEST:
        raise InvalidInput([Problem("file", f"is larger than {LARGEST // 1024**2} MB")])
    book = read_book(upload.read())
    if len(book.entries) > MOST_ENTRIES:
        raise InvalidInput([Problem("book.json", f"{MOST_ENTRIES} entries are the most")])
    entries = [
        read_booked(row.entry, f"book.json.entries.{at}") for at, row in enumerate(book.entries)
    ]
    build, states = _with_states(user, book)
    tokens = {name: photos.add_kept(user, build, data).token for name, data in book.photos.items()}
    _keep_entries(user, build, book, entries, states, tokens)
    for row in book.judged:
        _keep_judged(user, build, row, book.laps[row.session])
    return build


def _with_states(user: User, book: BookFile) -> tuple[Build, dict[int, BuildState]]:
    """A build with every state that the book speaks of; the car is in the one that it was in."""
    build, states = new_from_states(user, book.states, max(book.states), "from a track book")
    build.as_is = states[book.driven]
    build.save(update_fields=["as_is"])
    return build, states


def _keep_entries(
    user: User, build: Build, book: BookFile, entries: list[AnyBooked],
    states: dict[int, BuildState], tokens: dict[str, str],
) -> None:  # fmt: skip
    ids = [row.client_id for row in book.entries]
    if len(set(ids)) < len(ids):
        raise InvalidInput([Problem("book.json", "has two entries of one id")])
    BookEntry.objects.bulk_create(
        BookEntry(
            build=build, client_id=row.client_id, state=states[row.state], made_by=user,
            hand=row.by, happened_at=row.at,
            data=photos.renamed(entry.model_dump(mode="json"), tokens),
        )
        for row, entry in zip(book.entries, entries, strict=True)
    )  # fmt: skip


def _keep_judged(user: User, build: Build, row: JudgedInFile, data: bytes) -> None:
    """Laps held against their forecast once more: what is told of them is worked out here."""
    where = f"laps/{row.session}.npz"
    try:
        frozen, laps = read_kept_laps(data)
        if not 1 <= len(laps) <= MOST_LAPS:
            raise ValueError(f"has {len(laps)} laps; 1 to {MOST_LAPS} belong to a session")
        told = None if row.forecast is None else ForecastKept.model_validate(row.forecast)
        out = judged_out(judge(laps, frozen, row.lag_s), frozen, told)
        kept = kept_of(frozen, laps)
    except (InvalidQuantity, ValidationError, ValueError, IndexError) as error:
        raise InvalidInput([Problem(where, f"cannot be read: {error}"[:300])]) from None
    SessionJudged.objects.create(
        build=build, session=row.session, forecast=row.forecast, kept=kept, lag_s=row.lag_s,
        count=out.count.model_dump(mode="json"), told=out.model_dump(mode="json"), judged_by=user,
    )  # fmt: skip
