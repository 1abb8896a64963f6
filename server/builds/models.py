"""Builds and their states."""

from __future__ import annotations

from functools import cached_property

from accounts.models import Workshop
from bilge_core.document.build import Build as BuildDocument
from django.conf import settings
from django.db import models
from loads.models import Lap


class Build(models.Model):
    """A build of a car; `current` is the state shown, `lap` the one shown of its laps."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="builds")
    name = models.CharField(max_length=80)
    current = models.ForeignKey("BuildState", on_delete=models.PROTECT, null=True, related_name="+")
    lap = models.ForeignKey(Lap, on_delete=models.SET_NULL, null=True, related_name="builds")
    as_is = models.ForeignKey("BuildState", on_delete=models.PROTECT, null=True, related_name="+")
    """The state that the car is in, where that was said."""
    last_id = models.PositiveIntegerField(default=0)
    """Number of the last id given to a part in any of its states; it never goes back."""
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed_at", "-id"]


class JudgedBy(models.Model):
    """A lap that a build is judged by; one of them is shown."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="judged_by")
    lap = models.ForeignKey(Lap, on_delete=models.CASCADE, related_name="judges")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["build", "lap"], name="judged_once_by_a_lap")
        ]


class BuildState(models.Model):
    """The document after one edit. States are never changed; undo goes back to the parent."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="states")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="children")
    made_on = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="+")
    """The state that its maker saw: older than the parent where the edit was laid on top of others;
    unknown of states of before ids."""
    carried_from = models.ForeignKey(
        "self", on_delete=models.CASCADE, null=True, related_name="carried"
    )
    """The state whose change of knowledge was carried into this one: the car as it is, known
    better."""
    document = models.JSONField()
    change = models.CharField(max_length=200)
    act = models.JSONField(null=True)
    """What made it from the state it was made on, as data; null where the document was replaced."""
    aside = models.BooleanField(default=False)
    """Made on a state that another edit had moved on from: kept, never shown unasked."""
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["build", "number"], name="state_number_of_build")
        ]

    @cached_property
    def read(self) -> BuildDocument:
        """Its document, read once: neither changes."""
        return BuildDocument.model_validate(self.document)


class Revision(models.Model):
    """A state that was given a name, because it matters."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    state = models.OneToOneField(BuildState, on_delete=models.CASCADE, related_name="revision")
    name = models.CharField(max_length=60)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["build", "number"], name="revision_number_of_build")
        ]


class Photo(models.Model):
    """A photo of a part, by a token that documents name it by."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="photos")
    token = models.CharField(max_length=40, unique=True)
    data = models.BinaryField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(auto_now_add=True)
