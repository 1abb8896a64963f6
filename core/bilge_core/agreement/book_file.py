"""A car's whole track book as one file: a ZIP of JSON, CSV, laps, photos and a manifest."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Any

from pydantic import Field

from bilge_core.agreement.book_entries import RowId
from bilge_core.document.sealed import (
    PHOTO,
    STATE,
    Kind,
    model_in,
    named_like,
    refused,
    sealed,
    unsealed,
)
from bilge_core.document.work_file import EntryInFile, InFile

BOOK, SESSIONS = "book.json", "sessions.csv"
_LAPS = re.compile(r"laps/([a-z0-9]{1,40})\.npz")
_OTHERS = re.compile("|".join(each.pattern for each in (STATE, _LAPS, PHOTO)))
_KIND = Kind("bilge-track-book", "track book", (BOOK, SESSIONS), _OTHERS)


class JudgedInFile(InFile):
    """What a session's laps were held against; the laps are a file of their own."""

    session: RowId
    lag_s: Annotated[float, Field(ge=0, le=2)]
    forecast: dict[str, Any] | None


class _InFile(InFile):
    driven: Annotated[int, Field(ge=1)]
    entries: list[EntryInFile]
    judged: list[JudgedInFile]


@dataclass(frozen=True)
class BookFile:
    """What such a file holds.

    driven : number of the state that the car is in
    entries : in the order kept
    states : documents by their numbers in the file, which rise as they were made
    judged : by session
    laps : of those sessions, as `kept_of` packs them
    photos : by names that entries have for them
    table : sessions as figures, for a spreadsheet; not read back
    """

    driven: int
    entries: Sequence[EntryInFile]
    states: Mapping[int, bytes]
    judged: Sequence[JudgedInFile] = ()
    laps: Mapping[str, bytes] = field(default_factory=dict)
    photos: Mapping[str, bytes] = field(default_factory=dict)
    table: str = ""


def write_book(book: BookFile) -> bytes:
    """The file, the same bytes for the same book.

    Examples
    --------
    >>> same = read_book(write_book(BookFile(1, (), {1: b"{}"})))
    >>> same.driven, same.states
    (1, {1: b'{}'})
    """
    told = _InFile(
        driven=book.driven, entries=list(book.entries),
        judged=sorted(book.judged, key=lambda row: row.session),
    )  # fmt: skip
    return sealed(
        _KIND,
        {
            BOOK: (json.dumps(told.model_dump(mode="json"), indent=1) + "\n").encode(),
            SESSIONS: book.table.encode(),
            **{f"states/{n}.json": data for n, data in sorted(book.states.items())},
            **{f"laps/{key}.npz": data for key, data in sorted(book.laps.items())},
            **{f"photos/{name}.jpg": data for name, data in sorted(book.photos.items())},
        },
    )


def read_book(data: bytes) -> BookFile:
    """What a file holds.

    Raises
    ------
    InvalidInput
        Naming what is missing, damaged, unknown or too large.
    """
    files = unsealed(_KIND, data)
    told = model_in(_InFile, files, BOOK)
    states = {int(number): content for number, content in named_like(STATE, files).items()}
    laps = named_like(_LAPS, files)
    for number in {told.driven, *(row.state for row in told.entries)} - set(states):
        raise refused(BOOK, f"speaks of state {number}, which is not in the file")
    for row in told.judged:
        if row.session not in laps:
            raise refused(BOOK, f"speaks of laps of session {row.session}, which are not there")
    return BookFile(told.driven, told.entries, states, told.judged, laps, named_like(PHOTO, files))
