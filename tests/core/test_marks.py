"""Work and knowledge: every field has one mark, and differences are of work alone."""

from __future__ import annotations

import copy
from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.ids import ids_of
from bilge_core.document.marks import MARKS, differences, mark_of, with_knowledge
from bilge_core.document.read import read_build
from bilge_core.tell.differences import differences_out

from tests.conftest import DEMO
from tests.core.test_ids import whole
from tests.core.test_reach import DOCUMENTS, leaves

Document = dict[str, Any]
DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def test_every_field_is_marked_once() -> None:
    for document in DOCUMENTS:
        for path, _ in leaves(document):
            field = ".".join(path)
            marked = [each for each in MARKS if field == each or field.startswith(f"{each}.")]
            assert len(marked) == 1, field
            assert mark_of(field) in ("work", "knowledge", "label")


def edited(*changes: tuple[str, Any]) -> Document:
    document = copy.deepcopy(whole())
    for path, value in changes:
        *way, last = path.split(".")
        holder: Any = document
        for key in way:
            holder = holder[int(key)] if isinstance(holder, list) else holder[key]
        holder[int(last) if isinstance(holder, list) else last] = value
    return document


def test_knowledge_is_no_difference() -> None:
    after = edited(
        ("car.rail_height_mm", 199.0), ("oil.away_l", 1.4), ("name", "other"),
        ("circuit.components.4.holds_l", 0.9), ("circuit.components.4.assumed", True),
        ("circuit.components.5.bearings", None),
    )  # fmt: skip
    assert differences(whole(), after) == ()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (("pickup.gap_mm", 9.5), "mouth's gap: 8 mm to 9.5 mm"),
        (("oil.grade", "10W-60"), "oil grade: 5W-40 to 10W-60"),
        (("pan.zones.0.floor.depth_mm", 150.0), "sump, depth: 140 mm to 150 mm"),
        (("pan.zones.0.outline_mm", [[0, 0]]), "sump, outline: changed"),
        (("pan.plates.0.openings.0.gate.swings", "left"), "G1, swings: right to left"),
        (("pan.plates.0.openings.0.gate", None), "G1 (gate): taken out"),
        (("pan.plates.0.openings", []), "G1: taken out"),
        (("pan.bosses.0.blocked", True), "drain, blocked: no to yes"),
        (("pan.flange", None), "pan's flange"),
        (("circuit.components.3.opens_bar", 4.0), "relief valve, opening: 5 bar to 4 bar"),
        (("circuit.components.2.low_stage", None), "oil pump (low stage): taken out"),
        (("circuit.runs.1.line.bore_mm", 22.0), "pickup tube, bore: 19 mm to 22 mm"),
        (("circuit.runs.1.end.age", "new"), "pickup tube, age: reused to new"),
    ],
)
def test_a_difference_in_words(change: tuple[str, Any], words: str) -> None:
    told = [each.words for each in differences_out(whole(), edited(change))]
    if change[1] is None and change[0] == "pan.flange":
        assert told and all(each.endswith(("taken out", "none")) for each in told)
    else:
        assert told == [words]


def test_a_part_is_followed_by_its_id() -> None:
    after = copy.deepcopy(whole())
    after["pan"]["zones"].reverse()
    after["pan"]["zones"][2]["draft_deg"] = 5.0
    (only,) = differences(whole(), after)
    assert only.path == f"pan.zones.{whole()['pan']['zones'][0]['id']}.draft_deg"


class TestKnowledgeCarried:
    """Into the state that the car is in."""

    def test_what_was_found_out_and_nothing_else(self) -> None:
        mine = edited(("car.rail_height_mm", 222.0), ("pickup.gap_mm", 9.5))
        as_is = edited(("pickup.gap_mm", 6.0), ("oil.volume_l", 5.0))
        told = with_knowledge(whole(), mine, as_is)
        assert told == {**as_is, "car": {**as_is["car"], "rail_height_mm": 222.0}}

    def test_where_it_was_known_otherwise_the_last_holds(self) -> None:
        mine = edited(("car.rail_height_mm", 222.0))
        as_is = edited(("car.rail_height_mm", 180.0), ("car.lean_right_deg", 9.0))
        told = with_knowledge(whole(), mine, as_is)
        assert told["car"]["rail_height_mm"] == 222.0
        assert told["car"]["lean_right_deg"] == 9.0

    def test_a_keep_out_comes_beside_those_there(self) -> None:
        mine, as_is = copy.deepcopy(whole()), copy.deepcopy(whole())
        first = whole()["car"]["keep_outs"][0]
        mine["car"]["keep_outs"].append({**first, "id": "k90"})
        as_is["car"]["keep_outs"].append({**first, "id": "k80"})
        names = ids_of(with_knowledge(whole(), mine, as_is))
        assert {"k80", "k90"} <= names.keys()

    def test_what_a_component_holds_where_the_car_has_it(self) -> None:
        """By its id; what it is built of is not carried, nor the sum of the planned state."""
        mine = edited(
            ("circuit.components.4.holds_l", 0.9), ("circuit.components.4.bypass_bar", 1.1)
        )
        mine["oil"]["away_l"] = 3.3
        as_is = copy.deepcopy(whole())
        as_is["circuit"]["components"].reverse()
        told = with_knowledge(whole(), mine, as_is)
        part = next(each for each in told["circuit"]["components"] if each["kind"] == "filter")
        assert (part["holds_l"], part["bypass_bar"]) == (0.9, None)
        assert told["oil"] == as_is["oil"]

    def test_of_a_component_that_the_car_has_not_nothing_is_known_there(self) -> None:
        mine, as_is = edited(("circuit.components.4.holds_l", 0.9)), copy.deepcopy(whole())
        del as_is["circuit"]["components"][4]
        assert with_knowledge(whole(), mine, as_is) == as_is

    def test_a_new_component_that_holds_oil_is_no_knowledge_of_the_car(self) -> None:
        mine = copy.deepcopy(whole())
        mine["circuit"]["components"].append(
            {**mine["circuit"]["components"][4], "id": "c900", "holds_l": 0.6}
        )
        assert with_knowledge(whole(), mine, whole()) == whole()

    def test_what_is_fitted_changes_nothing_in_the_car_as_it_is(self) -> None:
        """A cooler planned, filled up and counted at the mark: the car has none yet."""
        before = DUNLIN.model_dump(mode="json")
        act = read_act({"kind": "fit_cooler", "holds_l": 0.6})
        after = act.done(DUNLIN).build.model_dump(mode="json")
        assert with_knowledge(before, after, before) == before
        told = [each.words for each in differences_out(before, after)]
        assert told == [
            "oil in the engine: 6.2 L to 6.758 L", "oil at the mark: 6.2 L to 6.758 L",
            "oil cooler: new", "line, from the cooler: joined elsewhere",
            "line, from the cooler 2: new",
        ]  # fmt: skip

    def test_the_total_typed_is_carried_while_nothing_is_told_apart(self) -> None:
        def bare(litres: float) -> Document:
            document = edited(("oil.away_l", litres))
            for each in document["circuit"]["components"]:
                each["holds_l"] = None
            return document

        assert with_knowledge(bare(1.0), bare(1.4), bare(1.0))["oil"]["away_l"] == 1.4

    def test_work_alone_changes_nothing(self) -> None:
        as_is = edited(("oil.volume_l", 5.0))
        assert with_knowledge(whole(), edited(("pickup.gap_mm", 9.5)), as_is) == as_is
