"""Ids of parts, documents of version 1, and two people's edits laid on top of each other."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

import pytest
from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.ids import (
    LETTERS,
    ids_of,
    is_id,
    last_number,
    parts_with_ids,
    with_ids,
    without_ids,
)
from bilge_core.document.merge import merged
from bilge_core.document.read import build_from, read_build, write_build
from bilge_core.document.upgrade import with_ids_of
from bilge_core.errors import InvalidInput
from hypothesis import given
from hypothesis import strategies as st

from tests.everything import everything

Document = dict[str, Any]
OLD = sorted((Path(__file__).parents[1] / "documents").glob("version-*/*.json"))
TODAY = OLD[-1].parent, Path("core/bilge_core/document/templates")


def whole() -> Document:
    return build_from(everything()).model_dump(mode="json")


def of_version_2() -> Document:
    return with_ids(everything())[0]


def test_everything_that_can_have_an_id_gets_one_of_its_own() -> None:
    document = whole()
    letters = {part["id"][0] for _, _, part in parts_with_ids(document)}
    assert letters == set(LETTERS.values())
    assert len(ids_of(document)) == len(list(parts_with_ids(document))) == 13 + 25


def test_ids_are_given_where_the_schema_has_them_and_nowhere_else() -> None:
    """A part with an id that `LETTERS` does not know would never be given one."""
    with_one = {
        name for name, part in Build.model_json_schema()["$defs"].items()
        if "id" in part.get("properties", {})
    }  # fmt: skip
    assert with_one == {
        "Zone", "VerticalPlate", "HorizontalPlate", "Opening", "Hatch", "Gate", "Boss", "Scraper",
        "BoxKeepOut", "CylinderKeepOut", "PlaneKeepOut", "Run",
        *(each.__name__ for each in CLASSES.values()),
    }  # fmt: skip


def test_what_is_read_and_written_keeps_its_ids() -> None:
    document = whole()
    document["pan"]["zones"][0]["id"] = "z740"
    assert ids_of(read_build(write_build(build_from(document))).model_dump())["z740"]


def test_a_number_that_was_given_is_not_given_again() -> None:
    document = whole()
    last = last_number(document)
    taken = document["pan"]["plates"].pop()
    document["pan"]["plates"].append({**taken, "id": "", "openings": []})
    again, after = with_ids(document, after=last)
    assert again["pan"]["plates"][-1]["id"] == f"p{last + 1}"
    assert after == last + 1


@pytest.mark.parametrize("made_up", ["p999", "../x", 7, None, "P1", "p", "p12345678"])
def test_ids_made_up_elsewhere_are_given_anew(made_up: object) -> None:
    document = whole()
    known = ids_of(document)
    plate = {**document["pan"]["plates"][1], "id": made_up, "openings": []}
    document["pan"]["plates"].append(plate)
    last = last_number(whole())
    given_id = with_ids(document, last, known)[0]["pan"]["plates"][-1]["id"]
    assert given_id not in known and given_id != made_up


def test_new_ids_count_on_from_the_greatest_that_stays_and_no_two_are_alike() -> None:
    document = whole()
    last = last_number(document)
    copied = copy.deepcopy(document["pan"]["bosses"][0])
    document["pan"]["bosses"] += [{**copied, "id": ""}, copied]
    given, after = with_ids(document)
    assert [boss["id"] for boss in given["pan"]["bosses"][1:]] == [f"b{last + 1}", f"b{last + 2}"]
    assert after == last + 2


def test_what_names_one_of_two_alike_names_the_first() -> None:
    parts = [{"id": "c1", "name": "first"}, {"id": "c1", "name": "its copy"}]
    runs = [{"id": "r2", "start": {"component": "c1"}, "end": {"component": "c1"}}]
    given = with_ids({"circuit": {"components": parts, "runs": runs, "gauge": "c1"}})[0]["circuit"]
    assert [each["id"] for each in given["components"]] == ["c1", "c3"]
    assert given["gauge"] == given["runs"][0]["end"]["component"] == "c1"


def test_an_id_has_up_to_seven_figures() -> None:
    assert is_id("p1234567") and not is_id("p12345678")


@pytest.mark.parametrize("wrong", ["p-1", "p 1", "12", "p1.0", "p12345678"])
def test_an_id_that_is_none_is_refused_in_a_part(wrong: str) -> None:
    zone = build_from(everything()).pan.zones[0].model_dump()
    with pytest.raises(ValueError, match="pattern"):
        type(build_from(everything()).pan.zones[0]).model_validate({**zone, "id": wrong})


@pytest.mark.parametrize("path", OLD, ids=lambda path: f"{path.parent.name} {path.stem}")
def test_an_older_version_opens_as_the_newest(path: Path) -> None:
    """As the same example was written when it was the newest: `TODAY` has them in the newest."""
    old = json.loads(path.read_text())
    assert path.parent.name == f"version-{old['version']}"
    build = read_build(path.read_text())
    assert build.version == 3
    today = next(found for folder in TODAY if (found := folder / path.name).exists())
    now = read_build(today.read_text())
    if (Path("demo") / path.name).exists():
        assert without_ids(build.model_dump()) == without_ids(now.model_dump())
    else:  # templates say the layout of the cylinders since
        assert without_ids(build.pan.model_dump()) == without_ids(now.pan.model_dump())
        assert (build.oil, build.pickup) == (now.oil, now.pickup)
    assert "" not in {part["id"] for _, _, part in parts_with_ids(build.model_dump())}
    assert set(ids_of(old)) <= set(ids_of(build.model_dump()))


@pytest.mark.parametrize("version", [0, 4, True, "1", 1.0, None])
def test_versions_that_it_does_not_read(version: object) -> None:
    with pytest.raises(InvalidInput) as refused:
        build_from({**everything(), "version": version})
    assert "version" in {problem.field for problem in refused.value.problems}


class TestStatesOfVersion1:
    """What is the same part in two states that knew no ids."""

    def test_what_stayed_keeps_its_id_when_others_go(self) -> None:
        before = of_version_2()
        after = without_ids(copy.deepcopy(before))
        after["pan"]["zones"].pop(0)
        followed, last = with_ids_of(before, after, last_number(before))
        assert [zone["id"] for zone in followed["pan"]["zones"]] == [
            zone["id"] for zone in before["pan"]["zones"][1:]
        ]
        assert last == last_number(before)

    def test_a_part_that_was_changed_is_known_by_its_name(self) -> None:
        before = of_version_2()
        after = without_ids(copy.deepcopy(before))
        after["pan"]["plates"].reverse()
        after["pan"]["plates"][1]["top_depth_mm"] = 33
        followed, _ = with_ids_of(before, after, 50)
        plates = {plate["name"]: plate["id"] for plate in before["pan"]["plates"]}
        assert {plate["name"]: plate["id"] for plate in followed["pan"]["plates"]} == plates

    def test_one_that_was_renamed_by_its_place(self) -> None:
        before = of_version_2()
        after = without_ids(copy.deepcopy(before))
        after["pan"]["plates"][0]["openings"][0]["name"] = "another"
        after["pan"]["plates"][0]["openings"][0]["gate"]["leak_pct"] = 9
        followed, last = with_ids_of(before, after, 50)
        assert ids_of(followed).keys() == ids_of(before).keys()
        assert last == 50

    def test_what_is_new_counts_on(self) -> None:
        before = of_version_2()
        after = without_ids(copy.deepcopy(before))
        after["pan"]["bosses"].append({**after["pan"]["bosses"][0], "name": "second"})
        after["pan"]["plates"][0]["openings"][0]["gate"] = None
        followed, last = with_ids_of(before, after, 50)
        assert followed["pan"]["bosses"][-1]["id"] == "b51"
        assert last == 51


class TestMerge:
    """What both did is there; what they did otherwise to one thing is told."""

    def test_two_new_plates_are_both_there(self) -> None:
        base = whole()
        mine, theirs = copy.deepcopy(base), copy.deepcopy(base)
        plate = {**base["pan"]["plates"][1], "openings": []}
        mine["pan"]["plates"].append({**plate, "id": "p50", "name": "mine"})
        theirs["pan"]["plates"].append({**plate, "id": "p51", "name": "theirs"})
        both = merged(base, mine, theirs)
        assert both.at_odds == ()
        assert {p["name"] for p in both.document["pan"]["plates"]} == {
            "P1", "tray", "mine", "theirs",
        }  # fmt: skip

    def test_a_new_part_stands_behind_the_one_it_was_put_behind(self) -> None:
        base = whole()
        mine, theirs = copy.deepcopy(base), copy.deepcopy(base)
        first = base["pan"]["zones"][0]
        mine["pan"]["zones"].insert(1, {**first, "id": "z60"})
        theirs["pan"]["zones"].pop()
        names = [zone["id"] for zone in merged(base, mine, theirs).document["pan"]["zones"]]
        assert names == [first["id"], "z60", base["pan"]["zones"][1]["id"]]

    def test_figures_of_one_gate(self) -> None:
        base = whole()
        mine, theirs = copy.deepcopy(base), copy.deepcopy(base)
        gate = mine["pan"]["plates"][0]["openings"][0]["gate"]
        gate["leak_pct"] = 8
        theirs["pan"]["plates"][0]["openings"][0]["gate"]["swings"] = "left"
        theirs["pan"]["plates"].reverse()
        both = merged(base, mine, theirs).document["pan"]["plates"][1]["openings"][0]["gate"]
        assert (both["leak_pct"], both["swings"]) == (8, "left")

    @pytest.mark.parametrize("which", ["mine", "theirs"])
    def test_taken_away_by_one_and_changed_by_the_other(self, which: str) -> None:
        base = whole()
        sides = {"mine": copy.deepcopy(base), "theirs": copy.deepcopy(base)}
        gone = sides.pop(which)["pan"]["plates"]
        del gone[0]
        ((_, other),) = sides.items()
        other["pan"]["plates"][0]["top_depth_mm"] = 31
        both = {which: base, **sides}
        both[which] = {**base, "pan": {**base["pan"], "plates": gone}}
        found = merged(base, both["mine"], both["theirs"])
        assert found.at_odds == (f"pan.plates.{base['pan']['plates'][0]['id']}",)

    def test_one_kind_of_floor_is_not_mixed_with_another(self) -> None:
        base = whole()
        mine, theirs = copy.deepcopy(base), copy.deepcopy(base)
        mine["pan"]["zones"][0]["floor"]["depth_mm"] = 151
        theirs["pan"]["zones"][0]["floor"] = {
            "kind": "ramp", "runs": "lengthways", "from_depth_mm": 100, "to_depth_mm": 140,
        }  # fmt: skip
        found = merged(base, mine, theirs)
        assert found.at_odds == (f"pan.zones.{base['pan']['zones'][0]['id']}.floor",)
        assert found.document == theirs

    def test_alike_is_not_at_odds(self) -> None:
        base = whole()
        mine = copy.deepcopy(base)
        mine["oil"]["volume_l"] = 7.0
        assert merged(base, mine, copy.deepcopy(mine)).at_odds == ()

    @given(
        mine=st.lists(st.integers(0, 3), max_size=4), theirs=st.lists(st.integers(0, 3), max_size=4)
    )
    def test_laid_on_what_did_not_change_an_edit_is_itself(
        self, mine: list[int], theirs: list[int]
    ) -> None:
        """And lists of any parts, added and taken away on both sides, hold no part twice."""
        base = {"zones": [{"id": f"z{n}", "kept": 0} for n in range(4)]}

        def edited(gone: list[int], new: str) -> Document:
            kept = [zone for zone in base["zones"] if int(zone["id"][1]) not in gone]
            return {"zones": [*kept[:1], {"id": new, "kept": 1}, *kept[1:]]}

        one, other = edited(mine, "z8"), edited(theirs, "z9")
        assert merged(base, one, base).document == one
        assert merged(base, base, other).document == other
        both = merged(base, one, other)
        names = [zone["id"] for zone in both.document["zones"]]
        assert both.at_odds == ()
        assert sorted(names) == sorted(
            {"z8", "z9"} | {f"z{n}" for n in range(4) if n not in (*mine, *theirs)}
        )
