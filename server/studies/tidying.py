"""What is kept of studies, and what is cleared away when it is old."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import Max
from django.db.models.functions import Now

from studies.models import KnownOutcome, Study
from studies.selectors import UNDER_WAY

_KEPT_FOR = timedelta(days=60)


def tidy_studies() -> int:
    """Drop outcomes and studies that are old; how many studies.

    The newest of each build stays, and what is under way.
    """
    KnownOutcome.objects.filter(made_at__lt=Now() - _KEPT_FOR).delete()
    newest = Study.objects.order_by().values("build").annotate(last=Max("pk"))
    old = Study.objects.filter(asked_at__lt=Now() - _KEPT_FOR).exclude(status__in=UNDER_WAY)
    gone = list(old.exclude(pk__in=[row["last"] for row in newest]).values_list("pk", flat=True))
    Study.objects.filter(pk__in=gone).delete()
    return len(gone)
