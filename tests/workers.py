"""Worker processes on a test's database, and a short lap for them to run."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from django.db import DatabaseError, connection
from loads.services import store_lap
from runs.models import Run

from tests.conftest import DEMO, ROOT


def short_demo(user: User, folder: Path, seconds: float) -> Build:
    """The demo car over the first seconds of its lap."""
    path = folder / "short.csv"
    rows = 10 + round(50 * seconds)
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:rows]))
    lap = store_lap(user, "short", path, "short.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", lap)


class Workers:
    """Worker processes on a database; started again when they end, as the start command does."""

    def __init__(self, env: dict[str, str], lease_s: float) -> None:
        self._env = {**os.environ, **env, "BILGE_RUN_LEASE_S": str(lease_s)}
        self._processes: list[subprocess.Popen[bytes]] = []

    def start(self) -> None:
        self._processes.append(
            subprocess.Popen(
                [sys.executable, str(ROOT / "server" / "manage.py"), "work", "--cold"],
                env=self._env,
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
            )
        )

    def kill(self, which: int) -> None:
        """Kill one of them and start another in its place."""
        process = self._processes.pop(which)
        process.kill()
        process.wait()
        self.start()

    def end(self) -> None:
        for process in self._processes:
            process.kill()
            process.wait()


def _not_ended(runs: list[Run]) -> int:
    keys = [run.pk for run in runs]
    try:
        return Run.objects.filter(pk__in=keys, status__in=(Run.WAITING, Run.RUNNING)).count()
    except DatabaseError:  # it was killed a moment ago
        connection.close()
        return len(runs)


def wait_until_ended(runs: list[Run], seconds: float) -> None:
    until = time.monotonic() + seconds
    while left := _not_ended(runs):
        if time.monotonic() > until:
            pytest.fail(f"{left} runs have not ended")
        time.sleep(0.2)
