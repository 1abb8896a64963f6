"""Edits at the same moment, on the real database: none is lost, none overwrites another."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build, BuildState
from builds.schemas import ActIn, MoveIn, RevisionIn
from builds.services import act, name_revision, redo, undo
from builds.states import add_build, checked_document
from config.errors import Conflict
from django.db import connection

from tests.conftest import DEMO
from tests.server.conftest import UserFactory, figures

pytestmark = pytest.mark.django_db(transaction=True)

EDITORS = 8


@pytest.fixture
def shop() -> tuple[User, Build]:
    user = UserFactory()
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return user, add_build(user, document, "from a file", None)


def edit(user: User, build: Build, litres: float, base: int) -> int | None:
    """Number of the state in which the edit is kept aside, or None when it is the one shown."""
    wanted = figures("oil.volume_l", f"{litres} L", base)
    try:
        act(user, build.pk, ActIn.model_validate(wanted))
    except Conflict as conflict:
        return conflict.kept_state
    finally:
        connection.close()
    return None


def test_eight_edits_of_one_state_at_once(shop: tuple[User, Build]) -> None:
    user, build = shop
    with ThreadPoolExecutor(EDITORS) as pool:
        kept = list(
            pool.map(lambda k: edit(user, build, 6.5 + k / 10, 1), range(EDITORS), timeout=60)
        )
    assert kept.count(None) == 1  # one of them is shown
    assert len(set(kept)) == EDITORS  # and each of the others is a state of its own
    states = list(BuildState.objects.filter(build=build).order_by("number"))
    assert [state.number for state in states] == list(range(1, EDITORS + 2))
    assert [state.aside for state in states].count(True) == EDITORS - 1
    poured = {state.document["oil"]["volume_l"] for state in states[1:]}
    assert poured == {round(6.5 + k / 10, 1) for k in range(EDITORS)}
    shown = Build.objects.get(pk=build.pk).current
    assert shown is not None
    assert shown.number - 2 in range(EDITORS)
    assert not shown.aside


def test_undo_against_an_edit_at_once(shop: tuple[User, Build]) -> None:
    """Whoever comes first, the history is a tree and the one shown is in it."""
    user, build = shop
    assert edit(user, build, 7.0, 1) is None

    def step_back(_: Any) -> str:
        try:
            undo(user, build.pk, 2)
        except Conflict:
            return "refused"
        finally:
            connection.close()
        return "undone"

    with ThreadPoolExecutor(2) as pool:
        back = pool.submit(step_back, None)
        forth = pool.submit(edit, user, build, 8.0, 2)
        said, kept = back.result(60), forth.result(60)
    newest = BuildState.objects.get(build=build, number=3)
    assert newest.document["oil"]["volume_l"] == 8.0
    shown = Build.objects.get(pk=build.pk).current
    assert shown is not None
    if said == "refused":  # the edit came first
        assert (kept, shown.number) == (None, 3)
    else:
        assert (kept, shown.number) == (3, 1)


def test_two_names_for_one_state_leave_one_revision(shop: tuple[User, Build]) -> None:
    user, build = shop

    def name(words: str) -> None:
        try:
            name_revision(user, build.pk, RevisionIn(base_state=1, name=words))
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(name, ["a", "b", "c", "d"], timeout=60))
    revision = build.revisions.get()
    assert revision.number == 1
    assert revision.name in {"a", "b", "c", "d"}


def test_redo_goes_where_undo_came_from(shop: tuple[User, Build]) -> None:
    user, build = shop
    for k in range(4):
        assert edit(user, build, 7.0 + k, k + 1) is None
    for number in (5, 4, 3, 2):
        undo(user, build.pk, MoveIn(base_state=number).base_state)
    for number in (1, 2, 3, 4):
        redo(user, build.pk, number)
    shown = Build.objects.get(pk=build.pk).current
    assert shown is not None
    assert shown.number == 5
    with pytest.raises(Conflict, match="nothing to do again"):
        redo(user, build.pk, 5)
