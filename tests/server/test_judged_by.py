"""A build is judged by a set of laps: one is shown, the worst of them is the verdict."""

from __future__ import annotations

from importlib import import_module
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build, JudgedBy
from builds.selectors import laps_of
from builds.states import add_build, checked_document
from django.apps import apps
from loads.models import Lap
from loads.services import store_lap
from runs.models import Run
from runs.services import ask_for_run

from tests.conftest import DEMO
from tests.server.conftest import Api, act, fields
from tests.server.runs_made import NO_WORKER, wanted, work

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture
def rain(user: User) -> Lap:
    return store_lap(user, "rain", DEMO / "saltmarsh-rain.csv", "rain.csv")


def launch(api: Api) -> int:
    """A short load of its own."""
    said = {
        "name": "launch", "parts": [{"kind": "launch", "level_g": 0.9, "hand": "left",
        "ramp_s": 0.3, "hold_s": 1.0, "engine_speed_rpm": 6000}],
    }  # fmt: skip
    status, told = api("POST", "/laps/manoeuvre", said)
    assert status == 201, told
    return int(told["id"])


def judge(api: Api, build: Build, *laps: int) -> dict[str, Any]:
    body = {"base_state": Build.objects.get(pk=build.pk).current.number, "lap_ids": list(laps)}
    status, told = api("PUT", f"/builds/{build.pk}/judged", body)
    assert status == 200, told
    return told  # type: ignore[no-any-return]


def test_a_new_build_is_judged_by_its_lap(api: Api, build: Build, lap: Lap) -> None:
    told = api("GET", f"/builds/{build.pk}")[1]
    assert (told["lap_id"], told["judged_by"]) == (lap.pk, [lap.pk])


def test_the_one_shown_stays_or_the_first_of_them_is(
    api: Api, build: Build, lap: Lap, rain: Lap
) -> None:
    assert judge(api, build, rain.pk, lap.pk)["lap_id"] == lap.pk
    told = judge(api, build, rain.pk, rain.pk)
    assert (told["lap_id"], told["judged_by"]) == (rain.pk, [rain.pk])
    told = judge(api, build)
    assert (told["lap_id"], told["judged_by"]) == (None, [])


def test_to_show_a_lap_is_to_be_judged_by_it(api: Api, build: Build, lap: Lap, rain: Lap) -> None:
    """Alone where there was one; as one more where there were several."""
    path = f"/builds/{build.pk}/lap"
    told = api("PUT", path, {"base_state": 1, "lap_id": rain.pk})[1]
    assert (told["lap_id"], told["judged_by"]) == (rain.pk, [rain.pk])
    judge(api, build, lap.pk, rain.pk)
    told = api("PUT", path, {"base_state": 1, "lap_id": lap.pk})[1]
    assert (told["lap_id"], sorted(told["judged_by"])) == (lap.pk, [lap.pk, rain.pk])
    third = launch(api)
    told = api("PUT", path, {"base_state": 1, "lap_id": third})[1]
    assert (told["lap_id"], sorted(told["judged_by"])) == (third, [lap.pk, rain.pk, third])
    told = api("PUT", path, {"base_state": 1, "lap_id": None})[1]
    assert (told["lap_id"], told["judged_by"]) == (None, [])


def test_laps_of_others_and_too_many(
    api: Api, other_api: Api, build: Build, lap: Lap, stranger: User
) -> None:
    path = f"/builds/{build.pk}/judged"
    theirs = store_lap(stranger, "theirs", DEMO / "saltmarsh-rain.csv", "rain.csv")
    assert api("PUT", path, {"base_state": 1, "lap_ids": [lap.pk, theirs.pk]})[0] == 404
    assert other_api("PUT", path, {"base_state": 1, "lap_ids": [theirs.pk]})[0] == 404
    assert api("PUT", path, {"base_state": 7, "lap_ids": []})[0] == 409
    assert list(JudgedBy.objects.values_list("lap_id", flat=True)) == [lap.pk]


