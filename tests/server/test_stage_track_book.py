"""The stage Track book: sessions of the car as it is, changes between two, what is due."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.records import read_record
from builds.models import Build
from builds.schemas import AsIsIn
from builds.services import say_as_is
from config.errors import NotFound
from django.utils import timezone
from records.models import BookEntry, Record
from records.services import keep
from stages.track_book.answer import book

from tests.server.conftest import Api


def row(client_id: str = "", **raw: Any) -> dict[str, Any]:
    return {
        "client_id": client_id or str(uuid.uuid4()), "at": timezone.now().isoformat(), "entry": raw
    }  # fmt: skip


def session(name: str, on: str, **more: Any) -> dict[str, Any]:
    return row(kind="session", id=name, on=on, circuit="Saltmarsh Ring", hours=2.0, **more)


def written(api: Api, build: Build, *rows: dict[str, Any]) -> dict[str, Any]:
    path = f"/stages/track-book/{build.pk}/entries"
    status, told = api("POST", path, {"system": "metric", "entries": list(rows)})
    assert status == 200, told
    return told  # type: ignore[no-any-return]


def test_a_session_is_written_down_once_with_what_it_used(
    api: Api, user: User, build: Build
) -> None:
    one = session("s1", "2026-06-07", level_before_mm=103, level_after_mm=99, can_ml=70)
    told = written(api, build, one, one)
    assert BookEntry.objects.count() == 1
    driven = told["book"]["sessions"][0]
    assert driven["by"] == user.username and driven["can_ml_h"] == 35
    assert 0.1 < driven["oil_used_l"] < 1.0
    assert driven["lost_l"] == pytest.approx(driven["oil_used_l"] - 0.07, abs=0.06)
    again = written(api, build, session("s1", "2026-06-07", laps=18))
    assert len(again["book"]["sessions"]) == 1
    assert again["book"]["sessions"][0]["session"]["laps"] == 18


def test_a_session_belongs_to_the_state_that_the_car_is_in(
    api: Api, user: User, build: Build
) -> None:
    say_as_is(user, build.pk, AsIsIn(base_state=1, state=1))
    written(api, build, session("s1", "2026-05-24"))
    acted = {"base_state": 1, "system": "metric", "act": {"kind": "refill", "to_l": 7}}
    api("POST", f"/builds/{build.pk}/acts", acted)
    told = written(api, build, session("s2", "2026-06-07"))
    assert told["driven"] == 1 and told["book"]["sessions"][0]["changed"] == []
    say_as_is(user, build.pk, AsIsIn(base_state=2, state=2))
    last = written(api, build, session("s3", "2026-06-08"))
    changed = last["book"]["sessions"][0]["changed"]
    assert last["book"]["several_changed"] is False  # oil and its mark are one thing
    assert changed == ["oil in the engine: 6.2 L to 7 L", "oil at the mark: 6.2 L to 7 L"]
    # written anew, it stays with the car that was driven
    kept = written(api, build, session("s1", "2026-05-24", laps=9))
    assert kept["book"]["sessions"][-1]["state"] == 1


def test_what_is_due_is_reset_by_doing_it(api: Api, build: Build) -> None:
    told = written(api, build, row(kind="session", id="s1", on="2026-06-07", circuit="Ring",
                                   hours=13.0))  # fmt: skip
    first = told["book"]["due"][0]
    assert (first["id"], first["state"], first["hours_left"]) == ("oil", "overdue", -3.0)
    seal = next(each for each in told["book"]["due"] if each["id"] == "jointseal")
    assert seal["state"] == "overdue" and seal["is_usual"]
    done = written(api, build, row(kind="item_done", item="jointseal", on="2026-06-08",
                                   how="renewed"))  # fmt: skip
    after = next(each for each in done["book"]["due"] if each["id"] == "jointseal")
    assert after["state"] == "later" and after["done"][0]["hours_then"] == 13.0


def test_faults_are_named_and_a_stranger_finds_no_book(
    api: Api, stranger: User, build: Build
) -> None:
    path = f"/stages/track-book/{build.pk}/entries"
    status, told = api("POST", path, {"entries": [session("s1", "2026-06-07", can_ml=-4)]})
    assert status == 422 and "can_ml" in str(told)
    with pytest.raises(NotFound):
        book(stranger.workshop, build.pk)


def test_a_strip_down_stands_beside_the_one_before(api: Api, user: User, build: Build) -> None:
    assert build.current is not None
    seal = {"kind": "inspection", "item": "Seal of the pickup joint"}
    for found in ("sound", "watch"):
        record = read_record({**seal, "found": found})
        row = keep(user, build, build.current, record, None)
        if found == "sound":
            when = timezone.now() - timedelta(days=90)
            Record.objects.filter(pk=row.pk).update(made_at=when, taken_at=when)
    (told,) = api("GET", f"/stages/track-book/{build.pk}")[1]["strip_down"]
    assert (told["turned"], told["before"]["found"]) == ("worse", "sound")
    assert told["now"]["by"] == user.username
