"""Verdicts kept, so that the shelf need not work them out again."""

from __future__ import annotations

from accounts.models import Workshop
from django.db import models


class KeptVerdict(models.Model):
    """A verdict in settled oil, by what it is known by: see `bilge_core.tell.known_by`."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="verdicts")
    key = models.CharField(max_length=64)
    told = models.JSONField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "key"], name="one_verdict_of_a_kind")
        ]
