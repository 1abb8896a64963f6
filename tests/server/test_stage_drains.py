"""What Drains asks: drains over the lap, one load, a change tried; drains in the verdict."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.states import add_build, checked_document
from loads.models import Lap
from loads.services import store_lap
from runs.services import ask_for_run
from stages.drains.schemas import DrainsStageOut

from tests.conftest import DEMO
from tests.server.conftest import Api, act
from tests.server.runs_made import NO_WORKER, wanted, work

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture
def lap(user: User) -> Lap:
    return store_lap(user, "lap 3", DEMO / "saltmarsh-turbo.csv", "saltmarsh-turbo.csv")


@pytest.fixture
def turbo(user: User, lap: Lap) -> Build:
    document = checked_document((DEMO / "sandpiper.json").read_bytes())
    return add_build(user, document, "demo", lap)


def told_of(api: Api, build: Build, query: str = "") -> Any:
    status, told = api("GET", f"/stages/drains/{build.pk}{query}")
    assert status == 200, told
    return told


def run_of(told: Any) -> str:
    run: str = told["drains"][0]["run"]
    return run


def tried(api: Api, build: Build, run: str, **changes: Any) -> tuple[int, Any]:
    assumed = {key: changes.pop(key) for key in ("foam_pct", "blow_by_l_min") if key in changes}
    body = {"system": "metric", "act": {"kind": "tune_drain", "run": run, **changes}, **assumed}
    return api("POST", f"/stages/drains/{build.pk}/try", body)


def test_every_drain_over_the_lap(api: Api, turbo: Build) -> None:
    told = told_of(api, turbo)
    assert told["verdict"]["state"] == "bad" and told["has_lap"]
    (drain,) = told["drains"]
    assert {each["hand"] for each in drain["back_ups"]} == {"right"}
    assert DrainsStageOut.model_validate(told).model_dump(mode="json") == told
    assert told == told_of(api, turbo)  # kept, and the same


def test_on_its_own_run_when_there_is_one(api: Api, user: User, tmp_path: Path) -> None:
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh-turbo.csv").read_text().splitlines()[:160]))
    document = checked_document((DEMO / "sandpiper.json").read_bytes())
    build = add_build(user, document, "demo", store_lap(user, "short", path, path.name))
    settled = told_of(api, build)
    assert not settled["moves"] and "first look" in settled["words"]
    work(ask_for_run(user, wanted(build)))
    told = told_of(api, build)
    assert told["moves"] and told["words"].startswith("On its own run in moving oil;")
    under, before = (each["drains"][0]["samples"]["under_mm"] for each in (told, settled))
    assert under != before
    # it rocks about where it would settle
    assert abs(sum(under) - sum(before)) / len(under) < 15.0
    status, slosh = api("GET", f"/stages/slosh/{build.pk}")
    assert status == 200
    assert slosh["over"][0]["drains"]["spare_mm"] == told["verdict"]["spare_mm"]


def test_without_a_lap_it_stands_at_full_power(api: Api, user: User) -> None:
    document = checked_document((DEMO / "sandpiper.json").read_bytes())
    told = told_of(api, add_build(user, document, "upload", None))
    assert not told["has_lap"]
    assert told["words"].startswith("No lap")
    assert told["drains"][0]["state"] == "good"
    assert told["drains"][0]["back_ups"] == []


def test_guesses_set_otherwise(api: Api, turbo: Build) -> None:
    usual = told_of(api, turbo)["drains"][0]["spare_mm"]
    frothy = told_of(api, turbo, "?foam_pct=50")["drains"][0]
    assert frothy["foam"] == 0.5 and frothy["spare_mm"] < usual
    more = told_of(api, turbo, "?blow_by_l_min=90")
    assert not more["breathing"]["measured"]
    assert more["breathing"]["blow_by_l_min"] == 90
    assert more["drains"][0]["spare_mm"] < usual
    assert told_of(api, turbo)["drains"][0]["spare_mm"] == usual
    status, _ = api("GET", f"/stages/drains/{turbo.pk}?foam_pct=95")
    assert status == 422


def test_under_one_load(api: Api, turbo: Build) -> None:
    status, right = api("GET", f"/stages/drains/{turbo.pk}/at?side_g=-0.9&fore_g=0.4")
    assert status == 200
    status, left = api("GET", f"/stages/drains/{turbo.pk}/at?side_g=0.9&fore_g=-0.4")
    assert status == 200
    (one,), (other,) = right["stands"], left["stands"]
    assert one["there_mm"] - one["needed_mm"] < 0 < other["there_mm"] - other["needed_mm"]
    assert one["under_mm"] > 0 > other["under_mm"]
    assert api("GET", f"/stages/drains/{turbo.pk}/at?side_g=9&fore_g=0")[0] == 422


def test_a_change_is_tried_and_nothing_is_kept(api: Api, turbo: Build) -> None:
    run = run_of(told_of(api, turbo))
    status, told = tried(api, turbo, run, opening_mm="14 mm")
    assert status == 200, told
    assert told["back_ups"] == 0 and told["spare_mm"] > 0
    assert told["words"] == "drain of the turbo, breather 14 mm"
    status, moved = tried(api, turbo, run, entry_mm=["2.83 in", -112, "-20 mm"])
    assert status == 200 and "enters 71.882 ahead, -112 left, 20 over the rail" in moved["words"]
    _, both = tried(api, turbo, run, opening_mm=14, dash=12)
    assert both["spare_mm"] > told["spare_mm"]
    turbo.refresh_from_db()
    assert turbo.current is not None and turbo.current.number == 1


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"run": "r1"}, "run"), ({"opening_mm": "wide"}, "opening_mm"), ({"dash": 11}, "dash"),
        ({"entry_mm": [1, 2]}, "entry_mm"), ({"restrictor_mm": 0}, "restrictor_mm"),
    ],
)  # fmt: skip
def test_what_cannot_be_tried_says_why(
    api: Api, turbo: Build, changes: dict[str, Any], field: str
) -> None:
    run = changes.pop("run", run_of(told_of(api, turbo)))
    status, told = tried(api, turbo, run, **changes)
    assert status == 422
    assert field in json.dumps(told["problems"])


def test_another_act_is_not_tried_here(api: Api, turbo: Build) -> None:
    body = {"system": "metric", "act": {"kind": "spacer", "by_mm": 5}}
    status, told = api("POST", f"/stages/drains/{turbo.pk}/try", body)
    assert status == 422 and "tune_drain" in json.dumps(told)


def test_a_drain_without_a_place_is_asked_for_it(api: Api, turbo: Build) -> None:
    status, _ = api("POST", f"/builds/{turbo.pk}/acts", act("feed_turbo", 1))
    assert status == 200
    told = told_of(api, turbo)
    (unplaced,) = told["unplaced"]
    assert unplaced["wants"][0].startswith("where oil leaves")
    status, refused = tried(api, turbo, unplaced["run"], dash=12)
    assert status == 422 and "where oil leaves" in json.dumps(refused)


class TestInTheVerdict:
    def over(self, api: Api, build: Build) -> Any:
        status, told = api("GET", f"/stages/slosh/{build.pk}")
        assert status == 200
        return told["over"][0]

    def test_drains_speak_where_they_are_worse(self, api: Api, turbo: Build) -> None:
        row = self.over(api, turbo)
        assert row["speaks"] == "drains" and row["verdict"]["state"] == "not_safe"
        assert "backs up" in row["verdict"]["sentence"]
        assert row["oil"]["state"] == "sound" and row["drains"]["spare_mm"] < 0
        status, shelf = api("GET", "/shelf")
        assert status == 200 and shelf[0]["verdict"] == row["verdict"]

    def test_mended_the_oil_speaks_again(self, api: Api, turbo: Build) -> None:
        given = {"run": run_of(told_of(api, turbo)), "opening_mm": 14, "dash": 12}
        status, told = api("POST", f"/builds/{turbo.pk}/acts", act("tune_drain", 1, **given))
        assert status == 200, told
        row = self.over(api, turbo)
        assert row["speaks"] == "oil" and row["verdict"] == row["oil"]
        assert row["drains"]["state"] == "good"

    def test_a_build_without_drains_says_nothing_of_them(
        self, api: Api, user: User, short_build: Build
    ) -> None:
        ask_for_run(user, wanted(short_build))
        row = self.over(api, short_build)
        assert row["drains"] is None and row["verdict"] == row["oil"]