def test_twelve_laps_judge_a_build_and_no_thirteenth(
    api: Api, user: User, build: Build, lap: Lap
) -> None:
    lap = Lap.objects.get(pk=lap.pk)
    more = []
    for number in range(12):
        lap.pk, lap.name = None, f"lap {number}"
        lap.save()
        more.append(lap.pk)
    assert len(judge(api, build, *more)["judged_by"]) == 12
    path = f"/builds/{build.pk}"
    status, told = api("PUT", f"{path}/judged", {"base_state": 1, "lap_ids": [*more, build.lap.pk]})
    assert (status, fields(told)) == (422, ["lap_ids"])
    assert "untick some first" in told["problems"][0]["message"]
    assert api("PUT", f"{path}/lap", {"base_state": 1, "lap_id": build.lap.pk})[0] == 422
    assert api("GET", path)[1]["lap_id"] in more


def test_one_lap_imported_twice_is_shown_as_either(api: Api, user: User, build: Build) -> None:
    twin = store_lap(user, "again", DEMO / "saltmarsh.csv", "again.csv")
    judge(api, build, build.lap.pk, twin.pk)
    run = work_none(user, build)
    for shown in (build.lap.pk, twin.pk):
        api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": shown})
        assert api("GET", f"/runs/of-build/{build.pk}")[1]["under_way"]["id"] == run.pk


def work_none(user: User, build: Build) -> Run:
    """A run that waits."""
    return ask_for_run(user, wanted(build))


def test_the_worst_of_all_is_the_verdict_and_says_which(
    api: Api, build: Build, lap: Lap, rain: Lap
) -> None:
    """The demo pan runs dry for longer in the dry than in the rain: shown or not, that counts."""
    judge(api, build, lap.pk, rain.pk)
    api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": rain.pk})
    told = api("GET", f"/stages/slosh/{build.pk}")[1]
    assert told["lap"]["lap_name"] == "rain"
    assert [row["lap_id"] for row in told["over"]] == [lap.pk, rain.pk]
    dry = [row["verdict"]["dry_s"] for row in told["over"]]
    assert dry[0] > dry[1]
    assert told["verdict"] == told["over"][1]["verdict"]  # of the lap shown
    (row,) = api("GET", "/shelf")[1]
    assert (row["verdict"], row["lap_name"], row["laps"]) == (
        told["over"][0]["verdict"], lap.name, 2,
    )  # fmt: skip
    assert api("GET", f"/runs/of-build/{build.pk}")[1]["over"] == told["over"]


def test_moving_oil_takes_the_place_of_settled_where_it_is_known(api: Api, user: User) -> None:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    build = add_build(user, document, "from a file", None)
    assert api("GET", f"/stages/slosh/{build.pk}")[1]["over"] == []
    short = launch(api)
    other = api("POST", f"/laps/{short}/grip", {"factor": 1.1})[1]["id"]
    judge(api, build, short, other)
    work(ask_for_run(user, wanted(build, lap_id=other)))
    over = {row["lap_id"]: row for row in api("GET", f"/runs/of-build/{build.pk}")[1]["over"]}
    assert over[short]["model"] == "Settled oil"
    assert over[other]["model"] == "Moving oil, coarse cells"
    (known,) = api("GET", "/runs/known")[1]
    assert {row["lap_id"]: row for row in known["over"]} == over


