"""A build as one file: a ZIP of its document, its records, what was done, photos, a manifest."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from bilge_core.document.sealed import (
    PHOTO,
    STATE,
    Kind,
    is_sealed,
    json_in,
    model_in,
    named_like,
    refused,
    sealed,
    unsealed,
)
from bilge_core.document.work_file import WorkInFile

DOCUMENT, RECORDS, WORK = "document.json", "records.json", "work.json"
_OTHERS = re.compile("|".join((re.escape(WORK), STATE.pattern, PHOTO.pattern)))
_KIND = Kind("bilge-export", "build", (DOCUMENT, RECORDS), _OTHERS)


@dataclass(frozen=True)
class Packed:
    """What such a file holds.

    document : bytes of the bare document, as `bilge check` reads it too
    records : plain data, each with its time and hand
    photos : by their tokens
    work : what was done; of a build on which nothing was, an empty one
    states : documents that it speaks of by their numbers, the one shown left out
    """

    document: bytes
    records: Sequence[Any] = ()
    photos: Mapping[str, bytes] = field(default_factory=dict)
    work: WorkInFile = field(default_factory=WorkInFile)
    states: Mapping[int, bytes] = field(default_factory=dict)


def packed(what: Packed) -> bytes:
    """The file, the same bytes for the same contents.

    Examples
    --------
    >>> unpacked(packed(Packed(b"{}", [{"kind": "level"}]))).records
    [{'kind': 'level'}]
    """
    files = {
        DOCUMENT: what.document,
        RECORDS: (json.dumps(list(what.records), indent=1) + "\n").encode(),
        **{f"photos/{token}.jpg": data for token, data in sorted(what.photos.items())},
    }
    if not what.work.is_empty:
        told = what.work.model_dump(mode="json")
        files[WORK] = (json.dumps(told, indent=1) + "\n").encode()
        files |= {f"states/{n}.json": data for n, data in sorted(what.states.items())}
    return sealed(_KIND, files)


def unpacked(data: bytes) -> Packed:
    """What a file holds; one that is no ZIP is a bare document.

    Raises
    ------
    InvalidInput
        Naming what is missing, damaged, unknown or too large.

    Examples
    --------
    >>> unpacked(b'{"format": "bilge-build"}').document
    b'{"format": "bilge-build"}'
    """
    if not is_sealed(data):
        return Packed(data)
    files = unsealed(_KIND, data)
    records = json_in(files, RECORDS)
    if not isinstance(records, list):
        raise refused(RECORDS, "must be a list")
    work = model_in(WorkInFile, files, WORK) if WORK in files else WorkInFile()
    states = {int(number): content for number, content in named_like(STATE, files).items()}
    for number in sorted(work.states - {work.shown} - set(states)):
        raise refused(WORK, f"speaks of state {number}, which is not in the file")
    return Packed(files[DOCUMENT], records, named_like(PHOTO, files), work, states)
