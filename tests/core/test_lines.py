"""Lines of a build: gaps, checks, acts, the order."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.checks.lines import check_line
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Cooler
from bilge_core.document.circuit.route import laid
from bilge_core.document.reach import felt_by
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.lines.bending import Bender
from bilge_core.lines.flows import flow_in, flows_cold, flows_hot
from bilge_core.lines.laid import gaps_of
from bilge_core.lines.order import (
    needs_of,
)
from bilge_core.lines.ports import port_end
from bilge_core.options.candidate import Prices
from bilge_core.physics.axes import engine_to_car
from bilge_core.rules import Check
from bilge_core.rules import lines as rules
from bilge_core.rules.lines import ROCKS, least_radius
from bilge_core.tell.lines_all import lines_out

from tests.conftest import DEMO
from tests.core.line_orders import ACCUMULATOR
from tests.laid_lines import (
    CURLEW,
    DUNLIN,
    SANDPIPER,
    TO_COOLER,
    WAY,
    done,
    laid_out,
    line_of,
    with_way,
)


def states(build: Build, run: str = TO_COOLER) -> dict[str, str]:
    found: dict[str, str] = {}
    for check in check_line(build, line_of(build, run)):
        found.setdefault(check.rule.key, check.state)
    return found


class TestLaying:
    def test_a_way_in_the_cars_frame_comes_back_as_it_was_told(self) -> None:
        """The demo's engine leans by 12°: its own frame is another."""
        line = line_of(with_way())
        assert line.route is not None
        assert line.route.points * 1e3 == pytest.approx(
            np.array([row["at_mm"] for row in WAY], dtype=float), abs=0.02
        )
        bend = 130 * (math.pi / 2 - 2)
        assert line.length == pytest.approx((180 + 350 + bend) * 1e-3, abs=1e-4)

    def test_only_bends_have_a_radius(self) -> None:
        way = [{**row, "radius_mm": 130} for row in WAY]
        told = done(DUNLIN, kind="lay_line", run=TO_COOLER, dash=10, points=way)
        route = next(run.route for run in told.circuit.runs if run.id == TO_COOLER)
        assert [point.radius_mm for point in route] == [None, 130, None]

    def test_figures_are_read_as_typed(self) -> None:
        build = done(
            DUNLIN, kind="lay_line", run=TO_COOLER, dash=10, length_mm="25 in", clips_mm="10 in",
            slack_mm="1 in", sleeve=True,
        )  # fmt: skip
        line = line_of(build)
        assert line.length == pytest.approx(0.635)
        assert line.hose is not None and line.hose.clips_mm == 254.0 and line.hose.sleeve
        back = done(with_way(), kind="lay_line", run=TO_COOLER, points=[])
        assert line_of(back).length is None

    def test_a_hose_becomes_a_hard_line_and_keeps_what_both_have(self) -> None:
        build = with_way(clips_mm=250, slack_mm=20)
        tube = done(build, kind="lay_line", run=TO_COOLER, made_of="hard_line", wall_mm=0.9)
        line = line_of(tube)
        assert line.run.line.kind == "hard_line" and line.dash == 10 and line.route is not None
        assert line.outside == pytest.approx(15.875e-3)
        out = lines_out(tube, Prices.generic(), Bender())
        sheet = next(each.sheet for each in out.lines if each.id == TO_COOLER)
        assert sheet is not None and len(sheet.pulls) == 1
        assert sheet.pulls[0].bend_deg == pytest.approx(90.0, abs=0.1)
        assert out.bars[0].lines == [1]
        # out of a bar of 3 m: the line, a flare at either end, a spare for a bend gone wrong
        bender = Bender(flare=8e-3, spare=0.11)
        left = lines_out(tube, Prices.generic(), bender).bars[0].left_mm
        assert line.length is not None
        assert left == pytest.approx(3000.0 - 1e3 * line.length - 16.0 - 110.0, abs=3.0)

    @pytest.mark.parametrize(
        ("more", "field"),
        [
            ({"points": WAY[:1]}, "points"),
            ({"points": [WAY[0], WAY[0]]}, "points.1.at_mm"),
            ({"wall_mm": 0.9}, "wall_mm"),
            ({"length_mm": 0}, "length_mm"),
            ({"length_mm": 10**6}, "length_mm"),
            ({"start_fittings": ["left-handed"]}, "start_fittings"),
            ({"dash": 7}, "dash"),
            ({}, "kind"),
        ],
        ids=str,
    )
    def test_what_cannot_be_is_refused_by_its_field(self, more: Any, field: str) -> None:
        with pytest.raises(InvalidInput) as refused:
            done(DUNLIN, kind="lay_line", run=TO_COOLER, **more)
        assert field in [problem.field for problem in refused.value.problems]

    def test_a_line_that_is_not_there(self) -> None:
        with pytest.raises(InvalidInput, match="by its id"):
            done(DUNLIN, kind="lay_line", run="r999", dash=8)
        cast = next(run.id for run in DUNLIN.circuit.runs if run.line.kind == "passage")
        with pytest.raises(InvalidInput, match="must be said"):
            done(DUNLIN, kind="lay_line", run=cast, dash=8)

    def test_a_port_told(self) -> None:
        cooler = DUNLIN.circuit.of_kind(Cooler)[0]
        told: dict[str, Any] = {"kind": "set_port", "component": cooler.id, "port": "inlet"}
        build = done(
            DUNLIN, **told, at_mm=["20 in", 260, 120], faces="behind", thread="flare 10 male"
        )
        line = line_of(build)
        end = line.ends[1].port
        assert end.place == pytest.approx([0.508, 0.26, 0.12], abs=1e-5)
        assert end.joint.thread == "flare 10" and not end.is_usual
        # no place was given for the cooler: as the engine's, its frame is the engine's
        assert end.faces == pytest.approx(engine_to_car(DUNLIN.car) @ [-1, 0, 0])
        for wrong in ({"thread": "flare 7 male"}, {"port": "nose"}, {}):
            with pytest.raises(InvalidInput):
                done(DUNLIN, **{**told, **wrong})

    def test_a_thread_that_nobody_knows_is_told_in_place(self) -> None:
        raw = DUNLIN.model_dump(mode="json")
        cooler = next(each for each in raw["circuit"]["components"] if each["kind"] == "cooler")
        cooler["ports"] = [{"port": "inlet", "thread": "5/8 gas"}]
        checks = check_line(build_from(raw), line_of(build_from(raw)))
        assert any("'5/8 gas' is no thread" in each.words for each in checks)


