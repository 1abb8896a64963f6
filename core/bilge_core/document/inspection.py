"""What was looked at on pan and pickup as they came, as the build document holds it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bilge_core.document.parts import Name, Part

Found = Literal["not_looked", "sound", "watch", "replace"]


class Inspected(Part):
    """One thing looked at on pan and pickup as they come, before anything is assembled."""

    item: Name
    found: Found
    note: str = Field(default="", max_length=2000)
    off_flat_mm: float | None = Field(default=None, ge=0, le=20)
    photos: list[Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]] = Field(
        default=[], max_length=12
    )
