"""Whatever is sent gets an answer that says what is wrong; nothing is a server error."""

from __future__ import annotations

import errno
import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from builds import services as builds_services
from builds.models import Build
from django.db import OperationalError
from django.test import Client
from loads.models import Lap
from runs.models import Run

from tests.conftest import DEMO, ROOT
from tests.server.conftest import Api, picture

FORM = "multipart/form-data; boundary=edge"


def refused(client: Client, path: str, body: bytes, kind: str) -> tuple[int, str]:
    answer = client.generic("POST", f"/api{path}", body, content_type=kind)
    told = json.loads(answer.content)
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert told["status"] == answer.status_code
    return answer.status_code, told["title"]


def form(name: str, count: int, file: bool) -> bytes:
    head = f'--edge\r\nContent-Disposition: form-data; name="{name}"'
    head += '; filename="f"\r\n\r\nx\r\n' if file else "\r\n\r\nx\r\n"
    return head.encode() * count + b"--edge--\r\n"


def test_forms_that_cannot_be_read(api: Api) -> None:
    for path in ("/laps/files", "/builds/import"):
        assert refused(api.client, path, b"x", "multipart/form-data")[0] == 400
        assert refused(api.client, path, b"x", "multipart/form-data; boundary=" + "é" * 3)[0] == 400
        status, words = refused(api.client, path, form("a", 1500, file=False), FORM)
        assert (status, "more fields" in words) == (413, True)
        status, words = refused(api.client, path, form("file", 150, file=True), FORM)
        assert (status, "more files" in words) == (413, True)


def test_text_over_the_limit(api: Api, build: Build) -> None:
    status, words = refused(
        api.client, f"/builds/{build.pk}/undo", b" " * 3_000_000, "application/json"
    )
    assert (status, "more text" in words) == (413, True)
    for broken in (b"{", b"\xff", b"[" * 50_000, b'"x"'):
        assert refused(api.client, f"/builds/{build.pk}/undo", broken, "application/json")[0] in {
            400, 422
        }  # fmt: skip


def test_a_form_that_the_token_check_reads_first(user: Any) -> None:
    strict = Client(enforce_csrf_checks=True)
    strict.force_login(user)
    strict.get("/")
    assert refused(strict, "/laps/files", b"x", "multipart/form-data")[0] in {400, 403}


def test_a_host_that_is_not_ours(client: Client) -> None:
    answer = client.get("/api/health", HTTP_HOST="evil.example")
    assert answer.status_code == 400
    assert json.loads(answer.content)["status"] == 400


def keep(api: Api, **lap: Any) -> int:
    status, told = api.upload("/laps/files", (DEMO / "saltmarsh.csv").read_bytes())
    assert status == 201
    reading = {"columns": lap.pop("columns", {})}
    body = {"file_id": told["id"], "reading": reading, "laps": [{"name": "x", **lap}]}
    return api("POST", "/laps", body)[0]


def test_laps_of_no_columns_and_no_length(api: Api) -> None:
    assert keep(api, start_s=0, end_s=80) == 422
    assert keep(api, start_s=5e-324, end_s=5e-324) == 422
    assert keep(api, start_s=0, end_s=5e-324) == 422
    assert keep(api, start_s=80, end_s=1) == 422
    assert keep(api, start_s=0, end_s=1e308) == 422
    assert not Lap.objects.exists()


def test_names_hold_only_what_is_seen(api: Api, build: Build) -> None:
    wanted = {"template": "flat-six", "name": "Mini\u202egnol\u200b \u2066fast\n"}
    assert api("POST", "/builds", wanted)[1]["name"] == "Minignol fast"
    assert api("POST", "/builds", {"template": "flat-six", "name": "\u200b\u202e"})[0] == 422
    status, told = api(
        "PUT", f"/builds/{build.pk}/revision", {"base_state": 1, "name": "a\u0000s \u2069raced"}
    )
    assert (status, told["revision"]["name"]) == (200, "as raced")


