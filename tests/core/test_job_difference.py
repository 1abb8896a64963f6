"""Parts and hours come from the difference of two documents, and add up exactly."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Accumulator
from bilge_core.errors import InvalidQuantity
from bilge_core.job.card import card_of
from bilge_core.job.difference import work_between
from bilge_core.job.operations import OPERATIONS, TO_OPEN_THE_PAN, Operation
from bilge_core.job.settings import CardSettings
from bilge_core.options.candidate import Prices, needs_of
from bilge_core.shop import PARTS, ShopPart
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_plates_fitted import DUNLIN, GATED, done

OPENS = dict.fromkeys(TO_OPEN_THE_PAN, 1)


def taken(before: Build, after: Build) -> tuple[dict[str, float], dict[str, int]]:
    work = work_between(before, after)
    return dict(work.parts), dict(work.operations)


def test_nothing_changed_is_no_work_and_what_is_known_is_none_either() -> None:
    assert taken(DUNLIN, DUNLIN) == ({}, {})
    known = done(DUNLIN, kind="figures", figures=[{"field": "car.rail_height_mm", "value": 230}])
    assert taken(DUNLIN, known) == ({}, {})


def test_a_dry_sump_has_no_tube_of_a_pickup_to_make_and_no_stick_to_mark() -> None:
    dry = done(DUNLIN, kind="go_dry", depth_mm=60)
    parts, operations = taken(DUNLIN, dry)
    assert parts["tube"] == 3  # of its scavenge pickups, none to the pump
    assert not {"bell", "pickup_seal"} & set(parts)
    assert not {"make_pickup", "renew_seal"} & set(operations)
    steps = {each.step.key for each in card_of(DUNLIN, dry, CardSettings()).steps}
    assert "find_level" in steps
    assert not {"make_tube", "mark_stick"} & steps
    lower = {each.step.key for each in card_of(dry, done(dry, kind="spacer", by_mm=6.35),
                                               CardSettings()).steps}  # fmt: skip
    assert "fit_spacer" in lower and not {"renew_seal", "mark_stick"} & lower
    back = {each.step.key for each in card_of(dry, DUNLIN, CardSettings()).steps}
    assert {"make_tube", "mark_stick"} <= back


def test_a_line_into_the_pan_wants_a_hole_there_once_and_the_engines_water_nothing() -> None:
    turbo = done(DUNLIN, kind="feed_turbo")
    parts, operations = taken(DUNLIN, turbo)
    # where its drain comes in is not told yet, that it does is
    assert (operations["open_boss"], parts["turbo"], parts["bung"]) == (1, 1, 1)
    run = next(each.id for each in turbo.circuit.runs if each.name == "drain of the turbo")
    placed = done(turbo, kind="tune_drain", run=run, outlet_mm=[150, 120, 200],
                  entry_mm=[150, 90, 20])  # fmt: skip
    assert taken(DUNLIN, placed)[1]["open_boss"] == 1
    cut = done(turbo, kind="put_in_line", run=run, part="bulkhead")
    assert "open_boss" not in taken(turbo, cut)[1]  # its other half comes in where it did
    words = {each.words for each in card_of(DUNLIN, turbo, CardSettings()).steps}
    assert {"Drill entry of the drain of the turbo", "Pan off"} <= words

    cooled = done(DUNLIN, kind="fit_cooler", cooler="plate")
    parts, operations = taken(DUNLIN, cooled)
    assert parts["plate_cooler"] == 1 and "fitting" not in parts
    assert "take_out_part" not in taken(DUNLIN, cooled)[1]
    names = {each.words for each in card_of(cooled, DUNLIN, CardSettings()).steps}
    assert not any("engine's water" in each for each in names)


def test_the_pan_is_sealed_as_was_chosen() -> None:
    def sealed(sealing: str) -> str:
        card = card_of(DUNLIN, GATED, CardSettings.model_validate({"sealing": sealing}))
        return next(each.words for each in card.steps if each.step.key == "seal_pan")

    assert sealed("gasket") == "Seal the pan: its gasket or O-ring, where the maker has one"
    assert sealed("liquid") == "Seal the pan: a thin bead inside the bolt holes"


@pytest.mark.parametrize(
    ("raw", "parts", "operations"),
    [
        ({"kind": "refill", "to_l": 7.2}, {"oil": 1.0}, {"top_up": 1}),
        ({"kind": "refill", "to_l": 6.0}, {}, {"let_out": 1}),
        ({"kind": "fit_gates"}, {"gate_rubber": 3, "plate_sheet": 5, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "fit_plate": 5, "hang_gate": 3}),
        ({"kind": "fit_tray"}, {"tray_sheet": 1, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "fit_tray": 1}),
        ({"kind": "spacer", "by_mm": 6.35},
         {"spacer_plate": 1, "long_bolts": 1, "pickup_spacer": 1, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "fit_spacer": 1, "lower_pickup": 1}),
        ({"kind": "deepen", "by_mm": 19, "zones": ["z4", "z7"]},
         {"sump_sheet": 2, "pickup_spacer": 1, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "reshape_sump": 2, "lower_pickup": 1}),
        ({"kind": "move_pickup", "left_mm": -30}, {"tube": 1, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "make_pickup": 1}),
        ({"kind": "figures", "figures": [{"field": "pickup.gap_mm", "value": 6.4}]},
         {"pan_gasket": 1, "oil": 6.5}, {**OPENS, "set_gap": 1}),
        ({"kind": "move_filter", "filters": 2},
         {"remote_filter": 1, "take_off_plate": 1, "oil_filter": 2, "hose": 2},
         {"fit_remote_filter": 1, "fit_in_line": 1, "take_out_part": 1, "make_line": 2}),
        ({"kind": "sump_preset", "place": "front", "depth_mm": 138, "shelf_mm": 50},
         {"pan_made": 1, "tube": 1, "pan_gasket": 1, "oil": 6.5},
         {**OPENS, "make_pan": 1, "make_pickup": 1, "blank_boss": 1}),
    ],
    ids=lambda each: str(each)[:40],
)  # fmt: skip
def test_what_a_change_takes(
    raw: dict[str, Any], parts: dict[str, float], operations: dict[str, int]
) -> None:
    assert taken(DUNLIN, read_act(raw).done(DUNLIN).build) == (parts, operations)


def test_a_bottle_is_counted_with_all_that_comes_with_it() -> None:
    moved = done(DUNLIN, kind="move_filter")
    parts, operations = taken(moved, done(moved, kind="fit_accumulator", volume_l=2))
    assert parts["accumulator"] == parts["valve_by_hand"] == parts["check_valve"] == 1
    assert operations["fit_accumulator"] == 1 and "access" not in operations
    electric = done(moved, kind="fit_accumulator", volume_l=2, valve="electric")
    assert taken(moved, electric)[0]["valve_electric"] == 1
    charged = done(electric, kind="tune_accumulator", precharge_bar=2.0, fill_up=False)
    assert taken(electric, charged) == ({}, {"set_charge": 1})


def test_a_gate_turned_round_is_hung_again_and_nothing_bought() -> None:
    parts, operations = taken(GATED, done(GATED, kind="turn_gate", gate="g26"))
    assert operations["hang_gate"] == 1 and "gate_rubber" not in parts


def test_what_is_taken_out_is_work_too() -> None:
    parts, operations = taken(GATED, DUNLIN)
    assert operations["take_plate_out"] == 5 and "plate_sheet" not in parts


@given(st.lists(st.sampled_from(["fit_tray", "fit_gates", "refill"]), unique=True, min_size=1))
def test_cost_and_hours_are_the_plain_sums_of_their_rows(kinds: list[str]) -> None:
    after = DUNLIN
    for kind in kinds:
        after = done(after, kind=kind, **({"to_l": 7.2} if kind == "refill" else {}))
    needs = needs_of(DUNLIN, after)
    cost = sum(PARTS[key].cost * count for key, count in needs.work.parts)
    hours = sum(OPERATIONS[key].hours * times for key, times in needs.work.operations)
    assert needs.cost == pytest.approx(cost, abs=0.005)
    assert needs.hours == pytest.approx(hours, abs=0.005)
    assert needs.lead_days == max(PARTS[key].lead_days for key, _ in needs.work.parts)


def test_a_workshops_own_figures_go_before_the_generic_ones() -> None:
    tray = done(DUNLIN, kind="fit_tray")
    own = Prices({"tray_sheet": ShopPart("tray_sheet", "tray", "piece", 40.0, 1, 1.0)},
                 {"fit_tray": 3.0})  # fmt: skip
    bare, paid = needs_of(DUNLIN, tray), needs_of(DUNLIN, tray, own)
    assert bare.cost - paid.cost == pytest.approx(PARTS["tray_sheet"].cost - 40.0)
    assert paid.hours - bare.hours == pytest.approx(3.0 - OPERATIONS["fit_tray"].hours)
    assert paid.lead_days == 2  # the gasket's


def test_a_table_with_less_than_nothing_is_refused() -> None:
    with pytest.raises(InvalidQuantity):
        ShopPart("x", "x", "piece", -1.0, 0, 0.0)
    with pytest.raises(InvalidQuantity):
        Operation("x", "x", -0.1)


def test_a_line_that_something_comes_into_is_cut_and_one_that_loses_it_is_made_anew() -> None:
    cooled = done(DUNLIN, kind="fit_cooler")
    bottle = {"kind": "fit_accumulator", "volume_l": 2, "at": "cooler_return", "valve": "electric"}
    fitted = done(cooled, **bottle)
    _, operations = taken(cooled, fitted)
    assert operations["shorten_line"] == 1  # it ends at the check valve now
    assert operations["make_line"] == 3  # behind that, behind the tee, to the bottle's valve
    (tee,) = (each for each in fitted.circuit.components if each.kind == "tee")
    gone = done(fitted, kind="take_out", component=tee.id)
    parts, operations = taken(fitted, gone)
    assert "shorten_line" not in operations and operations["make_line"] == 1
    assert parts["hose"] == 1


def test_valves_are_fitted_each_by_its_kind() -> None:
    bottle = {"kind": "fit_accumulator", "volume_l": 2, "at": "cooler_return"}
    cooled = done(DUNLIN, kind="fit_cooler")
    for worked, steps in {
        "by_hand": {"fit_valve", "fit_check"},
        "electric": {"fit_electric", "wire_valve", "fit_check"},
    }.items():
        fitted = done(cooled, **bottle, valve=worked)
        card = card_of(cooled, fitted, CardSettings())
        found = [each for each in card.steps if each.step.of == "fit_valve"]
        assert {each.step.key for each in found} == steps
        assert found[-1].step.is_gate == (worked == "electric")
        # in the cabin a lever is kept clear; a switch has none
        inside = CardSettings(in_cabin=[each.id for each in fitted.circuit.of_kind(Accumulator)])
        keys = {each.step.key for each in card_of(cooled, fitted, inside).steps}
        assert ("lever_clear" in keys) == (worked == "by_hand")
