"""Builds in and out as one file: document, records, what was done, photos."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.export import Packed, packed, unpacked
from bilge_core.document.work_file import WorkInFile
from builds.models import Build, BuildState, Photo
from records.models import CardEntry, FitEntry, JobCard, Record
from shop.models import OrderTick, OwnPart

from tests.server.conftest import Api, fields, picture
from tests.server.test_ids_and_joined import VERSION_1
from tests.server.test_records import CRACKS, READING, kept, take
from tests.server.test_stage_fit import BEGIN
from tests.server.test_stage_fit import address as fit_address
from tests.server.test_stage_fit import entered as offered
from tests.server.test_stage_fit import row as offering
from tests.server.test_stage_job_card import (
    acted,
    address,
    begun,
    entered,
    entry,
    gated,
    sent,
    step,
    tick,
)

pytestmark = pytest.mark.django_db
__all__ = ["gated"]


class TestOneFile:
    def test_there_and_back_with_records_and_photos(
        self, api: Api, other_api: Api, build: Build, user: User
    ) -> None:
        _, photo = api.upload(f"/builds/{build.pk}/photos", picture(300, 200))
        take(api, build, {**CRACKS, "photos": [photo["token"]]})
        _, (_, reading) = take(api, build, READING)
        take(api, build, {**READING, "engine_rpm": 3100}, reading["id"])
        answer = api.client.get(f"/api/builds/{build.pk}/export")
        assert answer["Content-Type"] == "application/zip"
        assert answer["Content-Disposition"] == 'attachment; filename="dunlin.zip"'
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            assert len(archive.namelist()) == 4
        status, told = other_api.upload("/builds/import", answer.content)
        assert status == 201 and told["document"] == build.current.document
        there = kept(other_api, Build.objects.get(pk=told["id"]))
        assert [row["record"]["kind"] for row in there] == ["inspection", "gauge"]
        assert there[1]["record"]["engine_rpm"] == 3100
        assert {row["taken_by"] for row in there} == {user.username}
        (token,) = there[0]["record"]["photos"]
        assert token != photo["token"]
        got = other_api.client.get(f"/api/builds/{told['id']}/photos/{token}")
        assert got.status_code == 200
        assert other_api.client.get(f"/api/builds/{build.pk}/export").status_code == 404

    def test_a_document_of_before_brings_its_records(self, api: Api) -> None:
        old = (VERSION_1 / "dunlin.json").read_bytes()
        status, told = api.upload("/builds/import", old)
        assert status == 201
        rows = kept(api, Build.objects.get(pk=told["id"]))
        assert [row["kind"] for row in rows] == ["gauge"] * 3

    @pytest.mark.parametrize(
        ("records", "photos", "field"),
        [
            ([{"record": CRACKS}], {}, "records.json.0"),
            ([7], {}, "records.json.0"),
            ([{"record": {"kind": "x"}, "taken_by": "a", "taken_at": "2026-11-28T09:00:00Z"}], {},
             "records.json.0.record"),
            ([{"record": CRACKS, "taken_by": "a", "taken_at": "yesterday"}], {}, "records.json.0"),
            ([], {"abcdefgh12": b"no picture"}, "file"),
        ],
    )  # fmt: skip
    def test_what_is_wrong_in_one_keeps_nothing(
        self, api: Api, build: Build, records: Any, photos: dict[str, bytes], field: str
    ) -> None:
        text = json.dumps(build.current.document).encode()
        status, told = api.upload("/builds/import", packed(Packed(text, records, photos)))
        assert status == 422
        assert any(each.startswith(field) for each in fields(told))
        assert (Build.objects.count(), Record.objects.count(), Photo.objects.count()) == (1, 0, 0)

    def test_the_bare_document_stays(self, api: Api, build: Build) -> None:
        take(api, build, READING)
        bare = api.client.get(f"/api/builds/{build.pk}/document").content
        assert unpacked(bare).document == bare
        assert json.loads(bare)["version"] == 3


LUBE = {"words": "assembly lube", "per": "piece", "cost": 9.5, "lead_days": 40}


@pytest.fixture
def worked_on(api: Api, user: User, gated: Build) -> Build:
    """A build with a card half done, a fit round, an order that has begun to come, and photos."""
    _, photo = api.upload(f"/builds/{gated.pk}/photos", picture(300, 200))
    told = begun(api, gated, sealing="gasket")
    first = told["card"]["steps"][0]["id"]
    entered(
        api, gated, tick(first),
        entry(kind="noted", step=first, words="black oil", photos=[photo["token"]]),
    )  # fmt: skip
    acted(user, gated, kind="fit_cooler")  # the plan moves on under the card
    gated.refresh_from_db()
    offered(api, gated, offering(**BEGIN), offering(kind="found", place="k3:pan", touches=True))
    api("PUT", "/shop/own/own_lube", LUBE)
    stage = f"/stages/lines/{gated.pk}"
    assert api("PUT", f"{stage}/besides/own_lube", {"count": 2, "why": "first start"})[0] == 200
    assert api("PUT", f"{stage}/order/own_lube", {"how_far": "ordered"})[0] == 200
    return gated


def saved(api: Api, build: Build | int) -> bytes:
    number = build if isinstance(build, int) else build.pk
    return bytes(api.client.get(f"/api/builds/{number}/export").content)


def brought_in(api: Api, data: bytes) -> int:
    status, told = api.upload("/builds/import", data)
    assert status == 201, told
    return int(told["id"])


class TestWhatWasDone:
    def test_a_card_half_done_goes_on_elsewhere(
        self, api: Api, other_api: Api, user: User, stranger: User, worked_on: Build
    ) -> None:
        here = sent(api, "GET", address(worked_on)).told
        there = Build.objects.get(pk=brought_in(other_api, saved(api, worked_on)))
        told = sent(other_api, "GET", address(there)).told
        assert [each["id"] for each in told["card"]["steps"]] == [
            each["id"] for each in here["card"]["steps"]
        ]
        for name in ("number", "begun_by", "begun_at", "said"):
            assert told[name] == here[name]
        first = here["card"]["steps"][0]["id"]
        done, was = step(told, first), step(here, first)
        assert done["state"] == was["state"] == "done"
        assert {each["by"] for each in done["notes"]} == {user.username}
        (token,) = done["notes"][0]["photos"]
        assert other_api.client.get(f"/api/builds/{there.pk}/photos/{token}").status_code == 200
        # it goes on: by whom it is gone on with
        after = next(each["id"] for each in told["card"]["steps"] if each["state"] == "ready")
        on = entered(other_api, there, tick(after))
        assert step(on, after)["state"] == "done"
        assert CardEntry.objects.filter(card__build=there).last().by == stranger.username

    def test_the_car_is_in_the_state_that_it_was_in(
        self, api: Api, other_api: Api, worked_on: Build
    ) -> None:
        there = Build.objects.get(pk=brought_in(other_api, saved(api, worked_on)))
        was, now = worked_on, there
        assert was.as_is and now.as_is and was.current and now.current
        assert now.as_is.document == was.as_is.document != now.current.document
        assert now.current.document == was.current.document
        assert now.last_id == was.last_id

    def test_rounds_and_order_come_along(
        self, api: Api, other_api: Api, user: User, worked_on: Build
    ) -> None:
        there = Build.objects.get(pk=brought_in(other_api, saved(api, worked_on)))
        (was, now) = (
            each("GET", fit_address(build))[1]["fit"]
            for each, build in ((api, worked_on), (other_api, there))
        )
        assert now["rounds"] == was["rounds"] and now["places"] == was["places"]
        order = other_api("GET", f"/stages/lines/{there.pk}")[1]
        assert order["besides"] == [{"part": "own_lube", "count": 2.0, "why": "first start"}]
        (ticked,) = order["ticks"]
        assert (ticked["part"], ticked["state"], ticked["by"]) == (
            "own_lube", "ordered", user.username,
        )  # fmt: skip

    def test_a_part_that_is_known_here_stays_as_it_is_said_here(
        self, api: Api, other_api: Api, stranger: User, worked_on: Build
    ) -> None:
        other_api("PUT", "/shop/own/own_lube", {**LUBE, "cost": 12})
        brought_in(other_api, saved(api, worked_on))
        (part,) = OwnPart.objects.filter(workshop=stranger.workshop)
        assert part.cost == 12.0

    def test_saved_once_more_it_is_the_same(
        self, api: Api, other_api: Api, worked_on: Build
    ) -> None:
        first = unpacked(saved(api, worked_on))
        again = unpacked(saved(other_api, brought_in(other_api, saved(api, worked_on))))

        def plain(what: Packed) -> str:
            names = dict(zip(sorted(what.photos), "abc", strict=False))
            text = what.work.model_dump_json()
            for token, name in names.items():
                text = text.replace(token, name)
            return text

        assert plain(first) == plain(again)
        assert (first.document, first.states) == (again.document, again.states)
        assert list(first.photos.values()) == list(again.photos.values())

    def test_a_card_that_is_over_stays_over(
        self, api: Api, other_api: Api, user: User, gated: Build
    ) -> None:
        begun(api, gated)
        JobCard.objects.filter(build=gated).update(
            built=gated.states.last(), closed_by=user, closed_at=gated.changed_at
        )
        there = Build.objects.get(pk=brought_in(other_api, saved(api, gated)))
        (over,) = sent(other_api, "GET", address(there)).told["over"]
        assert over["closed_by"] == user.username

    def test_of_a_build_on_which_nothing_was_done_it_is_as_before(
        self, api: Api, build: Build
    ) -> None:
        with zipfile.ZipFile(io.BytesIO(saved(api, build))) as archive:
            assert "work.json" not in archive.namelist()

    @pytest.mark.parametrize(
        ("change", "field"),
        [
            ({"car_in": 9}, "work.json"),
            ({"more": 1}, "work.json.more"),
            ({"order": [{"part": "own_lube", "state": "lost", "count": 1, "by": "a",
                         "at": "2026-11-30T09:00:00Z"}]}, "work.json.order.0.state"),
            ({"besides": [{"part": "own_lube", "count": 0}]}, "work.json.besides.0.count"),
            ({"besides": [{"part": "own_lube", "count": 1}] * 2}, "work.json.besides"),
            ({"order": [{"part": "own_lube", "state": "have", "count": 1, "by": "a",
                         "at": "2026-11-30T09:00:00"}]}, "work.json.order.0.at"),
            ({"parts": [{"key": "own_x", "words": "", "per": "piece", "cost": 1,
                         "lead_days": 1}]}, "work.json.parts.0.words"),
            ({"parts": [{"key": "own_x", "words": "a thing", "per": "piece", "cost": -1,
                         "lead_days": 1}]}, "work.json.parts.0.cost"),
        ],
    )  # fmt: skip
    def test_what_is_wrong_in_it_is_named_and_nothing_is_kept(
        self, other_api: Api, build: Build, change: dict[str, Any], field: str
    ) -> None:
        self._refused(other_api, build, change, field)

    @pytest.mark.parametrize(
        ("change", "field"),
        [
            ({"number": 2}, "work.json.cards"),  # two that are open
            ({}, "work.json.cards"),  # two of one number
            ({"number": 2, "closed_at": "2026-11-30T09:00:00Z"}, "work.json.cards.1"),
            ({"said": {"hours_a_day": "all"}}, "work.json.cards.0.said.hours_a_day"),
            ({"entries": [{"kind": "ticked", "step": "no such step"}]},
             "work.json.cards.0.entries.0.entry.step"),
        ],
    )  # fmt: skip
    def test_a_card_that_cannot_be(
        self, other_api: Api, build: Build, change: dict[str, Any], field: str
    ) -> None:
        card: dict[str, Any] = {
            "number": 1, "said": {}, "begun_on": 1, "begun_by": "ada",
            "begun_at": "2026-11-29T09:00:00Z",
        }  # fmt: skip
        row = {"client_id": "0" * 8 + "-" + "0" * 27, "by": "ada", "at": card["begun_at"],
               "state": 1}  # fmt: skip
        if "entries" in change:
            change = {"entries": [{**row, "entry": each} for each in change["entries"]]}
        other = {**card, **change}
        alone = "cards.0" in field
        self._refused(other_api, build, {"cards": [other] if alone else [card, other]}, field)

    def _refused(self, api: Api, build: Build, change: dict[str, Any], field: str) -> None:
        text = json.dumps(build.current.document).encode()  # type: ignore[union-attr]
        made = packed(Packed(text, work=WorkInFile(car_in=1)))
        status, told = api.upload("/builds/import", with_work(made, {"car_in": 1, **change}))
        assert status == 422 and fields(told) == [field], told
        assert Build.objects.count() == BuildState.objects.count() == 1
        for model in (JobCard, CardEntry, FitEntry, OrderTick, OwnPart):
            assert not model.objects.exists()


def with_work(data: bytes, told: dict[str, Any]) -> bytes:
    """A saved build with other work in it, its manifest made anew."""
    from bilge_core.document.export import _KIND
    from bilge_core.document.sealed import MANIFEST, sealed

    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist() if name != MANIFEST}
    return sealed(_KIND, {**files, "work.json": json.dumps(told).encode()})