class TestGravity:
    @pytest.mark.parametrize(
        ("middle", "state", "says"),
        [
            ((60, 0, -60), None, ""),  # by hand: 45°, then 26.6°
            ((60, 0, -100), "caution", "falls by only 3°"),  # 5 mm over 100
            ((60, 0, -130), "bad", "rises by 14°: a trap"),  # 25 mm up over 100
        ],
    )
    def test_a_drain_that_lies_low_on_its_way_is_told_where_it_is_laid(
        self, middle: tuple[float, float, float], state: str | None, says: str
    ) -> None:
        raw = SANDPIPER.model_dump(mode="json")
        run = next(each for each in raw["circuit"]["runs"] if each["service"] == "drain"
                   and each["line"]["kind"] == "hose")  # fmt: skip
        ways = [(0, 0, 0), middle, (160, 0, -105)]
        run["route"] = [{"at_mm": list(at)} for at in ways]
        build = build_from(raw)
        falls = [
            each for each in check_line(build, line_of(build, run["id"]))
            if each.rule.key == "drain_falls"
        ]  # fmt: skip
        assert [each.state for each in falls] == ([] if state is None else [state])
        assert all(part in falls[0].words for part in says.split(": ") if falls)


class TestReach:
    def key(self, build: Build) -> Any:
        return felt_by("moving", build.model_dump(mode="json"))

    @pytest.mark.parametrize("build", [DUNLIN, CURLEW, SANDPIPER], ids=lambda each: each.name)
    def test_what_documents_did_not_always_have_starts_no_run(self, build: Build) -> None:
        """Kept runs are known by what they were known by: nulls of later fields are not felt."""
        raw = build.model_dump(mode="json")
        key = felt_by("moving", raw)
        for run in raw["circuit"]["runs"]:
            for field in ("slack_mm", "wall_mm"):
                run["line"].pop(field, None)
            for point in run["route"]:
                if point["radius_mm"] is None:
                    del point["radius_mm"]
        assert felt_by("moving", raw) == key
        assert "slack_mm" not in str(key)

    def test_moving_oil_feels_litres_and_loss_of_a_laid_line_and_no_place(self) -> None:
        build = with_way()
        for same in (
            {"sleeve": True}, {"clips_mm": 200}, {"start_deg": 90},
            {"points": [{**row, "at_mm": [row["at_mm"][0] + 40, *row["at_mm"][1:]]}  # type: ignore[list-item,misc]
                        for row in WAY]},
            {"slack_mm": 1},
        ):  # fmt: skip
            act: dict[str, Any] = same  # type: ignore[assignment]
            moved = done(build, kind="lay_line", run=TO_COOLER, **act)
            assert self.key(moved) == self.key(build), same
        longer = [*WAY[:2], {"at_mm": [620, 260, 120]}]
        for other in ({"points": longer}, {"dash": 12}, {"slack_mm": 100}):
            act = other  # type: ignore[assignment]
            moved = done(build, kind="lay_line", run=TO_COOLER, **act)
            assert self.key(moved) != self.key(build), other


