"""What laps say of the figures that nobody measured: what is asked, its runs, what came of it."""

from __future__ import annotations

from accounts.models import Workshop
from builds.models import Build, BuildState
from django.conf import settings
from django.db import models
from runs.long_jobs import LongJob


class Learning(LongJob):
    """Laps of a car's track book that figures are fitted to.

    Laps and document are copies: what is edited meanwhile changes nothing of it.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="learnings")
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="learnings")
    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="+")
    """That the laps were driven in."""
    document = models.JSONField()
    """That state with all that was known of the car as it was asked."""
    laps = models.JSONField()
    """Which they are: session, day, circuit, name."""
    kept = models.BinaryField()
    """Their samples, as the core packs them."""
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    told = models.JSONField(null=True)
    """What came of it."""
    taken_in = models.PositiveIntegerField(null=True)
    """Number of the state that its figures were taken over into."""
    left = models.BooleanField(default=False)
    """Said to be left as it was."""

    class Meta:
        ordering = ["-id"]


class LearningStep(models.Model):
    """One coupled run over one lap with one amount of oil up top, or the fit after all of them.

    Held by a lease of the database's clock, as a run is.
    """

    WAITING, RUNNING, DONE = "waiting", "running", "done"

    learning = models.ForeignKey(Learning, on_delete=models.CASCADE, related_name="steps")
    place = models.PositiveSmallIntegerField()
    """In the order in which they are done; the fit is the last."""
    lap = models.PositiveSmallIntegerField(null=True)
    level = models.PositiveSmallIntegerField(null=True)
    status = models.CharField(max_length=8, default=WAITING)
    attempt = models.PositiveIntegerField(default=0)
    lease_until = models.DateTimeField(null=True)
    share = models.FloatField(default=0.0)
    """Of it that is done."""
    drawn = models.BinaryField(null=True)
    """Share of gas that the mouth drew, a byte a sample, packed."""

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["learning", "place"], name="one_step_a_place")
        ]
