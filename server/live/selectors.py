"""Reads of cars that are followed, always within a workshop."""

from __future__ import annotations

from datetime import timedelta

from accounts.models import Workshop
from bilge_core.tell.judged import ForecastKept
from bilge_core.tell.live import LiveNow, LivePoint
from builds.selectors import build_of
from django.db.models.functions import Now

from live.models import LiveFeed, LiveListener
from live.schemas import LiveOut, LiveSince

_SILENT = timedelta(seconds=3)
"""Without a row for so long, a logger is not heard."""


def live_of(workshop: Workshop, build_id: int, after: float = -1.0) -> LiveSince:
    """A car that is followed, with the points of its line after a time.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    feed = LiveFeed.objects.filter(build=build).defer("plan").first()
    if feed is None:
        return LiveSince(live=None)
    row = LiveListener.objects.filter(pk=1, lease_until__gt=Now(), port__gt=0).first()
    rows = LiveFeed.objects.filter(pk=feed.pk)
    is_heard = rows.filter(heard_at__gt=Now() - _SILENT).exists()
    points = [LivePoint.model_validate(each) for each in feed.points]
    return LiveSince(
        live=LiveOut(
            key=feed.key,
            port=None if row is None else row.port,
            host="" if row is None else row.holder.split(" ")[0],
            forecast=ForecastKept.model_validate(feed.about),
            state="live" if is_heard and feed.now else "silent" if feed.now else "waiting",
            fault=feed.fault,
            now=None if feed.now is None else LiveNow.model_validate(feed.now),
            points=[each for each in points if each.t > after or points[-1].t < after],
        )
    )