class TestGaps:
    def test_a_line_along_a_bar_against_the_closed_form(self) -> None:
        """A hose 150 mm beside the rack's axis: less its radius and the rack's 22 mm."""
        line = line_of(with_way())
        ends = line.ends[0].port, line.ends[1].port
        route = laid([[0.37, -0.2, -0.06], [0.37, 0.2, -0.06]], [])
        gaps = {each.name: each for each in gaps_of(DUNLIN, route, 0.02, ends)}
        rack = gaps["steering rack"]
        assert rack.rocks  # the plate is the engine's, the rack the car's
        assert rack.gap == pytest.approx(0.15 - 0.022 - 0.01 - ROCKS)

    def test_moved_by_one_vector_with_all_round_it_the_gap_stays(self) -> None:
        line = line_of(with_way())
        ends = line.ends[0].port, line.ends[1].port
        raw = DUNLIN.model_dump(mode="json")
        raw["car"]["lean_right_deg"] = raw["car"]["nose_up_deg"] = 0
        box = raw["car"]["keep_outs"][0]
        raw["car"]["keep_outs"] = [box]
        still = build_from(raw)
        by = np.array([0.03, -0.02, 0.05])
        for side in ("from_mm", "to_mm"):
            box[side] = [a + 1e3 * b for a, b in zip(box[side], by, strict=True)]
        moved = build_from(raw)
        route = laid([[0.0, -0.1, -0.05], [0.3, 0.2, -0.02]], [])
        shifted = laid(route.points + by, [])
        (first,) = gaps_of(still, route, 0.02, ends)
        (second,) = gaps_of(moved, shifted, 0.02, ends)
        assert second.gap == pytest.approx(first.gap, abs=1e-9)


