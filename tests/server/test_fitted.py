"""Photos, presets, flange, the depth that holds a volume, and what the Pan screen is told."""

from __future__ import annotations

import io

import pytest
from accounts.models import User
from builds import photos
from builds.models import Build, Photo
from PIL import Image

from tests.server.conftest import Api, act, fields, figures, picture

pytestmark = pytest.mark.django_db


def test_a_photo_is_kept_small_and_stripped(api: Api, other_api: Api, build: Build) -> None:
    exif = Image.Exif()
    exif[0x010E] = "where it was taken"
    data = picture(4000, 3000, "JPEG", exif=exif)
    status, told = api.upload(f"/builds/{build.pk}/photos", data)
    assert status == 201
    path = f"/api/builds/{build.pk}/photos/{told['token']}"
    answer = api.client.get(path)
    assert answer["Content-Type"] == "image/jpeg"
    with Image.open(io.BytesIO(answer.content)) as kept:
        assert kept.size == (1600, 1200)
        assert len(kept.getexif()) == 0
    assert other_api.client.get(path).status_code == 404
    assert other_api.upload(f"/builds/{build.pk}/photos", data)[0] == 404
    row = {"kind": "inspection", "item": "Cracks", "found": "watch", "photos": [told["token"]]}
    body = {"state": 1, "system": "metric", "record": row}
    status, told = api("POST", f"/builds/{build.pk}/records", body)
    assert (status, told[0]["record"]["found"]) == (201, "watch")


@pytest.mark.parametrize(
    "data",
    [b"", b"GIF89a" + b"\x00" * 50, b"\xff\xd8\xff" + b"x" * 500, picture()[:60], b"<svg/>"],
)
def test_what_is_no_picture_is_refused(api: Api, build: Build, data: bytes) -> None:
    status, told = api.upload(f"/builds/{build.pk}/photos", data)
    assert (status, fields(told)) == (422, ["file"])
    assert not Photo.objects.exists()


def test_a_picture_of_too_many_pixels_is_refused(api: Api, build: Build) -> None:
    status, told = api.upload(f"/builds/{build.pk}/photos", picture(9000, 8000))
    assert status == 422
    assert "24 million" in told["problems"][0]["message"]


