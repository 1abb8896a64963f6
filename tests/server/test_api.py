"""The API as tables of call, status and body; and that nobody reaches another workshop."""

from __future__ import annotations

import json
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.read import read_build
from builds.models import Build, BuildState
from django.test import Client
from loads.models import Lap
from loads.services import store_lap

from tests.conftest import DEMO, TEMPLATE_KEYS
from tests.server.conftest import Api, fields, figures

pytestmark = pytest.mark.django_db


def test_everything_needs_a_session(anonymous: Api, build: Build) -> None:
    calls = [
        ("GET", "/builds/templates"),
        ("GET", "/shelf"),
        ("GET", f"/stages/slosh/{build.pk}"),
        ("GET", f"/builds/{build.pk}"),
        ("GET", f"/builds/{build.pk}/document"),
        ("DELETE", f"/builds/{build.pk}"),
        ("GET", "/laps"),
    ]
    for method, path in calls:
        status, told = anonymous(method, path)
        assert (status, told["title"]) == (401, "Sign in first."), path
    assert anonymous("GET", "/health") == (200, {"ok": True})


def test_nobody_reaches_another_workshop(other_api: Api, build: Build, lap: Lap) -> None:
    calls: list[tuple[str, str, Any]] = [
        ("GET", f"/builds/{build.pk}", None),
        ("GET", f"/builds/{build.pk}/document", None),
        ("GET", f"/stages/slosh/{build.pk}", None),
        ("DELETE", f"/builds/{build.pk}", None),
        ("POST", f"/builds/{build.pk}/acts", figures("oil.volume_l", "7")),
        ("POST", f"/builds/{build.pk}/undo", {"base_state": 1}),
        ("POST", f"/builds/{build.pk}/redo", {"base_state": 1}),
        ("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": None}),
        ("GET", f"/builds/{build.pk}/history", None),
        ("POST", f"/builds/{build.pk}/show", {"base_state": 1, "state": 1}),
        ("PUT", f"/builds/{build.pk}/revision", {"base_state": 1, "name": "x"}),
        ("GET", f"/stages/slosh/{build.pk}/laps/{lap.pk}", None),
        ("GET", f"/stages/slosh/{build.pk}/section/side?at_mm=0&state=1", None),
        (
            "PUT",
            f"/builds/{build.pk}/document",
            {"base_state": 1, "document": build.current.document, "change": "x"},
        ),
    ]
    for method, path, body in calls:
        status, told = other_api(method, path, body)
        assert status == 404, (method, path, told)
    assert other_api("GET", "/shelf") == (200, [])
    assert other_api("GET", "/laps") == (200, [])
    _, own = other_api("POST", "/builds", {"template": "flat-six", "name": "mine"})
    status, _ = other_api("PUT", f"/builds/{own['id']}/lap", {"base_state": 1, "lap_id": lap.pk})
    assert status == 404
    status, _ = other_api("GET", f"/stages/slosh/{own['id']}/laps/{lap.pk}")
    assert status == 404


def test_sign_in_and_out(user: User) -> None:
    client = Client(enforce_csrf_checks=True)
    page = client.get("/")
    assert page.status_code in {200, 503}
    client.get("/")
    token = client.cookies["csrftoken"].value
    body = json.dumps({"username": user.username, "password": "bearing-shell-9"})

    def send(method: str, body: str, **headers: str) -> int:
        kind = "application/json"
        return client.generic(
            method, "/api/session", body, content_type=kind, **headers
        ).status_code

    assert send("POST", body) == 403  # without this site's token
    assert send("POST", body, HTTP_X_CSRFTOKEN=token) == 200
    assert client.get("/api/session").json()["username"] == user.username
    token = client.cookies["csrftoken"].value
    assert send("DELETE", "") == 403
    assert send("DELETE", "", HTTP_X_CSRFTOKEN=token) == 204
    assert client.get("/api/session").json() is None


