"""A build as one file: a ZIP of its document, its records, their photos and a manifest."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from bilge_core.errors import InvalidInput, Problem

DOCUMENT, RECORDS, MANIFEST = "document.json", "records.json", "manifest.json"
_PHOTO = re.compile(r"photos/([A-Za-z0-9_-]{8,40})\.jpg")
_ZIP = b"PK\x03\x04"
MOST_FILES = 300
LARGEST = 80 * 1024 * 1024
"""Of all that is in it, unpacked [bytes]."""
LARGEST_TEXT = 8 * 1024 * 1024
"""Of the document, the records or the manifest."""


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
    told = {
        name: {"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()}
        for name, data in files.items()
    }
    manifest = {"format": "bilge-export", "version": 1, "files": told}
    files[MANIFEST] = (json.dumps(manifest, indent=1) + "\n").encode()
    kept = io.BytesIO()
    with zipfile.ZipFile(kept, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data)
    return kept.getvalue()


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
    if not data.startswith(_ZIP):
        return Packed(data)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            files = _read(archive)
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError):
        raise _refused("file", "is a damaged ZIP, or one that this Bilge cannot open") from None
    for name in (DOCUMENT, RECORDS, MANIFEST):
        if name not in files:
            raise _refused("file", f"has no {name} in it: it is no build saved by Bilge")
    _check(files, _json(files, MANIFEST))
    records = _json(files, RECORDS)
    if not isinstance(records, list):
        raise _refused(RECORDS, "must be a list")
    photos = {
        found[1]: content for name, content in files.items() if (found := _PHOTO.fullmatch(name))
    }
    return Packed(files[DOCUMENT], records, photos)


def _refused(where: str, words: str) -> InvalidInput:
    return InvalidInput([Problem(where, words)])


def _read(archive: zipfile.ZipFile) -> dict[str, bytes]:
    entries = archive.infolist()
    if len(entries) > MOST_FILES:
        raise _refused("file", f"has {len(entries)} files in it; {MOST_FILES} are the most")
    if sum(each.file_size for each in entries) > LARGEST:
        raise _refused("file", f"is larger than {LARGEST // 1024**2} MB unpacked")
    files = {}
    for each in entries:
        if not (each.filename in (DOCUMENT, RECORDS, MANIFEST) or _PHOTO.fullmatch(each.filename)):
            raise _refused("file", f"has {each.filename[:60]!r} in it, which is no part of a build")
        if each.filename.endswith(".json") and each.file_size > LARGEST_TEXT:
            raise _refused(each.filename, f"is larger than {LARGEST_TEXT // 1024**2} MB")
        with archive.open(each) as opened:  # a header may say less than there is
            files[each.filename] = opened.read(each.file_size)
    return files


def _json(files: Mapping[str, bytes], name: str) -> Any:
    try:
        return json.loads(files[name])
    except (ValueError, RecursionError):
        raise _refused(name, "is no readable JSON") from None


def _check(files: Mapping[str, bytes], manifest: Any) -> None:
    """Every file is as the manifest has it, and none is missing."""
    told = manifest.get("files") if isinstance(manifest, dict) else None
    if not isinstance(told, dict) or manifest.get("format") != "bilge-export":
        raise _refused(MANIFEST, "must be of a build saved by Bilge")
    if manifest.get("version") != 1:
        raise _refused(MANIFEST, "is of a version that this Bilge does not read: 1 is")
    for name in {*told, *files} - {MANIFEST}:
        row = told.get(name)
        kept = row.get("sha256") if isinstance(row, dict) else None
        if name not in files or hashlib.sha256(files[name]).hexdigest() != kept:
            raise _refused(str(name)[:80], "is missing or is not as it was saved")
