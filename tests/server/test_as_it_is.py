"""The state that the car is in: what is found out is carried into it, what is planned is not."""

from __future__ import annotations

from typing import Any

import pytest
from builds.models import Build, BuildState

from tests.server.conftest import Api, fields, figures

pytestmark = pytest.mark.django_db


def now(build: Build) -> Build:
    return Build.objects.select_related("current", "as_is").get(pk=build.pk)


def car_is(api: Api, build: Build, state: int | None) -> tuple[int, Any]:
    body = {"base_state": now(build).current.number, "state": state}
    return api("PUT", f"/builds/{build.pk}/as-is", body)


def type_in(api: Api, build: Build, field: str, typed: str) -> tuple[int, Any]:
    edit = figures(field, typed, now(build).current.number)
    return api("POST", f"/builds/{build.pk}/acts", edit)


def step(api: Api, build: Build, way: str) -> None:
    body = {"base_state": now(build).current.number}
    assert api("POST", f"/builds/{build.pk}/{way}", body)[0] == 200


def test_nobody_has_said_at_first(api: Api, build: Build) -> None:
    assert api("GET", f"/builds/{build.pk}")[1]["as_is"] is None
    type_in(api, build, "car.rail_height_mm", "205")
    assert BuildState.objects.filter(build=build).count() == 2


def test_offered_first_is_the_last_state_before_anything_was_planned(
    api: Api, build: Build
) -> None:
    def offered() -> list[tuple[int, str]]:
        told = api("GET", f"/stages/job-card/{build.pk}")[1]["choose"]
        return [(each["state"], each["before"]) for each in told]

    assert offered() == [(1, "")]
    type_in(api, build, "car.rail_height_mm", "205")
    type_in(api, build, "oil.temperature_c", "98")
    assert offered() == [(1, ""), (3, ""), (2, "")]  # what was typed is not planned
    for by in ("10", "12"):
        spacer = {"kind": "spacer", "by_mm": by}
        body = {"base_state": now(build).current.number, "system": "metric", "act": spacer}
        assert api("POST", f"/builds/{build.pk}/acts", body)[0] == 200
    planned = BuildState.objects.get(build=build, number=4).change
    assert offered() == [(3, planned), (1, ""), (5, ""), (4, ""), (2, "")]


def test_work_stays_where_it_was_planned(api: Api, build: Build) -> None:
    assert car_is(api, build, 1)[1]["as_is"] == 1
    type_in(api, build, "pickup.gap_mm", "9")
    assert now(build).as_is.number == 1
    assert BuildState.objects.filter(build=build).count() == 2


def test_what_is_found_out_holds_in_the_car_as_well(api: Api, build: Build) -> None:
    car_is(api, build, 1)
    type_in(api, build, "pickup.gap_mm", "9")
    _, told = type_in(api, build, "car.rail_height_mm", "205")
    assert (told["state"], told["as_is"]) == (3, 4)
    car = now(build).as_is.document
    assert (car["car"]["rail_height_mm"], car["pickup"]["gap_mm"]) == (205.0, 8.0)
    # states of before stay as they were
    first = BuildState.objects.get(build=build, number=1).document
    assert first["car"]["rail_height_mm"] != 205.0


def test_undone_it_goes_and_done_again_it_comes(api: Api, build: Build) -> None:
    car_is(api, build, 1)
    type_in(api, build, "pickup.gap_mm", "9")
    type_in(api, build, "car.rail_height_mm", "205")
    step(api, build, "undo")
    assert (now(build).current.number, now(build).as_is.number) == (2, 1)
    step(api, build, "undo")
    assert (now(build).current.number, now(build).as_is.number) == (1, 1)
    step(api, build, "redo")
    assert (now(build).current.number, now(build).as_is.number) == (2, 1)
    step(api, build, "redo")
    assert (now(build).current.number, now(build).as_is.number) == (3, 4)
    # the car as it is is no way to go on
    step(api, build, "undo")
    assert api("GET", f"/builds/{build.pk}")[1]["redo"] == "rail height to 205"


def test_where_the_car_would_not_hold_together_it_is_refused(api: Api, build: Build) -> None:
    """The engine holds more than there is in the car as it is; as planned there is enough."""
    document = build.current.document
    for part in document["circuit"]["components"]:
        part["holds_l"] = None  # the total is a figure of its own
    document["oil"] |= {"away_l": 1.0, "volume_l": 2.0}
    build.current.save()
    car_is(api, build, 1)
    type_in(api, build, "oil.volume_l", "6")
    status, told = type_in(api, build, "oil.away_l", "2.5")
    assert (status, fields(told)) == (422, ["oil.volume_l"])
    assert "in the car as it is, state 1" in told["problems"][0]["message"]
    assert (now(build).current.number, BuildState.objects.count()) == (2, 2)


def test_differences_are_of_work_alone(api: Api, other_api: Api, build: Build) -> None:
    car_is(api, build, 1)
    type_in(api, build, "pickup.gap_mm", "9")
    type_in(api, build, "car.rail_height_mm", "205")
    path = f"/builds/{build.pk}/differences"
    assert [row["words"] for row in api("GET", f"{path}?before=4&after=3")[1]] == [
        "mouth's gap: 8 mm to 9 mm"
    ]
    (inches,) = api("GET", f"{path}?before=1&after=3&system=us")[1]
    assert inches["words"] == "mouth's gap: 0.315 in to 0.354 in"
    assert api("GET", f"{path}?before=1&after=4")[1] == []
    assert api("GET", f"{path}?before=1&after=9")[0] == 404
    assert other_api("GET", f"{path}?before=1&after=2")[0] == 404


def test_only_states_of_the_build(api: Api, other_api: Api, build: Build) -> None:
    assert car_is(api, build, 7)[0] == 404
    assert car_is(other_api, build, 1)[0] == 404
    assert api("PUT", f"/builds/{build.pk}/as-is", {"base_state": 5, "state": 1})[0] == 409
    car_is(api, build, 1)
    assert car_is(api, build, None)[1]["as_is"] is None


def test_a_build_with_a_car_can_be_deleted(api: Api, build: Build) -> None:
    car_is(api, build, 1)
    type_in(api, build, "car.rail_height_mm", "205")
    assert api("DELETE", f"/builds/{build.pk}")[0] == 204
