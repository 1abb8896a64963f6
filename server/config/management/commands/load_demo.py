"""Loads the demo workshop once: user, builds, lap. Run again, it changes nothing made since."""

from __future__ import annotations

import json
import os
from argparse import ArgumentParser
from collections.abc import Callable
from typing import Any

from accounts.models import User
from accounts.services import open_account
from bilge_core.document.records import read_record
from builds.models import Build
from builds.schemas import RevisionIn
from builds.services import name_revision
from builds.states import add_build, checked_document
from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction
from loads.models import Lap
from loads.services import store_lap
from records.services import keep
from runs.schemas import RunIn
from runs.services import ask_for_run

from config.demo_bench import at_the_bench, begin_job, order_parts

WORKSHOP = "Reedbank Motors"

LAPS = {
    "Saltmarsh Ring, lap 3": "saltmarsh-turbo.csv",
    "Saltmarsh Ring, rain": "saltmarsh-rain.csv",
    "Saltmarsh Ring, lap 7": "saltmarsh.csv",
}
"""The last is the one that the builds are judged by, but for those in `JUDGED_BY`."""

JUDGED_BY = dict.fromkeys(("sandpiper", "sandpiper-mended"), "Saltmarsh Ring, lap 3")
"""Another car's own lap."""

REVISIONS = {
    "curlew": "dry, three stages",
    "plumbed": "bottle, lines laid",
    "sandpiper-mended": "drain and breather mended",
    "sandpiper": "as built",
    "dunlin-deeper": "deeper, more oil",
    "dunlin-gated": "plates, three gates",
    "dunlin-shop": "long pan, pickup moved",
    "dunlin": "as raced",
}
"""Documents, the last one on top of the shelf, and what their first state is called."""


READINGS = json.loads((settings.DEMO / "readings.json").read_text())
"""What the gauge of the demo's car read."""


AT_THE_BENCH: dict[str, Callable[[User, Build], None]] = {
    "dunlin": at_the_bench,
    "plumbed": order_parts,
    "sandpiper": begin_job,
}
"""What was done at the bench on some of them."""


class Command(BaseCommand):
    """Load the demo."""

    help = "Make the demo user, and on first run the demo lap and builds."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The user's name, and whether it may sign in."""
        parser.add_argument("username")
        parser.add_argument(
            "--closed", action="store_true", help="on a network: make nothing, let nobody in by it"
        )

    @transaction.atomic
    def handle(self, *args: Any, username: str, closed: bool, **options: Any) -> None:
        """Do it."""
        User.objects.filter(username=username, workshop__name=WORKSHOP).update(is_active=not closed)
        if closed:
            return
        user = open_account(username, os.environ["BILGE_DEMO_PASSWORD"], WORKSHOP)
        if Lap.objects.filter(workshop=user.workshop).exists():
            return
        if Build.objects.filter(workshop=user.workshop).exists():
            return
        laps = {
            name: store_lap(user, name, settings.DEMO / file_name, file_name)
            for name, file_name in LAPS.items()
        }
        usual = list(laps.values())[-1]
        builds = []
        for name, revision in REVISIONS.items():
            lap = laps[JUDGED_BY[name]] if name in JUDGED_BY else usual
            document = checked_document((settings.DEMO / f"{name}.json").read_bytes())
            build = add_build(user, document, "demo", lap)
            assert build.current is not None
            for row in READINGS if lap == usual else []:
                keep(user, build, build.current, read_record({"kind": "gauge", **row}), None)
            first = RevisionIn(base_state=1, name=revision)
            name_revision(user, build.pk, first)
            builds.append(build)
            if name in AT_THE_BENCH:
                AT_THE_BENCH[name](user, build)
        for build in reversed(builds):  # their moving verdicts from the first minute, top one first
            ask_for_run(user, RunIn(build_id=build.pk))
