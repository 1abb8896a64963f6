"""The Pan stage over the API: fills, dips, checks, deepening and mending."""

from __future__ import annotations

from typing import Any

import pytest
from builds.models import Build
from builds.states import add_build, checked_document

from tests.conftest import DEMO
from tests.server.conftest import Api, act, fields, figures

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
    points = [(1, 24.9), (2, 40.4), (3, 55.9), (4, 70.9), (30, 500)]
    poured: dict[str, Any] = {
        "kind": "poured", "engine": "level",
        "points": [{"poured_l": v, "level_mm": h} for v, h in points],
    }  # fmt: skip
    body = {"state": 1, "system": "metric", "record": poured}
    assert api("POST", f"/builds/{build.pk}/records", body)[0] == 201
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["dips"][-1]["computed_mm"] is None  # more than it holds
    assert told["rms_mm"] == pytest.approx(8.3, abs=0.5)
    assert told["explanations"][0]["what"] == "zero of the dipstick"
    assert told["explanations"][0]["change_mm"] == pytest.approx(8.3, abs=0.5)
    # a point is written anew with its figure as typed, like any other
    (row,) = api("GET", f"/builds/{build.pk}/records")[1]
    poured["points"][0]["level_mm"] = "5/8 in"
    body = {"state": 1, "system": "us", "record": poured, "replaces": row["id"]}
    _, (row,) = api("POST", f"/builds/{build.pk}/records", body)
    assert row["record"]["points"][0]["level_mm"] == pytest.approx(15.875)


@pytest.mark.parametrize(
    ("typed", "system", "zones", "deepest", "words"),
    [
        ("1/4 in", "metric", None, 144.35, "spacer under the pan, 1/4 in: +0.61 L"),
        ("20", "metric", [0, 3], 158.0, "sump deeper, 20: +1.18 L"),
        ("0.5", "us", [0], 150.7, "sump deeper, 0.5"),
        (20.0, "us", [0, 3], 158.0, "sump deeper, 20 mm: +1.18 L"),
    ],
)
def test_deepening(
    api: Api, build: Build, typed: Any, system: str, zones: Any, deepest: float, words: str
) -> None:
    ids = [zone["id"] for zone in build.current.document["pan"]["zones"]]
    given = {"zones": [ids[at] for at in zones]} if zones else {}
    kind = "deepen" if zones else "spacer"
    edit = act(kind, system=system, by_mm=typed, **given)
    status, told = api("POST", f"/builds/{build.pk}/acts", edit)
    assert status == 200, told
    assert told["document"]["pan"]["zones"][0]["floor"]["depth_mm"] == pytest.approx(deepest)
    assert words in told["undo"]
    kept = Build.objects.get(pk=build.pk).current.act
    assert (kept["kind"], kept["by_mm"]) == (kind, pytest.approx(deepest - 138.0))


def test_words_of_any_length_are_cut(api: Api, build: Build) -> None:
    edit = act("spacer", by_mm=5.0, typed={"by_mm": "it " * 500})
    status, told = api("POST", f"/builds/{build.pk}/acts", edit)
    assert (status, len(told["undo"])) == (200, 200)


@pytest.mark.parametrize(("letters", "status"), [(40, 200), (41, 422)])
def test_a_length_is_typed_in_forty_letters(
    api: Api, build: Build, letters: int, status: int
) -> None:
    edit = act("spacer", by_mm="0" * (letters - 1) + "5")
    assert api("POST", f"/builds/{build.pk}/acts", edit)[0] == status


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"kind": "spacer", "by_mm": "deep"}, "by_mm"),
        ({"kind": "spacer", "by_mm": "0"}, "by_mm"),
        ({"kind": "spacer", "by_mm": "2 L"}, "by_mm"),
        ({"kind": "spacer"}, "by_mm"),
        ({"kind": "spacer", "by_mm": "5", "zones": ["z4"]}, "zones"),
        ({"kind": "deepen", "by_mm": "10", "zones": ["z99"]}, "zones"),
        ({"kind": "deepen", "by_mm": "10", "zones": ["k1"]}, "zones"),
        ({"kind": "deepen", "by_mm": "10", "zones": []}, "zones"),
        ({"kind": "spacer", "by_mm": "-2 m"}, "pan.zones.0.floor.depth_mm"),
        ({"kind": "magic"}, "kind"),
        ({}, "kind"),
    ],
)
def test_acts_that_are_refused(api: Api, build: Build, given: Any, field: str) -> None:
    edit = {"base_state": 1, "system": "metric", "act": given}
    status, told = api("POST", f"/builds/{build.pk}/acts", edit)
    assert status == 422
    assert field in fields(told), told
    assert Build.objects.get(pk=build.pk).current.number == 1


def test_a_gate_is_turned_and_a_plate_carried(api: Api, gated: Build) -> None:
    path = f"/builds/{gated.pk}/acts"
    plates = gated.current.document["pan"]["plates"]
    gate = plates[0]["openings"][0]["gate"]["id"]
    status, told = api("POST", path, act("turn_gate", gate=gate))
    assert (status, told["undo"]) == (200, "gate G3 turned round")
    _, pan = api("GET", f"/stages/pan/{gated.pk}")
    mend = pan["checks"][0]["mend"]
    assert (mend["kind"], mend["gate"]) == ("turn_gate", gate)
    # what a check offers is sent back as it came
    status, told = api("POST", path, {"base_state": 2, "system": "metric", "act": mend})
    assert (status, told["document"]["pan"]["plates"]) == (200, plates)
    carry = act("carry_to_wall", 3, plate=plates[3]["id"], end="end")
    assert api("POST", path, carry)[1]["undo"] == "plate P2 carried to the wall"
    lid = plates[4]["id"]
    for wrong in (
        act("turn_gate", 4, gate="g99"), act("turn_gate", 4, gate=lid),
        act("carry_to_wall", 4, plate=lid, end="end"),
        act("carry_to_wall", 4, plate=gate, end="end"),
        act("carry_to_wall", 4, plate=plates[3]["id"], end="middle"),
    ):  # fmt: skip
        assert api("POST", path, wrong)[0] == 422, wrong


def test_another_workshop_reaches_none_of_it(other_api: Api, build: Build) -> None:
    for method, path, body in (
        ("GET", f"/stages/pan/{build.pk}", None),
        ("POST", f"/builds/{build.pk}/acts", act("spacer", by_mm="5")),
    ):
        assert other_api(method, path, body)[0] == 404, path


def test_ground_and_layout(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/acts"
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert (told["ground"]["gap_mm"], told["ground"]["margin_mm"]) == (58.0, 13.0)
    assert api("POST", path, figures("car.rail_height_mm", "8 in", 1, "us"))[0] == 200
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["ground"]["gap_mm"] == pytest.approx(203.2 - 159.0, abs=0.1)
    status, told = api("POST", path, figures("car.place", "boot", 2, "us"))
    assert (status, told["problems"][0]["field"]) == (422, "car.place")


def test_a_state_of_an_older_version_is_edited_like_any_other(api: Api, build: Build) -> None:
    state = build.current
    for field in ("place", "cylinders", "rail_height_mm", "least_ground_mm"):
        del state.document["car"][field]  # as an earlier version of the program kept it
    state.save()
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert told["ground"] is None
    edit = figures("car.rail_height_mm", "217")
    status, told = api("POST", f"/builds/{build.pk}/acts", edit)
    assert (status, told["document"]["car"]["rail_height_mm"]) == (200, 217)
