"""Cars that are followed while they drive, and who listens for their loggers."""

from __future__ import annotations

from accounts.models import Workshop
from builds.models import Build
from django.conf import settings
from django.db import models


class LiveListener(models.Model):
    """The one process that loggers send to: it holds the only row, by the database's clock."""

    holder = models.CharField(max_length=80, default="")
    port = models.PositiveIntegerField(default=0)
    lease_until = models.DateTimeField(null=True)


class LiveFeed(models.Model):
    """A car that is followed: by which forecast, and what was heard last."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="feeds")
    build = models.OneToOneField(Build, on_delete=models.CASCADE, related_name="feed")
    key = models.CharField(max_length=24, unique=True)
    """What the logger's first line says: whose car it is."""
    plan = models.BinaryField()
    """The forecast that it is followed by, as the core packs it."""
    lag_s = models.FloatField()
    about = models.JSONField()
    """What is said of the forecast."""
    opened_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    opened_at = models.DateTimeField(auto_now_add=True)
    attempt = models.PositiveIntegerField(default=0)
    """Of connections: the newest one counts."""
    heard_at = models.DateTimeField(null=True)
    fault = models.CharField(max_length=300, default="", blank=True)
    now = models.JSONField(null=True)
    points = models.JSONField(default=list)