def test_a_lap_is_chosen_on_the_state_that_was_seen(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/lap"
    assert api("PUT", path, {"base_state": 0, "lap_id": None})[0] == 409
    assert Build.objects.get(pk=build.pk).lap_id == build.lap_id
    assert api("PUT", path, {"base_state": 1, "lap_id": None})[0] == 200


def test_five_starts_are_queued_all_or_none(api: Api, build: Build) -> None:
    from runs import services

    for seed in range(10, 10 + services.MOST_WAITING - 3):
        asked = {"build_id": build.pk, "seed": seed}
        assert api("POST", "/runs", asked)[0] == 200
    before = Run.objects.count()
    assert api("POST", "/runs/starts", {"build_id": build.pk, "count": 5})[0] == 422
    assert Run.objects.count() == before
    assert api("POST", "/runs/starts", {"build_id": build.pk, "count": 3})[0] == 200
    assert Run.objects.count() == before + 3


@pytest.mark.parametrize(
    "raised",
    [
        OSError(errno.ENOSPC, "No space left on device"),
        OperationalError(1114, "The table is full"),
        OperationalError(1021, "Disk full"),
    ],
)
def test_no_room_left_is_said_in_words(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch, raised: Exception
) -> None:
    def full(*given: Any) -> None:
        raise raised

    monkeypatch.setattr(builds_services, "locked", full)
    status, told = api("POST", f"/builds/{build.pk}/undo", {"base_state": 1})
    assert status == 507
    assert told["title"].startswith("No room left on the disk: ") and "MB free" in told["title"]


def test_a_database_that_is_away_is_no_full_disk(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    def away(*given: Any) -> None:
        raise OperationalError(2006, "Server has gone away")

    monkeypatch.setattr(builds_services, "locked", away)
    assert api("POST", f"/builds/{build.pk}/undo", {"base_state": 1})[0] == 503


# --- photos


def test_pictures_of_too_many_points_are_refused_unopened(api: Api, build: Build) -> None:
    path = f"/builds/{build.pk}/photos"
    for width, height, kind, more in (
        (12_001, 10, "PNG", {}),
        (6000, 4001, "PNG", {}),
        (4000, 4001, "JPEG", {"progressive": True}),
        (3000, 2001, "WEBP", {"method": 0}),
    ):
        status, told = api.upload(path, picture(width, height, kind, **more))
        assert status == 422, kind
        assert f"is {width} by {height} pixels" in told["problems"][0]["message"]
    assert api.upload(path, picture(12_000, 10))[0] == 201
    assert api.upload(path, picture(4000, 3000, "JPEG"))[0] == 201  # as phones take them


MEMORY = """
import os, sys
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
import django
django.setup()
import config.urls
from builds.photos import _made_small
def rows():
    return dict(row.split(":", 1) for row in open("/proc/self/status"))

for file in sys.argv[1:]:
    open("/proc/self/clear_refs", "w").write("5")  # the peak is forgotten
    _made_small(open(file, "rb"))
    told = rows()
    print((int(told["VmHWM"].split()[0]) - int(told["RssFile"].split()[0])) // 1024)
"""
LARGEST: tuple[tuple[str, int, int, dict[str, Any]], ...] = (
    ("JPEG", 10_000, 6_000, {"subsampling": 0}),
    ("JPEG", 4_000, 4_000, {"progressive": True, "subsampling": 0}),
    ("PNG", 6_000, 4_000, {}),
    ("WEBP", 3_000, 2_000, {"method": 0}),
)


def test_the_largest_pictures_leave_a_web_worker_under_350_mb_of_its_own(tmp_path: Path) -> None:
    """Of its own: without the files of libraries, which all workers share, and of which a machine
    holds as much in memory as it likes."""
    files = [tmp_path / str(number) for number in range(len(LARGEST))]
    for file, (kind, width, height, more) in zip(files, LARGEST, strict=True):
        file.write_bytes(picture(width, height, kind, **more))
    said = subprocess.run(
        [sys.executable, "-c", MEMORY, *map(str, files)], capture_output=True, text=True,
        check=True, cwd=ROOT / "server",
    ).stdout  # fmt: skip
    peaks = [int(word) for word in said.split()]
    assert len(peaks) == len(LARGEST) and max(peaks) < 350, said
    assert min(peaks) > 150, said  # a worker that has read in all its code
