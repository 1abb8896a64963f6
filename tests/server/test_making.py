"""Flat patterns by the API: of all, of one part, bent as asked, and what cannot be."""

from __future__ import annotations

import io
import json
import math
import re
from typing import Any

import pytest
from accounts.models import User
from bilge_core.making.parts import flat_parts
from bilge_core.pan import assemble_pan
from builds.models import Build
from builds.selectors import document_of
from builds.states import add_build, checked_document
from django.core.files.uploadedfile import SimpleUploadedFile
from ezdxf.filemanagement import read
from stages.pan import scan
from stages.pan.paper import BAR, as_paper, tiles_of

from tests.conftest import DEMO
from tests.server.conftest import Api, act, fields


@pytest.fixture
def gated(user: User) -> Build:
    return add_build(
        user, checked_document((DEMO / "dunlin-gated.json").read_bytes()), "from a file", None
    )


def test_panels_plates_and_leaves_are_told(api: Api, gated: Build) -> None:
    status, told = api("GET", f"/stages/pan/{gated.pk}/making")
    assert status == 200
    kinds = [part["kind"] for part in told["parts"]]
    assert {"panel", "plate", "gate"} == set(kinds)
    assert told["radius_mm"] == pytest.approx(1.5 * told["thickness_mm"])
    assert all(not seam["bent"] for seam in told["seams"])
    edge = {"kind": "make_of_sheet", "edge_mm": told["seams"][0]["at_mm"], "radius_mm": "4 mm"}
    answer = api(
        "POST", f"/builds/{gated.pk}/acts", {"base_state": 1, "system": "metric", "act": edge}
    )
    assert answer[0] == 200, answer
    bent = api("GET", f"/stages/pan/{gated.pk}/making")[1]
    assert len(bent["parts"]) == len(told["parts"]) - 1 and bent["radius_mm"] == 4
    assert bent["welded_mm"] < told["welded_mm"]


@pytest.mark.parametrize(
    ("asked", "field"), [({"k_factor": 2}, "k_factor"), ({"radius_mm": -1}, "radius_mm"),
                         ({"gap_mm": "9 in"}, "gap_mm"), ({}, "kind")],
)  # fmt: skip
def test_what_cannot_be_is_refused_by_its_field(
    api: Api, gated: Build, asked: dict[str, object], field: str
) -> None:
    act = {"kind": "make_of_sheet", **asked}
    status, told = api(
        "POST", f"/builds/{gated.pk}/acts", {"base_state": 1, "system": "metric", "act": act}
    )
    assert status == 422 and [name.split(".")[-1] for name in fields(told)] == [field]


def test_solids_to_print(api: Api, other_api: Api, gated: Build) -> None:
    """In figures and as files; several pieces as STL come in a ZIP."""
    here = f"/stages/pan/{gated.pk}/printed"
    status, told = api("GET", f"{here}?what=pan&bed_long_mm=220&bed_wide_mm=220")
    assert status == 200 and told["pieces"] == 6 and told["is_closed"]
    for form, kind in (("stl", "application/zip"), ("3mf", "model/3mf"),
                       ("glb", "model/gltf-binary")):  # fmt: skip
        file = api.client.get(f"/api{here}/{form}")
        assert file.status_code == 200 and file["Content-Type"] == kind
        assert other_api.client.get(f"/api{here}/{form}").status_code == 404
    one = api.client.get(f"/api{here}/stl?bed_long_mm=900&bed_wide_mm=900")
    assert one["Content-Type"] == "model/stl"
    plate = api.client.get(f"/api{here}/dxf?what=pickup_plate&bore_mm=19")
    assert len(read(io.StringIO(plate.content.decode())).modelspace().query("CIRCLE")) == 5
    for asked, field in (("what=spacer", "what"), ("bed_high_mm=20", "bed_high_mm"),
                         ("what=pickup_plate&between_mm=16", "between_mm"),
                         ("wall_mm=0", "wall_mm")):  # fmt: skip
        status, told = api("GET", f"{here}?{asked}")
        assert status == 422 and {name.split(".")[-1] for name in fields(told)} == {field}
    assert api("GET", f"{here}/dxf?what=pan")[0] == 422


