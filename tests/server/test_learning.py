"""What laps say of the figures that nobody measured: asked, run, taken over, left, cancelled."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from accounts.models import User
from bilge_core.agreement.response import LEVELS
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from builds.models import Build
from django.utils import timezone
from learning import services, tasks
from learning.models import Learning, LearningStep
from learning.tidying import tidy_learnings
from runs import long_jobs
from runs.models import Run

from tests.server.book_made import (
    ROWS,
    TRUE,
    bars_of_another,
    car,
    drawn,
    driven_car,
    logged,
    put,
)
from tests.server.conftest import Api, act
from tests.server.runs_made import NO_WORKER
from tests.server.test_stage_track_book import row, session, written

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture
def driven(user: User, tmp_path: Any) -> Build:
    return driven_car(user, tmp_path)


def path(build: Build, *more: str) -> str:
    return "/".join([f"/stages/track-book/{build.pk}/learning", *more])


@pytest.fixture
def with_laps(api: Api, user: User, driven: Build, tmp_path: Any) -> Build:
    """A session of one lap, of a car whose oil up top is more than thought."""
    written(api, driven, session("s1", "2026-06-07"))
    assert put(api, driven, logged(user, tmp_path, bars_of_another()))[0] == 200
    Run.objects.all().delete()  # nobody waits
    return driven


def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    """Runs that take no time: what their mouth draws grows with the oil up top."""
    half, full = drawn(0.0, 0), drawn(LEVELS[-1], 0)

    def stands_in(build: Any, lap: Log, held: float, seed: int = 0, watch: Any = None) -> Any:
        return half + (full - half) * held / LEVELS[-1]

    monkeypatch.setattr(tasks, "drawn_at", stands_in)


def finished(api: Api, build: Build) -> dict[str, Any]:
    asked = api("POST", path(build))[1]["learning"]
    tasks.work_on.call(asked["id"])
    told = api("GET", path(build))[1]["learning"]
    assert told["status"] == "finished", told["reason"]
    return told  # type: ignore[no-any-return]


def test_the_oil_up_top_is_found_and_taken_over(api: Api, with_laps: Build) -> None:
    status, told = api("POST", path(with_laps))
    assert status == 200, told
    assert (told["learning"]["runs"], told["learning"]["runs_done"]) == (6, 0)
    tasks.work_on.call(told["learning"]["id"])
    done = api("GET", path(with_laps))[1]["learning"]
    assert (done["status"], done["runs_done"], done["share"]) == ("finished", 6, 1.0)
    found = {each["key"]: each for each in done["told"]["figures"]}
    assert found["held_more"]["low"] <= TRUE * 1e3 <= found["held_more"]["high"]
    assert found["lag"]["low"] <= 0.08 <= found["lag"]["high"]
    assert done["told"]["leans"]["lap"] == "Lap 1"
    assert not found["gauge"]["takes"]
    body = {"base_state": 1, "learning_id": done["id"], "keys": list(found)}
    status, built = api("POST", path(with_laps, "take"), body)
    assert status == 200, built
    known = built["document"]["learned"]
    assert known["lag" if "lag" in known else "gauge_lag_s"]["source"].startswith("dips of 1 lap")
    assert known["up_top_more_l"]["value"] == pytest.approx(found["held_more"]["value"], abs=1e-3)
    assert built["document"]["oil"] == car().model_dump(mode="json")["oil"]
    assert api("GET", path(with_laps))[1]["learning"]["taken_in"] == built["state"]
    assert api("POST", path(with_laps, "take"), body)[0] == 409
    # undone, they are not taken over any more, and may be again
    _, undone = api("POST", f"/builds/{with_laps.pk}/undo", {"base_state": built["state"]})
    assert api("GET", path(with_laps))[1]["learning"]["taken_in"] is None
    status, again = api("POST", path(with_laps, "take"), {**body, "base_state": undone["state"]})
    assert status == 200 and again["document"]["learned"] == known


def test_fitted_again_it_begins_from_what_is_known(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    quick(monkeypatch)
    found = finished(api, with_laps)
    keys = ["lag"]
    api("POST", path(with_laps, "take"),
        {"base_state": 1, "learning_id": found["id"], "keys": keys})  # fmt: skip
    again = finished(api, with_laps)
    before = {each["key"]: each["before"] for each in again["told"]["figures"]}
    lag = next(each["value"] for each in found["told"]["figures"] if each["key"] == "lag")
    assert before["lag"] == pytest.approx(lag, abs=1e-3)
    assert again["state"] == 1  # of the car as it was driven
    # a session judged from now on is read by it
    judged = put(api, with_laps, *[])[1]
    assert judged["sensor"]["lag_s"] == pytest.approx(lag, abs=1e-3)


def test_laps_without_a_dip_tell_of_nothing(
    api: Api, user: User, driven: Build, tmp_path: Any
) -> None:
    assert "no laps" in api("POST", path(driven))[1]["problems"][0]["message"]
    written(api, driven, session("s1", "2026-06-07"))
    put(api, driven, logged(user, tmp_path, np.full(ROWS - 1, 5.0)))
    status, told = api("POST", path(driven))
    assert status == 422
    assert "no lap with a dip" in told["problems"][0]["message"]
    assert api("GET", path(driven)) == (200, {"learning": None})


def test_it_can_be_cancelled_and_asked_for_again(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = api("POST", path(with_laps))[1]["learning"]
    assert api("POST", path(with_laps, "cancel"))[1]["learning"]["status"] == "cancelled"
    tasks.work_on.call(first["id"])  # a worker that comes too late does nothing
    assert not LearningStep.objects.exclude(status=LearningStep.WAITING).exists()
    quick(monkeypatch)
    assert finished(api, with_laps)["id"] != first["id"]
    once, twice = (api("POST", path(with_laps))[1]["learning"] for _ in range(2))
    assert Learning.objects.get(pk=once["id"]).reason == "A newer one took its place."
    assert twice["status"] == "waiting"


def test_one_that_is_cancelled_ends_in_the_midst_of_a_run(
    api: Api, user: User, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = api("POST", path(with_laps))[1]["learning"]
    monkeypatch.setattr(tasks, "_BEAT_EVERY", 0.0)

    def cancelled(build: Any, lap: Log, held: float, seed: int = 0, watch: Any = None) -> Any:
        services.cancel(user, with_laps.pk)
        watch(type("Look", (), {"time": 1.0}))
        raise AssertionError("it went on")

    monkeypatch.setattr(tasks, "drawn_at", cancelled)
    tasks.work_on.call(asked["id"])
    assert not LearningStep.objects.filter(status=LearningStep.DONE).exists()
    assert Learning.objects.get(pk=asked["id"]).status == Learning.CANCELLED


def test_a_run_that_cannot_be_had_ends_it_with_the_reason(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuses(*_: Any, **__: Any) -> Any:
        raise InvalidQuantity("oil", "gone", "there")

    monkeypatch.setattr(tasks, "drawn_at", refuses)
    asked = api("POST", path(with_laps))[1]["learning"]
    tasks.work_on.call(asked["id"])
    told = api("GET", path(with_laps))[1]["learning"]
    assert told["status"] == "failed" and "oil" in told["reason"]


def test_a_worker_that_is_lost_is_taken_over_from(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = api("POST", path(with_laps))[1]["learning"]
    Learning.objects.filter(pk=asked["id"]).update(status=Learning.RUNNING)
    gone = timezone.now() - timedelta(minutes=5)
    LearningStep.objects.filter(learning_id=asked["id"], place=0).update(
        status=LearningStep.RUNNING, attempt=1, lease_until=gone
    )
    Learning.objects.filter(pk=asked["id"]).update(stirred_at=gone)
    assert services.wake() == 1
    assert services.wake() == 0  # it has just been put back
    quick(monkeypatch)
    tasks.work_on.call(asked["id"])
    assert Learning.objects.get(pk=asked["id"]).status == Learning.FINISHED
    again = api("POST", path(with_laps))[1]["learning"]
    LearningStep.objects.filter(learning_id=again["id"]).update(
        status=LearningStep.RUNNING, attempt=5, lease_until=gone
    )
    tasks.one_step(Learning.objects.get(pk=again["id"]))
    assert Learning.objects.get(pk=again["id"]).status == Learning.FAILED


def test_a_run_that_somebody_waits_for_goes_first(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = api("POST", path(with_laps))[1]["learning"]
    again = []
    monkeypatch.setattr(tasks, "enqueue", again.append)
    monkeypatch.setattr(long_jobs, "somebody_waits", lambda: True)
    tasks.work_on.call(asked["id"])
    assert again == [asked["id"]]
    assert Learning.objects.get(pk=asked["id"]).status == Learning.WAITING


def test_left_as_it_was_and_what_is_old_is_cleared_away(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    quick(monkeypatch)
    found = finished(api, with_laps)
    left = api("POST", path(with_laps, "leave"), {"learning_id": found["id"]})[1]["learning"]
    assert left["left"] and left["taken_in"] is None
    assert api("POST", path(with_laps, "leave"), {"learning_id": found["id"] + 99})[0] == 404
    api("POST", path(with_laps))
    old = timezone.now() - timedelta(days=90)
    Learning.objects.update(asked_at=old)
    assert tidy_learnings() == 1
    assert Learning.objects.count() == 1


def test_what_cannot_be_taken_is_refused(
    api: Api, with_laps: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    quick(monkeypatch)
    found = finished(api, with_laps)
    body = {"base_state": 1, "learning_id": found["id"], "keys": ["gauge", "nothing"]}
    status, told = api("POST", path(with_laps, "take"), body)
    assert status == 422
    assert told["problems"][0]["field"].endswith("source")
    assert Learning.objects.get(pk=found["id"]).taken_in is None


def test_a_hold_up_trial_replaces_the_guess(api: Api, build: Build) -> None:
    trial = row(kind="hold_up", id="h1", on="2026-06-07", standing_mm=100.0,
                running=[{"rpm": 3000, "level_mm": 84.0},
                         {"rpm": 5000, "level_mm": 82.0}])  # fmt: skip
    told = written(api, build, trial)["book"]["hold_ups"][0]
    for each in told["at"]:
        assert each["held_l"] > 0.5 and each["thought_l"] > 0.2
        assert each["more_l"] == pytest.approx(each["held_l"] - each["thought_l"], abs=0.011)
    assert max(abs(each["more_l"]) for each in told["at"]) > 0.1
    where = f"/stages/track-book/{build.pk}/hold-ups"
    assert api("POST", f"{where}/h2/take", {"base_state": 1})[0] == 404
    status, built = api("POST", f"{where}/h1/take", {"base_state": 1})
    assert status == 200, built
    known = built["document"]["learned"]["up_top_more_l"]
    assert known["source"] == "hold-up trial, 2026-06-07"
    assert known["value"] == pytest.approx(told["more_l"] / 1.07, abs=0.02)
    assert known["give"] == pytest.approx(told["give_l"] / 1.07, abs=0.02)
    # what is built goes on from there, and an undo takes it back
    status, deeper = api("POST", f"/builds/{build.pk}/acts", act("spacer", built["state"], by_mm=5))
    assert deeper["document"]["learned"]["up_top_more_l"] == known
