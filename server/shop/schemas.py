"""Parts and hours as they cross the boundary."""

from __future__ import annotations

from bilge_core.shop.own import MOST_COST, MOST_DAYS
from ninja import Schema
from pydantic import Field


class OwnPartIn(Schema):
    """A part of a workshop's own; its ends make it a fitting that lines are screwed with."""

    words: str = Field(max_length=200)
    per: str = Field(max_length=40)
    cost: float = Field(ge=0)
    lead_days: int = Field(ge=0)
    weight_kg: float = Field(default=0.0, ge=0)
    end_1: str = Field(default="", max_length=80, description="as 'taper 1/2 male'; empty: none")
    end_2: str = Field(default="", max_length=80)
    angle_deg: int = 0
    height_mm: float = 0.0
    spanner: str = Field(default="", max_length=80)


class OwnPartOut(OwnPartIn):
    """A part that this workshop added."""

    key: str


class PartPriceOut(Schema):
    """A part of the catalogue as this workshop pays it."""

    key: str
    words: str
    per: str
    cost: float
    lead_days: int
    weight_kg: float
    own: bool
    """Typed over; otherwise the generic set's, which is invented."""


class HoursOut(Schema):
    """An operation and its hours in this workshop."""

    key: str
    words: str
    hours: float
    source: str
    own: bool


class ShopOut(Schema):
    """All parts and operations."""

    parts: list[PartPriceOut]
    own_parts: list[OwnPartOut]
    threads: dict[str, str]
    """Ends that a fitting may have, with their words."""
    operations: list[HoursOut]


class PriceIn(Schema):
    """A part's own cost and lead time; null takes the generic set's again."""

    cost: float | None = Field(ge=0, le=MOST_COST)
    lead_days: int | None = Field(ge=0, le=MOST_DAYS)


class HoursIn(Schema):
    """An operation's own hours; null takes the generic set's again."""

    hours: float | None = Field(ge=0, le=500)


class BenderIn(Schema):
    """What a bender does, measured on a trial bend."""

    springback_pct: float = Field(ge=0, le=40, description="of the angle bent")
    stretch_mm: float = Field(ge=0, le=50, description="in a bend of a quarter turn")
    flare_mm: float = Field(ge=0, le=30, description="of tube that a flare takes")
    spare_mm: float = Field(ge=0, le=2000, description="for a bend gone wrong")


class BenderOut(BenderIn):
    """The workshop's bender."""

    own: bool
    """Measured here; otherwise Bilge's guess."""
