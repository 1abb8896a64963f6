"""Logged laps."""

from __future__ import annotations

from accounts.models import Workshop
from django.conf import settings
from django.db import models


class Lap(models.Model):
    """One lap as prepared from a logger's file: even steps, smoothed, SI, ISO 8855 signs."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="laps")
    name = models.CharField(max_length=120)
    file_name = models.CharField(max_length=200)
    mapping = models.JSONField()
    samples = models.BinaryField()
    duration_s = models.FloatField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made_at", "-id"]
