"""One logger heard: its rows followed by the car's forecast, and what is to be said kept."""

from __future__ import annotations

import time

from bilge_core.agreement.judged import read_kept_laps
from bilge_core.agreement.live import Follower, Seen, plan_of
from bilge_core.errors import InvalidInput
from bilge_core.loads.row_by_row import HEAD_ROWS, RowReader, row_reader
from bilge_core.tell.live import LivePoint, live_now, live_point
from django.db.models import F
from django.db.models.functions import Now

from live.models import LiveFeed

EVERY = 0.2
"""[s] between two writings."""
KEPT = 30.0
"""[s] of the line that is drawn."""
_POINT = 0.1  # [s] between two points of it


class NobodyFollowsError(Exception):
    """No car is followed by such a key, or another logger has taken its place."""


class Following:
    """A feed while its logger is connected."""

    def __init__(self, key: str) -> None:
        feed = LiveFeed.objects.filter(key=key).first()
        if feed is None:
            raise NobodyFollowsError
        LiveFeed.objects.filter(pk=feed.pk).update(
            attempt=F("attempt") + 1, fault="", now=None, points=[], heard_at=Now()
        )
        self._feed = LiveFeed.objects.values_list("pk", "attempt").get(pk=feed.pk)
        frozen, _ = read_kept_laps(bytes(feed.plan))
        assert frozen is not None
        self._follower = Follower(plan_of(frozen, feed.lag_s))
        self._head: list[str] = []
        self._reader: RowReader | None = None
        self._points: list[LivePoint] = []
        self._seen: Seen | None = None
        self._written = time.monotonic()

    def hear(self, line: str) -> None:
        """One line as the logger sent it.

        Raises
        ------
        InvalidInput
            If headings lack what is needed.
        NobodyFollowsError
        """
        if self._reader is None:
            self._head.append(line)
            if len(self._head) > HEAD_ROWS:
                self._reader = row_reader("\n".join(self._head))
                for row in self._head[1:]:
                    self._row(self._reader, row)
            return
        self._row(self._reader, line)
        if time.monotonic() - self._written >= EVERY:
            self.write()

    def _row(self, reader: RowReader, line: str) -> None:
        row = reader.read(line)
        if row is None or not {"speed", "engine_speed", "oil_pressure"} <= row.keys():
            return
        seen = self._follower.feed(
            row["time"], row["speed"], row["engine_speed"], row["oil_pressure"],
            round(row["lap"]) if "lap" in row else None, row.get("oil_temperature"),
        )  # fmt: skip
        if self._points and seen.time < self._points[-1].t:
            self._points = []  # its clock began anew
        if not self._points or seen.time - self._points[-1].t >= _POINT - 1e-6:
            self._points.append(live_point(seen))
            self._points = [each for each in self._points if seen.time - each.t <= KEPT]
        self._seen = seen

    def write(self) -> None:
        """Keep what is to be said.

        Raises
        ------
        NobodyFollowsError
        """
        self._written = time.monotonic()
        if self._seen is None:
            return
        now = live_now(self._seen, self._follower).model_dump(mode="json")
        self._update(now=now, points=[each.model_dump(mode="json") for each in self._points])

    def refuse(self, error: InvalidInput) -> None:
        """Say what its headings lack."""
        self._update(fault=str(error)[:300])

    def _update(self, **changed: object) -> None:
        pk, attempt = self._feed
        mine = LiveFeed.objects.filter(pk=pk, attempt=attempt)
        if not mine.update(heard_at=Now(), **changed):
            raise NobodyFollowsError