def test_sign_in_attempts_are_limited(user: User) -> None:
    client = Client()

    def attempt(password: str) -> int:
        body = json.dumps({"username": user.username, "password": password})
        return client.post("/api/session", body, content_type="application/json").status_code

    statuses = [attempt(f"wrong {n}") for n in range(7)]
    assert statuses[:5] == [401] * 5
    assert statuses[-1] == 429
    assert attempt("bearing-shell-9") == 429  # the right one too, for a while


def test_strict_headers(api: Api) -> None:
    answer = api.client.get("/api/session")
    policy = answer.headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
    assert answer.headers["X-Frame-Options"] == "DENY"
    assert answer.headers["Referrer-Policy"] == "same-origin"


def test_an_edit_is_a_state_that_can_be_undone(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}"
    status, told = api("POST", f"{path}/acts", figures("oil.volume_l", "7 qt"))
    assert status == 200
    assert told["document"]["oil"]["volume_l"] == pytest.approx(7 * 0.946352946, abs=1e-6)
    assert (told["state"], told["undo"], told["redo"]) == (2, "oil in the engine to 7 qt", None)
    _, told = api("POST", f"{path}/acts", figures("pickup.gap_mm", "3/8", 2, "us"))
    assert told["document"]["pickup"]["gap_mm"] == pytest.approx(9.525)
    _, told = api("POST", f"{path}/undo", {"base_state": 3})
    assert (told["state"], told["redo"]) == (2, "mouth's gap to 3/8")
    _, told = api("POST", f"{path}/undo", {"base_state": 2})
    assert told["document"]["oil"]["volume_l"] == 6.2
    assert api("POST", f"{path}/undo", {"base_state": 1})[0] == 409
    _, told = api("POST", f"{path}/redo", {"base_state": 1})
    assert told["state"] == 2
    _, told = api("POST", f"{path}/acts", figures("oil.volume_l", "8", 2))
    assert (told["state"], told["redo"]) == (4, None)  # numbers are never used twice
    assert api("POST", f"{path}/redo", {"base_state": 4})[0] == 409


def test_an_edit_of_an_old_state_is_kept_beside_the_newer_one(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}"
    assert api("POST", f"{path}/acts", figures("oil.volume_l", "7"))[0] == 200
    status, told = api("POST", f"{path}/acts", figures("oil.volume_l", "9"))
    assert (status, told["kept_state"]) == (409, 3)
    assert "oil in the engine to 7 (state 2)" in told["title"]
    assert "Yours, oil in the engine to 9, is kept as state 3." in told["title"]
    _, now = api("GET", path)
    assert (now["state"], now["document"]["oil"]["volume_l"]) == (2, 7)
    kept = BuildState.objects.get(build=build, number=3)
    assert (kept.document["oil"]["volume_l"], kept.aside) == (9, True)
    # undo and redo never show it unasked, but it can be shown
    api("POST", f"{path}/undo", {"base_state": 2})
    assert api("POST", f"{path}/redo", {"base_state": 1})[1]["state"] == 2
    status, now = api("POST", f"{path}/show", {"base_state": 2, "state": 3})
    assert (status, now["document"]["oil"]["volume_l"]) == (200, 9)
    # a faulty edit of an old state is refused as any other, and so is one of no state at all
    assert api("POST", f"{path}/acts", figures("oil.volume_l", "lots"))[0] == 422
    assert api("POST", f"{path}/acts", figures("oil.volume_l", "8", 99))[0] == 404
    # the same figure typed by both is no conflict
    assert api("POST", f"{path}/acts", figures("oil.volume_l", "9"))[0] == 200
    assert BuildState.objects.filter(build=build).count() == 3


