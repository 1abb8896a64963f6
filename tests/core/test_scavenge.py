"""Dry sumps: tank against closed forms, belt and bubbles against formulas, stages in balance."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.checks.dry import check_dry
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.forecast import forecast_settled
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.dry_engine import DryEngine
from bilge_core.moving.lap import MovingOil
from bilge_core.network import held_running
from bilge_core.pan import assemble_pan, hot_oil
from bilge_core.rules import dry
from bilge_core.scavenge.belt import belt_over, centres_for, drive_teeth
from bilge_core.scavenge.bubbles import least_bubble, rise_speed
from bilge_core.scavenge.lap import DryLap, dry_lap, oil_of_stage, stages_of
from bilge_core.scavenge.rose import scavenge_rose
from bilge_core.scavenge.sizing import Sized, sizing
from bilge_core.scavenge.stages import scavenged
from bilge_core.scavenge.tank import TankSpace, tank_space
from bilge_core.tell.dry_sump import dry_sump_out

from tests.conftest import DEMO, steady_log

CURLEW = read_build((DEMO / "curlew.json").read_text())
WET = {path.stem: read_build(path.read_text()) for path in sorted(DEMO.glob("*.json"))
       if path.stem not in ("readings", "curlew")}  # fmt: skip


def changed(build: Build, kind: str, **figures: Any) -> Build:
    """With figures of the first component of a kind set."""
    document = build.model_dump(mode="json")
    part = next(each for each in document["circuit"]["components"] if each["kind"] == kind)
    part |= figures
    return build_from(document)


def over(build: Build, log: Log) -> DryLap:
    return dry_lap(build, assemble_pan(build), log)


class TestTank:
    SPACE = tank_space(Tank(kind="tank", name="tank", volume_l=9, diameter_mm=180))
    RADIUS = 0.09

    @pytest.mark.parametrize("g", [0.0, 0.3, 1.2])
    def test_a_tilted_cylinder_whose_floor_is_covered_is_level_at_its_middle(
        self, g: float
    ) -> None:
        """Closed form: the plane goes through the axis at V / (pi R^2), whatever the tilt."""
        up = np.array([0.6 * g, -0.8 * g, 1.0]) / math.hypot(1.0, g)
        volume = 4.5e-3
        wanted = (volume / (math.pi * self.RADIUS**2) - 5e-3) * up[2]
        assert self.SPACE.cover(volume, up) == pytest.approx(wanted, abs=1e-6)

    @pytest.mark.parametrize("steep", [0.8, 1.5, 2.5])
    def test_a_hoof_of_oil_on_half_the_floor(self, steep: float) -> None:
        """Closed form of the cylindrical hoof (elementary geometry): 2/3 R^3 tan."""
        up = np.array([steep, 0.0, 1.0]) / math.hypot(1.0, steep)
        volume = 2.0 / 3.0 * self.RADIUS**3 * steep
        assert self.SPACE.cover(volume, up) == pytest.approx(-5e-3 * up[2], abs=1e-4)

    def test_an_outlet_at_the_wall_wants_more_oil_than_in_the_middle(self) -> None:
        up = np.array([0.0, 1.5, 1.0]) / math.hypot(1.0, 1.5)
        wants = {}
        for outlet in ("middle", "left", "right", "front"):
            space = tank_space(
                Tank(kind="tank", name="t", volume_l=9, diameter_mm=180, outlet=outlet)  # type: ignore[arg-type]
            )
            wants[outlet] = space.to_cover(0.04, up)
        assert wants["right"] < wants["middle"] < wants["left"]
        assert wants["front"] == pytest.approx(wants["middle"], rel=0.1)

    def test_a_box_and_what_gives_its_volume_alone(self) -> None:
        box = tank_space(Tank(kind="tank", name="t", volume_l=8, length_mm=200, width_mm=160))
        assert (box.volume, box.height) == pytest.approx((8e-3, 0.25))
        slim = tank_space(Tank(kind="tank", name="t", volume_l=8))
        assert slim.volume == pytest.approx(8e-3) and slim.height > 2.0 * slim.half_length

    def test_what_gives_its_height_is_as_wide_as_its_litres_ask(self) -> None:
        """V = pi d2 h / 4: 8 L at 400 mm are 159.6 mm across."""
        high = tank_space(Tank(kind="tank", name="t", volume_l=8, height_mm=400))
        assert high.height == pytest.approx(0.4, rel=1e-2)
        assert 2.0 * math.sqrt(high.area / math.pi) == pytest.approx(0.1596, rel=1e-2)

    def test_one_with_no_room_for_its_outlet_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match="outlet"):
            tank_space(Tank(kind="tank", name="t", volume_l=1, diameter_mm=50, outlet_mm=60))

    def test_more_oil_never_uncovers_it(self) -> None:
        space: TankSpace = self.SPACE
        for angle in np.linspace(0.0, 2.0 * math.pi, 9):
            up = np.array([math.cos(angle), math.sin(angle), 1.0]) / math.sqrt(2.0)
            covers = [space.cover(volume, up) for volume in np.linspace(0.0, 9e-3, 30)]
            assert np.all(np.diff(covers) >= -1e-9)


class TestBelt:
    @pytest.mark.parametrize(("crank", "pump", "centres"), [(24, 48, 0.2), (30, 30, 0.15)])
    def test_its_length_is_the_handbooks(self, crank: int, pump: int, centres: float) -> None:
        """2 C + pi (D + d) / 2 + (D - d)^2 / (4 C): machine design handbooks (from memory)."""
        pitch = 8e-3
        small, large = sorted(teeth * pitch / math.pi for teeth in (crank, pump))
        wanted = (
            2.0 * centres + math.pi * (large + small) / 2.0
            + (large - small) ** 2 / (4.0 * centres)
        )  # fmt: skip
        assert belt_over(pitch, crank, pump, centres).length == pytest.approx(wanted, rel=1e-3)

    def test_equal_pulleys_wrap_half_way_and_the_way_back_finds_the_distance(self) -> None:
        belt = belt_over(8e-3, 30, 30, 0.15)
        assert belt.wrap == pytest.approx(math.pi) and belt.meshing == pytest.approx(15.0)
        assert centres_for(8e-3, 24, 48, 90) == pytest.approx(0.2138, abs=1e-4)
        assert belt_over(8e-3, 24, 48, centres_for(8e-3, 24, 48, 90)).length == pytest.approx(0.72)

    def test_what_cannot_be_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match="touch"):
            belt_over(8e-3, 40, 40, 0.1)
        with pytest.raises(InvalidQuantity, match="positive"):
            belt_over(8e-3, 0, 40, 0.1)
        with pytest.raises(InvalidQuantity, match="long enough"):
            centres_for(8e-3, 40, 40, 40)

    def test_pulleys_come_near_to_the_ratio(self) -> None:
        for crank, pump in drive_teeth(0.55):
            assert crank / pump == pytest.approx(0.55, rel=0.02)


def test_bubbles_rise_by_stokes_and_the_cut_is_its_way_back() -> None:
    """g d^2 / (18 nu): a bubble of the cut size rises the way in the time."""
    size = least_bubble(0.25, 6.0, 12e-6)
    assert rise_speed(size, 12e-6) * 6.0 == pytest.approx(0.25)
    assert rise_speed(2e-3, 12e-6) == pytest.approx(4.0 * rise_speed(1e-3, 12e-6))
    with pytest.raises(InvalidQuantity):
        rise_speed(0.0, 12e-6)
    with pytest.raises(InvalidQuantity):
        least_bubble(0.25, 0.0, 12e-6)


class TestStages:
    def test_two_mouths_on_one_stage_share_it_until_one_sucks_air(self) -> None:
        """20.0 and 0.0 L/min of a trial: the one that sucks air has all of it."""
        one = np.zeros(2, dtype=np.int64)
        assert oil_of_stage(np.array([0.0, 0.0]), one, 0) == 1.0
        assert oil_of_stage(np.array([0.2, 0.4]), one, 0) == pytest.approx(0.7)
        assert oil_of_stage(np.array([0.0, 0.5]), one, 0) == pytest.approx(0.75)
        assert oil_of_stage(np.array([0.0, 0.51]), one, 0) == pytest.approx(0.49)
        assert oil_of_stage(np.array([0.0, 1.0]), one, 0) == 0.0
        assert oil_of_stage(np.array([0.0, 1.0]), np.array([0, 1]), 0) == 1.0

    def test_oil_is_neither_made_nor_lost_over_a_lap(self, saltmarsh: Log) -> None:
        lap = over(CURLEW, saltmarsh)
        whole = lap.in_pan + lap.in_tank + lap.coming_back
        assert lap.lost == 0.0 and float(np.ptp(whole)) < 1e-9
        assert np.all(lap.oil >= 0.0) and np.all(lap.oil <= lap.swept + 1e-12)
        assert lap.in_pan.min() >= 0.0

    def test_left_and_right_are_alike_in_a_car_that_is(self) -> None:
        """The Curlew stands upright, its rear mouths to both sides: a mirrored load, mirrored."""
        left, right = (over(CURLEW, steady_log(0.0, each, 6.0)) for each in (1.1, -1.1))
        front, rear_right, rear_left = range(3)
        assert left.oil[-1, rear_right] == pytest.approx(right.oil[-1, rear_left], rel=1e-6)
        assert left.oil[-1, front] == pytest.approx(right.oil[-1, front], rel=1e-6)
        assert left.in_pan[-1] == pytest.approx(right.in_pan[-1], rel=1e-6)
        assert left.oil[-1, rear_left] == 0.0 < left.oil[-1, rear_right]

    def test_a_blocked_stage_leaves_its_oil_lying(self) -> None:
        """In a long left all oil lies at the rear right mouth: without its stage it stays."""
        document = CURLEW.model_dump(mode="json")
        stages = [c for c in document["circuit"]["components"] if c["kind"] == "scavenge_stage"]
        stages[1]["displacement_cm3"] = 0.01
        log = steady_log(0.0, 1.1, 30.0)
        sound, blocked = over(CURLEW, log), over(build_from(document), log)
        assert sound.in_pan[-1] < 0.6e-3
        assert blocked.in_pan[-1] > 2e-3
        assert blocked.in_tank[-1] < sound.in_tank[-1]

    def test_a_build_whose_pump_draws_from_its_pan_has_none(self) -> None:
        assert check_dry(WET["dunlin"]) == ()
        with pytest.raises(InvalidInput, match="scavenge stage"):
            scavenged(WET["dunlin"], assemble_pan(WET["dunlin"]))

    def test_a_mouth_beside_the_pan_is_told_by_its_name(self) -> None:
        document = CURLEW.model_dump(mode="json")
        tubes = [c for c in document["circuit"]["components"] if c["kind"] == "pickup"]
        tubes[2]["mouth_at"]["x_mm"] = 2000
        with pytest.raises(InvalidInput, match="rear left pickup"):
            over(build_from(document), steady_log(0.0, 0.0, 1.0))


class TestRose:
    def test_it_is_symmetric_and_its_balance_holds(self) -> None:
        pan = assemble_pan(CURLEW)
        rose = scavenge_rose(CURLEW, pan, 4e-4, 700.0, 1.1)
        # thrown left and right alike, forward and back not
        assert rose.left[6] == pytest.approx(rose.left[18], rel=1e-3)
        assert rose.shares.sum(axis=1) == pytest.approx(1.0)
        assert np.all(rose.capacity >= 1.0)

    def test_a_stage_that_sucks_air_is_none_of_its_capacity(self) -> None:
        """Three alike: thrown wherever, one at least is bare, and two thirds are left."""
        pan, speed, returned = assemble_pan(CURLEW), 700.0, 4e-4
        stages, _ = scavenged(CURLEW, pan)
        swept = sum(float(stage.swept(speed)) for stage in stages)
        rose = scavenge_rose(CURLEW, pan, returned, speed, 1.1)
        assert rose.capacity.max() == pytest.approx(2.0 / 3.0 * swept / returned, rel=1e-3)
        assert rose.capacity.min() == pytest.approx(1.0 / 3.0 * swept / returned, rel=1e-3)

    def test_stages_too_small_never_keep_up(self) -> None:
        rose = scavenge_rose(CURLEW, assemble_pan(CURLEW), 4e-3, 700.0, 1.1, directions=4)
        assert np.all(np.isinf(rose.left))
        with pytest.raises(InvalidQuantity):
            scavenge_rose(CURLEW, assemble_pan(CURLEW), 4e-4, 700.0, 1.1, directions=3)
        with pytest.raises(InvalidQuantity):
            scavenge_rose(CURLEW, assemble_pan(CURLEW), 0.0, 700.0, 1.1)


def sizes(build: Build, log: Log) -> dict[str, Sized]:
    return {each.key: each for each in sizing(build, log, over(build, log))}


class TestSizing:
    def test_the_demos_car_wants_a_larger_joined_line(self, saltmarsh: Log) -> None:
        found = sizes(CURLEW, saltmarsh)
        assert {key for key, each in found.items() if each.state != "good"} == {"return_speed"}
        assert all(each.why for each in found.values() if each.state != "good")

    def test_a_tank_too_small_is_caught(self, saltmarsh: Log) -> None:
        small = changed(CURLEW, "tank", diameter_mm=260, volume_l=5.2)
        found = sizes(small, saltmarsh)
        assert found["tank_full"].state == "caution"
        low = build_from(
            {**CURLEW.model_dump(), "oil": {**CURLEW.oil.model_dump(), "volume_l": 3.6}}
        )
        short = sizes(low, saltmarsh)
        assert short["tank_oil"].state == "caution" and "more at the least" in short["tank_oil"].why
        assert forecast_settled(low, saltmarsh).least_cover < 0.06

    def test_an_outlet_at_the_wall_is_told_what_the_middle_is_worth(self, saltmarsh: Log) -> None:
        low = changed(CURLEW, "tank", outlet="left", diameter_mm=220)
        low = build_from({**low.model_dump(), "oil": {**low.oil.model_dump(), "volume_l": 4.2}})
        assert "in the middle" in sizes(low, saltmarsh)["tank_oil"].why

    @pytest.mark.parametrize(
        ("ratio", "state"),
        [(0.99, "bad"), (1.0, "caution"), (2.5, "good")],
    )  # fmt: skip
    def test_the_ratio_on_both_sides_of_its_edges(self, ratio: float, state: str) -> None:
        assert dry.check_ratio(ratio, "x").state == state


class TestChecks:
    def test_without_a_vent(self) -> None:
        document = CURLEW.model_dump(mode="json")
        document["circuit"]["runs"] = [
            run for run in document["circuit"]["runs"] if run["name"] != "breathing of the tank"
        ]
        bad = [each.words for each in check_dry(build_from(document)) if each.state == "bad"]
        assert bad == [
            "The oil tank has no way out for gas: lead a vent from it to a catch can or a breather"
        ]

    def test_a_stage_that_returns_to_where_it_draws(self) -> None:
        document = CURLEW.model_dump(mode="json")
        parts = document["circuit"]["components"]
        pan = next(each["id"] for each in parts if each["kind"] == "pan_region")
        back = next(r for r in document["circuit"]["runs"] if r["name"] == "back to the tank")
        back["end"] |= {"component": pan, "port": "returns"}
        words = [each.words for each in check_dry(build_from(document)) if each.state == "bad"]
        assert len(words) == 3 and all("does not lead to the tank" in each for each in words)

    def test_a_ratio_below_one_and_a_tank_smaller_than_its_lines(self) -> None:
        document = CURLEW.model_dump(mode="json")
        for part in document["circuit"]["components"]:
            if part["kind"] == "scavenge_stage":
                part["displacement_cm3"] = 3.0
            if part["kind"] == "tank":
                part |= {"volume_l": 0.5, "diameter_mm": 80, "height_mm": None}
        bad = [each.words for each in check_dry(build_from(document)) if each.state == "bad"]
        assert any("less than the" in each for each in bad)
        assert any("fills up" in each for each in bad)

    @pytest.mark.parametrize(("more_l", "is_told"), [(-0.02, True), (0.02, False)])
    def test_a_tank_takes_what_all_its_lines_hold_those_back_to_it_too(
        self, more_l: float, is_told: bool
    ) -> None:
        held = held_running(CURLEW)
        litres = 1e3 * (held.pressed + held.coming_back) + more_l
        small = changed(CURLEW, "tank", volume_l=litres, diameter_mm=100, height_mm=None)
        words = [each.words for each in check_dry(small) if each.state == "bad"]
        assert any("less than the" in each for each in words) == is_told

    def test_two_mouths_on_one_stage_are_a_caution(self) -> None:
        document = CURLEW.model_dump(mode="json")
        parts, runs = document["circuit"]["components"], document["circuit"]["runs"]
        stages = [each for each in parts if each["kind"] == "scavenge_stage"]
        tee = {"id": "c900", "kind": "tee", "name": "mouths' tee"}
        parts.append(tee)
        first, second = (
            next(r for r in runs if r["end"]["component"] == stage["id"]) for stage in stages[1:]
        )
        into = {
            **first,
            "id": "r900",
            "name": "joined",
            "start": {"component": "c900", "port": "c"},
        }
        first["end"] = {"component": "c900", "port": "a"}
        second["end"] = {"component": "c900", "port": "b"}
        runs.append(into)
        found = check_dry(build_from(document))
        assert any("draws by 2 mouths" in each.words for each in found)


class TestGoDry:
    @pytest.mark.parametrize("name", sorted(WET))
    @pytest.mark.parametrize("pickups", [2, 3, 4])
    def test_any_wet_sump_is_made_dry_in_one_act(self, name: str, pickups: int) -> None:
        act = read_act({"kind": "go_dry", "pickups": pickups, "depth_mm": "75 mm"})
        build = act.done(WET[name]).build
        assert build.circuit.is_dry and not WET[name].circuit.is_dry
        assert [each.state for each in check_circuit(build)] == ["good"]
        assert not [each for each in check_dry(build) if each.state == "bad"]
        stages, mouths = scavenged(build, assemble_pan(build))
        assert len(mouths) == pickups == sum(bool(each.mouths) for each in stages)
        tank = build.circuit.tank
        assert tank is not None
        held = hot_oil(build) * 1e3 - 0.62 * tank.volume_l
        assert 0.6 < held < 5.0  # engine, pan and lines

    def test_all_stages_together_sweep_the_ratio_that_was_asked_for(self) -> None:
        build = read_act({"kind": "go_dry", "ratio": 2.2, "pickups": 4}).done(WET["dunlin"]).build
        stages, _ = scavenged(build, assemble_pan(build))
        pump = build.circuit.pump
        swept = sum(each.per_turn * each.ratio for each in stages) * 1e6
        wanted = 2.2 * pump.displacement_cm3 * pump.drive_ratio
        assert swept == pytest.approx(wanted, rel=2e-3)

    def test_what_it_cannot_do_is_refused(self) -> None:
        with pytest.raises(InvalidInput, match="is dry already"):
            read_act({"kind": "go_dry"}).done(CURLEW)
        with pytest.raises(InvalidInput, match="must be deeper"):
            read_act({"kind": "go_dry", "depth_mm": 15}).done(WET["dunlin"])

    def test_a_turbo_gets_a_stage_of_its_own(self) -> None:
        act = read_act({"kind": "go_dry", "turbos": "own_stage"})
        build = act.done(WET["sandpiper"]).build
        stages, _ = scavenged(build, assemble_pan(build))
        assert [bool(each.mouths) for each in stages] == [True, True, True, False]
        assert stages_of(stages, 3).tolist() == [0, 1, 2]


class TestForecasts:
    def test_the_tanks_outlet_stands_where_the_mouth_did(self, saltmarsh: Log) -> None:
        found = forecast_settled(CURLEW, saltmarsh)
        assert found.verdict.state == "sound"
        assert found.verdict.sentence.startswith("The tank's outlet stays covered all lap")
        told = dry_sump_out(CURLEW, found.pan, found)
        assert told.over_lap is not None
        longest = [c for c in told.over_lap.corners if c.hand == "left"]
        assert max(c.shares[0] for c in longest) < 0.05  # the front stage sucks air in lefts
        assert min(c.shares[1] for c in longest) > 0.4

    def test_in_moving_oil_nothing_is_lost_and_each_mouth_has_its_account(self) -> None:
        log = steady_log(0.0, 0.9, 3.0)
        oil = MovingOil(CURLEW, assemble_pan(CURLEW), log, RESOLUTIONS["quick"])
        lap = oil.lap(list(oil.run()))
        whole = lap.volume + lap.held
        assert float(np.ptp(whole)) < 1e-9
        assert [each.name for each in lap.mouths] == ["tank", "mouth 1", "mouth 2", "mouth 3"]
        feed, _, right, left = lap.mouths
        assert feed.cover.min() > 0.06 and feed.gas_share.max() == 0.0
        assert right.swallowed[-50:].mean() < left.swallowed[-50:].mean()  # a left throws it right
        assert isinstance(oil.engine, DryEngine)  # its pump draws what it sweeps but for its relief
        swept = CURLEW.circuit.pump.swept_l_min(600.0 * 30.0 / math.pi) / 60e3
        assert 0.3 * swept < oil.engine._flow <= swept
        assert lap.in_tank[0] == pytest.approx(
            hot_oil(CURLEW) - lap.held[0] - lap.volume[0] + lap.in_tank[0], abs=2e-5
        )
