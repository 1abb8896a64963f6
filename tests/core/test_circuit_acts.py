"""Acts on the circuit: each adds or takes away a whole set; what is left checks out."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.oil import GRADES, hot_volume_ratio
from bilge_core.pan import assemble_pan
from bilge_core.tell.circuit import circuit_out

from tests.conftest import TEMPLATES
from tests.core.circuit_acts import MOVED, ONE_OF_EACH, Raw

FILES = [*sorted(Path("demo").glob("dunlin*.json")), *TEMPLATES]
BUILDS = {path.stem: read_build(path.read_text()) for path in FILES}
PLAIN = BUILDS["inline-front-sump"]


def after(*acts: Raw, build: Build = PLAIN) -> Build:
    """A build after acts, each of which left a circuit that checks out."""
    for raw in acts:
        build = read_act(raw).done(build).build
        assert [each.words for each in check_circuit(build) if each.state != "good"] == []
    return build


def of(build: Build, kind: str) -> Any:
    found = [each for each in build.circuit.components if each.kind == kind]
    assert len(found) == 1, (kind, found)
    return found[0]


def kinds(build: Build) -> list[str]:
    return sorted(each.kind for each in build.circuit.components)


def way(build: Build, start: str, service: str = "pressure") -> list[str]:
    """Names of the components that a line of runs goes through, from a component on."""
    names, here = [], next(c for c in build.circuit.components if c.name == start)
    while True:
        names.append(here.name)
        onward = [
            run for run in build.circuit.runs
            if run.start.component == here.id and run.service == service
        ]  # fmt: skip
        if not onward or len(names) > 30:
            return names
        found = build.circuit.component(onward[-1].end.component)
        assert found is not None
        here = found


def refused(raw: Raw, build: Build = PLAIN) -> str:
    with pytest.raises(InvalidInput) as error:
        read_act(raw).done(build)
    (only,) = error.value.problems
    return str(only)


def with_ids_for(build: Build, raw: Raw) -> Raw:
    """An act whose parts are named by kind here."""
    if "run" in raw:
        wanted = raw["run"]
        raw = {
            **raw,
            "run": next(
                r.id
                for r in build.circuit.runs
                if r.name == wanted or (not wanted and r.start.port == "drain")
            ),
        }
    named = {
        key: of(build, raw[key]).id
        for key in ("turbo", "head", "at", "component", "start", "end")
        if raw.get(key) in kinds(build)
    }
    return {**raw, **named}


@pytest.mark.parametrize(("before", "raw", "words"), ONE_OF_EACH, ids=lambda each: str(each)[:40])
def test_each_says_what_it_did(before: list[Raw], raw: Raw, words: str) -> None:
    build = after(*before)
    act = read_act(with_ids_for(build, raw))
    done = act.done(build)
    assert done.words.startswith(words)
    again = read_act(json.loads(act.model_dump_json()))
    assert again == act and again.done(build) == done
    bad = [each.words for each in check_circuit(done.build) if each.state != "good"]
    assert bad == ([] if raw["kind"] != "plug_port" else
                   ["catch can: the port 'drain' is open; join it or plug it"])  # fmt: skip


def test_a_further_cooler_s_thermostat_goes_where_the_first_has_none() -> None:
    build = after({"kind": "fit_sandwich_plate"}, {"kind": "fit_cooler"})
    assert of(build, "sandwich_plate").thermostat_c is None
    build = read_act({"kind": "fit_cooler", "thermostat_c": 82}).done(build).build
    assert of(build, "sandwich_plate").thermostat_c == 82


class TestTheBottle:
    def test_at_the_gallerys_feed_behind_its_check_valve(self) -> None:
        build = after(MOVED, {"kind": "fit_accumulator", "volume_l": 2})
        assert way(build, "remote filter")[:4] == [
            "remote filter", "check valve", "bottle's tee", "bottle's valve",
        ]  # fmt: skip
        valve = of(build, "shut_off_valve")
        assert valve.worked == "by_hand"
        line = next(r for r in build.circuit.runs if r.end.component == valve.id)
        assert line.line.dash == 10 and line.start.port == "c"  # type: ignore[union-attr]

    def test_by_the_other_schools(self) -> None:
        act = {"kind": "fit_accumulator", "volume_l": 2, "check_valve": False, "valve": "electric"}
        build = after(MOVED, act)
        assert "check_valve" not in kinds(build)
        assert of(build, "shut_off_valve").worked == "electric"

    def test_at_the_coolers_return(self) -> None:
        act = {"kind": "fit_accumulator", "volume_l": 2, "at": "cooler_return"}
        build = after({"kind": "fit_cooler"}, act)
        back = next(r for r in build.circuit.runs if r.end.port == "cooler_in")
        assert back.start.component == of(build, "tee").id
        assert "needs a cooler" in refused(act)

    def test_a_cast_feed_takes_no_tee(self) -> None:
        act = {"kind": "fit_accumulator", "volume_l": 2}
        assert "no line to screw a tee into" in refused({**act, "at": "gallery_feed"})
        build = after({**act, "at": "gallery_tapping"})
        assert not {"tee", "check_valve"} & set(kinds(build))

    def test_taken_out_with_all_that_came_with_it(self) -> None:
        moved = after(MOVED)
        fitted = after({"kind": "fit_accumulator", "volume_l": 2}, build=moved)
        for kind in ("accumulator", "tee"):
            gone = after({"kind": "take_out", "component": of(fitted, kind).id}, build=fitted)
            assert kinds(gone) == kinds(moved)
            assert way(gone, "remote filter") == way(moved, "remote filter")


class TestTheCooler:
    def test_at_a_plate_under_the_filter(self) -> None:
        build = after({"kind": "fit_cooler", "thermostat_c": 85})
        plate, cooler = of(build, "sandwich_plate"), of(build, "cooler")
        assert plate.thermostat_c == 85
        ends = {(r.start.port, r.end.port) for r in build.circuit.runs
                if cooler.id in (r.start.component, r.end.component)}  # fmt: skip
        assert ends == {("cooler_out", "inlet"), ("outlet", "cooler_in")}
        assert way(build, "relief valve")[:2] == ["relief valve", "sandwich plate"]

    def test_a_plate_that_is_there_is_used(self) -> None:
        build = after({"kind": "fit_sandwich_plate"}, {"kind": "fit_cooler", "thermostat_c": 80})
        plate = of(build, "sandwich_plate")
        assert plate.plugged == [] and plate.thermostat_c == 80

    def test_in_the_lines_of_a_remote_filter(self) -> None:
        build = after(MOVED, {"kind": "fit_cooler"})
        assert way(build, "remote filter")[:3] == ["remote filter", "oil cooler", "take-off plate"]
        warm = after(MOVED, {"kind": "fit_cooler", "thermostat_c": 85})
        assert of(warm, "thermostat").opens_c == 85

    def test_a_second_one_behind_the_first(self) -> None:
        build = after({"kind": "fit_cooler"}, {"kind": "fit_cooler", "thermostat_c": 85})
        names = [c.name for c in build.circuit.components if c.kind == "cooler"]
        assert names == ["oil cooler", "oil cooler 2"]
        assert "thermostat" not in kinds(build)
        one = next(c.id for c in build.circuit.components if c.name == "oil cooler")
        single = after({"kind": "take_out", "component": one}, build=build)
        assert "cooler" in kinds(single) and "sandwich_plate" in kinds(single)

    def test_a_plate_cooler_has_its_water(self) -> None:
        build = after({"kind": "fit_cooler", "cooler": "plate", "rating_kw": "60000 BTU/h"})
        cooler = of(build, "plate_cooler")
        assert cooler.rating_kw == pytest.approx(
            17.58, abs=0.01
        )  # 1 BTU/h = 0.29307 W, NIST SP 811
        assert sum(run.service == "water" for run in build.circuit.runs) == 2
        gone = after({"kind": "take_out", "component": cooler.id}, build=build)
        assert kinds(gone) == kinds(PLAIN)

    def test_taken_out_the_plate_goes_with_it_and_the_other_way_round(self) -> None:
        build = after({"kind": "fit_cooler"})
        for kind in ("cooler", "sandwich_plate"):
            gone = after({"kind": "take_out", "component": of(build, kind).id}, build=build)
            assert kinds(gone) == kinds(PLAIN)
            assert way(gone, "relief valve") == way(PLAIN, "relief valve")

    def test_with_a_bottle_in_its_lines_it_stays(self) -> None:
        act = {"kind": "fit_accumulator", "volume_l": 2, "at": "cooler_return"}
        build = after({"kind": "fit_cooler"}, act)
        for kind in ("cooler", "sandwich_plate"):
            said = refused({"kind": "take_out", "component": of(build, kind).id}, build)
            assert "has other things in its lines: take those out first" in said


class TestWhatTheyHold:
    """A cooler fills itself from the pan: filled up, the pan keeps its oil."""

    def test_filled_up(self) -> None:
        build = after({"kind": "fit_cooler", "holds_l": 0.6})
        hot = hot_volume_ratio(GRADES[PLAIN.oil.grade], PLAIN.oil.temperature_c + 273.15)
        assert build.oil.away_l == pytest.approx(PLAIN.oil.away_l + 0.6)
        assert build.oil.volume_l == pytest.approx(PLAIN.oil.volume_l + 0.6 / hot, abs=1e-3)
        assert assemble_pan(build).oil_volume == pytest.approx(
            assemble_pan(PLAIN).oil_volume, abs=0.05e-3
        )
        assert of(build, "crankcase").holds_l == PLAIN.oil.away_l

    def test_the_mark_goes_up_with_it(self) -> None:
        dunlin = BUILDS["dunlin"]
        build = after({"kind": "fit_cooler", "holds_l": 0.6}, build=dunlin)
        assert dunlin.oil.mark_l is not None and build.oil.mark_l is not None
        more = build.oil.volume_l - dunlin.oil.volume_l
        assert build.oil.mark_l - dunlin.oil.mark_l == pytest.approx(more)

    def test_as_poured_the_pan_has_less(self) -> None:
        build = after({"kind": "fit_cooler", "holds_l": 0.6, "fill_up": False})
        assert build.oil.volume_l == PLAIN.oil.volume_l
        assert assemble_pan(build).oil_volume == pytest.approx(
            assemble_pan(PLAIN).oil_volume - 0.6e-3, abs=0.05e-3
        )

    def test_a_moved_filter_holds_what_it_holds_more(self) -> None:
        dunlin = BUILDS["dunlin"]
        build = after({"kind": "move_filter", "holds_l": 0.9}, build=dunlin)
        assert build.oil.away_l == pytest.approx(dunlin.oil.away_l - 0.35 + 0.9)
        hot = hot_volume_ratio(GRADES[dunlin.oil.grade], dunlin.oil.temperature_c + 273.15)
        more = (0.9 - 0.35) / hot
        assert build.oil.volume_l == pytest.approx(dunlin.oil.volume_l + more, abs=1e-3)
        assert of(after(MOVED, build=dunlin), "remote_filter").holds_l == 0.35
        two = after({"kind": "second_filter", "holds_l": 0.3}, build=build)
        assert of(two, "remote_filter").holds_l == pytest.approx(1.2)
        assert two.oil.away_l == pytest.approx(build.oil.away_l + 0.3)


class TestTheFilter:
    def test_moved_and_back_on_the_block(self) -> None:
        moved = after(MOVED)
        base = of(moved, "remote_filter")
        assert base.plugged == ["in_right", "out_right"] and base.filters == 1
        assert way(moved, "relief valve")[:4] == [
            "relief valve", "take-off plate", "remote filter", "take-off plate",
        ]  # fmt: skip
        back = after({"kind": "take_out", "component": base.id}, build=moved)
        assert kinds(back) == kinds(PLAIN)
        assert "moved already" in refused(MOVED, moved)

    def test_a_second_needs_a_base_with_one(self) -> None:
        assert "move the filter first" in refused({"kind": "second_filter"})
        assert "move the filter first" in refused(
            {"kind": "second_filter"}, after({"kind": "move_filter", "filters": 2})
        )


class TestRegulatorAndFeed:
    def test_the_relief_is_blocked_and_its_return_free(self) -> None:
        act = {"kind": "fit_regulator", "opens_bar": 5, "bypass_to": "pump_inlet"}
        build = after(MOVED, act)
        assert "relief" not in kinds(build) and build.circuit.relief_bar is None
        bypass = next(r for r in build.circuit.runs if r.start.port == "bypass")
        assert bypass.end.port == "relief_return"
        assert "taken by the engine's own relief" in refused(
            {**act, "block_relief": False}, after(MOVED)
        )

    def test_beside_the_relief_it_goes_to_the_pan(self) -> None:
        act = {"kind": "fit_regulator", "opens_bar": 5, "block_relief": False}
        build = after(MOVED, act)
        assert {"relief", "regulator"} <= set(kinds(build))
        assert "needs a line outside the engine" in refused(act)

    def test_blocked_for_the_pan_the_pumps_return_is_plugged(self) -> None:
        build = after(MOVED, {"kind": "fit_regulator", "opens_bar": 5})
        assert build.circuit.pump.plugged == ["relief_return"]

    def test_a_direct_feed_shuts_the_old_way(self) -> None:
        build = after(MOVED, {"kind": "direct_feed"})
        assert of(build, "gallery").plugged == ["feed"]
        assert of(build, "take_off_plate").plugged == ["outlet", "line_in"]
        assert way(build, "remote filter")[:2] == ["remote filter", "main gallery"]
        assert "is there already" in refused({"kind": "direct_feed"}, build)
        assert "move the filter first" in refused({"kind": "direct_feed"})
        base = of(build, "remote_filter").id
        assert "feeds the gallery directly" in refused(
            {"kind": "take_out", "component": base}, build
        )


class TestTheTurbo:
    def test_fed_through_its_restrictor(self) -> None:
        build = after({"kind": "feed_turbo"})
        assert of(build, "restrictor").bore_mm == 2.0
        bare = after({"kind": "feed_turbo", "restrictor_mm": None})
        assert "restrictor" not in kinds(bare)
        gone = after({"kind": "take_out", "component": of(build, "turbo").id}, build=build)
        assert kinds(gone) == kinds(PLAIN)

    def test_drained_into_a_boss_of_its_own(self) -> None:
        build = after({"kind": "feed_turbo"})
        turbo = of(build, "turbo").id
        act = {"kind": "drain_turbo", "turbo": turbo, "how": "gravity", "dash": 12,
               "boss_mm": [260, 105, 20]}  # fmt: skip
        build = after(act, build=build)
        boss = build.pan.bosses[-1]
        assert (boss.kind, boss.fixing) == ("turbo_drain", "through_fitting")
        assert boss.bore_mm == pytest.approx(19.05)
        assert boss.id in {run.end.port for run in build.circuit.runs}
        # scavenged instead, the hole is there still, and blocked
        other = after({**act, "how": "scavenged", "boss_mm": None}, build=build)
        assert other.pan.bosses[-1].blocked and "scavenge_stage" in kinds(other)
        again = after({**act, "how": "gravity", "boss_mm": None}, build=other)
        assert "scavenge_stage" not in kinds(again)

    def test_a_stage_taken_out_it_falls_by_itself(self) -> None:
        build = after({"kind": "feed_turbo"})
        turbo = of(build, "turbo").id
        build = after({"kind": "drain_turbo", "turbo": turbo, "how": "scavenged"}, build=build)
        stage = of(build, "scavenge_stage").id
        gone = after({"kind": "take_out", "component": stage}, build=build)
        drain = next(run for run in gone.circuit.runs if run.start.component == turbo)
        assert (drain.service, drain.end.port) == ("drain", "returns")

    def test_what_is_no_turbo(self) -> None:
        act = {"kind": "drain_turbo", "turbo": of(PLAIN, "head").id, "how": "gravity"}
        assert "must be a turbo" in refused(act)
        assert "no component of this circuit" in refused({**act, "turbo": "c999"})


class TestBreathing:
    def test_a_can_takes_what_the_breather_took(self) -> None:
        build = after({"kind": "fit_catch_can", "volume_l": 2, "drains_back": True})
        can = of(build, "catch_can")
        assert can.plugged == []
        assert of(build, "check_valve").name == "can's check valve"
        more = after({"kind": "fit_breather", "at": of(build, "head").id}, build=build)
        into = [run for run in more.circuit.runs if run.end.component == can.id]
        assert len(into) == 2
        assert "is there already" in refused({"kind": "fit_catch_can", "volume_l": 2}, build)
        gone = after({"kind": "take_out", "component": can.id}, build=more)
        breather = of(gone, "breather").id
        assert [r.service for r in gone.circuit.runs if r.end.component == breather] == ["vent"] * 2
        assert kinds(gone) == kinds(PLAIN)

    def test_where_no_gas_is(self) -> None:
        said = refused({"kind": "fit_breather", "at": of(PLAIN, "filter").id})
        assert "must be a head, a timing chest, the crankcase or a tank" in said
        assert "must be a head" in refused(
            {"kind": "outside_return", "head": of(PLAIN, "filter").id}
        )


@pytest.mark.parametrize("kind", ["pan_region", "pickup", "pressure_stage", "gallery", "head",
                                  "crankcase", "filter"])  # fmt: skip
def test_what_belongs_to_the_engine_stays(kind: str) -> None:
    part = of(PLAIN, kind)
    assert "belongs to the engine" in refused({"kind": "take_out", "component": part.id})
    told = {each.id: each.can_go for each in circuit_out(PLAIN).components}
    assert not told[part.id] and told[of(PLAIN, "breather").id]


def test_a_port_that_no_line_ends_at_tells_its_thread_and_place() -> None:
    """Place and way in the car's frame, though this engine leans by 12°."""
    leaning = BUILDS["dunlin"]
    gallery = of(leaning, "gallery").id
    told = {"thread": "taper 1/8 female", "at_mm": [120, -40, 60], "faces": "left"}
    build = after(
        {"kind": "set_port", "component": gallery, "port": "second_feed", **told}, build=leaning
    )
    part = next(each for each in circuit_out(build).components if each.id == gallery)
    port = next(each for each in part.ports if each.key == "second_feed")
    assert (port.thread, port.thread_key) == ("taper pipe 1/8, female", "taper 1/8 female")
    assert port.at_mm == pytest.approx([120, -40, 60], abs=0.02) and port.faces == "left"
    assert circuit_out(build).threads[port.thread_key] == port.thread
    others = [each for each in part.ports if each.key != "second_feed"]
    assert {(each.thread, each.thread_key, each.faces) for each in others} == {("", "", None)}


def test_a_port_with_a_line_on_it_takes_no_plug() -> None:
    act = {"kind": "plug_port", "component": of(PLAIN, "filter").id, "port": "inlet",
           "plugged": True}  # fmt: skip
    assert "a line must come off" in refused(act)
    assert "must be one of inlet, outlet" in refused({**act, "port": "top"})
