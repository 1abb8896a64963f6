"""Loads the demo workshop once: user, builds, lap. Run again, it changes nothing made since."""

from __future__ import annotations

import os
from argparse import ArgumentParser
from typing import Any

from accounts.services import open_account
from builds.models import Build
from builds.schemas import RevisionIn
from builds.services import add_build, checked_document, name_revision
from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction
from loads.models import Lap
from loads.services import store_lap

LAPS = {
    "Saltmarsh Ring, rain": "saltmarsh-rain.csv",
    "Saltmarsh Ring, lap 7": "saltmarsh.csv",
}
"""The last is the one that the builds are judged by."""

REVISIONS = {
    "dunlin-deeper": "deeper, more oil",
    "dunlin-gated": "plates, three gates",
    "dunlin": "as raced",
}
"""Documents, the last one on top of the shelf, and what their first state is called."""


class Command(BaseCommand):
    """Load the demo."""

    help = "Make the demo user, and on first run the demo lap and builds."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The user's name."""
        parser.add_argument("username")

    @transaction.atomic
    def handle(self, *args: Any, username: str, **options: Any) -> None:
        """Do it."""
        user = open_account(username, os.environ["BILGE_DEMO_PASSWORD"], "Reedbank Motors")
        if Lap.objects.filter(workshop=user.workshop).exists():
            return
        if Build.objects.filter(workshop=user.workshop).exists():
            return
        for name, file_name in LAPS.items():
            lap = store_lap(user, name, settings.DEMO / file_name, file_name)
        for name, revision in REVISIONS.items():
            document = checked_document((settings.DEMO / f"{name}.json").read_bytes())
            build = add_build(user, document, "demo", lap)
            first = RevisionIn(base_state=1, name=revision)
            name_revision(user, build.pk, first)
