"""A session's laps held against the forecast: what is kept, and that it stays as it was."""

from __future__ import annotations

import base64
import hashlib
import io
import json
import re
import zipfile
import zlib
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from accounts.models import User
from builds.models import Build
from builds.photos import add_photo
from django.core.files.uploadedfile import SimpleUploadedFile
from loads.models import Lap
from loads.services import _packed, log_of, store_lap
from records.models import SessionJudged
from runs.models import Run
from runs.services import ask_for_run

from tests.conftest import DEMO
from tests.server.book_made import ROWS, driven_car, forecast_bars, logged, put
from tests.server.conftest import Api, act, picture
from tests.server.runs_made import NO_WORKER, wanted, work
from tests.server.test_stage_track_book import row, session, written

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture
def driven(user: User, tmp_path: Any) -> Build:
    return driven_car(user, tmp_path)


def test_laps_are_held_against_the_cars_own_run(
    api: Api, user: User, driven: Build, tmp_path: Any
) -> None:
    written(api, driven, session("s1", "2026-06-07"))
    run = work(ask_for_run(user, wanted(driven)))
    lap = logged(user, tmp_path, forecast_bars(run))
    status, told = put(api, driven, lap, lag_s=0.0)
    assert status == 200, told
    assert told["count"]["foreseen"] == told["count"]["met"] >= 1
    assert told["forecast"]["run"] == run.pk and told["forecast"]["state"] == 1
    assert told["sensor"]["rate_hz"] == 50.0
    assert api("GET", f"/stages/track-book/{driven.pk}/sessions/s1/judged")[1] == told
    book = api("GET", f"/stages/track-book/{driven.pk}")[1]["book"]
    assert book["sessions"][0]["dips"] == told["count"]
    trace = api("GET", f"/stages/track-book/{driven.pk}/sessions/s1/judged/0/0")[1]
    assert min(trace["measured_bar"]) == pytest.approx(min(trace["expected_bar"]), abs=0.1)
    assert trace["time_s"][0] < trace["from_s"] < trace["to_s"] < trace["time_s"][-1]


def test_the_forecast_stays_as_it_was(api: Api, user: User, driven: Build, tmp_path: Any) -> None:
    """Neither a new state's run, nor a lap that is deleted, changes what was judged."""
    written(api, driven, session("s1", "2026-06-07"))
    run = work(ask_for_run(user, wanted(driven)))
    lap = logged(user, tmp_path, forecast_bars(run))
    first = put(api, driven, lap)[1]
    api("DELETE", f"/laps/{lap.pk}")
    assert not Lap.objects.filter(pk=lap.pk).exists()
    Run.objects.all().delete()
    assert api("GET", f"/stages/track-book/{driven.pk}/sessions/s1/judged")[1] == first
    assert api("GET", f"/stages/track-book/{driven.pk}/sessions/s1/judged/0/0")[0] == 200
    again = put(api, driven, logged(user, tmp_path, forecast_bars_flat(), "Lap 2"))[1]
    assert again["forecast"] == first["forecast"]
    assert again["count"]["met"] == 0 and again["count"]["false_alarms"] >= 1
    anew = put(api, driven, logged(user, tmp_path, forecast_bars_flat()),
               forecast_anew=True)[1]  # fmt: skip
    assert anew["forecast"] is None


def forecast_bars_flat() -> np.ndarray:
    return np.full(ROWS - 1, 5.0)


def test_without_a_run_dips_are_told_alone(
    api: Api, user: User, driven: Build, tmp_path: Any
) -> None:
    written(api, driven, session("s1", "2026-06-07"))
    bars = forecast_bars_flat()
    bars[200:240] = 1.0
    status, told = put(api, driven, logged(user, tmp_path, bars))
    assert status == 200
    assert told["forecast"] is None and told["resembles"] is None
    assert told["headline"] == "1 place dipped; no forecast to hold against"


def test_faults_are_named_and_nothing_is_kept(
    api: Api, user: User, stranger: User, driven: Build, tmp_path: Any
) -> None:
    written(api, driven, session("s1", "2026-06-07"))
    assert driven.lap is not None
    status, told = put(api, driven, driven.lap)
    assert status == 422 and "oil pressure" in str(told)
    lap = logged(user, tmp_path, forecast_bars_flat())
    assert put(Api(stranger), driven, lap)[0] == 404
    theirs = store_lap(stranger, "theirs", DEMO / "saltmarsh.csv", "x.csv")
    assert put(api, driven, theirs)[0] == 404
    written(api, driven, {**session("s1", "2026-06-07"), "entry": {
        "kind": "session_struck", "id": "s1"}})  # fmt: skip
    assert put(api, driven, lap)[0] == 404
    assert SessionJudged.objects.count() == 0
    assert [row["name"] for row in api("GET", "/stages/track-book/laps")[1]] == ["Lap 1"]


def test_a_lap_of_another_circuit_is_left_out(
    api: Api, user: User, driven: Build, tmp_path: Any
) -> None:
    written(api, driven, session("s1", "2026-06-07"))
    run = work(ask_for_run(user, wanted(driven)))
    lap = logged(user, tmp_path, forecast_bars(run))
    other = logged(user, tmp_path, forecast_bars_flat(), "elsewhere")
    _turn_round(other)
    told = put(api, driven, lap, other)[1]
    assert told["left_out"] == [
        {"name": "elsewhere", "why": "is of another circuit than the forecast"}
    ]
    assert put(api, driven, other, forecast_anew=False)[0] == 422


