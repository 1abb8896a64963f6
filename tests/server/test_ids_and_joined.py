"""Parts keep their ids, and edits of different parts go on top of each other."""

from __future__ import annotations

import copy
import json
from concurrent.futures import ThreadPoolExecutor
from importlib import import_module
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.circuit.template import MOST_SLOTS
from bilge_core.document.ids import ids_of, last_number, with_ids, without_ids
from builds.models import Build, BuildState
from builds.schemas import ActIn, DocumentIn
from builds.selectors import build_out, plain_document
from builds.services import act, redo, replace_document, undo
from builds.states import add_build, checked_document
from config.errors import Conflict
from django.apps import apps
from django.db import connection

from tests.conftest import DEMO
from tests.server.conftest import UserFactory, figures
from tests.server.conftest import act as told_act

pytestmark = pytest.mark.django_db

Document = dict[str, Any]
VERSION_1 = Path(__file__).parents[1] / "documents" / "version-1"


@pytest.fixture
def shop() -> tuple[User, Build]:
    user = UserFactory()
    document = checked_document((DEMO / "dunlin-gated.json").read_bytes())
    return user, add_build(user, document, "from a file", None)


def shown(build: Build) -> BuildState:
    state = Build.objects.get(pk=build.pk).current
    assert state is not None
    return state


def with_boss(document: Document, name: str, **fields: Any) -> Document:
    boss = {
        "kind": "other", "name": name, "x_mm": 200, "y_mm": 0, "depth_mm": 20, "bore_mm": 12,
    }  # fmt: skip
    changed = copy.deepcopy(document)
    changed["pan"]["bosses"].append({**boss, **fields})
    return changed


def add_boss(user: User, build: Build, base: int, name: str, **fields: Any) -> Build:
    state = BuildState.objects.get(build=build, number=base)
    document = with_boss(plain_document(state), name, **fields)
    edit = DocumentIn(base_state=base, document=document, change=f"{name} added")
    return replace_document(user, build.pk, edit)


def type_in(user: User, build: Build, base: int, **typed: str) -> Build:
    rows = [{"field": field.replace("__", "."), "value": text} for field, text in typed.items()]
    return act(user, build.pk, ActIn.model_validate(told_act("figures", base, figures=rows)))


def bosses(state: BuildState) -> dict[str, str]:
    return {boss["name"]: boss["id"] for boss in state.document["pan"]["bosses"]}


def test_undo_then_add_gives_a_new_id(shop: tuple[User, Build]) -> None:
    user, build = shop
    add_boss(user, build, 1, "first")
    first = bosses(shown(build))["first"]
    undo(user, build.pk, 2)
    add_boss(user, build, 1, "second")
    assert bosses(shown(build))["second"] != first
    assert int(bosses(shown(build))["second"][1:]) == int(first[1:]) + 1


def test_redo_brings_the_same_part_back(shop: tuple[User, Build]) -> None:
    user, build = shop
    add_boss(user, build, 1, "first")
    before = shown(build).document
    undo(user, build.pk, 2)
    redo(user, build.pk, 1)
    assert shown(build).document == before


@pytest.mark.parametrize("made_up", ["b900", "b1", "nonsense"])
def test_the_server_gives_ids_nobody_else(shop: tuple[User, Build], made_up: str) -> None:
    user, build = shop
    last = last_number(shown(build).document)
    add_boss(user, build, 1, "new", id=made_up)
    assert bosses(shown(build))["new"] == f"b{last + 1}"


@pytest.mark.parametrize(("number", "given"), [(1_000_000, "z1000000"), (1_000_001, "z4")])
def test_ids_that_would_run_out_are_given_anew(
    api: Any, user: User, number: int, given: str
) -> None:
    document = checked_document((DEMO / "dunlin.json").read_bytes()).model_dump(mode="json")
    document["pan"]["zones"][0]["id"] = f"z{number}"
    status, told = api.upload("/builds/import", json.dumps(document).encode())
    assert status == 201
    assert told["document"]["pan"]["zones"][0]["id"] == given