def test_history_and_revisions(api: Api, build: Build, user: User) -> None:
    path = f"/builds/{build.pk}"
    assert api("GET", path)[1]["revision"] is None
    status, told = api("PUT", f"{path}/revision", {"base_state": 1, "name": " as raced "})
    assert (status, told["revision"]) == (200, {"number": 1, "name": "as raced", "state": 1})
    api("POST", f"{path}/acts", figures("oil.volume_l", "7"))
    _, told = api("POST", f"{path}/acts", figures("oil.volume_l", "8", 2))
    assert told["revision"]["number"] == 1  # the last named one on the way here
    _, told = api("PUT", f"{path}/revision", {"base_state": 3, "name": "more oil"})
    assert told["revision"] == {"number": 2, "name": "more oil", "state": 3}
    _, told = api("PUT", f"{path}/revision", {"base_state": 3, "name": "a litre more"})
    assert told["revision"]["name"] == "a litre more"
    api("POST", f"{path}/undo", {"base_state": 3})
    _, rows = api("GET", f"{path}/history")
    assert [(row["number"], row["parent"], row["on_way"]) for row in rows] == [
        (3, 2, False),
        (2, 1, True),
        (1, None, True),
    ]
    assert [row["change"] for row in rows][:2] == [
        "oil in the engine to 8",
        "oil in the engine to 7",
    ]
    assert {row["made_by"] for row in rows} == {user.username}
    assert rows[0]["revision"]["number"] == 2
    assert api("POST", f"{path}/show", {"base_state": 3, "state": 1})[0] == 409
    assert api("POST", f"{path}/show", {"base_state": 2, "state": 9})[0] == 404
    assert api("PUT", f"{path}/revision", {"base_state": 2, "name": " "})[0] == 422


def test_another_lap_of_the_same_build(api: Api, build: Build, user: User) -> None:
    rain = store_lap(user, "rain", DEMO / "saltmarsh-rain.csv", "r.csv")
    status, told = api("GET", f"/stages/slosh/{build.pk}/laps/{rain.pk}")
    assert (status, told["lap_name"]) == (200, "rain")
    assert told["dry_s"] < 0.2
    assert told["samples"]["distance_m"][-1] == pytest.approx(3000, rel=0.2)


def test_plates_are_drawn_and_said_not_to_be_felt(api: Api, build: Build) -> None:
    document = json.loads((DEMO / "dunlin-gated.json").read_text())
    edit = {"base_state": 1, "document": document, "change": "plates"}
    assert api("PUT", f"/builds/{build.pk}/document", edit)[0] == 200
    _, told = api("GET", f"/stages/slosh/{build.pk}")
    plates = told["drawing"]["plates"]
    assert {plate["kind"] for plate in plates} == {"vertical", "horizontal"}
    assert sum(len(plate["gates"]) for plate in plates) == 3
    assert told["drawing"]["front"]["gates"]
    assert "not felt" in told["model_note"]


def test_typing_the_same_figure_makes_no_state(api: Api, build: Build) -> None:
    _, told = api("POST", f"/builds/{build.pk}/acts", figures("oil.volume_l", "6.2 L"))
    assert told["state"] == 1


@pytest.mark.parametrize(
    ("field", "typed", "words"),
    [
        ("oil.volume_l", "six", "cannot be read"),
        ("oil.volume_l", "6 mm", "no unit of a volume"),
        ("oil.volume_l", "50", "pan and skirt hold"),
        ("oil.volume_l", "-1", "greater than 0"),
        ("oil.grade", "gear oil", "choose one of"),
        ("oil.smell", "1", "not a field"),
        ("pickup.gap_mm", "-5", "below the floor"),
        ("pickup.x_mm", "2 m", "outside the pan"),
        ("pan.zones.9.floor.depth_mm", "1", "not a field"),
        ("pan.zones.0.floor.depth_mm.deep", "1", "not a field"),
        ("pan.zones.0.outline_mm.1.0", "200", "crosses or touches itself"),
        ("pan.zones.0.floor.kind", "ramp", "cannot be changed"),
        ("car.nose_points", "up", "front"),
        ("name", " ", "at least 1 character"),
    ],
)
def test_bad_figures_name_the_field_and_save_nothing(
    api: Api, build: Build, field: str, typed: str, words: str
) -> None:
    status, told = api("POST", f"/builds/{build.pk}/acts", figures(field, typed))
    assert status == 422, told
    assert any(words in problem["message"] for problem in told["problems"]), told
    assert BuildState.objects.filter(build=build).count() == 1


