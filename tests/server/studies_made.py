"""What tests of studies share."""

from __future__ import annotations

from typing import Any

from accounts.models import User
from bilge_core.options.remedies import remedies
from builds.models import Build
from builds.selectors import document_of
from runs.models import Run
from runs.tasks import carry_out
from studies import services
from studies.models import Study
from studies.schemas import StudyIn
from studies.tasks import work_on

KEPT = ("oil_1", "outside_return")
"""One in windows, one on the record: enough for what is not the physics."""


def wanted(build: Build, **more: Any) -> StudyIn:
    keys = [each.key for each in remedies(document_of(build))]
    return StudyIn(**{"off": [key for key in keys if key not in KEPT], **more})


def asked(user: User, build: Build, **more: Any) -> Study:
    return services.ask_for_study(user, build.pk, wanted(build, **more))


def run_the_base(build: Build) -> None:
    for run in Run.objects.filter(build=build, status=Run.WAITING):
        carry_out.call(run.pk)


def worked(user: User, build: Build, **more: Any) -> Study:
    study = asked(user, build, **more)
    run_the_base(build)
    work_on.call(study.pk)
    study.refresh_from_db()
    return study
