"""What Pressure asks: the circuit on its run, on another's, on settled oil; a bottle tried."""

from __future__ import annotations

from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.selectors import document_of
from builds.states import add_build
from runs.models import Result, Run
from runs.services import ask_for_run
from stages.pressure import answer, basis
from stages.pressure.schemas import PressureStageOut

from tests.server.conftest import Api, act, fields, figures
from tests.server.runs_made import NO_WORKER, wanted, work

pytestmark = pytest.mark.django_db

BOTTLE = {"volume_l": "2 qt", "precharge_bar": "30 psi", "at": "gallery_tapping"}


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER
    basis._kept.cache_clear()


def told_of(api: Api, build: Build) -> Any:
    status, told = api("GET", f"/stages/pressure/{build.pk}")
    assert status == 200, told
    return told


def tried(api: Api, build: Build, **changes: Any) -> tuple[int, Any]:
    body = {"system": "metric", "act": {"kind": "tune_accumulator", **changes}}
    return api("POST", f"/stages/pressure/{build.pk}/bottle", body)


def done(api: Api, build: Build, kind: str, **given: Any) -> None:
    build.refresh_from_db()
    assert build.current is not None
    status, told = api("POST", f"/builds/{build.pk}/acts", act(kind, build.current.number, **given))
    assert status == 200, told


