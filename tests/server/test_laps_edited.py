"""Laps that are there: looked at, their corners and names edited; manoeuvres and tyres."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.loads.line import driven_line
from builds.models import Build
from loads.models import Lap
from loads.services import log_of

from tests.conftest import DEMO
from tests.server.conftest import Api, fields

pytestmark = pytest.mark.django_db

SALTMARSH = (DEMO / "saltmarsh.csv").read_bytes()
SESSION = (DEMO / "saltmarsh-session.csv").read_bytes()


def test_a_lap_to_look_at(api: Api, lap: Lap) -> None:
    status, told = api("GET", f"/laps/{lap.pk}")
    assert status == 200
    assert len(told["corners"]) == 9
    assert (told["from_gps"], told["has_vertical"], told["corners_edited"]) == (False, False, False)
    held = np.array(told["held"]["load_g"])
    assert held.shape == (5, 72)
    assert np.all(np.diff(held, axis=0) <= 1e-9)
    assert held.max() == pytest.approx(1.3, abs=0.1)
    log = log_of(lap)
    line = driven_line(log)
    for corner in told["corners"]:  # the apex is where the side load is highest
        inside = np.flatnonzero((log.time >= corner["start_s"]) & (log.time <= corner["end_s"]))
        apex = inside[np.abs(log.leftward[inside]).argmax()]
        assert corner["apex_m"] == pytest.approx(line[apex].tolist(), abs=3.0)


def test_corners_named_by_the_builder_are_in_the_verdict(api: Api, lap: Lap, build: Build) -> None:
    _, told = api("GET", f"/laps/{lap.pk}")
    rows = [
        {"name": f"Bend {c['number']}", "start_s": c["start_s"], "end_s": c["end_s"]}
        for c in told["corners"]
    ]
    for told_before in (api("GET", "/shelf")[1][0], api("GET", f"/stages/slosh/{build.pk}")[1]):
        assert "corner" in told_before["verdict"]["sentence"]
    status, told = api("PUT", f"/laps/{lap.pk}/corners", {"corners": rows})
    assert (status, told["corners_edited"]) == (200, True)
    _, slosh = api("GET", f"/stages/slosh/{build.pk}")
    assert "Bend" in slosh["verdict"]["sentence"]
    assert "Bend" in api("GET", "/shelf")[1][0]["verdict"]["sentence"]
    assert slosh["lap"]["corners"][0]["name"] == "Bend 1"
    _, told = api("PUT", f"/laps/{lap.pk}/corners", {"corners": None})
    assert told["corners"][0]["name"] is None


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        ([(None, 5, 9), (None, 8, 12)], "after the one before"),
        ([(None, 90, 99)], "inside the lap"),
        ([(None, 9, 5)], "inside the lap"),
    ],
)
def test_corners_that_cannot_be_are_refused(api: Api, lap: Lap, rows: Any, words: str) -> None:
    body = {"corners": [{"name": n, "start_s": a, "end_s": b} for n, a, b in rows]}
    status, told = api("PUT", f"/laps/{lap.pk}/corners", body)
    assert (status, fields(told)) == (422, ["corners"])
    assert words in told["problems"][0]["message"]
    lap.refresh_from_db()
    assert lap.corners is None


def test_renaming_and_removing(api: Api, lap: Lap, build: Build) -> None:
    rename = {"name": " eve\u200bning ", "base_name": lap.name}
    assert api("PATCH", f"/laps/{lap.pk}", rename)[1]["name"] == "evening"
    assert api("PATCH", f"/laps/{lap.pk}", rename)[0] == 200  # said again, it is so already
    assert api("PATCH", f"/laps/{lap.pk}", {"name": " ", "base_name": "evening"})[0] == 422
    status, told = api("PATCH", f"/laps/{lap.pk}", {"name": "night", "base_name": lap.name})
    assert (status, "called evening by now" in told["title"]) == (409, True)
    status, told = api("DELETE", f"/laps/{lap.pk}")
    assert status == 409 and "Dunlin is judged by this lap" in told["title"]
    assert api("DELETE", f"/laps/{lap.pk}?even_if_used=true") == (204, None)
    _, told = api("GET", f"/builds/{build.pk}")
    assert told["lap_id"] is None


CORNER = {
    "kind": "corner",
    "hand": "left",
    "level_g": 1.3,
    "ramp_s": 0.5,
    "hold_s": 4,
    "engine_speed_rpm": 6500,
}


def test_a_manoeuvre_is_judged_like_a_lap(api: Api, build: Build) -> None:
    status, told = api("POST", "/laps/manoeuvre", {"parts": [CORNER]})
    assert (status, told["name"], told["duration_s"]) == (201, "Corner left, 1.3 g for 4 s", 9.0)
    api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": told["id"]})
    _, slosh = api("GET", f"/stages/slosh/{build.pk}")
    assert slosh["lap"]["corners"][0]["hand"] == "left"
    assert max(slosh["lap"]["samples"]["side_g"]) == pytest.approx(1.3, abs=0.001)
    status, told = api("POST", "/laps/manoeuvre", {"parts": [{**CORNER, "kind": "braking"}]})
    assert told["name"] == "Braking, 1.3 g for 4 s"


def test_manoeuvres_in_a_row_are_one_load_with_a_name(api: Api) -> None:
    parts = [{**CORNER, "kind": "braking", "level_g": 1.0}, CORNER]
    status, drawn = api("POST", "/laps/manoeuvre/trace", {"parts": parts})
    assert (status, drawn["name"]) == (200, "Braking, 1 g for 4 s; Corner left, 1.3 g for 4 s")
    assert drawn["time_s"][-1] == pytest.approx(13.5)
    assert (min(drawn["fore_g"]), max(drawn["side_g"])) == (-1.0, 1.3)
    assert not Lap.objects.exists()  # it was only drawn
    wanted = {"parts": parts, "name": "into the hairpin"}
    status, told = api("POST", "/laps/manoeuvre", wanted)
    assert (status, told["name"], told["duration_s"]) == (201, "into the hairpin", 13.5)
    too_long = [{**CORNER, "hold_s": 600}] * 3
    assert api("POST", "/laps/manoeuvre/trace", {"parts": too_long})[0] == 422
    assert api("POST", "/laps/manoeuvre", {"parts": []})[0] == 422


@pytest.mark.parametrize(
    "change",
    [{"level_g": 0}, {"level_g": "lots"}, {"hold_s": -1}, {"kind": "loop"}, {"ramp_s": None}],
)
def test_a_faulty_manoeuvre_is_refused(api: Api, change: dict[str, Any]) -> None:
    status, told = api("POST", "/laps/manoeuvre", {"parts": [CORNER, {**CORNER, **change}]})
    assert (status, fields(told)) == (422, [f"parts.1.{name}" for name in change])
    assert not Lap.objects.exists()


def test_better_tyres(api: Api, other_api: Api, lap: Lap) -> None:
    status, told = api("POST", f"/laps/{lap.pk}/grip", {"factor": 1.21})
    assert (status, told["name"]) == (201, "lap 7, grip x 1.21")
    assert told["duration_s"] == pytest.approx(lap.duration_s / 1.1, abs=0.1)
    assert api("POST", f"/laps/{lap.pk}/grip", {"factor": 9})[0] == 422
    assert other_api("POST", f"/laps/{lap.pk}/grip", {"factor": 1.2})[0] == 404
