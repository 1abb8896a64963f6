"""What is told of a car that is followed."""

from __future__ import annotations

from typing import Literal

from bilge_core.tell.judged import ForecastKept
from bilge_core.tell.live import LiveNow, LivePoint
from ninja import Schema


class LiveOut(Schema):
    """A car that is followed."""

    key: str
    """The logger's first line: `key` and this."""
    port: int | None
    """Of the socket that loggers send to; null: nobody listens yet."""
    host: str
    """The machine whose own socket it is: a worker may run elsewhere."""
    forecast: ForecastKept
    state: Literal["waiting", "live", "silent"]
    fault: str
    """What the logger's headings lack."""
    now: LiveNow | None
    points: list[LivePoint]


class LiveSince(Schema):
    """Null: it is not followed."""

    live: LiveOut | None