class TestChecks:
    def test_a_good_line_is_good(self) -> None:
        found = states(with_way(clips_mm=250, slack_mm=20))
        assert set(found.values()) <= {"good", "caution"}
        assert found["hose_bend"] == found["clips"] == found["slack"] == "good"

    def test_each_thing_wrong_is_told(self) -> None:
        tight = [WAY[0], {**WAY[1], "radius_mm": 60}, WAY[2]]
        assert states(done(with_way(), kind="lay_line", run=TO_COOLER, points=tight))[
            "hose_bend"
        ] == "bad"  # fmt: skip
        close = [WAY[0], {**WAY[1], "radius_mm": 400}, WAY[2]]
        assert states(done(with_way(), kind="lay_line", run=TO_COOLER, points=close))[
            "leg_length"
        ] == "bad"  # fmt: skip
        assert states(with_way())["slack"] == "caution"
        assert states(DUNLIN)["line_laid"] == "caution"
        assert states(with_way(dash=4))["pressure_speed"] == "caution"
        assert states(with_way(dash=4))["line_loss"] == "caution"
        low = [{"at_mm": [150, 80, -180]}, {"at_mm": [500, 80, -180]}]
        found = states(done(DUNLIN, kind="lay_line", run=TO_COOLER, dash=10, points=low))
        assert found["line_ground"] == "caution"
        hot = [{"at_mm": [0, 180, -60]}, {"at_mm": [300, 185, -60]}]
        near = done(DUNLIN, kind="lay_line", run=TO_COOLER, dash=10, points=hot)
        assert states(near)["line_gap"] == "bad" and states(near)["heat_sleeve"] == "caution"
        sleeved = done(near, kind="lay_line", run=TO_COOLER, sleeve=True)
        assert states(sleeved)["heat_sleeve"] == "good"

    def test_a_port_elsewhere_and_an_end_that_points_elsewhere(self) -> None:
        cooler = DUNLIN.circuit.of_kind(Cooler)[0].id
        build = done(
            with_way(), kind="set_port", component=cooler, port="inlet", at_mm=[500, 260, 200],
            faces="left",
        )  # fmt: skip
        found = states(build)
        assert found["ends_meet"] == "bad" and found["hose_end_turns"] == "caution"
        turned = done(build, kind="lay_line", run=TO_COOLER, end_deg=90)
        assert states(turned)["hose_end_turns"] == "good"

    def test_a_breather_hose_is_not_judged_by_its_guessed_barb(self) -> None:
        breathing = next(run.id for run in DUNLIN.circuit.runs if run.service == "vent")
        assert "chain" not in states(DUNLIN, breathing) and "chain" in states(DUNLIN)

    @pytest.mark.parametrize(
        ("gap", "state"),
        [(0.0, "bad"), (0.0001, "bad"), (0.0049, "bad"), (0.0051, "caution"),
         (0.0099, "caution"), (0.0101, "good")],
    )  # fmt: skip
    def test_a_gap_on_both_sides_of_wanted_and_of_half_of_it(self, gap: float, state: str) -> None:
        check = rules.check_gap("rack", gap, 0.010, False, "f")
        assert check.state == state
        assert check.words.startswith("Touches") == (gap <= 0.0)

    def test_an_end_that_nothing_fits_wants_a_made_part(self) -> None:
        check = rules.check_chain("cooler, oil in", False, "BSPP 3/8", 10, "f")
        assert (check.state, check.rule.key) == ("bad", "chain")
        assert check.words == "cooler, oil in: no chain from BSPP 3/8 to size 10; needs a made part"
        assert rules.check_chain("cooler, oil in", True, "BSPP 3/8", 10, "f").state == "good"

    def test_edges_of_bends_legs_and_ground(self) -> None:
        def state(check: Check) -> str:
            return check.state

        assert state(rules.check_bend("hose", 0.125, 0.125, "f")) == "good"
        assert state(rules.check_bend("hose", 0.1249, 0.125, "f")) == "bad"
        assert state(rules.check_legs(0.0, "f")) == "good"
        assert state(rules.check_legs(-0.001, "f")) == "bad"
        assert state(rules.check_ground(0.045, 0.045, "f")) == "good"
        assert state(rules.check_ground(0.044, 0.045, "f")) == "caution"
        assert state(rules.check_ground(0.0, 0.045, "f")) == "bad"
        thin = rules.THIN_WALL * 0.015
        assert least_radius("hard_line", None, 0.015, thin + 1e-6) == pytest.approx(0.030)
        assert least_radius("hard_line", None, 0.015, thin - 1e-6) == pytest.approx(0.045)

    def test_a_thin_tube_wants_more_radius(self) -> None:
        assert least_radius("hard_line", 8, 12.7e-3, 1.2e-3) == pytest.approx(25.4e-3)
        assert least_radius("hard_line", 8, 12.7e-3, 0.8e-3) == pytest.approx(38.1e-3)
        assert least_radius("hose", None, 12.0e-3, None) == least_radius("hose", 8, 0.0, None)

    def test_what_is_hot_is_known_by_its_name(self) -> None:
        assert rules.is_hot("exhaust") and rules.is_hot("Turbo housing")
        assert not rules.is_hot("steering rack")


