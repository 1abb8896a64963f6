"""Requests made up from the API's description by schemathesis: no server error, all documented."""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from accounts.models import User
from builds.models import Build
from config.api import api
from hypothesis import HealthCheck, settings
from loads.models import Lap
from runs.schemas import RunIn
from runs.services import ask_for_run
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.server.conftest import Api

pytestmark = [pytest.mark.long, pytest.mark.django_db(transaction=True)]

CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_schema_conformance,
]
schema: Any = schemathesis.openapi.from_dict(api.get_openapi_schema())


class SignedIn:
    """What every request carries, and ids of things that are there."""

    def __init__(self, user: User, build: Build, lap: Lap) -> None:
        client = Api(user).client
        client.get("/")  # the page's token
        self.cookies = {name: morsel.value for name, morsel in client.cookies.items()}
        self.headers = {"X-CSRFToken": self.cookies["csrftoken"]}
        run = ask_for_run(user, RunIn(build_id=build.pk))
        self.ids = {"build_id": build.pk, "lap_id": lap.pk, "run_id": run.pk}


@pytest.fixture
def signed_in(user: User, build: Build, lap: Lap) -> SignedIn:
    return SignedIn(user, build, lap)


@schema.parametrize()
@settings(
    max_examples=40,
    deadline=None,
    suppress_health_check=list(HealthCheck),
)
def test_every_call_answers_as_described(case: Any, signed_in: SignedIn, live_server: Any) -> None:
    for name, there in signed_in.ids.items():  # half of the time something that is there
        for part in (case.path_parameters, case.body):
            if isinstance(part, dict) and isinstance(part.get(name), int) and part[name] % 2 == 0:
                part[name] = there
    case.call_and_validate(
        base_url=live_server.url,
        cookies=signed_in.cookies,
        headers=signed_in.headers,
        checks=CHECKS,
    )