class TestWhatItRestsOn:
    def test_before_any_run_on_settled_oil(self, api: Api, short_build: Build) -> None:
        told = told_of(api, short_build)
        assert told["basis"]["kind"] == "settled"
        assert "first look" in told["basis"]["words"]
        assert told["bottle"] is None and told["stopped"] is None
        assert PressureStageOut.model_validate(told).model_dump(mode="json") == told

    def test_then_on_its_own_run(self, api: Api, user: User, short_build: Build) -> None:
        run = work(ask_for_run(user, wanted(short_build)))
        told = told_of(api, short_build)
        assert (told["basis"]["kind"], told["basis"]["run_id"]) == ("own", run.pk)
        assert run.result is not None
        assert told["pressure"] == run.result.figures["pressure"]
        samples = told["samples"]
        looks = run.result.figures["samples"]
        lowest = min(looks["pressure_bar"])
        assert min(samples["gallery_bar"]) == pytest.approx(lowest, abs=0.15)
        assert {len(row) for row in samples["pressure_bar"]} == {len(samples["time_s"])}
        assert len(samples["flow_l_min"]) == len(told["layout"]["elements"])
        assert len(told["in_pan_l"]) == len(samples["time_s"])

    def test_what_is_kept_is_told_without_reading_the_run_again(
        self, api: Api, user: User, short_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        work(ask_for_run(user, wanted(short_build)))
        first = told_of(api, short_build)
        basis._kept.cache_clear()
        monkeypatch.setattr(basis, "on_record", lambda *_: pytest.fail("read and run again"))
        assert told_of(api, short_build) == first
        assert short_build.lap is not None
        assert first["duration_s"] == pytest.approx(short_build.lap.duration_s, abs=1e-3)

    def test_what_hardly_changes_the_draw_is_previewed_on_the_run_before(
        self, api: Api, user: User, short_build: Build
    ) -> None:
        done(api, short_build, "fit_accumulator", **BOTTLE)
        short_build.refresh_from_db()
        run = work(ask_for_run(user, wanted(short_build)))
        done(api, short_build, "tune_accumulator", precharge_bar=2.2)
        told = told_of(api, short_build)
        assert (told["basis"]["kind"], told["basis"]["run_id"]) == ("preview", run.pk)
        assert abs(told["basis"]["oil_apart_l"]) <= 0.05
        assert told["basis"]["draw_apart_l_min"] <= 1.0
        assert "nothing is said to hold" in told["basis"]["words"]

    def test_what_changes_the_oil_in_the_pan_is_not(
        self, api: Api, user: User, short_build: Build
    ) -> None:
        work(ask_for_run(user, wanted(short_build)))
        edit = figures("oil.volume_l", "7")
        assert api("POST", f"/builds/{short_build.pk}/acts", edit)[0] == 200
        assert told_of(api, short_build)["basis"]["kind"] == "settled"

    def test_nor_is_another_pan(self, api: Api, user: User, short_build: Build) -> None:
        work(ask_for_run(user, wanted(short_build)))
        edit = figures("pickup.gap_mm", "12")
        assert api("POST", f"/builds/{short_build.pk}/acts", edit)[0] == 200
        assert told_of(api, short_build)["basis"]["kind"] == "settled"

    def test_nor_is_a_run_of_an_older_model(self, api: Api, user: User, short_build: Build) -> None:
        run = work(ask_for_run(user, wanted(short_build)))
        Run.objects.filter(pk=run.pk).update(felt="as an older model felt it")
        done(api, short_build, "figures", figures=[{"field": "name", "value": "Otter"}])
        assert told_of(api, short_build)["basis"]["kind"] == "settled"

    def test_without_a_lap_it_runs_level_and_steady(self, api: Api, build: Build) -> None:
        assert api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": None})[0] == 200
        told = told_of(api, build)
        assert (told["basis"]["kind"], told["duration_s"]) == ("steady", 1.0)
        assert told["pressure"]["dips"] == []
        bars = told["samples"]["gallery_bar"]
        assert max(bars) - min(bars) < 0.2 and min(bars) > 3.0


def test_it_is_worked_out_once(api: Api, build: Build, monkeypatch: pytest.MonkeyPatch) -> None:
    first = told_of(api, build)
    monkeypatch.setattr(answer, "circuit_lap", lambda *_: pytest.fail("worked out again"))
    done(api, build, "figures", figures=[{"field": "name", "value": "Otter"}])
    again = told_of(api, build)
    assert again["samples"] == first["samples"]
    assert again["state"] == 2


def test_a_bottles_line_is_told_as_the_document_has_it(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    done(api, build, "fit_accumulator", **BOTTLE)
    first = told_of(api, build)
    assert first["bottle"]["line"]["length_mm"] is None and first["other_check"] is None
    monkeypatch.setattr(answer, "other_check", lambda *_: pytest.fail("worked out again"))
    done(api, build, "figures", figures=[{"field": "name", "value": "Otter"}])
    assert told_of(api, build)["bottle"] == first["bottle"]
    monkeypatch.undo()
    done(api, build, "tune_accumulator", length_mm="1 m")
    assert told_of(api, build)["bottle"]["line"]["length_mm"] == 1000.0


def test_a_circuit_that_cannot_be_run_is_refused_in_place(api: Api, build: Build) -> None:
    state = build.current
    assert state is not None
    runs = state.document["circuit"]["runs"]
    state.document["circuit"]["runs"] = [r for r in runs if "gallery" not in r["name"]]
    state.save()
    status, told = api("GET", f"/stages/pressure/{build.pk}")
    assert status == 422
    assert fields(told)[0].startswith("circuit")


class TestTrying:
    def test_a_bottle_where_there_is_none(self, api: Api, short_build: Build) -> None:
        status, told = tried(api, short_build, volume_l="2 qt", precharge_bar="35 psi")
        assert status == 200
        assert told["act"]["kind"] == "fit_accumulator"
        assert told["bottle"]["volume_l"] == pytest.approx(1.89, abs=0.01)
        assert told["oil_added_l"] > 0.2
        done(api, short_build, **told["act"])
        after = told_of(api, short_build)
        assert after["bottle"]["volume_l"] == told["bottle"]["volume_l"]
        assert after["stopped"]["kept_at_speed_l"] > after["stopped"]["kept_at_idle_l"]

    def test_nothing_is_kept(self, api: Api, build: Build) -> None:
        tried(api, build, volume_l=3)
        build.refresh_from_db()
        assert build.current is not None and build.current.number == 1
        assert Result.objects.count() == 0

    def test_it_is_read_and_run_once_for_a_drag(
        self, api: Api, short_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        tried(api, short_build, volume_l=3)
        monkeypatch.setattr(basis, "forecast_over", lambda *_: pytest.fail("settled again"))
        assert tried(api, short_build, volume_l=2.5)[0] == 200

    @pytest.mark.parametrize(
        ("changes", "field"),
        [
            ({"volume_l": "much"}, "volume_l"),
            ({"volume_l": -1}, "volume_l"),
            ({"precharge_bar": "400 bar"}, "precharge_bar"),
            ({"valve": "by_foot"}, "valve"),
        ],
    )
    def test_what_cannot_be_is_refused_in_place(
        self, changes: dict[str, Any], field: str, api: Api, build: Build
    ) -> None:
        status, told = tried(api, build, **changes)
        assert status == 422
        assert any(field in each for each in fields(told)), told

    def test_another_act_is_no_trial(self, api: Api, build: Build) -> None:
        body = {"system": "metric", "act": {"kind": "spacer", "by_mm": 5}}
        status, told = api("POST", f"/stages/pressure/{build.pk}/bottle", body)
        assert status == 422
        assert "tune_accumulator" in str(told)


class TestTheMap:
    def test_it_is_of_the_sizes_asked_for(self, api: Api, short_build: Build) -> None:
        path = f"/stages/pressure/{short_build.pk}/bottle/map"
        status, told = api("GET", f"{path}?most_l=2&most_bar=3")
        assert status == 200
        assert (told["volumes_l"][-1], told["precharges_bar"][-1]) == (2.0, 3.0)
        assert (len(told["lowest_bar"]), len(told["lowest_bar"][0])) == (10, 20)
        assert len(told["under_s"]) == 10
        # kept for the next who asks for the same, and for nobody who asks for another
        assert api("GET", f"{path}?most_l=2&most_bar=3")[1] == told
        other = api("GET", f"{path}?most_l=3&most_bar=3")[1]
        assert other["volumes_l"][-1] == 3.0 and other["lowest_bar"] != told["lowest_bar"]

    def test_sizes_that_cannot_be_are_refused(self, api: Api, build: Build) -> None:
        path = f"/stages/pressure/{build.pk}/bottle/map"
        for wrong in ("most_l=0", "most_l=99", "most_bar=nan", "most_bar=-1"):
            assert api("GET", f"{path}?{wrong}")[0] == 422, wrong


def test_a_run_of_another_build_is_no_basis(api: Api, user: User, short_build: Build) -> None:
    """Equal answers are shared; a preview rests on runs of the build itself alone."""
    work(ask_for_run(user, wanted(short_build)))
    twin = add_build(user, document_of(short_build), "from a file", short_build.lap)
    told = told_of(api, twin)
    assert (told["basis"]["kind"], told["basis"]["run_id"]) == ("settled", None)


class TestSupplyAndCooling:
    def test_figures_are_read_as_typed(self, api: Api, build: Build) -> None:
        path = f"/stages/pressure/{build.pk}/supply"
        body = {"system": "us", "asked": {"wanted_bar": "60", "at_rpm": "5500"}}
        status, told = api("POST", path, body)
        assert status == 200
        assert told["setting"]["wanted_bar"] == pytest.approx(4.14, abs=0.01)  # 60 psi
        assert told["setting"]["rpm"] == 5500
        bare = api("POST", path, {"system": "metric"})[1]
        assert bare["setting"] is None
        assert [row["rpm"] for row in bare["cold"]] == [900, 2000, 3000]

    def test_the_heat_of_a_lap(self, api: Api, build: Build) -> None:
        path = f"/stages/pressure/{build.pk}/cooling"
        status, told = api("POST", path, {"system": "metric"})
        assert status == 200
        assert told["power_guessed"]
        asked = {"greatest_power_kw": "200 hp", "air_c": "95 F", "minutes": 10}
        hot = api("POST", path, {"system": "metric", "asked": asked})[1]
        assert not hot["power_guessed"]
        assert hot["given_kw"] == pytest.approx(149.1 * 0.6 * 0.035, abs=0.02)
        assert hot["time_s"][-1] == 600

    def test_measured_temperatures_tell_the_heat(self, api: Api, build: Build) -> None:
        """Whatever the power: flow, weight and warmth of what the engine drinks over the lap."""
        path = f"/stages/pressure/{build.pk}/cooling"
        asked = {"engine_in_c": 100, "engine_out_c": 112}
        heats = [
            api("POST", path, {"system": "metric", "asked": {**asked, **more}})[1]["given_kw"]
            for more in ({}, {"greatest_power_kw": 400}, {"engine_out_c": 124})
        ]
        assert heats[0] == heats[1]
        assert heats[2] == pytest.approx(2 * heats[0], rel=0.01)
        assert heats[0] == pytest.approx(25 / 60e3 * 815 * 2.2 * 12, rel=0.1)  # 25 L/min by 12 K

    @pytest.mark.parametrize(
        ("what", "asked", "field"),
        [
            ("supply", {"wanted_bar": "much"}, "wanted_bar"),
            ("supply", {"wanted_bar": -1}, "wanted_bar"),
            ("cooling", {"air_c": 400}, "air_c"),
            ("cooling", {"used_pct": 0}, "used_pct"),
            ("cooling", {"minutes": "long"}, "minutes"),
            ("cooling", {"engine_in_c": 110, "engine_out_c": 100}, "engine_out_c"),
        ],
    )
    def test_what_cannot_be_is_refused_in_place(
        self, what: str, asked: dict[str, Any], field: str, api: Api, build: Build
    ) -> None:
        body = {"system": "metric", "asked": asked}
        status, told = api("POST", f"/stages/pressure/{build.pk}/{what}", body)
        assert status == 422
        assert any(field in each for each in fields(told)), told


def test_settled_oil_of_another_model_is_worked_out_anew(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What is kept on settled oil is known by its model, which runs in moving oil do not feel."""
    told_of(api, build)
    monkeypatch.setattr("bilge_core.settled.VERSION", "settled-of-tomorrow")
    worked: list[int] = []
    real = answer.circuit_lap
    monkeypatch.setattr(answer, "circuit_lap", lambda *given: worked.append(1) or real(*given))
    told_of(api, build)
    assert worked == [1]
