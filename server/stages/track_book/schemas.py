"""What Track book is told, and what it tells."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from bilge_core.agreement.book_entries import AnyBooked, read_booked
from bilge_core.document.work_file import ClientId
from bilge_core.quantities import UnitSystem
from bilge_core.tell.book import BookOut
from bilge_core.tell.strip_down import StripDownOut
from ninja import Schema
from pydantic import BeforeValidator, Field

MOST_LAPS = 60
"""Of one session."""


class BookStageOut(Schema):
    """A car's track book."""

    state: int
    driven: int
    """The state that a session is written down for: the one that the car is in."""
    book: BookOut
    strip_down: list[StripDownOut]
    """What was looked at on Pan, the last time against the day before."""


def _entry(raw: Any) -> AnyBooked:
    return read_booked(raw)


class BookedIn(Schema):
    """Something to be written down. `client_id` is made where it was entered."""

    client_id: ClientId
    at: datetime
    entry: Annotated[AnyBooked, BeforeValidator(_entry)]


class BookedAllIn(Schema):
    """In the order in which they were written."""

    system: UnitSystem = "metric"
    entries: Annotated[list[BookedIn], Field(max_length=200)]


class LapToJudge(Schema):
    """A logged lap that has its oil's pressure."""

    id: int
    name: str
    file_name: str
    duration_s: float


class SessionLapsIn(Schema):
    """Which laps a session was, and how its sensor is read."""

    lap_ids: Annotated[list[int], Field(max_length=MOST_LAPS)]
    """None: those that are kept with the session."""
    lag_s: Annotated[float | None, Field(ge=0, le=2)] = None
    """Of the pressure's sensor; null: a guess."""
    forecast_anew: bool = False
    """Judge it by the forecast that there is now, not by the one that is kept with it."""