def test_files_of_all_and_of_one(api: Api, other_api: Api, gated: Build) -> None:
    here = f"/api/stages/pan/{gated.pk}/making/dxf"
    whole = api.client.get(here)
    assert whole["Content-Disposition"].endswith('-patterns.dxf"')
    rings = read(io.StringIO(whole.content.decode())).modelspace().query("LWPOLYLINE")
    alone = api.client.get(f"{here}?part=panel-1")
    one = read(io.StringIO(alone.content.decode())).modelspace().query("LWPOLYLINE")
    assert len(one) == 1 < len(rings)
    assert api.client.get(f"{here}?part=keel").status_code == 404
    svg = api.client.get(here.replace("dxf", "svg"))
    assert svg["Content-Type"] == "image/svg+xml" and svg.content.startswith(b"<svg")
    assert other_api.client.get(here).status_code == 404


def test_a_pan_from_a_mesh(api: Api, other_api: Api, gated: Build) -> None:
    """Written out, read back and applied: the pan holds what it held; nothing is kept till then."""
    here = f"/stages/pan/{gated.pk}"
    mesh = api.client.get(f"/api{here}/printed/stl?what=inside").content
    places = {"rear_right": "0, -50, 0", "rear_left": "0, 50, 0", "ahead": "300, 0, 0"}
    status, told = upload_mesh(api, here, mesh, "inside.stl", **places)
    assert status == 200 and told["kept_l"] == pytest.approx(told["volume_l"], rel=1e-3)
    assert upload_mesh(other_api, here, mesh, "inside.stl")[0] == 404
    gated.refresh_from_db()
    assert gated.current is not None and gated.current.number == 1
    act = {"kind": "pan_from_scan", "zones": told["zones"]}
    wanted = {"base_state": 1, "system": "metric", "act": act}
    status, build = api("POST", f"/builds/{gated.pk}/acts", wanted)
    assert status == 200, build
    zones = build["document"]["pan"]["zones"]
    assert {zone["floor"]["kind"] for zone in zones} == {"surface"}
    assert len({zone["id"] for zone in zones}) == len(zones)
    assert api("GET", here)[0] == 200 and api("GET", f"/stages/slosh/{gated.pk}")[0] == 200


def test_a_flange_drawn_elsewhere(api: Api, other_api: Api, gated: Build) -> None:
    """Our own patterns' flange, read back as a stranger's drawing and laid."""
    here = f"/stages/pan/{gated.pk}"
    flange = act("flange", width_mm=18, spacing_mm=70, hole_mm=7, thickness_mm=5)
    assert api("POST", f"/builds/{gated.pk}/acts", flange)[0] == 200
    dxf = api.client.get(f"/api{here}/making/dxf?part=flange").content
    file = SimpleUploadedFile("flange.dxf", dxf)
    answer = other_api.client.post(f"/api{here}/drawing", {"file": file})
    assert answer.status_code == 404
    answer = api.client.post(
        f"/api{here}/drawing", {"file": SimpleUploadedFile("flange.dxf", dxf), "ahead": "up"}
    )
    told = json.loads(answer.content)
    assert answer.status_code == 200 and told["unit"] == "mm" and len(told["rings_mm"]) == 2
    gated.refresh_from_db()
    assert gated.current is not None
    drawn = gated.current.document["pan"]["flange"]["bolts"]
    assert len(told["holes"]) == len(drawn)
    laid = act(
        "flange_drawn", 2, outline_mm=told["rings_mm"][0], bolts=told["holes"], thickness_mm=5,
        rail_mm=told["rings_mm"][1], depth_mm="4 in",
    )  # fmt: skip
    status, build = api("POST", f"/builds/{gated.pk}/acts", laid)
    assert status == 200, build
    assert build["document"]["pan"]["zones"][0]["floor"]["depth_mm"] == pytest.approx(101.6)
    assert upload_mesh(api, here, b"x", "a.stl")[0] == 422
    bad = api.client.post(f"/api{here}/drawing", {"file": SimpleUploadedFile("a.dxf", b"no")})
    assert bad.status_code == 422 and fields(json.loads(bad.content)) == ["file"]


