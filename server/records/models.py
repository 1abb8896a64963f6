"""Records of a build: what was looked at and measured. Append-only."""

from __future__ import annotations

from builds.models import Build, BuildState
from django.conf import settings
from django.db import models


class Record(models.Model):
    """Something looked at or measured: never changed, and not touched by an undo of the design.

    Writing one anew makes another that `replaces` it; striking it out makes one without data.
    """

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="records")
    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="+")
    """The state that it was taken on."""
    kind = models.CharField(max_length=20)
    data = models.JSONField(null=True)
    """As the core reads it, its kind with it; null: struck out."""
    replaces = models.OneToOneField(
        "self", on_delete=models.CASCADE, null=True, related_name="replaced_by"
    )
    taken_by = models.CharField(max_length=150, blank=True)
    """Whose hand, where a file brought it; empty: who made it here."""
    taken_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
