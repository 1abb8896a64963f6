"""Runs in moving oil, and what they gave."""

from __future__ import annotations

from accounts.models import Workshop
from builds.models import Build, BuildState
from django.conf import settings
from django.db import models
from loads.models import Lap


class Result(models.Model):
    """What a run gave, known by what went into it: document, lap, cells, start and solver."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="results")
    key = models.CharField(max_length=64)
    summary = models.JSONField()
    """Verdict, dry time and the like: what lists show without reading the whole."""
    figures = models.JSONField()
    frames = models.BinaryField()
    cpu_s = models.FloatField()
    wall_s = models.FloatField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "key"], name="one_result_of_a_kind")
        ]


class Run(models.Model):
    """One state of a build over one lap, asked for once.

    A run that is under way belongs to the worker whose attempt number it carries, and only as long
    as its lease lasts by the database's clock; whoever finds the lease run out puts it back.
    """

    WAITING, RUNNING, FINISHED, CANCELLED, FAILED = (
        "waiting",
        "running",
        "finished",
        "cancelled",
        "failed",
    )

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="runs")
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="runs")
    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="runs")
    lap = models.ForeignKey(Lap, on_delete=models.CASCADE, related_name="runs")
    cells = models.CharField(max_length=8)
    seed = models.PositiveIntegerField(default=0)
    key = models.CharField(max_length=64)
    felt = models.CharField(max_length=64, default="")
    """What the oil feels, whatever the cells: equal for every state that it cannot tell apart."""
    automatic = models.BooleanField(default=False)
    """Started by itself after an edit: the next edit's takes its place."""
    status = models.CharField(max_length=10, default=WAITING)
    reason = models.CharField(max_length=300, default="", blank=True)
    attempt = models.PositiveIntegerField(default=0)
    worker = models.CharField(max_length=80, default="", blank=True)
    lease_until = models.DateTimeField(null=True)
    queued_at = models.DateTimeField()
    started_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    reached_s = models.FloatField(default=0.0)
    lasts_s = models.FloatField()
    partial = models.JSONField(null=True)
    result = models.ForeignKey(Result, on_delete=models.PROTECT, null=True, related_name="runs")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    asked_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        indexes = [
            models.Index(fields=["workshop", "key"], name="run_by_key"),
            models.Index(fields=["build", "felt"], name="run_by_what_is_felt"),
            models.Index(fields=["status", "lease_until"], name="run_by_lease"),
        ]
