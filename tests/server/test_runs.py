"""Runs: asked for, carried out, cancelled, lost and put back; never twice, never another's."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any

import pytest
from accounts.models import User
from bilge_core.moving.record import read_frames
from builds.models import Build, BuildState
from builds.states import add_build, checked_document
from config.errors import NotFound
from django.db.models.functions import Now
from runs import lease, services, tasks
from runs.lease import Given, claim, put_back_lost
from runs.models import Result, Run
from runs.selectors import figures_of_run, latest_of
from runs.services import ask_for_run, cancel_run

from tests.conftest import DEMO
from tests.server.runs_made import NO_WORKER, wanted, work


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


def test_a_run_is_carried_out_and_kept(user: User, short_build: Build) -> None:
    run = work(ask_for_run(user, wanted(short_build)))
    assert (run.status, run.attempt) == (Run.FINISHED, 1)
    assert run.result is not None and run.result.cpu_s > 0.0
    figures = run.result.figures
    assert figures["cells"] == "quick"
    assert len(figures["samples"]["time_s"]) == len(figures["mouths"][0]["samples"]["gas_share"])
    # kept by their places; the builder's names come when it is told
    kept = set(figures["samples"]["gates_open"])
    assert kept < set(figures["passed_l"])
    assert all(re.fullmatch(r"\d, \d", name) for name in kept)
    told = figures_of_run(user.workshop, run.pk)
    assert [mouth.name for mouth in told.mouths] == [figures["mouths"][0]["name"]] == ["pickup"]
    assert set(told.samples.gates_open) == {"P1, G3", "R1, G1", "L1, G2"}
    assert len(told.passed_l) == len(figures["passed_l"])
    assert len(read_frames(bytes(run.result.frames)).time) > 100
    latest = latest_of(user.workshop, short_build.pk)
    assert latest.finished is not None and latest.finished.id == run.pk
    assert latest.under_way is None and latest.finished.summary is not None
    assert latest.finished.summary.dry_s == figures["dry_s"]


def test_what_is_known_is_served_at_once(user: User, short_build: Build) -> None:
    first = work(ask_for_run(user, wanted(short_build)))
    again = ask_for_run(user, wanted(short_build))
    assert again.pk == first.pk
    document = checked_document((DEMO / "dunlin-gated.json").read_bytes())
    twin = add_build(user, document, "from a file", short_build.lap)
    other = ask_for_run(user, wanted(twin))
    assert other.status == Run.FINISHED and other.result_id == first.result_id
    assert Result.objects.count() == 1


def edited(build: Build, user: User, **change: Any) -> Build:
    """The build with another state, as an edit makes it."""
    assert build.current is not None
    number = build.states.count() + 1
    state = BuildState.objects.create(
        build=build, number=number, parent=build.current, change="an edit", made_by=user,
        document={**build.current.document, **change},
    )  # fmt: skip
    Build.objects.filter(pk=build.pk).update(current=state)
    return Build.objects.select_related("current", "lap").get(pk=build.pk)


def test_renaming_and_moving_what_is_round_it_start_no_run(user: User, short_build: Build) -> None:
    """A run under way is joined from another state that the oil cannot tell from its own."""
    first = ask_for_run(user, wanted(short_build, automatic=True))
    assert short_build.current is not None
    document = short_build.current.document
    keep_out = {
        "kind": "plane", "name": "skid plate", "frame": "engine", "at_mm": -170, "free": "above",
        "wanted_mm": 10,
    }  # fmt: skip
    plates = [{**plate, "name": f"{plate['name']} b"} for plate in document["pan"]["plates"]]
    for change in (
        {"car": {**document["car"], "keep_outs": [keep_out]}},
        {"pan": {**document["pan"], "plates": plates}},
        {"name": "Heron", "notes": "gone over"},
    ):
        build = edited(short_build, user, **change)
        assert ask_for_run(user, wanted(build, automatic=True)).pk == first.pk
        latest = latest_of(user.workshop, build.pk)
        assert latest.under_way is not None and latest.under_way.is_current
    assert Run.objects.count() == 1
    build = edited(short_build, user, pan={**document["pan"], "plates": plates})
    work(first)
    told = figures_of_run(user.workshop, first.pk)
    assert set(told.samples.gates_open) == {"P1, G3", "R1, G1", "L1, G2"}
    told = figures_of_run(user.workshop, first.pk, build.current.number)
    assert set(told.samples.gates_open) == {"P1 b, G3", "R1 b, G1", "L1 b, G2"}
    with pytest.raises(NotFound):
        figures_of_run(user.workshop, first.pk, 99)
    known = latest_of(user.workshop, build.pk).finished
    assert known is not None and known.is_current and known.state == 1


def test_what_the_oil_cannot_feel_needs_no_other_run(user: User, short_build: Build) -> None:
    first = work(ask_for_run(user, wanted(short_build)))
    state = short_build.current
    assert state is not None
    for number, change in enumerate(
        ({"notes": "oil smells of petrol"}, {"oil": {**state.document["oil"], "volume_l": 5.9}}), 2
    ):
        other = BuildState.objects.create(
            build=short_build, number=number, parent=state, change="an edit", made_by=user,
            document={**state.document, **change},
        )  # fmt: skip
        Build.objects.filter(pk=short_build.pk).update(current=other)
        run = ask_for_run(user, wanted(short_build))
        assert (run.result_id == first.result_id) == ("notes" in change)
        assert run.status == (Run.FINISHED if "notes" in change else Run.WAITING)


def test_a_run_that_is_under_way_is_joined(user: User, short_build: Build) -> None:
    first = ask_for_run(user, wanted(short_build))
    assert ask_for_run(user, wanted(short_build)).pk == first.pk
    assert ask_for_run(user, wanted(short_build, seed=1)).pk != first.pk


def test_the_next_edit_takes_the_place_of_an_automatic_run(user: User, short_build: Build) -> None:
    old = ask_for_run(user, wanted(short_build, automatic=True))
    by_hand = ask_for_run(user, wanted(short_build, cells="bench"))
    state = short_build.current
    assert state is not None
    changed = {**state.document, "oil": {**state.document["oil"], "volume_l": 5.9}}
    state.pk, state.number, state.document = None, 2, changed
    state.save()
    Build.objects.filter(pk=short_build.pk).update(current=state)
    new = ask_for_run(user, wanted(short_build, automatic=True))
    old.refresh_from_db()
    by_hand.refresh_from_db()
    assert (old.status, by_hand.status, new.status) == (Run.CANCELLED, Run.WAITING, Run.WAITING)


def test_only_one_worker_gets_a_run(user: User, short_build: Build) -> None:
    run = ask_for_run(user, wanted(short_build))
    assert claim(run.pk, "one") is not None
    assert claim(run.pk, "two") is None


def test_a_cancelled_run_lets_go(user: User, short_build: Build) -> None:
    run = ask_for_run(user, wanted(short_build))
    held = claim(run.pk, "one")
    assert held is not None and held.beat(1.0, None)
    assert cancel_run(user.workshop, run.pk).status == Run.CANCELLED
    assert not held.beat(2.0, None)
    assert not held.finish(Given({}, {}, b""), 1.0, 1.0)
    assert Result.objects.count() == 0
    assert cancel_run(user.workshop, run.pk).status == Run.CANCELLED


def test_cancelling_ends_the_work(
    user: User, short_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    run = ask_for_run(user, wanted(short_build))
    monkeypatch.setattr(tasks, "_BEAT_EVERY", 0.0)
    real, seen = lease.Held.beat, []

    def beat(self: lease.Held, reached: float, partial: Any) -> bool:
        seen.append(reached)
        if reached > 0.5:
            cancel_run(user.workshop, run.pk)
        return real(self, reached, partial)

    monkeypatch.setattr(lease.Held, "beat", beat)
    assert work(run).status == Run.CANCELLED
    assert max(seen) < 0.6  # not one look further


def _let_lease_run_out(run: Run) -> None:
    Run.objects.filter(pk=run.pk).update(lease_until=Now() - timedelta(seconds=1))


def test_a_lost_run_is_put_back_once_and_the_old_worker_changes_nothing(
    user: User, short_build: Build
) -> None:
    run = ask_for_run(user, wanted(short_build))
    dead = claim(run.pk, "dead")
    assert dead is not None and put_back_lost() == []
    _let_lease_run_out(run)
    assert put_back_lost() == [run.pk]
    assert put_back_lost() == []
    alive = claim(run.pk, "alive")
    assert alive is not None and alive.attempt == 2
    assert not dead.beat(1.0, None)
    assert not dead.finish(Given({}, {"from": "dead"}, b""), 1.0, 1.0)
    assert not dead.fail("dead")
    assert alive.finish(Given({}, {"from": "alive"}, b""), 1.0, 1.0)
    assert Result.objects.get().figures == {"from": "alive"}


def test_a_run_that_kills_its_workers_is_given_up(user: User, short_build: Build) -> None:
    run = ask_for_run(user, wanted(short_build))
    for _ in range(lease.MOST_ATTEMPTS):
        assert claim(run.pk, "dead") is not None
        _let_lease_run_out(run)
        put_back_lost()
    run.refresh_from_db()
    assert run.status == Run.FAILED and "lost 5 times" in run.reason


def test_an_overdue_run_is_queued_again(user: User, short_build: Build) -> None:
    run = ask_for_run(user, wanted(short_build))
    Run.objects.filter(pk=run.pk).update(queued_at=Now() - timedelta(seconds=90))
    assert services.put_back_lost() == 1
    assert services.put_back_lost() == 0


def test_a_build_that_cannot_be_run_says_why(user: User, short_build: Build) -> None:
    run = ask_for_run(user, wanted(short_build))
    state = run.state
    state.document["pickup"]["gap_mm"] = -40
    state.save()
    assert work(run).status == Run.FAILED
    assert "below the floor" in run.reason
