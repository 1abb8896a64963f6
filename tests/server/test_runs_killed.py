"""Workers are killed in the middle of it: every run ends, once, as if nothing had happened."""

from __future__ import annotations

import os
import random
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from bilge_core.build import Build as BuildDocument
from bilge_core.forecast.moving import forecast_moving
from builds.models import Build
from builds.services import add_build, checked_document
from django.db import connection
from loads.services import corners_of, log_of, store_lap
from runs.models import Result, Run
from runs.schemas import RunIn
from runs.services import ask_for_run
from runs.telling import figures_of

from tests.conftest import DEMO, ROOT

pytestmark = pytest.mark.django_db(transaction=True)

LEASE_S = 1.5


@pytest.fixture
def short_build(user: User, tmp_path: Path) -> Build:
    """The demo car over four seconds of its lap."""
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:210]))
    lap = store_lap(user, "short", path, "short.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", lap)


class Workers:
    """Worker processes on the tests' database."""

    def __init__(self) -> None:
        self._processes: list[subprocess.Popen[bytes]] = []

    def start(self) -> subprocess.Popen[bytes]:
        env = {
            **os.environ,
            "BILGE_DB_NAME": str(connection.settings_dict["NAME"]),
            "BILGE_RUN_LEASE_S": str(LEASE_S),
        }
        process = subprocess.Popen(
            [sys.executable, str(ROOT / "server" / "manage.py"), "work", "--cold"],
            env=env, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )  # fmt: skip
        self._processes.append(process)
        return process

    def end(self) -> None:
        for process in self._processes:
            process.kill()
            process.wait()


@pytest.fixture
def workers(settings: Any) -> Iterator[Workers]:
    settings.RUN_LEASE_S = LEASE_S
    made = Workers()
    yield made
    made.end()


def _wait_until_ended(runs: list[Run], seconds: float) -> None:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        keys = [run.pk for run in runs]
        left = Run.objects.filter(pk__in=keys, status__in=(Run.WAITING, Run.RUNNING)).count()
        if left == 0:
            return
        time.sleep(0.2)
    pytest.fail(f"{left} runs have not ended")


def _undisturbed(build: Build, seed: int) -> dict[str, Any]:
    assert build.current is not None and build.lap is not None
    document = BuildDocument.model_validate(build.current.document)
    log = log_of(build.lap)
    forecast = forecast_moving(document, log, "quick", corners_of(build.lap, log), seed)
    return figures_of(forecast).model_dump(mode="json")


def _kill_and_see(user: User, build: Build, workers: Workers, kills: int, seeds: int) -> None:
    chance = random.Random(7)
    runs = [ask_for_run(user, RunIn(build_id=build.pk, seed=seed)) for seed in range(seeds)]
    process = workers.start()
    for _ in range(kills):
        time.sleep(chance.uniform(0.3, 6.0))
        process.kill()
        process.wait()
        process = workers.start()
    _wait_until_ended(runs, 180.0)
    for run in runs:
        run.refresh_from_db()
        assert run.status == Run.FINISHED or (run.status == Run.FAILED and run.reason)
        if run.status == Run.FINISHED:
            assert run.result is not None
            assert run.result.figures == _undisturbed(build, run.seed)
    finished = sum(run.status == Run.FINISHED for run in runs)
    assert Result.objects.count() == finished
    assert finished > 0


def test_two_kills(user: User, short_build: Build, workers: Workers) -> None:
    _kill_and_see(user, short_build, workers, kills=2, seeds=2)


@pytest.mark.long
def test_thirty_kills(user: User, short_build: Build, workers: Workers) -> None:
    _kill_and_see(user, short_build, workers, kills=30, seeds=12)


@pytest.mark.long
def test_two_workers_share_the_runs(user: User, short_build: Build, workers: Workers) -> None:
    """On one database; each run is carried out once."""
    workers.start()
    workers.start()
    runs = [ask_for_run(user, RunIn(build_id=short_build.pk, seed=seed)) for seed in range(12)]
    _wait_until_ended(runs, 180.0)
    ended = Run.objects.filter(pk__in=[run.pk for run in runs])
    assert {run.status for run in ended} == {Run.FINISHED}
    assert {run.attempt for run in ended} == {1}
    assert len({run.worker for run in ended}) == 2
