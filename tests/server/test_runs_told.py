"""What runs tell: while they go on, when they end, and of a build as it stands."""

from __future__ import annotations

from datetime import timedelta
from types import SimpleNamespace
from typing import Any

import pytest
from accounts.models import User
from bilge_core.moving.record import read_frames
from builds.models import Build, BuildState, Revision
from builds.states import add_build, checked_document
from django.db import OperationalError
from django.db.models.functions import Now
from django_tasks_db.models import DBTaskResult
from loads.models import Lap
from runs import lease, selectors, services, tasks
from runs.lease import Given, claim
from runs.models import Result, Run
from runs.selectors import runs_of
from runs.services import ask_for_run
from runs.tasks import carry_out
from runs.tidying import tidy
from studies.management.commands import work as work_command

from tests.conftest import DEMO
from tests.server.runs_made import NO_WORKER, wanted, work


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


def test_partial_figures_while_it_runs(
    user: User, short_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    run = ask_for_run(user, wanted(short_build))
    monkeypatch.setattr(tasks, "_BEAT_EVERY", 0.0)
    told = []
    real = lease.Held.beat

    def beat(self: lease.Held, reached: float, partial: Any) -> bool:
        kept = real(self, reached, partial)
        told.append(runs_of(user.workshop).runs[0])
        return kept

    monkeypatch.setattr(lease.Held, "beat", beat)
    work(run)
    middle = told[len(told) // 2]
    assert middle.status == "running" and middle.partial is not None
    assert 0.0 < middle.reached_s < middle.lasts_s and middle.left_s is not None


def test_the_same_twice_is_the_same(user: User, short_build: Build) -> None:
    first = work(ask_for_run(user, wanted(short_build)))
    assert first.result is not None
    figures, frames = first.result.figures, bytes(first.result.frames)
    Run.objects.all().delete()
    Result.objects.all().delete()
    second = work(ask_for_run(user, wanted(short_build)))
    assert second.result is not None
    assert second.result.figures == figures
    assert (read_frames(bytes(second.result.frames)).filling == read_frames(frames).filling).all()


def test_api(api: Any, other_api: Any, anonymous: Any, short_build: Build) -> None:
    status, run = api("POST", "/runs", {"build_id": short_build.pk})
    assert (status, run["status"], run["cells"]) == (200, "waiting", "quick")
    for method, path, body in (
        ("GET", f"/runs/{run['id']}", None),
        ("POST", f"/runs/{run['id']}/cancel", {}),
        ("GET", f"/runs/{run['id']}/figures", None),
        ("GET", f"/runs/{run['id']}/frames", None),
        ("GET", f"/stages/slosh/of-run/{run['id']}", None),
        ("POST", "/runs/starts", {"build_id": short_build.pk}),
        ("POST", f"/runs/of-build/{short_build.pk}/cancel", {}),
        ("GET", f"/runs/of-build/{short_build.pk}", None),
        ("POST", "/runs", {"build_id": short_build.pk}),
    ):
        assert other_api(method, path, body)[0] == 404, path
        assert anonymous(method, path, body)[0] == 401, path
    assert other_api("GET", "/runs")[1]["runs"] == []
    assert api("GET", f"/runs/{run['id']}/figures")[0] == 404
    assert api("GET", f"/runs/of-build/{short_build.pk}")[1]["under_way"]["id"] == run["id"]
    carry_out.call(run["id"])
    status, listed = api("GET", "/runs")
    assert listed["runs"][0]["status"] == "finished"
    assert {s["cells"]: s["measured"] for s in listed["speeds"]} == {
        "quick": True,
        "bench": False,
        "fine": False,
    }
    told = api("GET", f"/runs/{run['id']}/figures")[1]
    assert told["model"] == "Moving oil, coarse cells"
    assert told["note"].startswith(told["model"]) and "stands still" in told["note"]
    scene = api("GET", f"/stages/slosh/of-run/{run['id']}")[1]
    assert scene["lap"]["lap_id"] == short_build.lap_id
    now = api("GET", f"/stages/slosh/{short_build.pk}")[1]
    assert scene == {**now, "over": []}  # over all laps is of the build, not of one run
    answer = api.client.get(f"/api/runs/{run['id']}/frames")
    assert len(read_frames(answer.content).time) > 100


@pytest.mark.parametrize(
    "body", [{}, {"build_id": 1, "cells": "tiny"}, {"build_id": 1, "seed": -1}, {"build_id": "x"}]
)
def test_what_cannot_be_asked_for(api: Any, body: dict[str, Any]) -> None:
    assert api("POST", "/runs", body)[0] == 422


def test_a_build_without_a_lap_cannot_be_run(api: Any, user: User, lap: Lap) -> None:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    bare = add_build(user, document, "from a file", None)
    status, told = api("POST", "/runs", {"build_id": bare.pk})
    assert status == 422 and "no lap" in str(told)


def test_a_lap_that_is_removed_while_it_is_looked_at(
    api: Any, short_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    look = selectors.felt_over

    def removed_first(build: Build) -> Any:
        Build.objects.filter(pk=build.pk).update(lap=None)
        build.judged_by.all().delete()
        Lap.objects.filter(pk=short_build.lap_id).delete()
        return look(build)

    with monkeypatch.context() as between:
        between.setattr(selectors, "felt_over", removed_first)
        status, told = api("GET", f"/runs/of-build/{short_build.pk}")
    assert (status, told["finished"]) == (200, None)

    asked: list[int] = []

    def gone(times: int) -> Any:
        def look_for(build: Build) -> Any:
            asked.append(build.pk)
            if len(asked) <= times:
                raise Lap.DoesNotExist
            return look(build)

        return look_for

    with monkeypatch.context() as between:
        between.setattr(selectors, "felt_over", gone(1))
        status, told = api("GET", f"/runs/of-build/{short_build.pk}")
    assert (status, len(asked)) == (200, 2)  # read once more, and nobody is told
    asked.clear()
    monkeypatch.setattr(selectors, "felt_over", gone(9))
    status, told = api("GET", f"/runs/of-build/{short_build.pk}")
    assert (status, len(asked)) == (404, 2) and "removed meanwhile" in str(told)


def test_the_queue_has_an_end(api: Any, short_build: Build, monkeypatch: Any) -> None:
    monkeypatch.setattr(services, "MOST_WAITING", 2)
    for seed in (1, 2):
        assert api("POST", "/runs", {"build_id": short_build.pk, "seed": seed})[0] == 200
    assert api("POST", "/runs", {"build_id": short_build.pk, "seed": 3})[0] == 422


def test_starts_that_differ_give_a_spread(api: Any, short_build: Build) -> None:
    ask = {"build_id": short_build.pk, "count": 3}
    status, runs = api("POST", "/runs/starts", ask)
    assert status == 200 and [run["seed"] for run in runs] == [0, 1, 2]
    latest = api("GET", f"/runs/of-build/{short_build.pk}")[1]
    assert (latest["under_way"]["id"], latest["queued"]) == (runs[0]["id"], 2)
    for run in runs[:2]:
        carry_out.call(run["id"])
    latest = api("GET", f"/runs/of-build/{short_build.pk}")[1]
    assert (latest["under_way"]["id"], latest["queued"]) == (runs[2]["id"], 0)
    dry = latest["starts"]["dry_s"]
    assert len(dry) == 2
    assert latest["starts"]["mean_s"] == pytest.approx(sum(dry) / 2, abs=1e-3)
    assert api("POST", f"/runs/of-build/{short_build.pk}/cancel", {})[1]["under_way"] is None
    assert api("GET", f"/runs/{runs[2]['id']}")[1]["status"] == "cancelled"
    assert api("POST", "/runs/starts", {**ask, "count": 50})[0] == 422


def test_an_error_of_ours_ends_the_run_with_a_reason(
    user: User, short_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    def breaks(*_: Any, **__: Any) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr(tasks, "forecast_moving", breaks)
    run = work(ask_for_run(user, wanted(short_build)))
    assert run.status == Run.FAILED and "ZeroDivisionError" in run.reason


def test_a_database_that_is_away_for_a_moment_loses_nothing(
    user: User, short_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Signs of life fail, and so does the first try to write the end; the run goes on."""
    monkeypatch.setattr(tasks, "_BEAT_EVERY", 0.0)
    monkeypatch.setattr(tasks, "_TRY_EVERY", 0.0)
    monkeypatch.setattr(tasks, "connection", SimpleNamespace(close=lambda: None))
    beat, finish, failed = lease.Held.beat, lease.Held.finish, []

    def sometimes(real: Any) -> Any:
        def call(self: lease.Held, *given: Any) -> bool:
            if len(failed) % 3 == 0:
                failed.append(real.__name__)
                raise OperationalError(2013, "Lost connection to server during query")
            failed.append("no")
            return bool(real(self, *given))

        return call

    monkeypatch.setattr(lease.Held, "beat", sometimes(beat))
    monkeypatch.setattr(lease.Held, "finish", sometimes(finish))
    run = work(ask_for_run(user, wanted(short_build)))
    assert run.status == Run.FINISHED and Result.objects.count() == 1
    assert failed.count("beat") > 10


def test_old_results_make_room(user: User, short_build: Build, settings: Any) -> None:
    """What a build shows now and what a revision shows stays; of the rest the oldest goes first."""
    first = short_build.current
    assert first is not None
    runs = []
    for number in range(2, 6):
        oil = {**first.document["oil"], "volume_l": 5 + 0.1 * number}
        state = BuildState.objects.create(
            build=short_build, number=number, parent=first, change="an edit",
            document={**first.document, "oil": oil}, made_by=user,
        )  # fmt: skip
        Build.objects.filter(pk=short_build.pk).update(current=state)
        run = ask_for_run(user, wanted(short_build))
        held = claim(run.pk, "one")
        assert held is not None and held.finish(Given({}, {}, bytes(1000)), 1.0, 1.0)
        runs.append(run)
    # the revision is of a state that the oil cannot tell from the first; what is shown now was run
    # by another version of the code
    twin = BuildState.objects.create(
        build=short_build, number=9, parent=runs[0].state, change="notes", made_by=user,
        document={**runs[0].state.document, "notes": "as raced"},
    )  # fmt: skip
    Revision.objects.create(build=short_build, number=1, state=twin, name="as raced", made_by=user)
    Run.objects.filter(pk=runs[3].pk).update(felt="by another version")
    settings.RUN_RECORDS_BYTES = 3500
    assert tidy() == 1  # the second: the first is a revision's
    assert not Run.objects.filter(pk=runs[1].pk).exists()
    settings.RUN_RECORDS_BYTES = 0
    Build.objects.filter(pk=short_build.pk).update(as_is=runs[2].state)
    assert tidy() == 0  # the third is of the state that the car is in
    Build.objects.filter(pk=short_build.pk).update(as_is=None)
    assert tidy() == 1
    left = Run.objects.filter(status=Run.FINISHED).values_list("pk", flat=True)
    assert set(left) == {runs[0].pk, runs[3].pk}
    assert Result.objects.count() == 2
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": []}}
    carry_out.enqueue(runs[0].pk)
    DBTaskResult.objects.update(status="RUNNING", started_at=Now() - timedelta(days=2))
    carry_out.enqueue(runs[0].pk)
    tidy()
    assert [row.status for row in DBTaskResult.objects.all()] == ["READY"]


def test_what_is_known_of_each_build_as_it_stands(
    api: Any, other_api: Any, user: User, short_build: Build
) -> None:
    assert api("GET", "/runs/known")[1] == []
    work(ask_for_run(user, wanted(short_build)))
    (known,) = api("GET", "/runs/known")[1]
    (over,) = known["over"]
    assert (known["build_id"], over["model"]) == (short_build.pk, "Moving oil, coarse cells")
    assert (over["lap_id"], over["lap_name"]) == (short_build.lap.pk, short_build.lap.name)
    # a finer one takes its place, another start or an older state does not
    for more in ({"cells": "bench"}, {"seed": 3}):
        run = ask_for_run(user, wanted(short_build, **more))
        held = claim(run.pk, "one")
        verdict = {**over["verdict"], "dry_s": 7.0}
        summary = {
            "verdict": verdict, "dry_s": 7.0, "least_cover_mm": 1.0, "crank_in_oil_s": 0.0,
        }  # fmt: skip
        assert held is not None and held.finish(Given(summary, {}, b""), 1.0, 1.0)
    (known,) = api("GET", "/runs/known")[1]
    (over,) = known["over"]
    assert (over["model"], over["verdict"]["dry_s"]) == ("Moving oil, cells of 10 mm", 7.0)
    assert other_api("GET", "/runs/known")[1] == []
    first = short_build.current
    document = {**first.document, "oil": {**first.document["oil"], "volume_l": 5.9}}
    state = BuildState.objects.create(
        build=short_build, number=2, parent=first, document=document, change="an edit",
        made_by=user,
    )  # fmt: skip
    Build.objects.filter(pk=short_build.pk).update(current=state)
    assert api("GET", "/runs/known")[1] == []


def test_a_run_says_which_revision_it_is_of(api: Any, user: User, short_build: Build) -> None:
    Revision.objects.create(
        build=short_build, number=1, state=short_build.current, name="as raced", made_by=user
    )
    run = api("POST", "/runs", {"build_id": short_build.pk})[1]
    assert run["revision"] == {"number": 1, "name": "as raced", "state": 1}
    assert run["is_current"]


def test_a_worker_tidies_now_and_then_not_at_each_look(monkeypatch: pytest.MonkeyPatch) -> None:
    """Every ten minutes; it looks after lost runs three times a lease."""

    class Enough(Exception):
        pass

    clock, looks, tidied = [0.0], [], []

    def sleep(seconds: float) -> None:
        clock[0] += seconds
        if clock[0] > 1300.0:
            raise Enough

    monkeypatch.setattr(work_command.time, "monotonic", lambda: clock[0])
    monkeypatch.setattr(work_command.time, "sleep", sleep)
    monkeypatch.setattr(work_command, "put_back_lost", lambda: looks.append(clock[0]))
    monkeypatch.setattr(work_command, "tidy", lambda: tidied.append(clock[0]))
    monkeypatch.setattr(work_command, "wake", lambda: 0)
    for quiet in ("wake_learnings", "tidy_studies", "tidy_learnings"):
        monkeypatch.setattr(work_command, quiet, lambda: 0)
    monkeypatch.setattr(work_command, "close_old_connections", lambda: None)
    with pytest.raises(Enough):
        work_command._look_after_lost_runs()
    assert len(tidied) == 2
    assert 600.0 < tidied[0] < 700.0 and 600.0 < tidied[1] - tidied[0] < 700.0
    assert len(looks) > 3 * len(tidied)
