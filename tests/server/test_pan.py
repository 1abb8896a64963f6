"""The Pan stage over the API: fills, dips, checks, deepening and mending."""

from __future__ import annotations

import json
from typing import Any

import pytest
from builds.models import Build
from builds.states import add_build, checked_document

from tests.conftest import DEMO
from tests.server.conftest import Api

pytestmark = pytest.mark.django_db


@pytest.fixture
def gated(user: Any, lap: Any) -> Build:
    document = checked_document((DEMO / "dunlin-gated.json").read_bytes())
    return add_build(user, document, "from a file", lap)


def test_fills_level_and_in_the_car(api: Api, build: Build) -> None:
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["level"]["normal"] == [0, 0, 1]
    assert told["level"]["lowest_mm"] == -138
    assert told["in_car"]["normal"][1] != 0  # leaned right
    curve = told["level"]["curve_l_mm"]
    assert curve[0] == [0, 0]
    assert curve == sorted(curve)
    assert told["lowest_below_rail_mm"] == 138
    assert (told["dips"], told["rms_mm"], told["explanations"]) == ([], None, [])
    mouth = [c["state"] for c in told["checks"] if c["field"] == "pickup.gap_mm"]
    assert mouth == ["good"]


def test_dips_are_compared_and_explained(api: Api, build: Build) -> None:
    document = json.loads(json.dumps(build.current.document))
    points = [(1, 24.9), (2, 40.4), (3, 55.9), (4, 70.9), (30, 500)]
    document["pan"]["dipped"] = {
        "engine": "level",
        "points": [{"poured_l": v, "level_mm": h} for v, h in points],
    }
    edit = {"base_state": 1, "document": document, "change": "dips"}
    assert api("PUT", f"/builds/{build.pk}/document", edit)[0] == 200
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["dips"][-1]["computed_mm"] is None  # more than it holds
    assert told["rms_mm"] == pytest.approx(8.3, abs=0.5)
    assert told["explanations"][0]["what"] == "zero of the dipstick"
    assert told["explanations"][0]["change_mm"] == pytest.approx(8.3, abs=0.5)
    # a point is edited by its figure like any other
    path = f"/builds/{build.pk}/figures"
    figure = {"field": "pan.dipped.points.0.level_mm", "typed": "5/8 in"}
    _, changed = api("PATCH", path, {"base_state": 2, "system": "us", "figures": [figure]})
    assert changed["document"]["pan"]["dipped"]["points"][0]["level_mm"] == pytest.approx(15.875)


@pytest.mark.parametrize(
    ("typed", "system", "zones", "deepest", "words"),
    [
        ("1/4 in", "metric", None, 144.35, "spacer under the pan, 1/4 in: +0.61 L"),
        ("20", "metric", [0, 3], 158.0, "sump deeper, 20: +1.18 L"),
        ("0.5", "us", [0], 150.7, "sump deeper, 0.5"),
    ],
)
def test_deepening(
    api: Api, build: Build, typed: str, system: str, zones: Any, deepest: float, words: str
) -> None:
    edit = {"base_state": 1, "system": system, "typed": typed, "zones": zones}
    status, told = api("POST", f"/builds/{build.pk}/deepen", edit)
    assert status == 200, told
    assert told["document"]["pan"]["zones"][0]["floor"]["depth_mm"] == pytest.approx(deepest)
    assert words in told["undo"]


@pytest.mark.parametrize(
    ("typed", "zones", "field"),
    [
        ("deep", None, "typed"),
        ("0", None, "amount"),
        ("10", [9], "zones"),
        ("-2 m", None, "pan.zones.0.floor.depth_mm"),
    ],
)
def test_deepening_refuses(api: Api, build: Build, typed: str, zones: Any, field: str) -> None:
    edit = {"base_state": 1, "system": "metric", "typed": typed, "zones": zones}
    status, told = api("POST", f"/builds/{build.pk}/deepen", edit)
    assert status == 422
    assert field in [problem["field"] for problem in told["problems"]]
    assert Build.objects.get(pk=build.pk).current.number == 1


def test_a_gate_is_turned_and_a_plate_carried(api: Api, gated: Build) -> None:
    path = f"/builds/{gated.pk}"
    field = "pan.plates.0.openings.0.gate.swings"
    edit = {"base_state": 1, "fix": "turn_gate", "field": field}
    status, told = api("POST", f"{path}/mend", edit)
    assert (status, told["undo"]) == (200, "gate turned round")
    _, figures = api("GET", f"/stages/pan/{gated.pk}")
    assert (figures["checks"][0]["fix"], figures["checks"][0]["field"]) == ("turn_gate", field)
    edit = {"base_state": 2, "fix": "carry_to_wall", "field": "pan.plates.3.to_mm"}
    assert api("POST", f"{path}/mend", edit)[1]["undo"] == "plate carried to the wall"
    for wrong in ("pan.plates.7.to_mm", "pan.plates.3.openings.4.gate.swings"):
        edit = {"base_state": 3, "fix": "turn_gate", "field": wrong}
        assert api("POST", f"{path}/mend", edit)[0] == 422
    assert api("POST", f"{path}/mend", {**edit, "field": "oil.volume_l"})[0] == 422


def test_another_workshop_reaches_none_of_it(other_api: Api, build: Build) -> None:
    deepen = {"base_state": 1, "system": "metric", "typed": "5", "zones": None}
    fix = {"base_state": 1, "fix": "turn_gate", "field": "pan.plates.0.to_mm"}
    for method, path, body in (
        ("GET", f"/stages/pan/{build.pk}", None),
        ("POST", f"/builds/{build.pk}/deepen", deepen),
        ("POST", f"/builds/{build.pk}/mend", fix),
    ):
        assert other_api(method, path, body)[0] == 404, path


def test_ground_and_layout(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/figures"
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert (told["ground"]["gap_mm"], told["ground"]["margin_mm"]) == (58.0, 13.0)
    figure = {"field": "car.rail_height_mm", "typed": "8 in"}
    assert api("PATCH", path, {"base_state": 1, "system": "us", "figures": [figure]})[0] == 200
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["ground"]["gap_mm"] == pytest.approx(203.2 - 159.0, abs=0.1)
    figure = {"field": "car.place", "typed": "boot"}
    status, told = api("PATCH", path, {"base_state": 2, "system": "us", "figures": [figure]})
    assert (status, told["problems"][0]["field"]) == (422, "car.place")


def test_a_state_of_an_older_version_is_edited_like_any_other(api: Api, build: Build) -> None:
    state = build.current
    for field in ("place", "cylinders", "rail_height_mm", "least_ground_mm"):
        del state.document["car"][field]  # as an earlier version of the program kept it
    state.save()
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["ground"] is None
    figure = {"field": "car.rail_height_mm", "typed": "217"}
    edit = {"base_state": 1, "system": "metric", "figures": [figure]}
    status, told = api("PATCH", f"/builds/{build.pk}/figures", edit)
    assert (status, told["document"]["car"]["rail_height_mm"]) == (200, 217)
