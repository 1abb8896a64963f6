"""Photos of parts as they come: checked, made smaller, stripped of where and when, kept."""

from __future__ import annotations

import io
import secrets
import threading
from collections.abc import Mapping
from typing import IO, Any, cast

from accounts.models import User, Workshop
from bilge_core.errors import InvalidInput, Problem
from config.errors import NotFound
from ninja.files import UploadedFile
from PIL import Image, ImageOps, UnidentifiedImageError

from builds import selectors
from builds.models import Build, Photo

LARGEST_PHOTO_BYTES = 25 * 1024 * 1024
LONGEST_SIDE = 1600
LARGEST_SIDE = 12_000
"""Of a picture that is taken, in pixels."""

MOST_PIXELS = {"JPEG": 60_000_000, "PNG": 24_000_000, "WEBP": 6_000_000}
MOST_PIXELS_STEPWISE = 16_000_000
"""What a web worker's memory bears while a picture is opened, by how its kind is unpacked: a JPEG
is shrunk as it is read, but one that builds up in steps is held whole first (ours: 130 MB at most).
"""
MOST_PHOTOS = 200
"""Of one build."""

_one_at_a_time = threading.Lock()


def _check_size(opened: Image.Image) -> None:
    stepwise = bool(opened.info.get("progressive") or opened.info.get("progression"))
    most = MOST_PIXELS_STEPWISE if stepwise else MOST_PIXELS[opened.format or ""]
    if max(opened.size) > LARGEST_SIDE or opened.width * opened.height > most:
        fault = (
            f"is {opened.width} by {opened.height} pixels; this kind of picture may have "
            f"{most // 1_000_000} million, and {LARGEST_SIDE} on a side: save it smaller"
        )
        raise InvalidInput([Problem("file", fault)])


def _made_small(file: IO[bytes]) -> bytes:
    """The picture the right way up, at most 1600 pixels long, as JPEG with nothing else in it.

    It is shrunk while it is unpacked, and one at a time: what is sent does not decide how much
    memory that takes.
    """
    try:
        with _one_at_a_time, Image.open(file, formats=tuple(MOST_PIXELS)) as opened:
            _check_size(opened)
            opened.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            opened.thumbnail((LONGEST_SIDE, LONGEST_SIDE), reducing_gap=2.0)
            picture = ImageOps.exif_transpose(opened).convert("RGB")
    except InvalidInput:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise InvalidInput(
            [Problem("file", "is no picture that can be read; give a JPEG, PNG or WebP")]
        ) from None
    kept = io.BytesIO()
    picture.save(kept, "JPEG", quality=82, optimize=True)
    return kept.getvalue()


def add_photo(user: User, build_id: int, upload: UploadedFile) -> Photo:
    """Keep a photo of a build; its token goes into the record of what it shows.

    Raises
    ------
    NotFound
    InvalidInput
        If it is no picture, too large, or the build has too many.
    """
    build = selectors.build_of(user.workshop, build_id)
    if (upload.size or 0) > LARGEST_PHOTO_BYTES:
        raise InvalidInput([Problem("file", "is larger than 25 MB; save it smaller")])
    return add_bytes(user, build, cast(IO[bytes], upload))


def add_bytes(user: User, build: Build, file: IO[bytes]) -> Photo:
    """Keep a photo of a build from its bytes.

    Raises
    ------
    InvalidInput
        If it is no picture, or the build has too many.
    """
    if build.photos.count() >= MOST_PHOTOS:
        raise InvalidInput([Problem("file", f"{MOST_PHOTOS} photos are the most of one build")])
    return Photo.objects.create(
        build=build, token=secrets.token_urlsafe(12), data=_made_small(file), made_by=user
    )


def add_kept(user: User, build: Build, data: bytes) -> Photo:
    """Keep a photo that a Bilge kept before as it is; any other is made as those are.

    Raises
    ------
    InvalidInput
    """
    photo = add_bytes(user, build, io.BytesIO(data))  # whatever it is, it can be read
    if _is_ours(data):
        photo.data = data
        photo.save(update_fields=["data"])
    return photo


def renamed(entry: dict[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """What was entered, its photos called otherwise; those that nobody has are left out."""
    if not entry.get("photos"):
        return entry
    return {**entry, "photos": [names[each] for each in entry["photos"] if each in names]}


def _is_ours(data: bytes) -> bool:
    """Whether a picture, which can be read, is as `_made_small` makes them: nothing else in it."""
    with Image.open(io.BytesIO(data)) as opened:
        known = {"jfif", "jfif_version", "jfif_unit", "jfif_density"}
        is_plain = opened.format == "JPEG" and opened.mode == "RGB" and set(opened.info) <= known
        return is_plain and max(opened.size) <= LONGEST_SIDE and data.endswith(b"\xff\xd9")


def photo_bytes(workshop: Workshop, build_id: int, token: str) -> bytes:
    """A photo as JPEG.

    Raises
    ------
    NotFound
    """
    photo = Photo.objects.filter(build__workshop=workshop, build_id=build_id, token=token).first()
    if photo is None:
        raise NotFound("photo")
    return bytes(photo.data)
