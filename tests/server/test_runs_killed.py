"""Workers and the database are killed in the middle of it: every run ends as if undisturbed."""

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
from accounts.models import User, Workshop
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.moving import forecast_moving
from bilge_core.tell.moving import figures_of
from builds.models import Build
from django.db import connection
from loads.services import corners_of, log_of
from runs.models import Result, Run
from runs.schemas import RunIn
from runs.services import ask_for_run

from launch.database import PrivateMariaDB
from tests.conftest import ROOT
from tests.workers import Workers, short_demo, wait_until_ended

pytestmark = pytest.mark.django_db(transaction=True)

LEASE_S = 1.5


@pytest.fixture
def short_build(user: User, tmp_path: Path) -> Build:
    return short_demo(user, tmp_path, seconds=4.0)


@pytest.fixture
def workers(settings: Any) -> Iterator[Workers]:
    settings.RUN_LEASE_S = LEASE_S
    made = Workers({"BILGE_DB_NAME": str(connection.settings_dict["NAME"])}, LEASE_S)
    yield made
    made.end()


@pytest.fixture
def own_database(db: None, settings: Any, tmp_path: Path) -> Iterator[PrivateMariaDB]:
    """A server that may be killed; the test's own connection goes to it."""
    settings.RUN_LEASE_S = LEASE_S
    server = PrivateMariaDB(tmp_path / "own")
    server.start()
    env = server.environment()
    subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "migrate", "-v0", "--skip-checks"],
        env={**os.environ, **env}, check=True,
    )  # fmt: skip
    before = {key: connection.settings_dict[key] for key in ("PORT", "NAME", "PASSWORD")}
    connection.close()
    connection.settings_dict.update(
        PORT=env["BILGE_DB_PORT"], NAME=env["BILGE_DB_NAME"], PASSWORD=env["BILGE_DB_PASSWORD"]
    )
    yield server
    connection.close()
    connection.settings_dict.update(before)
    server.stop()


def _undisturbed(build: Build, seed: int) -> dict[str, Any]:
    assert build.current is not None and build.lap is not None
    document = BuildDocument.model_validate(build.current.document)
    log = log_of(build.lap)
    forecast = forecast_moving(document, log, "quick", corners_of(build.lap, log), seed)
    return figures_of(forecast).model_dump(mode="json")


def _all_ended_as_if_undisturbed(runs: list[Run], build: Build) -> None:
    for run in runs:
        run.refresh_from_db()
        assert run.status == Run.FINISHED or (run.status == Run.FAILED and run.reason)
        if run.status == Run.FINISHED:
            assert run.result is not None
            assert run.result.figures == _undisturbed(build, run.seed)
    finished = sum(run.status == Run.FINISHED for run in runs)
    assert Result.objects.count() == finished
    assert finished > 0


def test_two_kills_of_the_worker(user: User, short_build: Build, workers: Workers) -> None:
    chance = random.Random(7)
    runs = [ask_for_run(user, RunIn(build_id=short_build.pk, seed=seed)) for seed in range(2)]
    workers.start()
    for _ in range(2):
        time.sleep(chance.uniform(0.3, 6.0))
        workers.kill(0)
    wait_until_ended(runs, 180.0)
    _all_ended_as_if_undisturbed(runs, short_build)


@pytest.mark.parametrize("kills", [3, pytest.param(30, marks=pytest.mark.long)])
def test_kills_of_database_and_workers(
    own_database: PrivateMariaDB, tmp_path: Path, kills: int
) -> None:
    """At random moments, every third time the database and else one of two workers."""
    chance = random.Random(kills)
    user = User.objects.create_user("ada", workshop=Workshop.objects.create(name="Reed Lane"))
    build = short_demo(user, tmp_path, seconds=4.0)
    runs = [
        ask_for_run(user, RunIn(build_id=build.pk, seed=seed)) for seed in range(kills // 2 + 1)
    ]
    workers = Workers(own_database.environment(), LEASE_S)
    try:
        workers.start()
        workers.start()
        for number in range(kills):
            time.sleep(chance.uniform(0.3, 5.0))
            if number % 3 == 0:
                assert own_database.process is not None
                own_database.process.kill()
                own_database.process.wait()
                time.sleep(chance.uniform(0.0, 2.0))
                own_database.again()
            else:
                workers.kill(chance.randrange(2))
        wait_until_ended(runs, 300.0)
        _all_ended_as_if_undisturbed(runs, build)
    finally:
        workers.end()


@pytest.mark.long
def test_two_workers_share_the_runs(user: User, short_build: Build) -> None:
    """On one database; each run is carried out once, and none is thought lost meanwhile."""
    workers = Workers({"BILGE_DB_NAME": str(connection.settings_dict["NAME"])}, lease_s=10.0)
    workers.start()
    workers.start()
    runs = [ask_for_run(user, RunIn(build_id=short_build.pk, seed=seed)) for seed in range(12)]
    try:
        wait_until_ended(runs, 180.0)
    finally:
        workers.end()
    ended = Run.objects.filter(pk__in=[run.pk for run in runs])
    assert {run.status for run in ended} == {Run.FINISHED}
    assert {run.attempt for run in ended} == {1}
    assert len({run.worker for run in ended}) == 2
