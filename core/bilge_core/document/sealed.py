"""A ZIP with a manifest of what is in it: the same bytes for the same contents, damage found."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from bilge_core.errors import InvalidInput, Problem

MANIFEST = "manifest.json"
_ZIP = b"PK\x03\x04"
MOST_FILES = 1000
LARGEST = 80 * 1024 * 1024
"""Of all that is in it, unpacked [bytes]."""
LARGEST_TEXT = 8 * 1024 * 1024
"""Of one file of JSON."""

PHOTO = re.compile(r"photos/([A-Za-z0-9_-]{8,40})\.jpg")
"""A photo, by the name that entries have for it."""
STATE = re.compile(r"states/(\d{1,6})\.json")
"""A state's document, by its number in the file."""
M = TypeVar("M", bound=BaseModel)


@dataclass(frozen=True)
class Kind:
    """What such a file is of.

    format : as its manifest has it
    words : as it is said, such as ``build``
    wanted : names that must be in it
    others : pattern of the names that may be
    """

    format: str
    words: str
    wanted: Sequence[str]
    others: re.Pattern[str]


def is_sealed(data: bytes) -> bool:
    """Whether bytes are a ZIP at all.

    Examples
    --------
    >>> is_sealed(b"{}")
    False
    """
    return data.startswith(_ZIP)


def sealed(kind: Kind, files: Mapping[str, bytes]) -> bytes:
    """The file.

    Raises
    ------
    InvalidInput
        If there is more than can be read again.

    Examples
    --------
    >>> kind = Kind("x", "thing", ["a.json"], re.compile("b"))
    >>> unsealed(kind, sealed(kind, {"a.json": b"{}"}))["a.json"]
    b'{}'
    """
    told = {
        name: {"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()}
        for name, data in files.items()
    }
    manifest = {"format": kind.format, "version": 1, "files": told}
    rows = {**files, MANIFEST: (json.dumps(manifest, indent=1) + "\n").encode()}
    _check_sizes([(name, len(data)) for name, data in rows.items()])
    kept = io.BytesIO()
    with zipfile.ZipFile(kept, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in rows.items():
            archive.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data)
    return kept.getvalue()


def unsealed(kind: Kind, data: bytes) -> dict[str, bytes]:
    """What is in a file, by name, each as the manifest has it.

    Raises
    ------
    InvalidInput
        Naming what is missing, damaged, unknown or too large.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            files = _read(kind, archive)
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError):
        raise refused("file", "is a damaged ZIP, or one that this Bilge cannot open") from None
    for name in (*kind.wanted, MANIFEST):
        if name not in files:
            raise refused("file", f"has no {name} in it: it is no {kind.words} saved by Bilge")
    _check(kind, files, json_in(files, MANIFEST))
    return files


def refused(where: str, words: str) -> InvalidInput:
    """A fault of such a file."""
    return InvalidInput([Problem(where, words)])


def _check_sizes(rows: Sequence[tuple[str, int]]) -> None:
    """Whether so many files of so many bytes are no more than can be read, or written to be."""
    if len(rows) > MOST_FILES:
        raise refused("file", f"has {len(rows)} files in it; {MOST_FILES} are the most")
    if sum(size for _, size in rows) > LARGEST:
        raise refused("file", f"is larger than {LARGEST // 1024**2} MB unpacked")
    for name, size in rows:
        if name.endswith(".json") and size > LARGEST_TEXT:
            raise refused(name[:80], f"is larger than {LARGEST_TEXT // 1024**2} MB")


def _read(kind: Kind, archive: zipfile.ZipFile) -> dict[str, bytes]:
    entries = archive.infolist()
    _check_sizes([(each.filename, each.file_size) for each in entries])
    files = {}
    for each in entries:
        name = each.filename
        if not (name in (*kind.wanted, MANIFEST) or kind.others.fullmatch(name)):
            raise refused("file", f"has {name[:60]!r} in it, which is no part of a {kind.words}")
        with archive.open(each) as opened:  # a header may say less than there is
            files[name] = opened.read(each.file_size)
    return files


def json_in(files: Mapping[str, bytes], name: str) -> Any:
    """A file of JSON, read.

    Raises
    ------
    InvalidInput
    """
    try:
        return json.loads(files[name])
    except (ValueError, RecursionError):
        raise refused(name, "is no readable JSON") from None


def model_in(model: type[M], files: Mapping[str, bytes], name: str) -> M:
    """A file of JSON as what it must be.

    Raises
    ------
    InvalidInput
        Naming the first field at fault.
    """
    try:
        return model.model_validate(json_in(files, name))
    except ValidationError as error:
        raise InvalidInput([named_in(error, name)]) from None


def named_in(error: ValidationError, where: str) -> Problem:
    """The first fault of something in a file, its field named from there on."""
    first = error.errors()[0]
    return Problem(".".join([where, *map(str, first["loc"])]), first["msg"].lower())


def named_like(pattern: re.Pattern[str], files: Mapping[str, bytes]) -> dict[str, bytes]:
    """Files whose name is as a pattern has it, by its group.

    Examples
    --------
    >>> named_like(STATE, {"states/2.json": b"{}", "book.json": b"{}"})
    {'2': b'{}'}
    """
    found = ((pattern.fullmatch(name), content) for name, content in files.items())
    return {match[1]: content for match, content in found if match}


def _check(kind: Kind, files: Mapping[str, bytes], manifest: Any) -> None:
    """Every file is as the manifest has it, and none is missing."""
    told = manifest.get("files") if isinstance(manifest, dict) else None
    if not isinstance(told, dict) or manifest.get("format") != kind.format:
        raise refused(MANIFEST, f"must be of a {kind.words} saved by Bilge")
    if manifest.get("version") != 1:
        raise refused(MANIFEST, "is of a version that this Bilge does not read: 1 is")
    for name in {*told, *files} - {MANIFEST}:
        row = told.get(name)
        kept = row.get("sha256") if isinstance(row, dict) else None
        if name not in files or hashlib.sha256(files[name]).hexdigest() != kept:
            raise refused(str(name)[:80], "is missing or is not as it was saved")
