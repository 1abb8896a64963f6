"""Opening and closing a view of a car that drives."""

from __future__ import annotations

import secrets

from accounts.models import User, Workshop
from bilge_core.agreement.asked import lag_of
from bilge_core.agreement.dips_met import Frozen
from bilge_core.agreement.judged import kept_of
from bilge_core.tell.judged import ForecastKept
from builds.models import Build
from builds.selectors import build_of, document_of
from django.db import transaction

from live.models import LiveFeed

_LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
"""None that looks like another."""


@transaction.atomic
def open_feed(user: User, build: Build, frozen: Frozen, told: ForecastKept) -> LiveFeed:
    """Follow a car by a forecast; the key stays the same however often that is asked for."""
    key = "".join(secrets.choice(_LETTERS) for _ in range(12))
    told_by = {
        "workshop": user.workshop, "plan": kept_of(frozen, []), "opened_by": user,
        "lag_s": lag_of(document_of(build)), "about": told.model_dump(mode="json"),
    }  # fmt: skip
    feed, _ = LiveFeed.objects.update_or_create(
        build=build, defaults=told_by, create_defaults={**told_by, "key": key}
    )
    return feed


def close_feed(workshop: Workshop, build_id: int) -> None:
    """Follow a car no more: its logger is not heard.

    Raises
    ------
    NotFound
    """
    LiveFeed.objects.filter(build=build_of(workshop, build_id)).delete()
