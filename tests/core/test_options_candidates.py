"""Remedies of any build: none breaks the document, more oil never uncovers, none is taken twice."""

from __future__ import annotations

import json
from dataclasses import replace

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.ids import ids_of
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.forecast import forecast_settled
from bilge_core.loads.log import Log
from bilge_core.options.candidate import Prices, candidate, room_of
from bilge_core.options.ladder import Failed, Trial
from bilge_core.options.on_circuit import CHARGES
from bilge_core.options.pairs import joined_acts, together
from bilge_core.options.prepared import Own, best_charge_on, prepare
from bilge_core.options.remedies import remedies
from bilge_core.options.schools import SCHOOLS
from bilge_core.options.trial import (
    BaseLap,
    InTheWindows,
    Outcome,
    base_lap,
    lap_outcome,
    of_windows,
    record_outcome,
)
from bilge_core.pan import assemble_pan
from bilge_core.tell.known_by import key_of
from bilge_core.tell.remedies import CandidateKept, OutcomeKept, build_of, kept, read_kept
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO, steady_log
from tests.core.test_plates_fitted import DUNLIN, done

BUILDS = {p.stem: read_build(p.read_text()) for p in sorted(DEMO.glob("*.json"))
          if p.stem != "readings"}  # fmt: skip


@pytest.mark.parametrize("name", sorted(BUILDS))
def test_each_remedy_leaves_a_build_that_holds_together_or_says_why_not(name: str) -> None:
    base = BUILDS[name]
    before = base.model_dump_json()
    found = remedies(base)
    assert len({each.key for each in found}) == len(found) > (4 if base.circuit.is_dry else 20)
    for each in found:
        assert each.applies != bool(each.reason), each.key
        if each.build is not None:
            again = build_from(json.loads(each.build.model_dump_json()))
            assert assemble_pan(again).capacity_to_rail > 0.0
    assert base.model_dump_json() == before  # undone is the build that was


def test_the_joint_whose_seal_is_renewed_is_the_one_at_the_pumps_inlet() -> None:
    """Whatever else of the circuit has an inlet, and in whichever order its runs stand."""
    document = json.loads(BUILDS["plumbed"].model_dump_json())
    document["circuit"]["runs"].reverse()
    for run in document["circuit"]["runs"]:
        run["end"]["age"] = "reused"
    base = build_from(document)
    joint = next(each for each in remedies(base) if each.key == "joint")
    (act,) = joint.acts
    figures = act["figures"]
    suction = next(r for r in base.circuit.runs if r.end.component == base.circuit.pump.id
                   and r.end.port == "inlet")  # fmt: skip
    assert figures[0] == {"field": f"circuit.runs.{suction.id}.end.age", "value": "new"}


@settings(max_examples=12, deadline=None)
@given(data=st.data())
def test_any_two_together_are_a_build_or_are_refused(data: st.DataObject) -> None:
    base = BUILDS[data.draw(st.sampled_from(sorted(BUILDS)))]
    singles = {each.key: each for each in remedies(base) if each.applies}
    keys = st.lists(st.sampled_from(sorted(singles)), min_size=2, max_size=3, unique=True)
    pair = [singles[key] for key in data.draw(keys)]
    made = candidate(base, "x", "x", "together", joined_acts(base, pair))
    assert made.applies != bool(made.reason)


@settings(max_examples=15, deadline=None)
@given(more=st.floats(0.05, 0.6), load=st.sampled_from([(-0.9, 0.0), (0.9, 0.3), (0.0, -1.1)]))
def test_more_oil_never_lowers_settled_cover(
    more: float, load: tuple[float, float], steady: tuple[Log, ...]
) -> None:
    """Until it reaches the crank: from there on it is thrown, which it does not know."""
    log = steady[[(-0.9, 0.0), (0.9, 0.3), (0.0, -1.1)].index(load)]
    fuller = done(DUNLIN, kind="refill", to_l=round(6.2 + more, 2))
    crank = room_of(fuller).crank
    assert crank is not None and crank > 0.0
    covers = [forecast_settled(each, log).lap.cover.min() for each in (DUNLIN, fuller)]
    assert covers[1] >= covers[0] - 1e-6


@pytest.fixture(scope="module")
def steady() -> tuple[Log, ...]:

    return tuple(
        steady_log(fore, side, 2.0) for side, fore in ((-0.9, 0.0), (0.9, 0.3), (0.0, -1.1))
    )


