"""What the demo workshop did at the bench: a test fit of three rounds, a job half done."""

from __future__ import annotations

import json
import uuid
from datetime import datetime, timedelta
from typing import Any

from accounts.models import User
from bilge_core.agreement.book_entries import read_booked
from bilge_core.agreement.fit_entries import read_offered
from bilge_core.job.card import card_of
from bilge_core.job.difference import suction_joint
from bilge_core.job.entries import read_entry
from bilge_core.job.settings import CardSettings
from bilge_core.job.torque import pattern_of
from builds.models import Build
from django.conf import settings
from django.utils import timezone
from loads.services import store_laps
from records import books, cards, fits
from records.models import JobCard
from shop.services import tick
from stages.track_book.judging import judge_session
from stages.track_book.schemas import SessionLapsIn

BENCH = json.loads((settings.DEMO / "bench" / "work.json").read_text())


def fit_up(user: User, build: Build) -> None:
    """Three rounds of offering the pan up."""
    now = timezone.now()

    def enter(at: datetime, **raw: Any) -> None:
        fits.keep(user, build, read_offered(raw), str(uuid.uuid4()), at)

    for number, rounds in enumerate(BENCH["fit"]):
        at = now - timedelta(days=rounds["days_ago"])
        enter(at, kind="round_begun", **rounds["begun"])
        if number == 0:
            enter(at, kind="place_said", **BENCH["said"])
        for found in rounds["found"]:
            enter(at, kind="found", **found)


def begin_job(user: User, build: Build) -> None:
    """A job on the pan as it is: joint and pickup's seal renewed, done as far as its bolts."""
    told = BENCH["job"]
    build.as_is = build.current
    build.save(update_fields=["as_is"])
    assert build.current is not None
    document = build.current.read
    joint = suction_joint(document.model_dump(mode="json"))["id"]
    said = CardSettings.model_validate({
        "sealing": told["sealing"], "access": told["access"],
        "extras": [{"do": "renew", "part": "pan"}, {"do": "renew", "part": joint}],
    })  # fmt: skip
    card = cards.begin(user, build.pk, said)
    begun = timezone.now() - timedelta(hours=told["hours_ago"])
    JobCard.objects.filter(pk=card.pk).update(begun_at=begun)
    at = begun
    for step in card_of(document, document, said).steps:
        if step.id == told["until"]:
            break
        at += timedelta(hours=step.hours)
        raw = {"kind": "ticked", "step": step.id, "words": step.words}
        cards.keep(user, card, build.current, read_entry(raw), str(uuid.uuid4()), at)
    flange = document.pan.flange
    assert flange is not None
    for bolt in pattern_of(flange)[: told["bolts"]]:
        tight: dict[str, Any] = {"kind": "bolt_tight", "step": told["until"], "bolt": bolt}
        cards.keep(user, card, build.current, read_entry(tight), str(uuid.uuid4()), timezone.now())


def write_book(user: User, build: Build) -> None:
    """A season of sessions, oil and seal renewed, a filter cut open."""
    now = timezone.now()
    rows: list[dict[str, Any]] = [{"kind": "session", **row} for row in BENCH["book"]]
    rows += [{"kind": "item_done", **row} for row in BENCH["done"]]
    laps = store_laps(user, "Test day", settings.DEMO / "saltmarsh-june.csv", "saltmarsh-june.csv")
    for row in rows:
        at = now - timedelta(days=row.pop("days_ago"))
        raw = {**row, "on": timezone.localdate(at).isoformat()}
        books.keep(user, build, read_booked(raw), str(uuid.uuid4()), at)
    held = SessionLapsIn(lap_ids=[lap.pk for lap in laps], lag_s=0.09)
    judge_session(user, build.pk, BENCH["laps_of"], held)


def order_parts(user: User, build: Build) -> None:
    """Some of its parts are there, some are on their way."""
    for row in BENCH["order"]:
        tick(user, build, row["part"], row["state"], row["count"])


def at_the_bench(user: User, build: Build) -> None:
    """A test fit and a track book."""
    fit_up(user, build)
    write_book(user, build)
