"""Two workshops with a user each, clients signed in, and files to upload."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import factory
import pytest
from accounts.models import User, Workshop
from builds.models import Build
from builds.states import add_build, checked_document
from django.core.cache import caches
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from loads.models import Lap
from loads.services import store_lap
from PIL import Image

from tests.conftest import DEMO
from tests.emptied import no_permissions_anew  # noqa: F401


class WorkshopFactory(factory.django.DjangoModelFactory):
    class Meta:
        model = Workshop

    name = factory.Sequence(lambda n: f"workshop {n}")


class UserFactory(factory.django.DjangoModelFactory):
    class Meta:
        model = User
        skip_postgeneration_save = True

    username = factory.Sequence(lambda n: f"builder{n}")
    workshop = factory.SubFactory(WorkshopFactory)
    password = factory.django.Password("bearing-shell-9")


@pytest.fixture(autouse=True)
def quick_passwords(settings: Any) -> None:
    """The real hasher is slow on purpose; here it would only be slow."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture(autouse=True)
def uploads_apart(settings: Any, tmp_path: Path) -> None:
    """Uploaded files of a test go where the test goes."""
    settings.UPLOADS = str(tmp_path / "uploads")


@pytest.fixture
def user(db: None) -> User:
    return UserFactory()  # type: ignore[no-any-return]


@pytest.fixture
def stranger(db: None) -> User:
    return UserFactory()  # type: ignore[no-any-return]


@pytest.fixture
def lap(user: User) -> Lap:
    return store_lap(user, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")


@pytest.fixture
def build(user: User, lap: Lap) -> Build:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", lap)


class Api:
    """A signed-in client that speaks JSON."""

    def __init__(self, user: User | None) -> None:
        self.client = Client()
        if user:
            self.client.force_login(user)

    def __call__(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        answer = self.client.generic(
            method,
            f"/api{path}",
            json.dumps(body) if body is not None else "",
            content_type="application/json",
        )
        told = json.loads(answer.content) if answer.content else None
        return answer.status_code, told

    def upload(self, path: str, data: bytes, **fields: str) -> tuple[int, Any]:
        file = SimpleUploadedFile("file.csv", data)
        answer = self.client.post(f"/api{path}", {"file": file, **fields})
        return answer.status_code, json.loads(answer.content)


def fields(told: dict[str, Any]) -> list[str]:
    """The fields that a refusal names."""
    return [problem["field"] for problem in told["problems"]]


def act(kind: str, base: int = 1, system: str = "metric", **given: Any) -> dict[str, Any]:
    """An act on a state."""
    return {"base_state": base, "system": system, "act": {"kind": kind, **given}}


def figures(field: str, typed: str, base: int = 1, system: str = "metric") -> dict[str, Any]:
    """An act on one figure."""
    return act("figures", base, system, figures=[{"field": field, "value": typed}])


@pytest.fixture(autouse=True)
def nothing_kept() -> None:
    """Answers kept for one test's rows are not another's, whose keys may be the same."""
    caches["forecasts"].clear()


@pytest.fixture
def api(user: User) -> Api:
    return Api(user)


@pytest.fixture
def other_api(stranger: User) -> Api:
    return Api(stranger)


@pytest.fixture
def anonymous() -> Api:
    return Api(None)


def picture(width: int = 40, height: int = 30, kind: str = "PNG", **more: Any) -> bytes:
    """A picture file."""
    made = io.BytesIO()
    Image.new("RGB", (width, height), (200, 150, 40)).save(made, kind, **more)
    return made.getvalue()


@pytest.fixture
def short_build(user: User, tmp_path: Any) -> Build:
    """The gated demo car over six seconds of its lap."""
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:320]))
    lap = store_lap(user, "short", path, "short.csv")
    document = checked_document((DEMO / "dunlin-gated.json").read_bytes())
    return add_build(user, document, "from a file", lap)


@pytest.fixture
def plain_build(user: User, short_build: Build) -> Build:
    """The demo car as raced over six seconds of its lap."""
    assert short_build.lap is not None
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", short_build.lap)
