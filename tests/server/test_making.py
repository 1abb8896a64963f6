"""Flat patterns by the API: of all, of one part, bent as asked, and what cannot be."""

from __future__ import annotations

import io
import math
import re

import pytest
from accounts.models import User
from bilge_core.making.parts import flat_parts
from bilge_core.pan import assemble_pan
from builds.models import Build
from builds.selectors import document_of
from builds.states import add_build, checked_document
from ezdxf.filemanagement import read
from stages.pan.paper import BAR, as_paper, tiles_of

from tests.conftest import DEMO
from tests.server.conftest import Api, fields


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
    one, other = told["seams"][0]["pair"]
    bent = api("GET", f"/stages/pan/{gated.pk}/making?bent={other}-{one}&radius_mm=4")[1]
    assert len(bent["parts"]) == len(told["parts"]) - 1 and bent["radius_mm"] == 4
    assert bent["welded_mm"] < told["welded_mm"]


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ("bent=one-two", "bent.0"), ("bent=1-99", "bent"), ("k_factor=2", "k_factor"),
        ("radius_mm=-1", "radius_mm"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_by_its_field(
    api: Api, gated: Build, asked: str, field: str
) -> None:
    status, told = api("GET", f"/stages/pan/{gated.pk}/making?{asked}")
    assert status == 422 and [name.split("query.")[-1] for name in fields(told)] == [field]


def test_files_of_all_and_of_one(api: Api, other_api: Api, gated: Build) -> None:
    here = f"/api/stages/pan/{gated.pk}/making/dxf"
    whole = api.client.get(here)
    assert whole["Content-Disposition"].endswith('-patterns.dxf"')
    rings = read(io.StringIO(whole.content.decode())).modelspace().query("LWPOLYLINE")
    alone = api.client.get(f"{here}?part=panel-1")
    one = read(io.StringIO(alone.content.decode())).modelspace().query("LWPOLYLINE")
    assert len(one) == 1 < len(rings)
    assert api.client.get(f"{here}?part=keel").status_code == 404
    assert other_api.client.get(here).status_code == 404


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
