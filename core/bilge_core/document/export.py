"""A build as one file: a ZIP of its document, its records, their photos and a manifest."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from bilge_core.document.sealed import Kind, is_sealed, json_in, refused, sealed, unsealed

DOCUMENT, RECORDS = "document.json", "records.json"
_PHOTO = re.compile(r"photos/([A-Za-z0-9_-]{8,40})\.jpg")
_KIND = Kind("bilge-export", "build", (DOCUMENT, RECORDS), _PHOTO)


@dataclass(frozen=True)
class Packed:
    """What such a file holds.

    document : bytes of the bare document, as `bilge check` reads it too
    records : plain data, each with its time and hand
    photos : by their tokens
    """

    document: bytes
    records: Sequence[Any] = ()
    photos: Mapping[str, bytes] = field(default_factory=dict)


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
    photos = {
        found[1]: content for name, content in files.items() if (found := _PHOTO.fullmatch(name))
    }
    return Packed(files[DOCUMENT], records, photos)
