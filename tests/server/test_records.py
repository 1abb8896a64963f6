"""Records: append-only, beside the design; and builds in and out as one file."""

from __future__ import annotations

import json
from importlib import import_module
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.ids import with_ids
from bilge_core.document.upgrade import upgraded
from builds.models import Build, BuildState
from django.apps import apps
from records.models import Record
from records.services import MOST_RECORDS

from tests.server.conftest import Api, fields, figures
from tests.server.test_ids_and_joined import VERSION_1

pytestmark = pytest.mark.django_db

READING = {
    "kind": "gauge", "engine_rpm": 3000, "pressure_bar": "45 psi", "oil_temperature_c": "200 F",
}  # fmt: skip
CRACKS = {"kind": "inspection", "item": "Cracks along the rail", "found": "watch"}


def take(api: Api, build: Build, record: Any, replaces: int | None = None, state: int = 1) -> Any:
    body = {"state": state, "system": "metric", "record": record, "replaces": replaces}
    return api("POST", f"/builds/{build.pk}/records", body)


def kept(api: Api, build: Build) -> list[Any]:
    status, told = api("GET", f"/builds/{build.pk}/records")
    assert status == 200
    return list(told)


class TestTaking:
    def test_it_has_a_hand_a_time_and_a_state(self, api: Api, build: Build, user: User) -> None:
        status, told = take(api, build, READING)
        assert status == 201
        (row,) = told
        assert row["record"]["pressure_bar"] == pytest.approx(3.1026, abs=1e-3)
        assert row["record"]["oil_temperature_c"] == pytest.approx(93.33, abs=0.01)
        assert (row["taken_by"], row["state"], row["written_anew"]) == (user.username, 1, False)
        assert row["taken_at"] and kept(api, build) == told

    def test_an_undo_of_the_design_leaves_it(self, api: Api, build: Build) -> None:
        api("POST", f"/builds/{build.pk}/acts", figures("oil.volume_l", "7"))
        take(api, build, CRACKS, state=2)
        api("POST", f"/builds/{build.pk}/undo", {"base_state": 2})
        (row,) = kept(api, build)
        assert row["state"] == 2
        _, told = api("GET", f"/stages/pan/{build.pk}")
        assert any("Cracks along the rail: to be watched" in c["words"] for c in told["checks"])

    def test_written_anew_the_first_is_still_there(self, api: Api, build: Build) -> None:
        _, (first,) = take(api, build, CRACKS)
        _, told = take(api, build, {**CRACKS, "found": "sound"}, first["id"])
        (row,) = told
        assert row["record"]["found"] == "sound" and row["written_anew"]
        assert Record.objects.get(pk=first["id"]).data["found"] == "watch"
        # by another hand meanwhile: nothing is overwritten
        status, told = take(api, build, {**CRACKS, "found": "replace"}, first["id"])
        assert status == 409 and "wrote this record anew" in str(told)
        assert kept(api, build)[0]["record"]["found"] == "sound"

    def test_struck_out(self, api: Api, build: Build) -> None:
        _, (row,) = take(api, build, READING)
        assert take(api, build, None, row["id"])[1] == []
        assert Record.objects.filter(build=build).count() == 2

    @pytest.mark.parametrize(
        ("record", "replaces", "status", "field"),
        [
            ({**READING, "pressure_bar": "much"}, None, 422, "record.pressure_bar"),
            ({"kind": "gauge"}, None, 422, "record.engine_rpm"),
            ({"kind": "dream"}, None, 422, "record"),
            (7, None, 422, "record"),
            (None, None, 422, "record"),
            (CRACKS, 999_999, 404, None),
        ],
    )
    def test_what_is_wrong_is_named(
        self, api: Api, build: Build, record: Any, replaces: int | None, status: int, field: str
    ) -> None:
        got, told = take(api, build, record, replaces)
        assert got == status
        if field:
            assert any(each.startswith(field) for each in fields(told))
        assert not Record.objects.exists()

    def test_of_another_kind_or_state_or_build(self, api: Api, build: Build, user: User) -> None:
        _, (row,) = take(api, build, READING)
        assert fields(take(api, build, CRACKS, row["id"])[1]) == ["record.kind"]
        assert take(api, build, CRACKS, state=9)[0] == 404
        _, other = api("POST", "/builds", {"template": "transverse-four", "name": "Wader"})
        body = {"state": 1, "system": "metric", "record": READING, "replaces": row["id"]}
        assert api("POST", f"/builds/{other['id']}/records", body)[0] == 404

    def test_there_is_a_most(self, api: Api, build: Build, monkeypatch: pytest.MonkeyPatch) -> None:
        assert MOST_RECORDS == 2000
        monkeypatch.setattr("records.services.MOST_RECORDS", 2)
        assert [take(api, build, READING)[0] for _ in range(3)] == [201, 201, 422]

    def test_dips_of_a_pan_begun_anew_count_no_more(self, api: Api, build: Build) -> None:
        poured = {"kind": "poured", "engine": "level", "points": [
            {"poured_l": 2, "level_mm": 40}, {"poured_l": 4, "level_mm": 66}]}  # fmt: skip
        take(api, build, poured)
        assert len(api("GET", f"/stages/pan/{build.pk}")[1]["dips"]) == 2
        act = {"base_state": 1, "system": "metric", "act": {
            "kind": "sump_preset", "place": "rear", "depth_mm": 140, "shelf_mm": 50}}  # fmt: skip
        assert api("POST", f"/builds/{build.pk}/acts", act)[0] == 200
        assert api("GET", f"/stages/pan/{build.pk}")[1]["dips"] == []
        assert len(kept(api, build)) == 1


def test_states_of_before_give_up_their_records(api: Api, build: Build, user: User) -> None:
    """As the migration does it: each as taken on the first state on the way that had it so."""
    api("POST", f"/builds/{build.pk}/acts", figures("oil.volume_l", "7"))
    old = json.loads((VERSION_1 / "dunlin.json").read_text())
    late = {"item": "Cracks along the rail", "found": "watch"}
    for state in BuildState.objects.filter(build=build):
        document = with_ids({**old, "version": 2})[0]
        document["pan"]["inspection"] = [late] if state.number == 2 else []
        state.document = document
        state.save()
    import_module("records.migrations.0002_from_documents").take_out(apps, None)
    rows = list(Record.objects.filter(build=build).select_related("state"))
    assert [(row.kind, row.state.number) for row in rows] == [
        ("inspection", 2), ("gauge", 1), ("gauge", 1), ("gauge", 1),
    ]  # fmt: skip
    assert rows[0].taken_at == rows[0].state.made_at
    document = upgraded(BuildState.objects.get(build=build, number=2).document)
    assert "gauge_readings" not in document and "inspection" not in document["pan"]
