"""What a workshop pays and how long it works, where it has typed its own over the generic set."""

from __future__ import annotations

from accounts.models import Workshop
from builds.models import Build
from django.conf import settings
from django.db import models
from django.utils import timezone


class OwnPrice(models.Model):
    """A workshop's own cost and lead time of a part, by the part's key."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="prices")
    part = models.CharField(max_length=40)
    cost = models.FloatField()
    lead_days = models.PositiveIntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "part"], name="one_price_a_part")
        ]


class OwnPart(models.Model):
    """A part that a workshop added to the catalogue: a fitting where it has ends."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="own_parts")
    key = models.CharField(max_length=40)
    words = models.CharField(max_length=80)
    per = models.CharField(max_length=10)
    cost = models.FloatField()
    lead_days = models.PositiveIntegerField()
    weight_kg = models.FloatField(default=0.0)
    end_1 = models.CharField(max_length=40, blank=True)
    end_2 = models.CharField(max_length=40, blank=True)
    angle_deg = models.PositiveSmallIntegerField(default=0)
    height_mm = models.FloatField(default=0.0)
    spanner = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["key"]
        constraints = [
            models.UniqueConstraint(fields=["workshop", "key"], name="one_own_part_a_key")
        ]


class OwnHours(models.Model):
    """A workshop's own hours of an operation, by the operation's key."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="hours")
    operation = models.CharField(max_length=40)
    hours = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "operation"], name="one_time_an_operation")
        ]


class OrderTick(models.Model):
    """How far a part of a build's order is: nothing here is to order still.

    It stays when the order changes: what was ticked for so many is told beside what is wanted now.
    """

    class State(models.TextChoices):
        HAVE = "have"
        ORDERED = "ordered"
        ARRIVED = "arrived"

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="order_ticks")
    part = models.CharField(max_length=40)
    state = models.CharField(max_length=8, choices=State.choices)
    count = models.FloatField()
    """Of it, when it was ticked."""
    ticked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    ticked_at = models.DateTimeField(default=timezone.now)
    hand = models.CharField(max_length=150, blank=True, default="")
    """Whose, where a file brought it; empty: who ticked it here."""

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["build", "part"], name="one_tick_a_part"),
            models.CheckConstraint(condition=models.Q(count__gt=0), name="ticked_for_some"),
        ]

    @property
    def by(self) -> str:
        """Who ticked it."""
        return self.hand or self.ticked_by.username


class BoughtBesides(models.Model):
    """A part that a build's order has besides what its lines and components take."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="bought_besides")
    part = models.CharField(max_length=40)
    count = models.FloatField()
    why = models.CharField(max_length=80)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["build", "part"], name="one_row_besides_a_part"),
            models.CheckConstraint(condition=models.Q(count__gt=0), name="some_besides"),
        ]


class OwnBender(models.Model):
    """What a workshop measured of its bender on a trial bend."""

    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE, related_name="bender")
    springback_pct = models.FloatField()
    stretch_mm = models.FloatField()
    flare_mm = models.FloatField()
    spare_mm = models.FloatField()