class TestFlows:
    def test_lines_of_stages_carry_what_those_sweep_and_joined_ones_all_of_it(self) -> None:
        hot = flows_hot(CURLEW)
        found = {run.name: flow_in(CURLEW, run, hot) for run in CURLEW.circuit.runs}
        stage = next(iter(hot.scavenged.values()))
        # 10.4 cm3 at 0.55 of the crank
        assert stage == pytest.approx(hot.rpm / 60.0 * 0.55 * 10.4e-6)
        assert found["front scavenge"] == pytest.approx(stage)
        assert found["to the tee"] == pytest.approx(stage)
        assert found["to the tee 3"] == pytest.approx(2 * stage)
        assert found["to the separator"] == pytest.approx(3 * stage)
        assert found["tank to the pump"] == pytest.approx(hot.main)

    def test_a_bottles_line_is_sized_as_if_it_fed_the_engine_alone(self) -> None:
        build = done(DUNLIN, **ACCUMULATOR)
        run = next(r for r in build.circuit.runs if r.name == "to the bottle's valve")
        assert flow_in(build, run, flows_hot(build)) == flows_hot(build).main
        # with a length it flows by itself: hardly, as long as nothing dips
        laid_now = done(build, kind="lay_line", run=run.id, length_mm=500)
        hot = flows_hot(laid_now)
        known = next(r for r in laid_now.circuit.runs if r.id == run.id)
        assert hot.through[run.id] < 0.1 * hot.main == 0.1 * flow_in(laid_now, known, hot)

    def test_water_is_no_oil(self) -> None:
        build = done(DUNLIN, kind="fit_cooler", cooler="plate")
        water = [line for line in laid_out(build) if line.run.service == "water"]
        assert len(water) == 2 and all(line.flow == 0.0 and line.loss is None for line in water)
        parts = {need.part for line in water for need in needs_of(build, line, Bender())}
        assert parts == {"water_hose", "spiral_clip"}
        raw = build.model_dump(mode="json")
        source = next(c for c in raw["circuit"]["components"] if c["kind"] == "water_source")
        source["flow_l_min"] = 45
        told = [line for line in laid_out(build_from(raw)) if line.run.service == "water"]
        assert all(line.flow == pytest.approx(45 / 60e3) for line in told)

    def test_cold_oil_is_thicker_and_takes_more(self) -> None:
        build = with_way()
        line = line_of(build)
        assert line.loss is not None and line.cold_loss is not None
        assert flows_cold(build).viscosity > 5 * flows_hot(build).viscosity
        assert line.cold_flow < line.flow


class TestPorts:
    def test_a_bottles_port_is_half_inch_pipe(self) -> None:
        """Common practice, no published source: 1/2 in pipe-thread port, 10-size line."""
        build = done(DUNLIN, **ACCUMULATOR)
        run = next(r for r in build.circuit.runs if r.name == "to the bottle's valve")
        end = port_end(build, run, run.end)
        assert end is not None and end.joint.words == "taper pipe 1/2, female" and end.is_usual


@pytest.mark.parametrize("name", sorted(path.stem for path in DEMO.glob("*.json")
                                        if path.stem != "readings"))  # fmt: skip
def test_every_demo_has_lines_that_can_be_told(name: str) -> None:
    build = read_build((DEMO / f"{name}.json").read_text())
    out = lines_out(build, Prices.generic(), Bender())
    assert [each.number for each in out.lines] == list(range(1, len(out.lines) + 1))
    for line in out.lines:
        for end in line.ends:
            assert end.chain is not None, (line.name, end.name, end.thread)
