"""Laps: files uploaded, read step by step and kept, whatever they hold."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings as django_settings
from django.test import override_settings
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from loads.models import KnownReading, Lap, LogUpload
from loads.services import log_of
from loads.uploads import MOST_KEPT

from tests.conftest import DEMO
from tests.core.test_mdf import measured
from tests.server.conftest import Api, fields

pytestmark = pytest.mark.django_db

SALTMARSH = (DEMO / "saltmarsh.csv").read_bytes()
SESSION = (DEMO / "saltmarsh-session.csv").read_bytes()


def uploaded(api: Api, data: bytes) -> int:
    status, told = api.upload("/laps/files", data)
    assert status == 201, told
    return int(told["id"])


def read(api: Api, file_id: int, reading: Any = None) -> dict[str, Any]:
    """What is understood of a file: the last line of the answer."""
    answer = api.client.post(
        f"/api/laps/files/{file_id}/reading",
        json.dumps({"reading": reading}),
        content_type="application/json",
    )
    assert answer.status_code == 200, answer.content
    assert answer["Cache-Control"] == "no-store"
    steps = [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]
    shares = [step["share"] for step in steps[:-1]]
    assert shares == sorted(shares)
    return steps[-1]["understood"]  # type: ignore[no-any-return]


def changed(reading: dict[str, Any], **columns: dict[str, Any]) -> dict[str, Any]:
    told = {name: {**reading["columns"].get(name, {}), **c} for name, c in columns.items()}
    return {**reading, "columns": {**reading["columns"], **told}}


def keep(api: Api, file_id: int, reading: Any, *laps: tuple[str, float, float], **more: Any) -> Any:
    rows = [{"name": name, "start_s": a, "end_s": b} for name, a, b in laps]
    body = {"file_id": file_id, "reading": reading, "laps": rows, **more}
    return api("POST", "/laps", body)


def test_a_lap_from_file_to_kept(api: Api) -> None:
    file_id = uploaded(api, SALTMARSH)
    seen = read(api, file_id)
    assert seen["faults"] == []
    assert "mostly left" in seen["sentences"][0]
    assert [lap["whole"] for lap in seen["laps"]] == [True]
    turned = read(api, file_id, changed(seen["reading"], lateral={"positive": "right"}))
    assert "mostly right" in turned["sentences"][0]
    assert not Lap.objects.exists()
    span = seen["laps"][0]
    status, told = keep(api, file_id, seen["reading"], ("lap 7", span["start_s"], span["end_s"]))
    assert (status, told[0]["name"]) == (201, "lap 7")
    assert told[0]["duration_s"] == pytest.approx(81.0, abs=0.1)


def test_a_session_gives_its_laps_and_the_way_it_was_read_is_remembered(api: Api) -> None:
    file_id = uploaded(api, SESSION)
    seen = read(api, file_id)
    assert (seen["remembered"], seen["from_gps"], seen["bad_rows"]) == (False, True, 0)
    assert "semicolons, decimal commas" in seen["file_words"]
    sensor = {"turned_left_deg": 0, "level_standing": True, "ahead_mm": 900, "left_mm": 0}
    reading = {**seen["reading"], "sensor": sensor}
    seen = read(api, file_id, reading)
    assert any("tilt of 1.5" in words for words in seen["remarks"])
    whole = [lap for lap in seen["laps"] if lap["whole"]]
    assert len(whole) == 2
    wanted = [(f"lap {lap['number']}", lap["start_s"], lap["end_s"]) for lap in whole]
    status, told = keep(api, file_id, reading, *wanted)
    assert (status, [lap["name"] for lap in told]) == (201, ["lap 2", "lap 3"])
    log = log_of(Lap.objects.get(pk=told[0]["id"]))
    assert log.upward is not None
    assert log.oil_pressure is not None
    assert log.place is not None
    again = read(api, uploaded(api, SESSION))
    assert again["remembered"]
    assert again["reading"]["sensor"] == sensor


def test_bad_rows_are_kept_out_only_on_consent(api: Api) -> None:
    spoiled = SALTMARSH.replace(b"\n1.00,", b"\noops,", 1)
    file_id = uploaded(api, spoiled)
    seen = read(api, file_id)
    assert seen["bad_rows"] == 1
    assert seen["bad_row_faults"][0]["field"] == "line 52, column time [s]"
    status, told = keep(api, file_id, seen["reading"], ("x", 0, 80))
    assert (status, fields(told)) == (422, ["line 52, column time [s]"])
    assert not Lap.objects.exists()
    status, _ = keep(api, file_id, seen["reading"], ("x", 0, 80), leave_out_bad_rows=True)
    assert status == 201


def test_what_is_not_said_of_columns_named_by_hand_is_worked_out(api: Api) -> None:
    # the demo's lap under names that mean nothing, its g to the right and ahead
    rows = [line.split(",")[:5] for line in SALTMARSH.decode().splitlines()[1:]]
    turned = [[time, speed, str(-float(side)), *rest] for time, speed, side, *rest in rows]
    lines = [["Clock", "Speed", "Side", "Ahead", "Revs"], ["s", "km/h", "g", "g", "rpm"], *turned]
    file_id = uploaded(api, "\n".join(";".join(line) for line in lines).encode())
    seen = read(api, file_id)
    # the columns that are wanted are told, and nothing of what will be worked out
    wanted = ["channels.time", "channels.lateral", "channels.longitudinal"]
    assert [fault["field"] for fault in seen["faults"]] == wanted
    named = {"time": "Clock", "lateral": "Side", "longitudinal": "Ahead"}
    bare = {name: {"heading": heading, "unit": ""} for name, heading in named.items()}
    partly = read(
        api, file_id, changed(seen["reading"], time=bare["time"], lateral=bare["lateral"])
    )
    assert [fault["field"] for fault in partly["faults"]] == ["channels.longitudinal"]
    assert partly["reading"]["columns"]["lateral"]["unit"] == "g"
    told = read(api, file_id, changed(seen["reading"], **bare))
    assert (told["faults"], told["bad_rows"]) == ([], 0)
    guessed = {guess["field"]: guess["taken"] for guess in told["guesses"]}
    assert guessed == {
        "channels.longitudinal.positive": "forward", "channels.lateral.positive": "left"
    }  # fmt: skip
    # of the hand nothing tells, which is said; the builder's word stays
    said = read(api, file_id, changed(told["reading"], lateral={"positive": "right"}))
    assert said["guesses"] == []
    assert said["reading"]["columns"]["lateral"]["positive"] == "right"
    assert "mostly left" in said["sentences"][0]
    # a lap is kept of what is said alone
    status, answer = keep(api, file_id, changed(seen["reading"], **bare), ("bare", 0, 80))
    assert (status, fields(answer)[0]) == (422, "channels.time.unit")


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"lateral": {"heading": "sideways"}}, "no column 'sideways'"),
        ({"speed": {"unit": "furlongs"}}, "no unit for speed"),
        ({"speed": {"heading": "engine speed [rpm]"}}, "unit km/h?"),
    ],
)
def test_a_wrong_reading_is_told_where_it_is_wrong(api: Api, change: Any, words: str) -> None:
    file_id = uploaded(api, SALTMARSH)
    reading = changed(read(api, file_id)["reading"], **change)
    seen = read(api, file_id, reading)
    assert any(words in fault["message"] for fault in seen["faults"]), seen["faults"]
    status, told = keep(api, file_id, reading, ("bad", 0, 80))
    assert status == 422
    assert any(words in problem["message"] for problem in told["problems"]), told
    assert not Lap.objects.exists()
    assert not KnownReading.objects.exists()


@pytest.mark.parametrize("span", [(0, 3), (79, 90), (500, 600), (40, 20)])
def test_laps_that_are_not_in_the_recording_are_refused_all(api: Api, span: Any) -> None:
    file_id = uploaded(api, SALTMARSH)
    reading = read(api, file_id)["reading"]
    status, told = keep(api, file_id, reading, ("good", 0, 80), ("bad", *span))
    assert (status, fields(told)) == (422, ["laps.1"])
    assert not Lap.objects.exists()


def test_junk_and_large_files_leave_nothing(api: Api) -> None:
    for data in (b"once upon a time\n" * 500_000, b"\x00\x01" * 900, b""):
        status, told = api.upload("/laps/files", data)
        assert (status, fields(told)) == (422, ["file"]), told
    with override_settings(LARGEST_UPLOAD_BYTES=1000):
        status, told = api.upload("/laps/files", b"x" * 2000)
    assert status == 413
    assert "larger than" in told["title"]
    assert not LogUpload.objects.exists()
    assert not any(Path(django_settings.UPLOADS).glob("*"))


def test_only_the_newest_files_stay_and_any_can_go(api: Api) -> None:
    ids = [uploaded(api, SALTMARSH) for _ in range(MOST_KEPT + 2)]
    _, told = api("GET", "/laps/files")
    assert [file["id"] for file in told] == ids[: -MOST_KEPT - 1 : -1]
    assert len(list(Path(django_settings.UPLOADS).iterdir())) == MOST_KEPT
    assert api("DELETE", f"/laps/files/{ids[-1]}")[0] == 204
    assert len(list(Path(django_settings.UPLOADS).iterdir())) == MOST_KEPT - 1
    assert api("POST", f"/laps/files/{ids[-1]}/reading", {"reading": None})[0] == 404


def test_a_file_gone_from_the_disk_is_said_to_be_gone(api: Api) -> None:
    file_id = uploaded(api, SALTMARSH)
    for path in Path(django_settings.UPLOADS).glob("*/log"):
        path.unlink()
    status, told = api("POST", f"/laps/files/{file_id}/reading", {"reading": None})
    assert status == 404, told


def test_nobody_reaches_another_workshops_laps_and_files(
    api: Api, other_api: Api, lap: Lap
) -> None:
    file_id = uploaded(api, SALTMARSH)
    calls: list[tuple[str, str, Any]] = [
        ("GET", f"/laps/{lap.pk}", None),
        ("PATCH", f"/laps/{lap.pk}", {"name": "mine", "base_name": "lap 7"}),
        ("DELETE", f"/laps/{lap.pk}", None),
        ("PUT", f"/laps/{lap.pk}/corners", {"corners": None}),
        ("POST", f"/laps/files/{file_id}/reading", {"reading": None}),
        ("DELETE", f"/laps/files/{file_id}", None),
    ]
    for method, path, body in calls:
        assert other_api(method, path, body)[0] == 404, path
    reading = read(api, file_id)["reading"]
    assert keep(other_api, file_id, reading, ("x", 0, 80))[0] == 404
    assert other_api("GET", "/laps/files") == (200, [])


@pytest.mark.parametrize(
    "body",
    [
        None,
        {"reading": 3},
        {"reading": {"columns": {"warp": {"heading": "x", "unit": "s"}}}},
        {"reading": {"columns": {}, "sample_rate_hz": -1}},
        {"reading": {"columns": {}, "sensor": {"turned_left_deg": 900}}},
    ],
)
def test_bad_readings_are_refused(api: Api, body: Any) -> None:
    file_id = uploaded(api, SALTMARSH)
    assert api("POST", f"/laps/files/{file_id}/reading", body)[0] == 422


def _torn(cuts: list[tuple[int, bytes]], end: int) -> bytes:
    lines = SALTMARSH.splitlines(keepends=True)[:400]
    for place, junk in cuts:
        lines[place % len(lines)] = junk
    return b"".join(lines)[: max(end, 1)]


JUNK = st.one_of(
    st.binary(max_size=30),
    st.sampled_from([b"\n", b",,,,,\n", b'"', b"1e999,1,1,1,1,1\n", b"\x00", b";;", b"\xff\xfe"]),
)


def upload_anything(api: Api, data: bytes) -> None:
    """Whatever it is: refused in words or read; kept whole or not at all."""
    laps = Lap.objects.count()
    status, told = api.upload("/laps/files", data)
    assert status in {201, 422}, told
    if status != 201:
        assert told["problems"]
        return
    seen = read(api, told["id"])
    spans = [(f"lap {lap['number']}", lap["start_s"], lap["end_s"]) for lap in seen["laps"]]
    if spans:
        status, kept = keep(api, told["id"], seen["reading"], *spans)
        assert status in {201, 422}, kept
        assert Lap.objects.count() - laps == (len(spans) if status == 201 else 0)
    assert api("DELETE", f"/laps/files/{told['id']}")[0] == 204


@settings(
    max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(st.lists(st.tuples(st.integers(0, 400), JUNK), max_size=4), st.integers(0, 20_000))
def test_no_upload_is_a_server_error_or_half_saved(
    api: Api, cuts: list[tuple[int, bytes]], end: int
) -> None:
    upload_anything(api, _torn(cuts, end))


@pytest.mark.long
@settings(
    max_examples=10_000,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)
@given(st.lists(st.tuples(st.integers(0, 400), JUNK), max_size=6), st.integers(0, 20_000))
def test_ten_thousand_uploads(api: Api, cuts: list[tuple[int, bytes]], end: int) -> None:
    upload_anything(api, _torn(cuts, end))


def test_what_a_file_does_not_say_is_guessed_once_and_marked(api: Api) -> None:
    rows = [line.split(",") for line in (DEMO / "saltmarsh.csv").read_text().splitlines()[1:]]
    lines = ["TimeMs,VehSpd,LatAcc,LongAcc,EngRPM"]
    lines += [f"{1e3 * float(r[0]):.0f},{r[1]},{r[2]},{r[3]},{r[4]}" for r in rows]
    _, told = api.upload("/laps/files", "\n".join(lines).encode())
    understood = last_step(api, told["id"], None)
    assert understood["faults"] == []
    assert [guess["taken"] for guess in understood["guesses"]] == [
        "g", "g", "km/h", "forward", "left",
    ]  # fmt: skip
    assert "so its change agrees with longitudinal g" in understood["guesses"][2]["words"]
    again = last_step(api, told["id"], understood["reading"])
    assert again["guesses"] == [] and again["sentences"] == understood["sentences"]


def last_step(api: Api, file_id: int, reading: Any) -> Any:
    answer = api.client.post(
        f"/api/laps/files/{file_id}/reading", json.dumps({"reading": reading}), "application/json"
    )
    lines = b"".join(answer.streaming_content).splitlines()  # type: ignore[attr-defined]
    return json.loads(lines[-1])["understood"]


def test_a_measurement_file_is_taken_as_its_table(api: Api, saltmarsh: Any, tmp_path: Any) -> None:
    data = measured(saltmarsh, tmp_path).read_bytes()
    status, told = api.upload("/laps/files", data)
    assert status == 201
    understood = last_step(api, told["id"], None)
    assert understood["faults"] == [] and "LatAcc [g]" in understood["headings"]
    status, told = api.upload("/laps/files", data[:3000])
    assert status == 422 and "measurement file" in told["problems"][0]["message"]
