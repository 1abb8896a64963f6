"""When something happened, by the clock of where it was entered."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.utils import timezone

_AHEAD = timedelta(minutes=2)
"""By which a phone's clock may be ahead before it is not believed (ours)."""


def believed(at: datetime, begun: datetime) -> datetime:
    """When something happened, where the phone that says so has a clock that can be believed.

    Parameters
    ----------
    at : datetime
        As the phone says.
    begun : datetime
        Nothing can have happened before.
    """
    now = timezone.now()
    if at > now + _AHEAD or at < begun:
        return now
    return min(at, now)
