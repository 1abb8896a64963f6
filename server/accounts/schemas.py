"""What the session says."""

from __future__ import annotations

from typing import Literal

from ninja import Schema
from pydantic import Field

UnitSystem = Literal["metric", "us"]


class SignInIn(Schema):
    """Name and password."""

    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


class UnitOut(Schema):
    """How a stored figure is shown: ``shown = scale * stored + offset``."""

    label: str
    scale: float
    offset: float
    decimals: int


class FieldUnitsOut(Schema):
    """The unit of each ending of a field's name, in both systems."""

    suffix: str
    metric: UnitOut
    us: UnitOut


class SessionOut(Schema):
    """Who is signed in, and what every screen needs to know."""

    username: str
    workshop: str
    units: list[FieldUnitsOut]
    grades: list[str]
    inspection_items: list[str]
    largest_upload_mb: int
