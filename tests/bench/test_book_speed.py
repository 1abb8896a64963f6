"""How long a season's book takes to open: forty sessions of twenty laps; figures: docs/speed.md."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest
from accounts.models import User, Workshop
from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.book_entries import read_booked
from bilge_core.agreement.judged import Named, frozen_at, judge, kept_of
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log
from bilge_core.tell.judged import ForecastKept, judged_out
from builds.models import Build
from builds.states import add_build, checked_document
from django.utils import timezone
from records.books import keep
from records.models import SessionJudged
from stages.track_book.answer import book
from stages.track_book.judging import judged_of, trace_of

from tests.conftest import DEMO

pytestmark = pytest.mark.django_db

SESSIONS, LAPS = 40, 20


def judged_row(saltmarsh: Log) -> dict[str, Any]:
    """Twenty laps that dip ten times each, against a forecast of the same lap."""
    time = saltmarsh.time - saltmarsh.time[0]
    flat = np.full(len(time), 5e5)
    bars = np.where(np.sin(time / 8.0 * 2.0 * np.pi) > 0.95, 2e5, flat)
    steady = AsUsual(np.array([100.0, 700.0]), np.array([4e5, 5e5]))
    frozen = frozen_at(saltmarsh, find_corners(saltmarsh), time, bars, flat, steady)
    rng = np.random.default_rng(1)
    laps = [
        Named(f"Lap {n}", replace(saltmarsh, oil_pressure=bars + rng.normal(0.0, 3e3, len(bars))))
        for n in range(1, LAPS + 1)
    ]
    told = ForecastKept(
        model="Moving oil, coarse cells", lap="Saltmarsh", state=1, run=1,
        made_at="2026-05-01T10:00:00+00:00", dips=10, dry_s=3.0, lowest_bar=2.0,
    )  # fmt: skip
    out = judged_out(judge(laps, frozen), frozen, told)
    return {
        "forecast": told.model_dump(mode="json"), "kept": kept_of(frozen, laps), "lag_s": 0.05,
        "count": out.count.model_dump(mode="json"), "told": out.model_dump(mode="json"),
    }  # fmt: skip


@pytest.fixture
def season(saltmarsh: Log) -> Build:
    user = User.objects.create_user("ada", workshop=Workshop.objects.create(name="Reed Lane"))
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    build = add_build(user, document, "a file", None)
    row = judged_row(saltmarsh)
    for number in range(SESSIONS):
        on = date(2026, 3, 1) + timedelta(days=5 * number)
        session = read_booked({
            "kind": "session", "id": f"s{number}", "on": on.isoformat(), "circuit": "Ring",
            "hours": 1.5, "laps": LAPS, "level_before_mm": 107, "level_after_mm": 104,
        })  # fmt: skip
        keep(user, build, session, str(uuid.uuid4()), timezone.now())
        SessionJudged.objects.create(build=build, session=f"s{number}", judged_by=user, **row)
    return build


def test_the_reference(benchmark: Any) -> None:
    figures = np.random.default_rng(1).random(1_000_000)
    benchmark(np.sort, figures)


def test_a_season_opens(benchmark: Any, season: Build) -> None:
    told = benchmark(book, season.workshop, season.pk)
    assert len(told.book.sessions) == SESSIONS


def test_a_session_of_it_is_read(benchmark: Any, season: Build) -> None:
    told = benchmark(judged_of, season.workshop, season.pk, f"s{SESSIONS - 1}")
    assert len(told.laps) == LAPS


def test_a_dip_of_it_is_drawn(benchmark: Any, season: Build) -> None:
    trace = benchmark(trace_of, season.workshop, season.pk, f"s{SESSIONS - 1}", LAPS - 1, 0)
    assert len(trace.time_s) > 10