def test_parts_on_trial_are_known_by_what_was_done_and_no_real_part_is_taken_for_one() -> None:
    """The same remedy twice is the same build; applied, its parts count on as all parts do."""
    base = BUILDS["dunlin"]
    gates = [{"kind": "fit_gates", "gates": 3}]
    first, again = (candidate(base, "g", "gates", "gates", gates).build for _ in range(2))
    other = candidate(base, "g", "gates", "gates", [gates[0] | {"leaf": "metal"}]).build
    real = read_act(gates[0]).done(base).build
    assert first is not None and first == again and other is not None
    known, *others = ({*ids_of(each.model_dump())} for each in (base, first, other, real))
    new = [ids - known for ids in others]
    assert all(len(each) == len(new[0]) > 4 for each in new)
    assert not (new[0] & new[1] or new[0] & new[2] or new[1] & new[2])
    assert max(int(each[1:]) for each in new[2]) < 1_000_000 <= min(int(e[1:]) for e in new[0])
    assert key_of("moving", first.model_dump(mode="json")) == key_of(
        "moving", real.model_dump(mode="json")
    )


class TestNotHere:
    def test_what_the_class_forbids(self) -> None:
        car = {**DUNLIN.car.model_dump(), "class_rules": {"fit_gates": "not_allowed"}}
        ruled = build_from({**DUNLIN.model_dump(), "car": car})
        found = {each.key: each for each in remedies(ruled)}
        assert found["gates_3"].reason == "the class does not allow it"
        assert found["tray"].applies

    def test_what_has_no_room(self) -> None:
        found = {each.key: each for each in remedies(DUNLIN)}
        assert found["box_left"].reason.startswith("no room: the pan would stand")

    def test_one_that_comes_too_near_the_ground_may_not_win(self) -> None:
        rows = {one.candidate.key: one for one in prepare(DUNLIN, None)}
        assert rows["deeper_46"].worse.startswith("ground clearance")
        assert rows["gates_3"].worse == ""

    @pytest.mark.parametrize(("beyond_mm", "short"), [(-0.5, False), (0.5, True)])
    def test_the_ground_on_both_sides_of_what_is_wanted(
        self, beyond_mm: float, short: bool
    ) -> None:
        room = room_of(DUNLIN)
        assert room.ground_spare is not None
        by = room.ground_spare * 1e3 + beyond_mm
        deeper = done(DUNLIN, kind="deepen", by_mm=round(by, 3), zones=["z4", "z7"])
        assert ("ground clearance" in room_of(deeper).is_worse_than(room)) is short


def test_a_study_keeps_remedies_as_data_and_reads_them_back() -> None:
    for one in prepare(DUNLIN, None, off=["oil_1"], own=[Own("Mine", [{"kind": "fit_tray"}])]):
        told = CandidateKept.model_validate_json(kept(one).model_dump_json())
        again = read_kept(told)
        assert again.work == one.work and again.worse == one.worse
        assert again.more_oil == pytest.approx(one.more_oil, abs=5e-7)
        assert (again.same_pan, again.has_plates) == (one.same_pan, one.has_plates)
        assert (again.room is None) == (one.room is None)
        if again.room is not None and one.room is not None:
            assert again.room.tight == one.room.tight
            for gap in ("ground", "ground_spare", "crank"):  # kept to a tenth of a millimetre
                assert getattr(again.room, gap) == pytest.approx(getattr(one.room, gap), abs=6e-5)
        assert replace(again.candidate, build=None) == replace(one.candidate, build=None)
        assert told.key != "oil_1"
        if one.candidate.build is not None:
            assert build_of(DUNLIN, told) == one.candidate.build


def gave(under: float) -> Outcome:
    return Outcome(4.0, under, 0.5, 2e5, 1, 2, 2, 4e-3, 6.0)


def test_the_best_of_different_groups_are_put_together_with_their_oil_added_up() -> None:
    singles = remedies(DUNLIN)
    results: dict[Trial, Outcome | Failed] = {
        Trial(key, "worst"): gave(under)
        for key, under in (("oil_1", 0.5), ("oil_1.5", 0.4), ("gates_3", 0.6), ("spacer", 0.7))
    }
    found = together(DUNLIN, singles, results)
    assert [each.key for each in found] == ["oil_1.5+gates_3", "oil_1.5+spacer", "gates_3+spacer"]
    both = {each.key: each for each in found}["oil_1.5+spacer"]
    alone = {each.key: each for each in singles}
    assert both.build is not None and alone["spacer"].build is not None
    spacer = alone["spacer"].build.oil.volume_l - DUNLIN.oil.volume_l
    assert both.build.oil.volume_l == pytest.approx(DUNLIN.oil.volume_l + 1.5 + spacer, abs=0.01)
    assert [each.key for each in together(DUNLIN, singles, results, 3)] == [
        "oil_1.5+gates_3+spacer"
    ]


UNBRACED = build_from(
    {**DUNLIN.model_dump(), "pickup": {**DUNLIN.pickup.model_dump(), "braces": None}}
)


