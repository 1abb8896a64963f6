"""Who works where."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models


class Workshop(models.Model):
    """A shop; everything that is measured, decided or logged belongs to one."""

    name = models.CharField(max_length=120)

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """A person who signs in, in one workshop."""

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="people")

    REQUIRED_FIELDS = ["workshop"]