def test_several_figures_are_saved_together_or_not_at_all(api: Api, build: Build) -> None:
    edit = figures("oil.volume_l", "7")
    edit["act"]["figures"].append({"field": "pickup.gap_mm", "value": "deep"})
    edit["act"]["figures"].append({"field": "pickup.x_mm", "value": "far"})
    status, told = api("POST", f"/builds/{build.pk}/acts", edit)
    assert (status, fields(told)) == (422, ["pickup.gap_mm", "pickup.x_mm"])
    assert Build.objects.get(pk=build.pk).current.number == 1


def test_replacing_the_document(api: Api, build: Build) -> None:
    document = json.loads(json.dumps(build.current.document))
    document["pan"]["zones"].pop()
    edit = {"base_state": 1, "document": document, "change": "kick-out removed"}
    status, told = api("PUT", f"/builds/{build.pk}/document", edit)
    assert (status, told["undo"]) == (200, "kick-out removed")
    document["pan"]["zones"][0]["outline_mm"] = [[0, 0], [100, 100], [100, 0], [0, 100]]
    edit |= {"base_state": 2, "document": document}
    status, told = api("PUT", f"/builds/{build.pk}/document", edit)
    assert (status, fields(told)) == (422, ["pan.zones.0.outline_mm"])


def test_templates_make_builds_that_hold_together(api: Api, lap: Lap) -> None:
    _, offered = api("GET", "/builds/templates")
    assert sorted(each["key"] for each in offered) == TEMPLATE_KEYS
    for template in offered:
        wanted = {"template": template["key"], "name": f"my {template['key']}"}
        status, told = api("POST", "/builds", wanted)
        assert (status, told["name"], told["lap_id"]) == (201, wanted["name"], lap.pk)
    assert api("POST", "/builds", {"template": "warp core", "name": "x"})[0] == 404
    assert api("POST", "/builds", {"template": "flat-six", "name": ""})[0] == 422
    _, shelf = api("GET", "/shelf")
    assert len(shelf) == len(TEMPLATE_KEYS)
    assert all(row["verdict"]["sentence"] for row in shelf)


def test_export_and_import(api: Api, build: Build) -> None:
    answer = api.client.get(f"/api/builds/{build.pk}/document")
    assert answer.headers["Content-Disposition"] == 'attachment; filename="dunlin.json"'
    assert read_build(answer.content) == BuildDocument.model_validate(build.current.document)
    status, told = api.upload("/builds/import", answer.content)
    assert (status, told["name"]) == (201, "Dunlin")


@pytest.mark.parametrize(
    ("data", "field"),
    [
        (b"", "file"),
        (b"{", "file"),
        (b"[1, 2]", "file"),
        (b"\xff\xfe\x00", "file"),
        (b"{}", "format"),
        (
            (DEMO / "dunlin.json").read_bytes().replace(b'"gap_mm": 8.0', b'"gap_mm": "x"'),
            "pickup.gap_mm",
        ),
        (b"[" * 100_000, "file"),
        (b" " * 1_100_000, "file"),
    ],
)
def test_bad_documents_are_refused_whole(api: Api, data: bytes, field: str) -> None:
    status, told = api.upload("/builds/import", data)
    assert status == 422, told
    assert field in fields(told)
    assert Build.objects.count() == 0


def test_deleting(api: Api, build: Build) -> None:
    api("POST", f"/builds/{build.pk}/acts", figures("oil.volume_l", "7"))
    assert api("DELETE", f"/builds/{build.pk}") == (204, None)
    assert not BuildState.objects.exists()
    assert api("GET", f"/builds/{build.pk}")[0] == 404
