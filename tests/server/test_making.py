"""Flat patterns by the API: of all, of one part, bent as asked, and what cannot be."""

from __future__ import annotations

import io

import pytest
from accounts.models import User
from builds.models import Build
from builds.states import add_build, checked_document
from ezdxf.filemanagement import read

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
