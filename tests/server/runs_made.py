"""What tests of runs share."""

from __future__ import annotations

from typing import Any

from builds.models import Build
from runs.models import Run
from runs.schemas import RunIn
from runs.tasks import carry_out

NO_WORKER = {"default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend", "QUEUES": []}}


def wanted(build: Build, **more: Any) -> RunIn:
    return RunIn(build_id=build.pk, **more)


def work(run: Run) -> Run:
    carry_out.call(run.pk)
    run.refresh_from_db()
    return run
