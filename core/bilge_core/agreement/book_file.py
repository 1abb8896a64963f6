"""A car's whole track book as one file: a ZIP of JSON, CSV, laps, photos and a manifest."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bilge_core.agreement.book_entries import RowId
from bilge_core.document.sealed import Kind, json_in, refused, sealed, unsealed

BOOK, SESSIONS = "book.json", "sessions.csv"
_STATE = re.compile(r"states/(\d{1,6})\.json")
_LAPS = re.compile(r"laps/([a-z0-9]{1,40})\.npz")
_PHOTO = re.compile(r"photos/([A-Za-z0-9_-]{8,40})\.jpg")
_OTHERS = re.compile("|".join(each.pattern for each in (_STATE, _LAPS, _PHOTO)))
_KIND = Kind("bilge-track-book", "track book", (BOOK, SESSIONS), _OTHERS)


class EntryInFile(BaseModel):
    """An entry with its hand, its time and the state that it was made on: a number in the file."""

    model_config = ConfigDict(extra="forbid")

    client_id: Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f-]{27}$")]
    by: Annotated[str, Field(max_length=150)]
    at: datetime
    state: Annotated[int, Field(ge=1)]
    entry: dict[str, Any]


class JudgedInFile(BaseModel):
    """What a session's laps were held against; the laps are a file of their own."""

    model_config = ConfigDict(extra="forbid")

    session: RowId
    lag_s: Annotated[float, Field(ge=0, le=2)]
    forecast: dict[str, Any] | None


class _InFile(BaseModel):
    model_config = ConfigDict(extra="forbid")

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
    try:
        told = _InFile.model_validate(json_in(files, BOOK))
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(each) for each in (BOOK, *first["loc"]))
        raise refused(where, first["msg"].lower()) from None

    def named(pattern: re.Pattern[str]) -> dict[str, bytes]:
        found = ((pattern.fullmatch(name), content) for name, content in files.items())
        return {match[1]: content for match, content in found if match}

    states = {int(number): content for number, content in named(_STATE).items()}
    laps = named(_LAPS)
    for number in {told.driven, *(row.state for row in told.entries)} - set(states):
        raise refused(BOOK, f"speaks of state {number}, which is not in the file")
    for row in told.judged:
        if row.session not in laps:
            raise refused(BOOK, f"speaks of laps of session {row.session}, which are not there")
    return BookFile(told.driven, told.entries, states, told.judged, laps, named(_PHOTO))
