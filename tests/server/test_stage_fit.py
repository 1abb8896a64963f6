"""The stage Fit: rounds, places, what is refused, sent twice, corrected, printed."""

from __future__ import annotations

import math
import uuid
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from config.errors import NotFound
from django.utils import timezone
from records.models import FitEntry
from stages.fit.answer import fit
from stages.fit.page import Spot, spread

from tests.server.conftest import Api


def address(build: Build, end: str = "") -> str:
    return f"/stages/fit/{build.pk}{end}"


def row(client_id: str = "", **raw: Any) -> dict[str, Any]:
    return {
        "client_id": client_id or str(uuid.uuid4()), "at": timezone.now().isoformat(), "entry": raw
    }  # fmt: skip


def entered(api: Api, build: Build, *rows: dict[str, Any]) -> dict[str, Any]:
    status, told = api("POST", address(build, "/entries"), {"entries": list(rows)})
    assert status == 200, told
    return told  # type: ignore[no-any-return]


BEGIN = {"kind": "round_begun", "means": "printed", "car_on": "stands"}


def place(told: dict[str, Any], name: str) -> dict[str, Any]:
    return next(each for each in told["fit"]["places"] if each["name"] == name)


def test_places_are_there_before_any_round(api: Api, build: Build) -> None:
    status, told = api("GET", address(build))
    assert status == 200 and told["fit"]["rounds"] == []
    assert place(told, "pan to exhaust")["forecast_mm"] == pytest.approx(19.2, abs=0.2)
    early = entered(api, build, row(kind="found", place="k3:pan", gap_mm=20))
    assert "begin one first" in early["refused"][0]["why"]


def test_a_round_is_gone_through_and_closed_when_each_place_is_sound(
    api: Api, user: User, build: Build
) -> None:
    told = entered(api, build, row(**BEGIN), row(kind="found", place="k3:pan", touches=True))
    assert told["fit"]["places"][0]["state"] == "touches"
    assert told["fit"]["places"][0]["found"][0]["by"] == user.username
    no = entered(api, build, row(kind="round_closed"))
    assert "is kept open by pan to exhaust and 3 more" in no["refused"][0]["why"]
    for each in told["fit"]["open"]:
        entered(api, build, row(kind="found", place=each, gap_mm=60))
    done = entered(api, build, row(kind="round_closed"))
    assert done["refused"] == [] and done["fit"]["rounds"][0]["closed"]


def test_what_is_sent_twice_is_kept_once(api: Api, build: Build) -> None:
    begin, one = row(**BEGIN), row(kind="found", place="k3:pan", gap_mm=23)
    entered(api, build, begin, one)
    told = entered(api, build, begin, one, one)
    assert FitEntry.objects.count() == 2 and len(told["fit"]["rounds"]) == 1


def test_a_keep_out_found_nearer_is_moved_and_the_offer_is_gone(api: Api, build: Build) -> None:
    told = entered(api, build, row(**BEGIN), row(kind="found", place="k2:pan", gap_mm=35))
    offer = place(told, "pan to steering rack")["correction"]
    assert offer["nearer_mm"] == pytest.approx(6.6, abs=0.2)
    figures = [{"field": field, "value": value} for field, value in offer["figures"]]
    status, _ = api("POST", f"/builds/{build.pk}/acts", {
        "base_state": 1, "system": "metric", "act": {"kind": "figures", "figures": figures},
    })  # fmt: skip
    assert status == 200
    _, after = api("GET", address(build))
    rack = place(after, "pan to steering rack")
    assert rack["forecast_mm"] == pytest.approx(35, abs=0.5) and rack["correction"] is None
    assert rack["found"][0]["gap_mm"] == 35


def test_an_edit_that_moves_no_gap_leaves_the_offer(api: Api, build: Build) -> None:
    entered(api, build, row(**BEGIN), row(kind="found", place="k2:pan", gap_mm=35))
    api("POST", f"/builds/{build.pk}/acts", {
        "base_state": 1, "system": "metric", "act": {"kind": "refill", "to_l": 7},
    })  # fmt: skip
    _, told = api("GET", address(build))
    assert place(told, "pan to steering rack")["correction"]


def test_a_place_is_said_by_hand_and_faults_are_named(api: Api, build: Build) -> None:
    told = entered(api, build, row(**BEGIN), row(
        kind="place_said", place="o7", name="lid to mount", wanted_mm=8, subject="pan",
    ))  # fmt: skip
    assert place(told, "lid to mount")["is_said"]
    status, refused = api("POST", address(build, "/entries"), {
        "entries": [row(kind="found", place="k3:pan", gap_mm=3, touches=True)],
    })  # fmt: skip
    assert status == 422 and "not both" in str(refused)


def test_the_round_prints(api: Api, build: Build) -> None:
    for _ in range(2):
        answer = api.client.get(f"/api{address(build, '/page')}")
        assert answer["Content-Type"] == "application/pdf" and answer.content.startswith(b"%PDF")
        entered(api, build, row(**BEGIN), row(kind="found", place="k3:pan", gap_mm=20))


def test_a_stranger_finds_no_fit(stranger: User, build: Build) -> None:
    with pytest.raises(NotFound):
        fit(stranger.workshop, build.pk)


@pytest.mark.parametrize(
    "spots",
    [
        [(0.0, 0.0)] * 5 + [(1.0, 1.0)],
        [(0.0, 0.0), (3.0, 1.0), (5.0, -2.0), (40.0, 0.0)],
    ],
)
def test_numbers_on_the_sheet_stand_apart_and_near_their_spots(spots: list[Spot]) -> None:
    found = spread(spots, 10.0)
    for at, one in enumerate(found):
        for other in found[:at]:
            assert math.dist(one, other) > 9.9
    assert all(math.dist(one, spot) < 30.0 for one, spot in zip(found, spots, strict=True))
    assert spread([(7.0, 7.0)], 10.0) == [(7.0, 7.0)]
