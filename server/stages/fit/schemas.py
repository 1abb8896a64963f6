"""What Fit is told, and what it tells."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from bilge_core.agreement.fit_entries import AnyOffered, read_offered
from bilge_core.document.work_file import ClientId
from bilge_core.tell.fit import FitOut
from ninja import Schema
from pydantic import BeforeValidator, Field


class FitRefusedOut(Schema):
    """What was entered and not kept, and why."""

    client_id: str
    why: str


class FitStageOut(Schema):
    """A test fit as it stands."""

    state: int
    fit: FitOut
    refused: list[FitRefusedOut]


def _entry(raw: Any) -> AnyOffered:
    return read_offered(raw)


class OfferedIn(Schema):
    """Something found or said. `client_id` is made where it was entered."""

    client_id: ClientId
    at: datetime
    entry: Annotated[AnyOffered, BeforeValidator(_entry)]


class OfferedAllIn(Schema):
    """In the order in which they happened."""

    entries: Annotated[list[OfferedIn], Field(max_length=200)]
