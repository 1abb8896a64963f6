"""The same study with another task backend: two workers by way of Redis, the same table."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from django.db import connection
from studies.growth import results_of
from studies.models import Study, StudyTrial
from studies.selectors import study_out

from tests.conftest import ROOT
from tests.server.runs_made import NO_WORKER
from tests.server.studies_made import asked, worked
from tests.workers import short_demo

pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.long]


def _free_port() -> int:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


@pytest.fixture
def redis_port(tmp_path: Path) -> Iterator[int]:
    server = shutil.which("redis-server")
    if server is None:
        pytest.skip("needs Debian's package redis-server")
    port = _free_port()
    words = [server, "--port", str(port), "--bind", "127.0.0.1", "--save", "", "--dir", tmp_path]
    process = subprocess.Popen([str(word) for word in words], stdout=subprocess.DEVNULL)
    until = time.monotonic() + 10.0
    while time.monotonic() < until:
        try:
            socket.create_connection(("127.0.0.1", port), 0.2).close()
            break
        except OSError:
            time.sleep(0.1)
    yield port
    process.terminate()
    process.wait()


@pytest.fixture
def workers(redis_port: int, settings: Any) -> Iterator[list[subprocess.Popen[bytes]]]:
    """Two, whose queue is in Redis; this process puts into it too."""
    env = {
        **os.environ, "DJANGO_SETTINGS_MODULE": "tests.server.other_queue",
        "BILGE_REDIS_PORT": str(redis_port), "BILGE_DB_NAME": str(connection.settings_dict["NAME"]),
        "PYTHONPATH": os.pathsep.join([str(ROOT), *sys.path]),
    }  # fmt: skip
    command = [
        sys.executable, str(ROOT / "server" / "manage.py"), "rqworker", "default",
        "--job-class", "django_tasks_rq.Job", "--worker-class", "rq.SimpleWorker",
    ]  # fmt: skip
    none = subprocess.DEVNULL
    made = [
        subprocess.Popen(command, env=env, stdin=none, stdout=none, stderr=none) for _ in range(2)
    ]
    settings.RQ_QUEUES = {"default": {"HOST": "127.0.0.1", "PORT": redis_port, "DB": 0}}
    settings.TASKS = {"default": {"BACKEND": "django_tasks_rq.RQBackend", "QUEUES": []}}
    yield made
    for each in made:
        each.terminate()
        each.wait()


def _ended(study: Study, seconds: float) -> Study:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        study.refresh_from_db()
        if study.status not in (Study.WAITING, Study.RUNNING):
            return study
        time.sleep(0.5)
    pytest.fail(f"the study has not ended: {study.trials.count()} trials")


@pytest.fixture
def plain_build(user: User, tmp_path: Path) -> Build:
    return short_demo(user, tmp_path, seconds=6.0)


def test_two_workers_on_redis_give_what_one_gives(
    user: User, stranger: User, plain_build: Build, tmp_path: Path,
    workers: list[subprocess.Popen[bytes]], settings: Any,
) -> None:  # fmt: skip
    far = _ended(asked(user, plain_build), 240.0)
    assert far.status == Study.FINISHED, far.reason
    assert far.trials.filter(status=StudyTrial.WAITING).count() == 0
    settings.TASKS = NO_WORKER
    (tmp_path / "alone").mkdir()
    near = worked(stranger, short_demo(stranger, tmp_path / "alone", seconds=6.0))
    assert results_of(far) == results_of(near)
    one, other = (study_out(each).options for each in (far, near))
    assert one == other