def test_an_imported_build_keeps_its_ids_and_counts_on(shop: tuple[User, Build]) -> None:
    user, build = shop
    add_boss(user, build, 1, "first")
    document = checked_document(plain_document(shown(build)))
    twin = add_build(user, document, "from a file", None)
    assert shown(twin).document == shown(build).document
    assert twin.last_id == last_number(shown(build).document)


class TestTwoEditors:
    """Each began from state 1."""

    def test_two_parts_added_are_both_there(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        other = UserFactory(workshop=user.workshop)
        add_boss(other, build, 1, "theirs")
        add_boss(user, build, 1, "mine")
        state = shown(build)
        assert set(bosses(state)) >= {"mine", "theirs"}
        assert len(set(bosses(state).values())) == len(bosses(state))
        assert (state.number, state.parent.number, state.made_on.number) == (3, 2, 1)
        told = build_out(Build.objects.get(pk=build.pk)).joined
        assert told == f"Meanwhile, by others: theirs added ({other.username}). Yours is on top."

    def test_figures_of_different_parts(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        type_in(user, build, 1, oil__volume_l="7")
        type_in(user, build, 1, oil__temperature_c="99", pickup__gap_mm="9")
        document = shown(build).document
        assert (document["oil"]["volume_l"], document["oil"]["temperature_c"]) == (7.0, 99.0)
        undo(user, build.pk, 3)
        assert shown(build).document["oil"]["volume_l"] == 7.0

    def test_one_figure_is_kept_aside(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        type_in(user, build, 1, oil__volume_l="7")
        with pytest.raises(Conflict) as refused:
            type_in(user, build, 1, oil__volume_l="8", oil__temperature_c="99")
        aside = BuildState.objects.get(build=build, number=3)
        assert (refused.value.kept_state, aside.aside, aside.parent.number) == (3, True, 1)
        assert shown(build).number == 2

    def test_what_does_not_hold_together_is_kept_aside(self, shop: tuple[User, Build]) -> None:
        """Each alone is right; with both, the mouth's edge is outside the pan."""
        user, build = shop
        sump = shown(build).document["pickup"]["x_mm"]
        type_in(user, build, 1, pickup__x_mm=f"{sump + 60}")
        with pytest.raises(Conflict):
            type_in(user, build, 1, pickup__mouth__diameter_mm="150")
        assert shown(build).number == 2

    def test_on_a_build_that_was_taken_back(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        type_in(user, build, 1, oil__volume_l="7")
        undo(user, build.pk, 2)
        type_in(user, build, 2, oil__temperature_c="99")
        state = shown(build)
        assert (state.number, state.parent.number) == (3, 1)
        assert state.document["oil"]["volume_l"] != 7.0
        assert build_out(Build.objects.get(pk=build.pk)).joined == (
            "The build was taken back to state 1 meanwhile; yours is on it."
        )

    def test_nothing_is_said_of_an_edit_alone(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        assert build_out(type_in(user, build, 1, oil__volume_l="7")).joined is None
        assert build_out(undo(user, build.pk, 2)).joined is None


@pytest.mark.django_db(transaction=True)
def test_eight_parts_added_at_once(shop: tuple[User, Build]) -> None:
    user, build = shop

    def add(number: int) -> None:
        try:
            add_boss(user, build, 1, f"boss {number}")
        finally:
            connection.close()

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(add, range(8), timeout=60))
    ids = bosses(shown(build))
    assert {f"boss {number}" for number in range(8)} <= set(ids)
    assert len(set(ids.values())) == len(ids)


class TestFiguresById:
    """A path leads through a list of parts by id."""

    def test_a_part_is_found_wherever_it_stands(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        plates = shown(build).document["pan"]["plates"]
        gate = plates[1]["openings"][0]
        field = f"pan.plates.{plates[1]['id']}.openings.{gate['id']}.gate.leak_pct"
        type_in(user, build, 1, **{field.replace(".", "__"): "7 %"})
        changed = shown(build)
        assert changed.document["pan"]["plates"][1]["openings"][0]["gate"]["leak_pct"] == 7.0
        assert changed.change == "G1: leak to 7 %"

    def test_a_zone_is_told_by_its_name(self, shop: tuple[User, Build]) -> None:
        user, build = shop
        zone = shown(build).document["pan"]["zones"][0]
        type_in(user, build, 1, **{f"pan__zones__{zone['id']}__floor__depth_mm": "150"})
        assert shown(build).change.startswith(f"{zone['name']}: depth")

    @pytest.mark.parametrize("field", ["pan.zones.z999.name", "pan.plates.z4.name"])
    def test_no_such_part(self, api: Any, short_build: Build, field: str) -> None:
        status, told = api("POST", f"/builds/{short_build.pk}/acts", figures(field, "x"))
        assert (status, told["problems"][0]["field"]) == (422, field)

    def test_an_id_is_no_figure(self, api: Any, short_build: Build) -> None:
        zone = short_build.current.document["pan"]["zones"][0]["id"]
        edit = figures(f"pan.zones.{zone}.id", "z77")
        status, told = api("POST", f"/builds/{short_build.pk}/acts", edit)
        assert status == 422
        assert "cannot be changed" in told["problems"][0]["message"]


def test_states_of_before_are_given_ids_that_last(shop: tuple[User, Build]) -> None:
    """As the migration does it: a part keeps its id from state to state and over a branch."""
    user, build = shop
    add_boss(user, build, 1, "first")
    undo(user, build.pk, 2)
    add_boss(user, build, 1, "second")
    type_in(user, build, 3, pan__bosses__0__name="plug of ours")
    old = json.loads((VERSION_1 / "dunlin.json").read_text())
    for state in build.states.all():
        state.document = {**old, "pan": without_ids(state.document["pan"])}
        state.save()
    Build.objects.update(last_id=0)
    import_module("builds.migrations.0004_ids").give_ids(apps, None)
    documents = {state.number: state.document for state in build.states.all()}
    first = ids_of(documents[1])
    assert {document["version"] for document in documents.values()} == {2}
    for document in documents.values():
        assert ids_of(document).keys() >= first.keys()
        checked_document(document)
    renamed = documents[4]["pan"]["bosses"][0]
    assert (renamed["name"], renamed["id"]) == (
        "plug of ours",
        documents[1]["pan"]["bosses"][0]["id"],
    )
    assert documents[2]["pan"]["bosses"][-1]["id"] != documents[3]["pan"]["bosses"][-1]["id"]
    assert Build.objects.get(pk=build.pk).last_id == last_number(documents[3])


def test_states_of_before_are_given_a_circuit_of_one_set_of_ids(shop: tuple[User, Build]) -> None:
    """As the migration does it; ids of its slots go to no part that comes later."""
    user, build = shop
    add_boss(user, build, 1, "first")
    old = json.loads((VERSION_1 / "dunlin.json").read_text())
    for state in build.states.all():
        pan = state.document["pan"]
        state.document = with_ids({**old, "version": 2, "pan": pan})[0]
        state.save()
    Build.objects.update(last_id=20)
    import_module("builds.migrations.0008_circuit").give_circuits(apps, None)
    documents = {state.number: state.document for state in build.states.all()}
    assert {document["version"] for document in documents.values()} == {3}
    names = [
        {each["id"]: each["name"] for each in document["circuit"]["components"]}
        for document in documents.values()
    ]
    assert names[0] == names[1]
    build.refresh_from_db()
    assert build.last_id == MOST_SLOTS
    add_boss(user, build, 2, "second")
    newest = build.states.order_by("-number")[0].document
    assert newest["pan"]["bosses"][-1]["id"] == f"b{MOST_SLOTS + 1}"
