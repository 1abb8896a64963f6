"""Photos of parts as they come: checked, made smaller, stripped of where and when, kept."""

from __future__ import annotations

import io
import secrets

from accounts.models import User, Workshop
from bilge_core.errors import InvalidInput, Problem
from config.errors import NotFound
from ninja.files import UploadedFile
from PIL import Image, ImageOps, UnidentifiedImageError

from builds import selectors
from builds.models import Photo

LARGEST_PHOTO_BYTES = 25 * 1024 * 1024
MOST_PIXELS = 60_000_000
LONGEST_SIDE = 1600
MOST_PHOTOS = 200
"""Of one build."""

_KINDS = ("JPEG", "PNG", "WEBP")


def _made_small(data: bytes) -> bytes:
    """The picture the right way up, at most 1600 pixels long, as JPEG with nothing else in it."""
    try:
        with Image.open(io.BytesIO(data), formats=_KINDS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise InvalidInput([Problem("file", "has over 60 million pixels; save it smaller")])
            picture = ImageOps.exif_transpose(opened).convert("RGB")
    except InvalidInput:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise InvalidInput(
            [Problem("file", "is no picture that can be read; give a JPEG, PNG or WebP")]
        ) from None
    picture.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    kept = io.BytesIO()
    picture.save(kept, "JPEG", quality=82, optimize=True)
    return kept.getvalue()


def add_photo(user: User, build_id: int, upload: UploadedFile) -> Photo:
    """Keep a photo of a build; its token goes into the document beside what it shows.

    Raises
    ------
    NotFound
    InvalidInput
        If it is no picture, too large, or the build has too many.
    """
    build = selectors.build_of(user.workshop, build_id)
    if (upload.size or 0) > LARGEST_PHOTO_BYTES:
        raise InvalidInput([Problem("file", "is larger than 25 MB; save it smaller")])
    if build.photos.count() >= MOST_PHOTOS:
        raise InvalidInput([Problem("file", f"{MOST_PHOTOS} photos are the most of one build")])
    small = _made_small(upload.read())
    return Photo.objects.create(
        build=build, token=secrets.token_urlsafe(12), data=small, made_by=user
    )


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
