"""Who works where, who may come, and from where people are signed in."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models


class Workshop(models.Model):
    """A shop; everything that is measured, decided or logged belongs to one."""

    name = models.CharField(max_length=120)
    owner = models.ForeignKey("User", on_delete=models.SET_NULL, null=True, related_name="+")
    """Who invites and removes; the first member until it is handed over."""

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """A person who signs in, in one workshop. One who was removed stays, for the history."""

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="people")

    REQUIRED_FIELDS = ["workshop"]


class Invitation(models.Model):
    """A link that lets one person join; only a digest of its secret is kept."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="invitations")
    secret_digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_by = models.OneToOneField(User, on_delete=models.CASCADE, null=True, related_name="+")

    class Meta:
        ordering = ["-id"]


class SignIn(models.Model):
    """A browser in which somebody is signed in."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    address = models.CharField(max_length=45)
    browser = models.CharField(max_length=200)
    began_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-seen_at", "-id"]
