"""When something happened, by the clock of where it was entered."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone


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
    return now if at < begun else min(at, now)
