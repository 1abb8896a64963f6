"""What is kept of learnings, and what is cleared away when it is old."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import Max
from django.db.models.functions import Now

from learning.models import Learning

_KEPT_FOR = timedelta(days=60)


def tidy_learnings() -> int:
    """Drop those that are old and not their build's newest, nor taken over; how many."""
    newest = Learning.objects.order_by().values("build").annotate(last=Max("pk"))
    old = Learning.objects.filter(asked_at__lt=Now() - _KEPT_FOR, taken_in__isnull=True)
    gone = old.exclude(status__in=Learning.UNDER_WAY).exclude(
        pk__in=[row["last"] for row in newest]
    )
    keys = list(gone.values_list("pk", flat=True))
    Learning.objects.filter(pk__in=keys).delete()
    return len(keys)
