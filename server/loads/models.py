"""Logged laps, the files they come from, and how a workshop reads its files."""

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
    digest = models.CharField(max_length=64)
    """Of the samples: what answers over this lap are known by, with its corners."""
    duration_s = models.FloatField()
    corners = models.JSONField(null=True, default=None)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made_at", "-id"]


class LogUpload(models.Model):
    """A logger's file as it was uploaded; the newest few of a workshop are kept on disk."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="log_uploads")
    name = models.CharField(max_length=200)
    token = models.CharField(max_length=40, unique=True)
    size = models.PositiveBigIntegerField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made_at", "-id"]


class KnownReading(models.Model):
    """How a workshop read a file with these headings the last time."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="readings")
    headings_digest = models.CharField(max_length=64)
    reading = models.JSONField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["workshop", "headings_digest"], name="one_reading_for_headings"
            )
        ]
