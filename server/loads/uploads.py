"""Logger files as uploaded: on disk, looked into, read in steps, and how they were read kept."""

from __future__ import annotations

import hashlib
import secrets
import shutil
from collections.abc import Generator
from pathlib import Path

import numpy as np
from accounts.models import User, Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.importing import Columns, column_steps
from bilge_core.loads.mdf import is_mdf, write_as_text
from bilge_core.loads.reading import Reading
from bilge_core.loads.recording import wanted_headings
from bilge_core.loads.sniff import LogFile, open_log
from config.errors import NotFound
from django.conf import settings
from django.db import transaction
from ninja.files import UploadedFile
from pydantic import ValidationError

from loads.models import KnownReading, LogUpload

MOST_KEPT = 4
"""Uploaded files kept of a workshop; the oldest goes when another comes."""


def _folder(upload: LogUpload) -> Path:
    return Path(settings.UPLOADS) / upload.token


def receive_log(user: User, uploaded: UploadedFile) -> LogUpload:
    """Keep an uploaded file, once it is seen to be a log.

    Raises
    ------
    InvalidInput
        If it holds no table of text; nothing is kept then.
    """
    token = secrets.token_urlsafe(24)
    folder = Path(settings.UPLOADS) / token
    folder.mkdir(parents=True, mode=0o700)
    try:
        with (folder / "log").open("wb") as kept:
            for chunk in uploaded.chunks(1 << 20):
                kept.write(chunk)
        if is_mdf(folder / "log"):
            _turn_into_text(folder)
        open_log(folder / "log")
        with transaction.atomic():
            upload = LogUpload.objects.create(
                workshop=user.workshop,
                name=(uploaded.name or "log.csv")[-200:],
                token=token,
                size=(folder / "log").stat().st_size,
                made_by=user,
            )
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    for old in list(LogUpload.objects.filter(workshop=user.workshop)[MOST_KEPT:]):
        drop_log(old)
    return upload


def _turn_into_text(folder: Path) -> None:
    """A measurement file gives way to its table of text, in which everything else is read."""
    draft = folder / "table"
    with draft.open("wb") as table:
        write_as_text(folder / "log", table)
    draft.replace(folder / "log")


def drop_log(upload: LogUpload) -> None:
    """Remove an uploaded file."""
    shutil.rmtree(_folder(upload), ignore_errors=True)
    upload.delete()


def upload_of(workshop: Workshop, file_id: int) -> LogUpload:
    """One uploaded file of a workshop.

    Raises
    ------
    NotFound
        If it is not there, or belongs to another workshop.
    """
    upload = LogUpload.objects.filter(workshop=workshop, pk=file_id).first()
    if upload is None or not (_folder(upload) / "log").exists():
        raise NotFound("file")
    return upload


def opened(upload: LogUpload) -> LogFile:
    """The file as understood from its beginning.

    Raises
    ------
    InvalidInput
    """
    return open_log(_folder(upload) / "log")


def _digest(file: LogFile) -> str:
    return hashlib.sha256("\x1f".join(file.headings).encode()).hexdigest()


def remembered_reading(workshop: Workshop, file: LogFile) -> Reading | None:
    """How the workshop read such a file the last time; None when it never did."""
    known = KnownReading.objects.filter(workshop=workshop, headings_digest=_digest(file)).first()
    if known is None:
        return None
    try:
        return Reading.model_validate(known.reading)
    except ValidationError:  # kept by an older version: the headings are asked again
        return None


def remember_reading(workshop: Workshop, file: LogFile, reading: Reading) -> None:
    """Keep how a file was read for the next one with the same headings."""
    KnownReading.objects.update_or_create(
        workshop=workshop,
        headings_digest=_digest(file),
        defaults={"reading": reading.model_dump(mode="json")},
    )


def columns_in_steps(
    upload: LogUpload, file: LogFile, reading: Reading
) -> Generator[float, None, Columns]:
    """The columns that a reading needs, with the share read after each step.

    They are kept beside the file, so that another unit or sign does not read it again.

    Raises
    ------
    InvalidInput
    """
    wanted = wanted_headings(reading)
    cache = _folder(upload) / "columns.npz"
    kept = _cached(cache, wanted)
    if kept is not None:
        return kept
    columns = yield from column_steps(file, wanted)
    _cache(cache, wanted, columns)
    return columns


def _cached(cache: Path, wanted: list[str]) -> Columns | None:
    try:
        with np.load(cache, allow_pickle=False) as stored:
            if stored["headings"].tolist() != wanted:
                return None
            table = stored["table"]
            faults = [Problem(field, words) for field, words in stored["faults"].tolist()]
            return Columns(
                {heading: table[i] for i, heading in enumerate(wanted)},
                stored["lines"],
                int(stored["bad"]),
                tuple(faults),
            )
    except (OSError, ValueError, KeyError, EOFError):
        return None


def _cache(cache: Path, wanted: list[str], columns: Columns) -> None:
    draft = cache.with_name(f"{secrets.token_hex(4)}.npz")
    np.savez(
        draft,
        headings=np.array(wanted),
        table=np.stack([columns.values[heading] for heading in wanted])
        if wanted
        else np.zeros((0, 0)),
        lines=columns.lines,
        bad=columns.bad_rows,
        faults=np.array([[f.field, f.message] for f in columns.faults]).reshape(-1, 2),
    )
    draft.replace(cache)


def whole_columns(upload: LogUpload, file: LogFile, reading: Reading) -> Columns:
    """`columns_in_steps`, at once.

    Raises
    ------
    InvalidInput
    """
    steps = columns_in_steps(upload, file, reading)
    while True:
        try:
            next(steps)
        except StopIteration as end:
            if not isinstance(end.value, Columns):
                raise InvalidInput([Problem("file", "cannot be read")]) from None
            return end.value
