"""Made from the API's own description: a new call is covered the day it is made."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.photos import add_photo
from config.api import api as described
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client
from hypothesis import find
from hypothesis.strategies import from_regex
from loads.models import Lap, LogUpload
from loads.uploads import receive_log
from runs.models import Run
from runs.schemas import RunIn
from runs.services import ask_for_run

from tests.conftest import DEMO
from tests.server.conftest import Api, UserFactory, picture

SCHEMA = json.loads(json.dumps(described.get_openapi_schema(), default=str))
OPEN = {"get_session", "sign_in", "health", "accept_invitation", "look_at_invitation"}
"""What works without being signed in."""


def calls() -> Iterator[Any]:
    for path, methods in SCHEMA["paths"].items():
        for method, operation in methods.items():
            name = operation["operationId"]
            yield pytest.param(method.upper(), path, operation, id=name)


CALLS = list(calls())


def resolved(schema: dict[str, Any]) -> dict[str, Any]:
    while "$ref" in schema:
        schema = SCHEMA["components"]["schemas"][schema["$ref"].rsplit("/", 1)[-1]]
    return schema


def example(schema: dict[str, Any], name: str, ids: dict[str, Any]) -> Any:
    """A value that fits a schema, with another workshop's ids where it asks for ids."""
    schema = resolved(schema)
    one_of = next((schema[word] for word in ("anyOf", "oneOf", "allOf") if word in schema), None)
    if name in ids:
        return ids[name]
    if "enum" in schema or "const" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    if one_of is not None:
        return example(one_of[0], name, ids)
    return plain_example(schema, name, ids)


def plain_example(schema: dict[str, Any], name: str, ids: dict[str, Any]) -> Any:
    kind = schema.get("type")
    if kind == "object":
        required = schema.get("required", [])
        return {key: example(schema["properties"][key], key, ids) for key in required}
    if kind == "array":
        many = schema.get("minItems", 0)
        of = schema.get("prefixItems") or [schema.get("items")] * many
        return [example(each, name, ids) for each in of]
    if kind in {"integer", "number"}:
        return schema.get("minimum", schema.get("exclusiveMinimum", 0) + 1)
    if kind == "boolean":
        return True
    if name not in WORDS and "pattern" in schema:
        return find(from_regex(schema["pattern"], fullmatch=True), lambda _: True)
    return WORDS.get(name, "x" * max(1, schema.get("minLength", 1)))


WORDS = {
    "typed": "6", "depth": "100", "shelf": "50", "width": "20",
    "spacing": "60", "hole": "6", "thickness": "6", "template": "flat-six",
}  # fmt: skip


def body_of(operation: dict[str, Any], ids: dict[str, Any]) -> dict[str, Any]:
    """What the test client sends: JSON, or a form with a file."""
    content = operation.get("requestBody", {}).get("content", {})
    if "multipart/form-data" in content:
        return {"data": {"file": SimpleUploadedFile("file.csv", b"x")}}
    if "application/json" in content:
        value = example(content["application/json"]["schema"], "", ids)
        return {"data": json.dumps(value), "content_type": "application/json"}
    return {}


def call(client: Client, method: str, path: str, operation: Any, ids: dict[str, Any]) -> int:
    query = {
        each["name"]: example(each["schema"], each["name"], ids)
        for each in operation.get("parameters", [])
        if each["in"] == "query" and each.get("required")
    }
    sent = body_of(operation, ids)
    if method == "GET":
        return client.get(path.format(**ids), query).status_code
    return getattr(client, method.lower())(path.format(**ids), **sent).status_code  # type: ignore[no-any-return]


@pytest.fixture
def ids(user: User, build: Build, lap: Lap) -> dict[str, Any]:
    """Of things in a workshop, by the names that paths and bodies have for them."""
    log: LogUpload = receive_log(
        user, SimpleUploadedFile("log.csv", (DEMO / "saltmarsh.csv").read_bytes())
    )
    run: Run = ask_for_run(user, RunIn(build_id=build.pk))
    photo = add_photo(user, build.pk, SimpleUploadedFile("p.png", picture()))  # type: ignore[arg-type]
    return {
        "build_id": build.pk, "lap_id": lap.pk, "file_id": log.pk, "run_id": run.pk,
        "token": photo.token, "view": "side", "form": "stl",
        "base_state": 1, "state": 1, "at_mm": 0,
        "user_id": user.pk, "invitation_id": 1, "sign_in_id": 1, "secret": "none",
        "key": "oil", "what": "pickup", "session_id": "s1", "lap_number": 0, "dip_number": 0,
        "trial_id": "h1", "learning_id": 1,
    }  # fmt: skip


NAMES_A_THING = (
    "build_id",
    "lap_id",
    "file_id",
    "run_id",
    "user_id",
    "sign_in_id",
    "invitation_id",
)


def rows() -> tuple[int, ...]:
    counted: tuple[Any, ...] = (Build, Lap, LogUpload, Run, User)
    return tuple(model.objects.count() for model in counted)


def each_call() -> Iterator[tuple[str, str, Any]]:
    """Every call, what the one before wrote taken back: things to call are made once."""
    for param in CALLS:
        method, path, operation = param.values
        with transaction.atomic():
            yield method, path, operation
            transaction.set_rollback(True)


def test_nobody_who_is_not_signed_in_gets_an_answer(ids: dict[str, Any]) -> None:
    said = {
        operation["operationId"]: call(Client(), method, path, operation, ids)
        for method, path, operation in each_call()
        if operation["operationId"] not in OPEN
    }
    assert {name: status for name, status in said.items() if status != 401} == {}
    assert len(said) > 100


def test_nothing_is_written_without_the_pages_token(user: User, ids: dict[str, Any]) -> None:
    client = Client(enforce_csrf_checks=True)
    client.force_login(user)
    before = rows()
    wrong = {}
    for method, path, operation in each_call():
        status = call(client, method, path, operation, ids)
        is_right = status != 403 if method == "GET" else status == 403 and rows() == before
        if not is_right:
            wrong[operation["operationId"]] = status
    assert wrong == {}


def names_a_thing(path: str, operation: Any) -> bool:
    """Whether a call asks for something that a workshop has."""
    asks = f"{path} {json.dumps(operation.get('requestBody', {}))}"
    reference = operation.get("requestBody", {}).get("content", {}).get("application/json", {})
    fields = resolved(reference.get("schema", {})).get("required", [])
    return any(f"{{{name}}}" in asks or name in fields for name in NAMES_A_THING)


def test_a_stranger_finds_nothing_of_this_workshop(ids: dict[str, Any]) -> None:
    stranger = Api(UserFactory()).client
    before = rows()
    wrong, asked = {}, 0
    for method, path, operation in each_call():
        if not names_a_thing(path, operation):
            continue
        asked += 1
        status = call(stranger, method, path, operation, ids)
        if status != 404 or rows() != before:
            wrong[operation["operationId"]] = status
    assert wrong == {}
    assert asked > 80


def test_every_call_names_its_refusals_and_itself() -> None:
    names = [param.values[2]["operationId"] for param in CALLS]
    assert len(names) == len(set(names)) > 40
    for param in CALLS:
        method, _, operation = param.values
        said = {int(status) for status in operation["responses"]}
        assert {400, 503} <= said
        if operation["operationId"] not in OPEN:
            assert 401 in said
        if method != "GET":
            assert {403, 413} <= said


def test_answers_are_kept_by_nobody_but_the_browser(api: Api, build: Build) -> None:
    answer = api.client.get(f"/api/builds/{build.pk}")
    assert answer.headers["Cache-Control"] == "private, no-cache"
