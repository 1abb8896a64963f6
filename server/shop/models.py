"""What a workshop pays and how long it works, where it has typed its own over the generic set."""

from __future__ import annotations

from accounts.models import Workshop
from django.db import models


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


class OwnHours(models.Model):
    """A workshop's own hours of an operation, by the operation's key."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="hours")
    operation = models.CharField(max_length=40)
    hours = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "operation"], name="one_time_an_operation")
        ]
