"""Test fits: places by themselves, rounds, how a place stands; what is found moves a keep-out."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

import pytest
from bilge_core.agreement.fit_entries import MEANS, read_offered
from bilge_core.agreement.offered import (
    Entered,
    Offered,
    all_places,
    offered_of,
    open_places,
    state_of,
    worst_first,
)
from bilge_core.agreement.places import Place, correction_of, places_of
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.rules.around import WORTH_MOVING
from bilge_core.tell.fit import fit_out
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.jobs import DUNLIN, NOON, demo, done

PLUMBED, LEANED = demo("plumbed"), demo("dunlin")


def rows(*raws: dict[str, Any], state: int = 1, at: datetime = NOON) -> Offered:
    return offered_of(Entered(read_offered(raw), "MK", at, state) for raw in raws)


BEGIN = {"kind": "round_begun", "means": "printed"}
EXHAUST = Place("k3:pan", "pan to exhaust", 25e-3, 19.2e-3)


def found(gap: float | None = None, **more: Any) -> dict[str, Any]:
    return {"kind": "found", "place": EXHAUST.id, "gap_mm": gap, **more}


def test_places_come_by_themselves_from_the_gaps_of_pan_and_lines() -> None:
    ids = {each.id for each in places_of(DUNLIN)}
    assert {f"{each.id}:pan" for each in DUNLIN.car.keep_outs} | {"ground:pan"} == ids
    for each in places_of(DUNLIN):
        assert each.forecast is not None and each.at is not None and each.to is not None
        apart = math.dist(each.at, each.to)
        sheet = 0.0 if each.id == "ground:pan" else (DUNLIN.pan.sheet_mm or 0.0) * 1e-3
        assert apart == pytest.approx(abs(each.forecast + sheet), abs=2e-4)


def test_a_line_that_comes_near_something_is_a_place() -> None:
    raw = PLUMBED.model_dump(mode="json")
    laid = next(run for run in raw["circuit"]["runs"] if run["route"])
    x, y, z = laid["route"][1]["at_mm"]
    raw["car"]["keep_outs"].append({
        "kind": "box", "id": "k90", "name": "wheel arch", "frame": "engine", "wanted_mm": 12,
        "from_mm": [x - 20, y - 20, z - 60], "to_mm": [x + 20, y + 20, z - 30],
    })  # fmt: skip
    place = next(each for each in places_of(read_build(json.dumps(raw)))
                 if each.id == f"k90:{laid['id']}")  # fmt: skip
    assert place.name == f"{laid['name']} to wheel arch" and place.wanted == 12e-3


def test_a_place_stands_by_what_was_found_in_this_round() -> None:
    assert state_of(EXHAUST, rows(BEGIN)) == "not_looked"
    assert state_of(EXHAUST, rows(BEGIN, found(touches=True))) == "touches"
    assert state_of(EXHAUST, rows(BEGIN, found(24.9))) == "tight"
    assert state_of(EXHAUST, rows(BEGIN, found(25.0))) == "sound"
    assert state_of(EXHAUST, rows(BEGIN, found(), found())) == "sound"  # looked at, not measured
    assert state_of(EXHAUST, rows(BEGIN, found(30), BEGIN)) == "not_looked"


def test_accepted_with_a_word_why_until_something_else_is_found() -> None:
    accept = {"kind": "accepted", "place": EXHAUST.id, "why": "sleeved, measured hot"}
    assert state_of(EXHAUST, rows(BEGIN, found(23), accept)) == "accepted"
    assert state_of(EXHAUST, rows(BEGIN, found(23), accept, found(20))) == "tight"
    with pytest.raises(InvalidInput, match="at least 3"):
        read_offered({**accept, "why": "ok"})


def test_places_carry_over_from_round_to_round_one_finding_each() -> None:
    offered = rows(BEGIN, found(touches=True), BEGIN, found(18), found(19, done="pipe turned 4°"),
                   BEGIN, found(23))  # fmt: skip
    trend = [(each.round, each.gap) for each in offered.found[EXHAUST.id]]
    assert trend == [(1, 0.0), (2, 19e-3), (3, 23e-3)]
    assert offered.found[EXHAUST.id][1].done == "pipe turned 4°"


def test_nothing_is_found_before_a_round_and_another_gap_can_be_wanted() -> None:
    assert rows(found(10)).found == {}
    wanted = {"kind": "wanted", "place": EXHAUST.id, "wanted_mm": 20}
    assert state_of(EXHAUST, rows(BEGIN, found(21), wanted)) == "sound"


def test_a_place_said_by_hand_stays_is_dropped_and_comes_back_when_it_is_found() -> None:
    said = {"kind": "place_said", "place": "o1", "name": "lid to mount", "wanted_mm": 8,
            "subject": "pan", "at_mm": [100, 20, -40]}  # fmt: skip
    offered = rows(BEGIN, said)
    own = next(each for each in all_places((EXHAUST,), offered) if each.id == "o1")
    assert own.at == pytest.approx((0.1, 0.02, -0.04)) and own.forecast is None
    drop = {"kind": "dropped", "place": "o1"}
    assert len(all_places((EXHAUST,), rows(BEGIN, said, drop))) == 1
    again = {"kind": "found", "place": "o1", "gap_mm": 9}
    assert len(all_places((EXHAUST,), rows(BEGIN, said, drop, again))) == 2


def test_the_worst_comes_first_and_open_ones_keep_a_round_open() -> None:
    ground = Place("ground:pan", "pan to ground", 45e-3, 58e-3)
    rack = Place("k2:pan", "pan to rack", 8e-3, 41e-3)
    there = (ground, rack, EXHAUST)
    at = {"kind": "found", "place": "ground:pan", "gap_mm": 56}
    offered = rows(BEGIN, at, found(touches=True))
    assert [each.id for each in worst_first(there, offered)] == ["k3:pan", "k2:pan", "ground:pan"]
    assert {each.id for each in open_places(there, offered)} == {"k3:pan", "k2:pan"}


def test_a_place_touches_or_has_a_gap_and_each_means_says_what_it_hides() -> None:
    with pytest.raises(InvalidInput, match="not both"):
        read_offered(found(3, touches=True))
    with pytest.raises(InvalidInput, match=r"entry\.gap_mm"):
        read_offered(found(-1))
    for words, caution in MEANS.values():
        assert words and caution.endswith(".")


@pytest.mark.parametrize("gap", [0.0, 5e-3, 13e-3, 30e-3])
@pytest.mark.parametrize("name", ["exhaust", "subframe", "steering rack"])
def test_what_is_found_moves_the_keep_out_and_clearance_follows(name: str, gap: float) -> None:
    place = next(each for each in places_of(DUNLIN) if each.name == f"pan to {name}")
    right = correction_of(DUNLIN, place, gap)
    assert right is not None and place.forecast is not None
    assert right.by == pytest.approx(place.forecast - gap)
    figures = [{"field": field, "value": value} for field, value in right.fields]
    moved = done(DUNLIN, kind="figures", figures=figures)
    after = next(each for each in places_of(moved) if each.id == place.id)
    assert after.forecast == pytest.approx(gap, abs=0.6e-3)


def test_a_flat_limit_and_one_carried_by_the_engine_are_moved_too() -> None:
    raw = DUNLIN.model_dump(mode="json")
    raw["car"]["keep_outs"] = [
        {"kind": "plane", "id": "k80", "name": "skid plate", "frame": "engine", "at_mm": -170,
         "free": "above", "wanted_mm": 10},
        {"kind": "plane", "id": "k81", "name": "undertray", "frame": "car", "at_mm": -190,
         "free": "above", "wanted_mm": 10},
    ]  # fmt: skip
    build = read_build(json.dumps(raw))
    for place in places_of(build)[:2]:
        right = correction_of(build, place, 7e-3)
        assert right and len(right.fields) == 1
        figures = [{"field": field, "value": value} for field, value in right.fields]
        moved = done(build, kind="figures", figures=figures)
        after = next(each for each in places_of(moved) if each.id == place.id)
        assert after.forecast == pytest.approx(7e-3, abs=0.2e-3)


def test_both_sides_of_what_is_worth_a_move() -> None:
    place = next(each for each in places_of(DUNLIN) if each.name == "pan to exhaust")
    assert place.forecast is not None
    assert correction_of(DUNLIN, place, place.forecast - WORTH_MOVING.least) is not None
    assert correction_of(DUNLIN, place, place.forecast - 0.99 * WORTH_MOVING.least) is None
    assert correction_of(DUNLIN, place, None) is None
    ground = next(each for each in places_of(DUNLIN) if each.id == "ground:pan")
    assert correction_of(DUNLIN, ground, 10e-3) is None  # nobody moves the ground
    unknown = Place("o1", "lid to mount", 8e-3)
    assert correction_of(DUNLIN, unknown, 10e-3) is None
    for end in ({"at": None}, {"to": None}):  # along which line is not known
        assert correction_of(DUNLIN, replace(place, **end), place.forecast - 9e-3) is None


def test_the_envelope_is_drawn_in_both_frames_with_every_place_in_it() -> None:
    told = fit_out(DUNLIN, rows(BEGIN, found(10)), {1})
    assert [each.frame for each in told.frames] == ["car", "engine"]
    for frame in told.frames:
        assert [view.key for view in frame.views] == ["side", "front", "plan"]
        assert set(frame.places) == {place.id for place in told.places}
        for view in frame.views:
            assert view.pan_mm and len(view.beside) == 3
            assert bool(view.ground_mm) is (view.key != "plan")
    exhaust = next(place for place in told.places if place.id == "k3:pan")
    assert exhaust.correction and exhaust.correction.nearer_mm == pytest.approx(9.2, abs=0.1)
    other = fit_out(DUNLIN, rows(BEGIN, found(10), state=4), {1})
    assert next(p for p in other.places if p.id == "k3:pan").correction is None


def test_the_pans_outline_from_the_side_is_as_long_and_deep_as_the_pan() -> None:
    side = fit_out(DUNLIN, Offered(), ()).frames[1].views[0]
    xs = [x for ring in side.pan_mm for x, _ in ring]
    zs = [z for ring in side.pan_mm for _, z in ring]
    outline = [p for zone in DUNLIN.pan.zones for p in zone.outline_mm]
    deepest = max(v for zone in DUNLIN.pan.zones for k, v in zone.floor.model_dump().items()
                  if k.endswith("depth_mm"))  # fmt: skip
    assert max(xs) - min(xs) == pytest.approx(
        max(x for x, _ in outline) - min(x for x, _ in outline), abs=1.0
    )
    assert -min(zs) == pytest.approx(deepest, abs=1.0)


entries = st.lists(
    st.one_of(
        st.just(BEGIN),
        st.builds(found, st.floats(0, 60)),
        st.just(found(touches=True)),
        st.just({"kind": "accepted", "place": EXHAUST.id, "why": "as it was"}),
        st.just({"kind": "dropped", "place": EXHAUST.id}),
        st.just({"kind": "round_closed"}),
    ),
    max_size=12,
)


@settings(deadline=None)
@given(entries)
def test_any_entries_give_a_picture_with_one_finding_a_round(raws: list[dict[str, Any]]) -> None:
    offered = rows(*raws)
    numbers = [each.round for each in offered.found.get(EXHAUST.id, ())]
    assert numbers == sorted(set(numbers))
    assert len(offered.rounds) == sum(raw == BEGIN for raw in raws)
    assert state_of(EXHAUST, offered) in {"touches", "tight", "sound", "accepted", "not_looked"}


def test_of_a_build_without_anything_round_it_only_the_ground_is_a_place() -> None:
    raw = DUNLIN.model_dump(mode="json")
    raw["car"]["keep_outs"] = []
    assert [each.id for each in places_of(Build.model_validate(raw))] == ["ground:pan"]
    raw["car"]["rail_height_mm"] = None
    assert places_of(Build.model_validate(raw)) == ()
    assert NOON.tzinfo is UTC


@pytest.mark.parametrize(
    ("sizes", "gap"),
    [({"diameter_mm": 160.0, "height_mm": 380.0}, 20.0),
     ({"diameter_mm": None, "height_mm": 300.0, "length_mm": 160.0, "width_mm": 120.0}, 20.0)],
    ids=["round", "box"],
)  # fmt: skip
def test_a_tank_beside_something_is_a_place_with_its_closed_forms_gap(
    sizes: dict[str, Any], gap: float
) -> None:
    raw = demo("curlew").model_dump(mode="json")
    tank = next(each for each in raw["circuit"]["components"] if each["kind"] == "tank")
    tank.update(sizes)
    x, y, z = tank["place"]["at_mm"]
    raw["car"]["keep_outs"] = [
        {"kind": "box", "id": "k70", "name": "bulkhead", "frame": "car", "wanted_mm": 15,
         "from_mm": [x + 80 + gap, y - 300, z - 50], "to_mm": [x + 200, y + 300, z + 500]},
        {"kind": "plane", "id": "k71", "name": "bonnet", "frame": "car", "wanted_mm": 15,
         "at_mm": z + sizes["height_mm"] + 12, "free": "below"},
        {"kind": "plane", "id": "k72", "name": "far wall", "frame": "car", "wanted_mm": 15,
         "at_mm": y + 900, "free": "right"},
    ]  # fmt: skip
    places = {each.id: each for each in places_of(read_build(json.dumps(raw)))}
    beside, above = places[f"k70:{tank['id']}"], places[f"k71:{tank['id']}"]
    assert beside.name == "oil tank to bulkhead"
    assert beside.forecast == pytest.approx(gap * 1e-3, abs=0.2e-3)
    assert above.forecast == pytest.approx(12e-3, abs=1e-6)
    assert f"k72:{tank['id']}" not in places
    right = correction_of(read_build(json.dumps(raw)), beside, 14e-3)
    assert right and right.by == pytest.approx(6e-3, abs=0.3e-3)


def test_a_tank_without_a_size_or_a_place_is_none() -> None:
    raw = demo("curlew").model_dump(mode="json")
    tank = next(each for each in raw["circuit"]["components"] if each["kind"] == "tank")
    for change in ({"height_mm": None}, {"diameter_mm": None}, {"place": None}):
        other = json.loads(json.dumps(raw))
        next(e for e in other["circuit"]["components"] if e["kind"] == "tank").update(change)
        assert all(tank["id"] not in each.id for each in places_of(read_build(json.dumps(other))))


def test_a_tank_comes_by_itself_up_to_forty_millimetres_over_what_is_wanted() -> None:
    raw = demo("curlew").model_dump(mode="json")
    tank = next(each for each in raw["circuit"]["components"] if each["kind"] == "tank")
    top = tank["place"]["at_mm"][2] + tank["height_mm"]
    for over, wanted in ((39.9, 1), (40.1, 0)):
        bonnet = {"kind": "plane", "id": "k71", "name": "bonnet", "free": "below", "frame": "car"}
        raw["car"]["keep_outs"] = [{**bonnet, "wanted_mm": 15, "at_mm": top + 15 + over}]
        found = [each for each in places_of(read_build(json.dumps(raw))) if tank["id"] in each.id]
        assert len(found) == wanted