class TestRuns:
    """The lap shown first, then the others."""

    def test_an_automatic_run_brings_the_others_along(
        self, api: Api, user: User, build: Build, lap: Lap, rain: Lap
    ) -> None:
        short = launch(api)
        judge(api, build, rain.pk, short, lap.pk)
        run = ask_for_run(user, wanted(build, automatic=True))
        assert run.lap_id == lap.pk
        assert list(Run.objects.order_by("pk").values_list("lap_id", flat=True)) == [
            lap.pk, rain.pk, short,
        ]  # fmt: skip
        assert api("GET", f"/runs/of-build/{build.pk}")[1]["elsewhere"] == 2
        rows = api("GET", "/runs")[1]["runs"]
        assert [row["is_current"] for row in rows] == [True, True, True]
        # asked for again they are the same; after an edit they make way, all of them
        ask_for_run(user, wanted(build, automatic=True))
        assert Run.objects.count() == 3
        figure = [{"field": "oil.volume_l", "value": "7"}]
        assert api("POST", f"/builds/{build.pk}/acts", act("figures", figures=figure))[0] == 200
        ask_for_run(user, wanted(build, automatic=True))
        status = list(Run.objects.order_by("pk").values_list("status", flat=True))
        assert status == ["cancelled"] * 3 + ["waiting"] * 3

    def test_the_lap_shown_comes_first_whichever_it_is(
        self, user: User, build: Build, lap: Lap, rain: Lap, api: Api
    ) -> None:
        judge(api, build, lap.pk, rain.pk)
        api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": rain.pk})
        ask_for_run(user, wanted(build, automatic=True))
        runs = Run.objects.order_by("pk").values_list("lap_id", flat=True)
        assert list(runs) == [rain.pk, lap.pk]
        assert [each.pk for each in laps_of(Build.objects.get(pk=build.pk))] == [rain.pk, lap.pk]

    def test_a_run_asked_for_by_hand_comes_alone(
        self, user: User, build: Build, lap: Lap, rain: Lap, api: Api
    ) -> None:
        judge(api, build, lap.pk, rain.pk)
        ask_for_run(user, wanted(build, lap_id=rain.pk))
        assert list(Run.objects.values_list("lap_id", flat=True)) == [rain.pk]

    def test_a_lap_it_is_not_judged_by_is_refused(
        self, api: Api, build: Build, lap: Lap, rain: Lap
    ) -> None:
        status, told = api("POST", "/runs", {"build_id": build.pk, "lap_id": rain.pk})
        assert (status, fields(told)) == (422, ["lap_id"])

    def test_a_full_queue_leaves_the_others_out(
        self, api: Api, user: User, build: Build, lap: Lap, rain: Lap,
        monkeypatch: pytest.MonkeyPatch,
    ) -> None:  # fmt: skip
        monkeypatch.setattr("runs.services.MOST_WAITING", 1)
        judge(api, build, lap.pk, rain.pk)
        ask_for_run(user, wanted(build, automatic=True))
        assert list(Run.objects.values_list("lap_id", flat=True)) == [lap.pk]


def test_a_lap_that_is_removed_leaves_the_others(
    api: Api, build: Build, lap: Lap, rain: Lap
) -> None:
    judge(api, build, lap.pk, rain.pk)
    status, told = api("DELETE", f"/laps/{rain.pk}")
    assert (status, told["title"]) == (409, f"{build.name} is judged by this lap.")
    assert api("DELETE", f"/laps/{lap.pk}?even_if_used=true")[0] == 204
    told = api("GET", f"/builds/{build.pk}")[1]
    assert (told["lap_id"], told["judged_by"]) == (rain.pk, [rain.pk])
    assert api("DELETE", f"/laps/{rain.pk}?even_if_used=true")[0] == 204
    told = api("GET", f"/builds/{build.pk}")[1]
    assert (told["lap_id"], told["judged_by"]) == (None, [])


def test_builds_of_before_are_judged_by_the_lap_they_showed(build: Build, lap: Lap) -> None:
    JudgedBy.objects.all().delete()
    import_module("builds.migrations.0006_judged_by").by_the_lap_shown(apps, None)
    assert list(JudgedBy.objects.values_list("build_id", "lap_id")) == [(build.pk, lap.pk)]


def test_a_build_that_cannot_be_read_hides_no_other(
    api: Api, user: User, build: Build, lap: Lap
) -> None:
    document = checked_document((DEMO / "dunlin-deeper.json").read_bytes())
    other = add_build(user, document, "from a file", lap)
    state = other.current
    state.document["pickup"]["x_mm"] = 2000
    state.save()
    rows = {row["id"]: row for row in api("GET", "/shelf")[1]}
    assert rows[other.pk]["verdict"]["state"] == "faulty"
    assert rows[build.pk]["verdict"]["state"] == "not_safe"
    over = api("GET", f"/runs/of-build/{other.pk}")[1]["over"]
    assert over[0]["verdict"]["state"] == "faulty"