def test_what_the_model_cannot_tell_is_listed_with_its_work_and_never_run() -> None:
    offered = {each.candidate.key: each for each in prepare(UNBRACED, None)}
    for key, operation in (("scraper", "fit_scraper"), ("brace", "brace_pickup")):
        one = offered[key]
        assert one.candidate.applies and not one.candidate.told
        assert one.entry(Prices.generic()) is None
        assert one.work is not None and operation in dict(one.work.operations)


def test_a_dry_sump_is_as_deep_as_there_is_room_for_and_takes_most() -> None:
    offered = {each.candidate.key: each for each in prepare(DUNLIN, None)}
    dry, gates = offered["dry"], offered["gates_2"]
    # 70 mm would stand in the subframe
    assert dry.candidate.applies and "60 mm" in dry.candidate.title
    needs, less = dry.needs(Prices.generic()), gates.needs(Prices.generic())
    assert needs is not None and less is not None
    assert needs.cost > 3.0 * less.cost and needs.hours > 2.0 * less.hours
    assert dict(needs.work.parts)["scavenge_stage"] == 3
    assert not any(each.group == "dry" for each in remedies(BUILDS["curlew"]))


def test_a_scraper_follows_the_crank_one_a_side_and_a_brace_is_fitted_once() -> None:
    made = done(done(DUNLIN, kind="fit_scraper"), kind="fit_scraper", side="left")
    crank = DUNLIN.car.crank
    assert crank is not None
    assert [(each.side, each.to_x_mm) for each in made.pan.scrapers] == [
        ("right", crank.to_x_mm), ("left", crank.to_x_mm)
    ]  # fmt: skip
    with pytest.raises(InvalidInput, match="has a scraper already"):
        done(made, kind="fit_scraper")
    bare = build_from({**DUNLIN.model_dump(), "car": {**DUNLIN.car.model_dump(), "crank": None}})
    with pytest.raises(InvalidInput, match="needs the crank's sweep"):
        done(bare, kind="fit_scraper")
    braced = done(UNBRACED, kind="brace_pickup")
    assert braced.pickup.braces is not None and braced.pickup.braces.at_tube
    with pytest.raises(InvalidInput, match="braced at its tube already"):
        done(braced, kind="brace_pickup")


def test_schools_name_remedies_that_there_are() -> None:
    keys = {each.key for each in remedies(DUNLIN)}
    assert {key for each in SCHOOLS for key in (each.default, each.other)} <= keys


@pytest.fixture(scope="module")
def base(saltmarsh: Log) -> BaseLap:
    return base_lap(DUNLIN, saltmarsh.between(0.0, 20.0), ())


class TestOverItsWindows:
    """Where the oil lies, and what is laid over the lap."""

    def test_looks_are_those_at_which_the_build_as_it_is_is_driest(self, base: BaseLap) -> None:
        assert base.hand in ("left", "right")
        assert base.driest.sum() <= base.is_dry.sum()
        assert base.lies is not None and base.lies.near < base.lies.volume
        runs = InTheWindows(DUNLIN, base)
        found = of_windows({n: runs.run(n) for n in range(len(runs.windows))}, len(runs.windows))
        assert found.lies is not None and found.trace is not None
        # the same build again: all its driest looks are seen, and its oil lies alike
        assert found.lies.seconds == pytest.approx(base.driest.sum() / 50.0, abs=0.04)
        assert found.lies.volume == pytest.approx(base.lies.volume, rel=0.1)
        assert found.lies.ahead == pytest.approx(base.lies.ahead, abs=0.03)
        # each window's worst tenth is in the trace
        assert min(found.trace.pressure) == pytest.approx(found.lowest, abs=1.0)
        assert list(found.trace.time) == sorted(set(found.trace.time))
        told = OutcomeKept.model_validate_json(OutcomeKept.of(found).model_dump_json())
        assert told.outcome() == found

    def test_without_its_own_run_nothing_is_said(self, base: BaseLap) -> None:
        none = np.zeros(0)
        bare = replace(base, time=none, gas_share=none, swallowed=none)
        found = lap_outcome(DUNLIN, bare)
        assert found.lies is None and found.trace is not None


class TestOnTheRecord:
    def test_a_pan_that_would_feel_it_is_never_run_on_the_record(self, base: BaseLap) -> None:
        assert record_outcome(done(DUNLIN, kind="fit_tray"), base) is None
        assert record_outcome(done(DUNLIN, kind="refill", to_l=7.2), base) is None
        same = record_outcome(DUNLIN, base)
        assert same is not None and same.dry == base.dry
        assert same.under == pytest.approx(base.under, abs=0.05)

    def test_the_best_charge_is_one_of_those_looked_at(self, base: BaseLap) -> None:
        charge = best_charge_on(base)
        assert charge in CHARGES
        offered = {each.key: each for each in remedies(DUNLIN, charge)}
        last = read_act(dict(offered["bottle"].acts[-1]))
        assert getattr(last, "precharge_bar", None) == charge and offered["bottle"].applies
