"""Studies of remedies: what is tried, on which laps, and what each trial gave."""

from __future__ import annotations

from accounts.models import Workshop
from builds.models import Build, BuildState
from django.conf import settings
from django.db import models
from loads.models import Lap
from runs.long_jobs import LongJob


class Study(LongJob):
    """Remedies for one state of a build, tried over the laps that it is judged by.

    Whoever prepares it holds it by a lease of the database's clock, as a run is held.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="studies")
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="studies")
    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="studies")
    laps = models.ManyToManyField(Lap, through="StudyLap")
    felt = models.CharField(max_length=64)
    """What the oil feels of the state over the first lap: equal states are one study."""
    search = models.CharField(max_length=20, default="", blank=True)
    """What is looked for on a grid; empty: remedies are tried."""
    off = models.JSONField(default=list)
    own = models.JSONField(default=list)
    candidates = models.JSONField(null=True)
    """Made ready, once the first worker has been at it."""
    depth = models.PositiveSmallIntegerField(default=1)
    """How many remedies are put together at the most: one, two or three."""
    lease_until = models.DateTimeField(null=True)
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    started_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["build", "felt"], name="study_by_what_is_felt")]


class StudyLap(models.Model):
    """A lap of a study; the first is the worst."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="over")
    lap = models.ForeignKey(Lap, on_delete=models.CASCADE, related_name="studied")
    place = models.PositiveSmallIntegerField()

    class Meta:
        ordering = ["place"]
        constraints = [models.UniqueConstraint(fields=["study", "place"], name="one_lap_a_place")]


class StudyTrial(models.Model):
    """One remedy on one rung of the ladder, over one lap, from one start."""

    WAITING, RUNNING, DONE, FAILED = "waiting", "running", "done", "failed"

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="trials")
    candidate = models.CharField(max_length=120)
    rung = models.CharField(max_length=10)
    lap = models.PositiveSmallIntegerField(default=0)
    seed = models.PositiveSmallIntegerField(default=0)
    place = models.PositiveIntegerField()
    """In the order in which they are worth running."""
    status = models.CharField(max_length=8, default=WAITING)
    attempt = models.PositiveIntegerField(default=0)
    lease_until = models.DateTimeField(null=True)
    windows = models.JSONField(default=dict)
    """What single windows gave so far, by their places."""
    outcome = models.JSONField(null=True)
    reason = models.CharField(max_length=300, default="", blank=True)
    cpu_s = models.FloatField(default=0.0)

    class Meta:
        ordering = ["place", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["study", "candidate", "rung", "lap", "seed"], name="one_trial_of_a_kind"
            )
        ]
        indexes = [models.Index(fields=["study", "status", "place"], name="trial_by_its_turn")]


class KnownOutcome(models.Model):
    """What a trial gave, known by all that went into it: asked for again, it is there at once."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="outcomes")
    key = models.CharField(max_length=64)
    outcome = models.JSONField(null=True)
    reason = models.CharField(max_length=300, default="", blank=True)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "key"], name="one_outcome_of_a_kind")
        ]
