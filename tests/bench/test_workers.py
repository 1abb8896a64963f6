"""Twelve runs by one worker and by two, on one database."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from accounts.models import User, Workshop
from django.db import connection
from runs.models import Run
from runs.schemas import RunIn
from runs.services import ask_for_run

from tests.workers import Workers, short_demo, wait_until_ended

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.mark.parametrize("count", [1, 2])
def test_twelve_runs(benchmark: Any, tmp_path: Path, count: int) -> None:
    user = User.objects.create_user("ada", workshop=Workshop.objects.create(name="Reed Lane"))
    build = short_demo(user, tmp_path, seconds=12.0)
    workers = Workers({"BILGE_DB_NAME": str(connection.settings_dict["NAME"])}, lease_s=20.0)

    def twelve(first: int, runs: int) -> None:
        asked = [
            ask_for_run(user, RunIn(build_id=build.pk, seed=seed))
            for seed in range(first, first + runs)
        ]
        wait_until_ended(asked, 600.0)

    try:
        for _ in range(count):
            workers.start()
        twelve(900, 2 * count)  # each has loaded what it needs
        benchmark.pedantic(twelve, args=(0, 12), rounds=1, iterations=1)
    finally:
        workers.end()
    ended = Run.objects.filter(seed__lt=12)
    assert {run.status for run in ended} == {Run.FINISHED}
    assert len({run.worker for run in ended}) == count