def test_a_flange_traced_on_a_picture(api: Api, other_api: Api, gated: Build) -> None:
    """Straight from above, 2 pixels a millimetre: it lies over the pan, and can be laid."""
    path = f"/stages/pan/{gated.pk}/traced"
    corners = [[100, 100], [694, 100], [694, 520], [100, 520]]
    ring = [[0, 0], [1000, 0], [1000, 600], [0, 600]]
    asked = {
        "corners": corners, "wide_mm": "297 mm", "high_mm": 210, "outline": ring,
        "holes": [[20, 20], [980, 580]], "hole_mm": "9/32 in", "ahead": "right",
    }  # fmt: skip
    status, told = api("POST", path, asked)
    assert status == 200 and (told["long_mm"], told["wide_mm"]) == (500.0, 300.0)
    assert {each["diameter_mm"] for each in told["holes"]} == {7.14}
    laid = act("flange_drawn", outline_mm=told["rings_mm"][0], bolts=told["holes"])
    assert api("POST", f"/builds/{gated.pk}/acts", laid)[0] == 200
    assert other_api("POST", path, asked)[0] == 404
    for wrong, field in (
        ({"corners": corners[::-1]}, "corners"), ({"wide_mm": "broad"}, "wide_mm"),
        ({"hole_mm": 61}, "diameter_mm"), ({"corners": corners[:3]}, "corners"),
    ):  # fmt: skip
        status, told = api("POST", path, {**asked, **wrong})
        assert status == 422 and all(field in each for each in fields(told)), told


@pytest.mark.parametrize(
    ("name", "data", "asked", "field"),
    [("a.stl", b"no mesh", {}, "file"), ("a.dwg", b"x", {}, "file"),
     ("a.stl", None, {"unit": "m"}, "unit"), ("a.stl", None, {"unit": "yd"}, "unit"),
     ("a.stl", None, {"rear_right": "1, 2"}, "points")],
)  # fmt: skip
def test_a_mesh_that_is_no_pan(
    api: Api, gated: Build, name: str, data: bytes | None, asked: dict[str, str], field: str
) -> None:
    here = f"/stages/pan/{gated.pk}"
    mesh = data or api.client.get(f"/api{here}/printed/stl?what=inside").content
    status, told = upload_mesh(api, here, mesh, name, **asked)
    assert status == 422 and [each.split(".")[-1] for each in fields(told)] == [field]


@pytest.mark.parametrize(("limit", "most"), [("_SECONDS", 1), ("_PATIENCE", 0.2)])
def test_a_mesh_that_takes_too_long_is_named(
    api: Api, gated: Build, monkeypatch: pytest.MonkeyPatch, limit: str, most: float
) -> None:
    """Starting to read alone takes over a second of a processor."""
    here = f"/stages/pan/{gated.pk}"
    mesh = api.client.get(f"/api{here}/printed/stl?what=inside").content
    monkeypatch.setattr(scan, limit, most)
    status, told = upload_mesh(api, here, mesh, "inside.stl")
    assert status == 422 and fields(told) == ["file"]
    assert "takes longer than 60 s to read" in told["problems"][0]["message"]


def upload_mesh(
    api: Api, here: str, data: bytes, name: str, **asked: str
) -> tuple[int, dict[str, Any]]:
    file = SimpleUploadedFile(name, data)
    answer = api.client.post(f"/api{here}/scan", {"file": file, **asked})
    return answer.status_code, json.loads(answer.content)


def test_on_paper_it_is_full_size(api: Api, gated: Build) -> None:
    """The bar is 100 mm long: 283.46 points of 1/72 in; so are all lengths."""
    parts = flat_parts(document_of(gated), assemble_pan(document_of(gated)))
    floor = parts[0]
    made = as_paper("it", [floor], compressed=False).decode("latin-1")
    bars = re.findall(r"^n ([0-9.]+) [0-9.]+ m ([0-9.]+) [0-9.]+ l S$", made, re.MULTILINE)
    lengths = [float(end) - float(start) for start, end in bars]
    assert any(length == pytest.approx(72 / 25.4 * BAR, abs=0.01) for length in lengths)
    across, up = tiles_of(floor)
    assert made.count("/Type /Page\n") == across * up
    assert across == math.ceil(floor.size[0] * 1e3 / 186) and up >= 1
    whole = api.client.get(f"/api/stages/pan/{gated.pk}/making/paper")
    assert whole["Content-Type"] == "application/pdf" and whole.content[:5] == b"%PDF-"


def test_more_sheets_than_anybody_glues_are_refused(api: Api, gated: Build) -> None:
    assert gated.current is not None
    gated.current.document["pan"]["flange"] = {
        "outline_mm": [[-2000, -2000], [2000, -2000], [2000, 2000], [-2000, 2000]],
        "thickness_mm": 8, "bolts": [],
    }  # fmt: skip
    gated.current.save()
    answer = api("GET", f"/stages/pan/{gated.pk}/making/paper?part=flange")
    assert answer[0] == 422 and "sheets; print one part" in str(answer[1])
