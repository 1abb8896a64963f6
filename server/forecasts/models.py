"""Forecasts kept, so that the shelf need not compute them again."""

from __future__ import annotations

from builds.models import BuildState
from django.db import models
from loads.models import Lap


class Forecast(models.Model):
    """The verdict on one state of a build over one lap, by one version of the model."""

    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="forecasts")
    lap = models.ForeignKey(Lap, on_delete=models.CASCADE, related_name="forecasts")
    model = models.CharField(max_length=40)
    verdict_state = models.CharField(max_length=20)
    headline = models.CharField(max_length=60)
    sentence = models.CharField(max_length=300)
    dry_s = models.FloatField()
    dip_count = models.PositiveIntegerField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["state", "lap", "model"], name="one_forecast_each")
        ]
