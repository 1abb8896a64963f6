"""Build documents of any kind uploaded: kept whole and shown, or refused in words and not kept."""

from __future__ import annotations

import copy
import json
from typing import Any

import pytest
from builds.models import Build, BuildState
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.test_properties import LEAVES, VALUES, spoiled
from tests.server.conftest import Api

pytestmark = pytest.mark.django_db

UNFIT = [HealthCheck.function_scoped_fixture, HealthCheck.too_slow]
DOCUMENTS = st.dictionaries(st.sampled_from(LEAVES), VALUES, min_size=1, max_size=5)


def upload(api: Api, data: bytes) -> int | None:
    """The build's number, None when it was refused; nothing is half-saved either way."""
    status, told = api.upload("/builds/import", data)
    assert status in {201, 422}, told
    if status == 422:
        assert told["problems"]
        assert all(problem["field"] and problem["message"] for problem in told["problems"])
        assert not Build.objects.exists()
        assert not BuildState.objects.exists()
        return None
    assert Build.objects.get().current is not None
    return int(told["id"])


def as_json(document: Any) -> bytes:
    return json.dumps(document).encode()  # NaN and Infinity as Python writes them: not JSON


@settings(max_examples=40, deadline=None, suppress_health_check=UNFIT)
@given(DOCUMENTS)
def test_any_document_is_kept_and_shown_or_refused(api: Api, changes: dict[Any, Any]) -> None:
    build = upload(api, as_json(spoiled(changes)))
    if build is None:
        return
    for path in (f"/stages/slosh/{build}", f"/stages/pan/{build}", f"/builds/{build}"):
        assert api("GET", path)[0] == 200, path
    assert api("DELETE", f"/builds/{build}")[0] == 204


@settings(max_examples=40, deadline=None, suppress_health_check=UNFIT)
@given(st.integers(0, 6000), st.binary(max_size=20))
def test_any_torn_file_is_refused(api: Api, cut: int, junk: bytes) -> None:
    whole = as_json(spoiled({}))
    build = upload(api, whole[:cut] + junk)
    if build is not None:
        assert api("DELETE", f"/builds/{build}")[0] == 204


@pytest.mark.parametrize(
    "data", [b"", b"null", b"[]", b'"x"', b"{" * 5000, b"[" * 100_000, b"\xff\xfe{}", b"1e999"]
)
def test_what_is_no_document(api: Api, data: bytes) -> None:
    assert upload(api, data) is None


def test_a_document_with_everything_twice_is_refused_or_kept(api: Api) -> None:
    document = copy.deepcopy(spoiled({}))
    document["pan"]["bosses"] *= 10
    document["car"]["keep_outs"] *= 5
    build = upload(api, as_json(document))
    assert build is not None
    assert api("GET", f"/stages/pan/{build}")[0] == 200


@pytest.mark.long
@settings(max_examples=10_000, deadline=None, suppress_health_check=UNFIT)
@given(DOCUMENTS)
def test_ten_thousand_documents_uploaded(api: Api, changes: dict[Any, Any]) -> None:
    build = upload(api, as_json(spoiled(changes)))
    if build is not None:
        assert api("DELETE", f"/builds/{build}")[0] == 204