def test_presets(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/acts"
    given = {"place": "rear", "depth_mm": "6 in", "shelf_mm": "2"}
    status, told = api("POST", path, act("sump_preset", 1, "us", **given))
    assert status == 200
    zones = told["document"]["pan"]["zones"]
    assert zones[0]["floor"]["depth_mm"] == pytest.approx(152.4)
    assert told["undo"] == "pan begun anew, sump rear"
    given["shelf_mm"] = "8 in"
    status, told = api("POST", path, act("sump_preset", 2, **given))
    assert (status, fields(told)) == (422, ["shelf_mm"])
    given["depth_mm"] = "deep"
    assert fields(api("POST", path, act("sump_preset", 2, **given))[1]) == ["depth_mm"]


def test_a_flange(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/acts"
    given = {"width_mm": "18", "spacing_mm": "80", "hole_mm": 7, "thickness_mm": "6"}
    status, told = api("POST", path, act("flange", **given))
    assert (status, len(told["document"]["pan"]["flange"]["bolts"])) == (200, 18)
    given["hole_mm"] = "30"
    assert fields(api("POST", path, act("flange", 2, **given))[1]) == ["hole_mm"]


def test_the_depth_that_holds_a_volume(api: Api, other_api: Api, build: Build) -> None:
    _, slosh = api("GET", f"/stages/slosh/{build.pk}")
    wanted = {"capacity_l": slosh["drawing"]["capacity_to_rail_l"] + 0.5, "zones": ["z4", "z7"]}
    status, told = api("POST", f"/stages/pan/{build.pk}/depth-for", wanted)
    assert status == 200
    assert 5 < told["by_mm"] < 15
    for change, field in (({"capacity_l": 99}, "capacity_l"), ({"zones": ["z12"]}, "zones")):
        status, told = api("POST", f"/stages/pan/{build.pk}/depth-for", {**wanted, **change})
        assert (status, fields(told)) == (422, [field])
    assert other_api("POST", f"/stages/pan/{build.pk}/depth-for", wanted)[0] == 404


def test_what_the_pan_screen_is_told(api: Api, build: Build, user: User) -> None:
    _, told = api("GET", f"/stages/pan/{build.pk}")
    assert {c["name"] for c in told["clearances"]} == {"subframe", "steering rack", "exhaust"}
    assert told["clearances"][0]["gap_mm"] < told["clearances"][0]["wanted_mm"]
    assert [m["name"] for m in told["marks"]] == ["full", "low"]
    assert told["marks"][0]["litres"] > told["marks"][1]["litres"] > 0
    assert told["at_mark_l"] == 6.2
    _, slosh = api("GET", f"/stages/slosh/{build.pk}")
    around = {row["name"]: row for row in slosh["drawing"]["around"]}
    assert len(around["subframe"]["plan_mm"]) >= 4
    assert slosh["drawing"]["crank"]["swept_radius_mm"] == 84


def test_a_plane_is_a_line_where_it_is_seen_on_edge(api: Api, build: Build) -> None:
    document = {**build.current.document}
    plane = {
        "kind": "plane", "name": "skid plate", "frame": "engine", "at_mm": -170, "free": "above",
        "wanted_mm": 5,
    }  # fmt: skip
    document["car"] = {**document["car"], "keep_outs": [plane]}
    body = {"base_state": 1, "document": document, "change": "skid plate"}
    assert api("PUT", f"/builds/{build.pk}/document", body)[0] == 200
    _, slosh = api("GET", f"/stages/slosh/{build.pk}")
    row = slosh["drawing"]["around"][0]
    assert row["plan_mm"] == []
    assert [point[1] for point in row["side_mm"]] == [-170.0, -170.0]


def test_a_templates_numbers_are_said_to_be_invented(api: Api, build: Build) -> None:
    assert api("GET", f"/builds/{build.pk}")[1]["invented"] == []  # from a file
    _, made = api("POST", "/builds", {"template": "flat-six", "name": "mine"})
    assert made["invented"] == ["car", "oil", "pan", "pickup", "pump"]
    # plates that were fitted to it measured nothing
    gates = {"base_state": 1, "system": "metric", "act": {"kind": "fit_gates"}}
    _, told = api("POST", f"/builds/{made['id']}/acts", gates)
    assert told["state"] == 2 and "pan" in told["invented"]
    spacer = {"base_state": 2, "system": "metric", "act": {"kind": "spacer", "by_mm": "1/4 in"}}
    _, told = api("POST", f"/builds/{made['id']}/acts", spacer)
    assert told["state"] == 3 and "pan" in told["invented"]
    body = {**figures("pan.zones.0.floor.depth_mm", "131"), "base_state": 3}
    _, told = api("POST", f"/builds/{made['id']}/acts", body)
    assert told["invented"] == ["car", "oil", "pickup", "pump"]


def test_what_is_put_in_at_a_usual_place_measures_no_car(api: Api, user: User) -> None:
    _, made = api("POST", "/builds", {"template": "inline-rear-sump", "name": "mine"})
    plane = {
        "kind": "plane", "name": "skid plate", "frame": "car", "at_mm": -170, "free": "above",
        "wanted_mm": 5,
    }  # fmt: skip
    crank = {"height_mm": 60, "swept_radius_mm": 80, "from_x_mm": 40, "to_x_mm": 400}
    base = 1
    for assumed in (True, False):
        for car in ({"keep_outs": [{**plane, "assumed": assumed}]},
                    {"crank": {**crank, "assumed": assumed}}):  # fmt: skip
            document = {**made["document"], "car": {**made["document"]["car"], **car}}
            body = {"base_state": base, "document": document, "change": "around"}
            status, told = api("PUT", f"/builds/{made['id']}/document", body)
            base += 1
            assert (status, told["state"]) == (200, base)
            assert ("car" in told["invented"]) == assumed


def test_a_pan_that_an_act_makes_of_a_templates_is_nobodys_yet(api: Api, user: User) -> None:
    _, made = api("POST", "/builds", {"template": "inline-rear-sump", "name": "mine"})
    dry = {"kind": "go_dry", "depth_mm": 50, "pickups": 2, "tank_l": 6}
    body = {"base_state": 1, "system": "metric", "act": dry}
    _, told = api("POST", f"/builds/{made['id']}/acts", body)
    assert told["state"] == 2 and "pan" in told["invented"]
    # a document that is put in whole tells it where its zones are other ones
    document = told["document"]
    whole = {"base_state": 2, "document": {**document, "notes": "as bought"}, "change": "notes"}
    _, told = api("PUT", f"/builds/{made['id']}/document", whole)
    assert told["state"] == 3 and "pan" in told["invented"]
    zone = told["document"]["pan"]["zones"][0]
    whole["document"]["pan"] = {
        **document["pan"],
        "zones": [{**zone, "floor": {**zone["floor"], "depth_mm": 52}}],
    }
    _, told = api("PUT", f"/builds/{made['id']}/document", {**whole, "base_state": 3})
    assert told["state"] == 4 and "pan" not in told["invented"]


def test_a_build_keeps_so_many_photos_and_no_more(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(photos, "MOST_PHOTOS", 2)
    path = f"/builds/{build.pk}/photos"
    assert [api.upload(path, picture())[0] for _ in range(2)] == [201, 201]
    status, told = api.upload(path, picture())
    assert (status, fields(told)) == (422, ["file"])
    assert build.photos.count() == 2
