"""Records of a build: what was looked at and measured. Append-only."""

from __future__ import annotations

from builds.models import Build, BuildState
from django.conf import settings
from django.db import models
from django.utils import timezone


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


class JobCard(models.Model):
    """A job on the car: begun on a state of the plan, closed when the car is in another.

    Its steps are worked out anew each time from what the plan changes; kept is what was said of it.
    """

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="job_cards")
    number = models.PositiveIntegerField()
    said = models.JSONField(default=dict)
    """As the core reads its settings."""
    begun_on = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="+")
    """The state of the plan when it was begun."""
    begun_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+"
    )
    begun_at = models.DateTimeField(default=timezone.now)
    begun_hand = models.CharField(max_length=150, blank=True, default="")
    """Who began it, where a file brought it; empty: who did here."""
    built = models.ForeignKey(BuildState, on_delete=models.CASCADE, null=True, related_name="+")
    """The state that the car was in when it was closed."""
    closed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+"
    )
    closed_at = models.DateTimeField(null=True)
    closed_hand = models.CharField(max_length=150, blank=True, default="")

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["build", "number"], name="card_number_of_build")
        ]

    @property
    def who_began(self) -> str:
        """Who began it."""
        return self.begun_hand or self.begun_by.username

    @property
    def who_closed(self) -> str:
        """Who closed it; empty: it is open."""
        return self.closed_hand or (self.closed_by.username if self.closed_by else "")


class Entry(models.Model):
    """Something that happened: never changed, taken back by another.

    `client_id` is given where it was entered, so that what is sent twice is kept once.
    """

    client_id = models.CharField(max_length=36)
    state = models.ForeignKey(BuildState, on_delete=models.CASCADE, related_name="+")
    """Of the build, when it was entered."""
    data = models.JSONField()
    """As the core reads it, its kind with it."""
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    happened_at = models.DateTimeField()
    """By the clock of where it was entered, within what can be."""
    made_at = models.DateTimeField(auto_now_add=True)
    hand = models.CharField(max_length=150, blank=True, default="")
    """Whose, where a file brought it; empty: who made it here."""

    class Meta:
        abstract = True
        ordering = ["id"]

    @property
    def by(self) -> str:
        """Who entered it."""
        return self.hand or self.made_by.username


class CardEntry(Entry):
    """Something that happened on a card."""

    card = models.ForeignKey(JobCard, on_delete=models.CASCADE, related_name="entries")

    class Meta(Entry.Meta):
        constraints = [
            models.UniqueConstraint(fields=["card", "client_id"], name="one_entry_an_id")
        ]


class BookEntry(Entry):
    """A session, or something that was looked at or renewed, in a car's track book."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="book_entries")

    class Meta(Entry.Meta):
        constraints = [
            models.UniqueConstraint(fields=["build", "client_id"], name="one_book_entry_an_id")
        ]


class FitEntry(Entry):
    """Something that was found or said while parts were offered up."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="fit_entries")

    class Meta(Entry.Meta):
        constraints = [
            models.UniqueConstraint(fields=["build", "client_id"], name="one_fit_entry_an_id")
        ]


class SessionJudged(models.Model):
    """A session's laps held against the forecast that was there: kept, so that it stays as it was.

    Laps and forecast are copies: neither a lap that is deleted nor a newer run changes them.
    """

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="judged")
    session = models.CharField(max_length=40)
    forecast = models.JSONField(null=True)
    """What is said of it; null: there was none."""
    kept = models.BinaryField()
    """Laps and forecast, as the core packs them."""
    lag_s = models.FloatField()
    count = models.JSONField()
    """Of dips: what lists show."""
    told = models.JSONField()
    judged_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    judged_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["build", "session"], name="session_judged_once")
        ]