def _turn_round(lap: Lap) -> None:
    """The same lap with its corners the other way."""
    log = log_of(lap)
    lap.samples = _packed(replace(log, leftward=-log.leftward))
    lap.save(update_fields=["samples"])


def text_of(pdf: bytes) -> str:
    """The strings that a PDF draws, in their order; faces in it are streams of another kind."""
    found = []
    for stream in re.findall(rb"stream\r?\n(.*?)endstream", pdf, re.S):
        if not stream.strip().endswith(b"~>"):
            continue
        data = base64.a85decode(stream.strip().removesuffix(b"~>"))
        for each in re.findall(rb"\((.*?)(?<!\\)\) Tj", zlib.decompress(data), re.S):
            found.append(each.decode("latin-1"))
    return " ".join(found)


def zip_of(api: Api, build: Build) -> bytes:
    answer = api.client.get(f"/api/stages/track-book/{build.pk}/export")
    assert answer.status_code == 200
    return answer.content


def brought(user: User, data: bytes) -> tuple[int, Any]:
    client = Api(user).client
    file = SimpleUploadedFile("book.zip", data)
    answer = client.post("/api/stages/track-book/import", {"file": file})
    return answer.status_code, json.loads(answer.content)


class TestTheWholeBook:
    def full(self, api: Api, user: User, build: Build, tmp_path: Any) -> bytes:
        """Two sessions on two states, a photo, something renewed, laps held against a run."""
        photo = add_photo(user, build.pk, SimpleUploadedFile("p.png", picture()))  # type: ignore[arg-type]
        written(api, build, session("s1", "2026-06-07", photos=[photo.token], words="=SUM(A1)"))
        run = work(ask_for_run(user, wanted(build)))
        assert put(api, build, logged(user, tmp_path, forecast_bars(run)))[0] == 200
        api("POST", f"/builds/{build.pk}/acts", act("refill", to_l=7))
        done = row(kind="item_done", item="jointseal", on="2026-06-08", how="renewed")
        written(api, build, session("s2", "2026-06-14"), done)
        return zip_of(api, build)

    def test_is_the_same_elsewhere_byte_for_byte(
        self, api: Api, user: User, stranger: User, driven: Build, tmp_path: Any
    ) -> None:
        data = self.full(api, user, driven, tmp_path)
        status, told = brought(stranger, data)
        assert status == 201, told
        there = Build.objects.get(pk=told["id"])
        assert there.workshop == stranger.workshop
        theirs = Api(stranger)
        assert zip_of(theirs, there) == data
        mine = api("GET", f"/stages/track-book/{driven.pk}")[1]["book"]
        again = theirs("GET", f"/stages/track-book/{there.pk}")[1]["book"]
        for here, gone in zip(mine["sessions"], again["sessions"], strict=True):
            assert {**gone, "session": None} == {**here, "session": None}
        judged = "/stages/track-book/{}/sessions/s1/judged"
        assert api("GET", judged.format(driven.pk)) == theirs("GET", judged.format(there.pk))

    def test_it_is_printed(self, api: Api, user: User, driven: Build, tmp_path: Any) -> None:
        """Read back from the strings that it draws."""
        page = f"/api/stages/track-book/{driven.pk}/page"
        assert "No session is written" in text_of(api.client.get(page).content)
        self.full(api, user, driven, tmp_path)
        told = text_of(api.client.get(page).content)
        for words in (
            "Saltmarsh Ring",
            "came where",
            "pickup joint's seal",
            "=SUM\\(A1\\)",
            "Ring:",
        ):
            assert words in told

    def test_its_table_is_safe_in_a_spreadsheet(
        self, api: Api, user: User, driven: Build, tmp_path: Any
    ) -> None:
        with zipfile.ZipFile(io.BytesIO(self.full(api, user, driven, tmp_path))) as archive:
            table = archive.read("sessions.csv").decode()
            names = archive.namelist()
        assert ",'=SUM(A1)" in table
        assert "laps/s1.npz" in names and "states/2.json" in names

    @pytest.mark.parametrize(
        ("change", "names"),
        [
            (lambda files: files.pop("book.json"), "has no book.json"),
            (lambda files: files.update({"book.json": b"[]"}), "book.json"),
            (lambda files: files.update({"laps/s1.npz": b"x"}), "laps/s1.npz"),
            (lambda files: files.pop("states/2.json"), "state 2"),
            (lambda files: files.update({"states/1.json": b"{}"}), ""),
            (lambda files: files.update({"run.sh": b""}), "run.sh"),
        ],
    )
    def test_a_faulty_one_is_refused_and_nothing_is_kept(
        self, api: Api, user: User, stranger: User, driven: Build, tmp_path: Any,
        change: Any, names: str,
    ) -> None:  # fmt: skip
        data = self.full(api, user, driven, tmp_path)
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        files.pop("manifest.json")
        change(files)
        told = {n: {"sha256": hashlib.sha256(d).hexdigest()} for n, d in files.items()}
        manifest = {"format": "bilge-track-book", "version": 1, "files": told}
        kept = io.BytesIO()
        with zipfile.ZipFile(kept, "w") as archive:
            for name, content in {**files, "manifest.json": json.dumps(manifest)}.items():
                archive.writestr(name, content)
        status, said = brought(stranger, kept.getvalue())
        assert status == 422 and names in str(said)
        assert not Build.objects.filter(workshop=stranger.workshop).exists()

    def test_no_zip_is_no_book(self, stranger: User) -> None:
        assert brought(stranger, b"hello")[0] == 422
