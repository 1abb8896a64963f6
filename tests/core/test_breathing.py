"""Blow-by and where it goes; the pan's wall unrolled beside the oil."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.read import read_build
from bilge_core.drains.crankcase import crankcase_over
from bilge_core.drains.wall import clear_of_oil, unrolled
from bilge_core.errors import InvalidInput
from bilge_core.network.breathing import (
    AIR,
    GAS_DENSITY,
    GAS_VISCOSITY,
    Breathing,
    GasWay,
    blow_by,
    gas_ways,
)
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.pipes import Resistance, hole_resistance
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.physics.axes import standing_up

from tests.conftest import DEMO
from tests.turbo import SANDPIPER, changed, over, part

Raw = dict[str, Any]


class TestBreathing:
    @pytest.mark.parametrize("flow", [0.0, 1e-12, -3.5e-11, 1e-6, -1e-6, 2e-3])
    @pytest.mark.parametrize("bore", [1.5e-3, 9e-3, 18e-3])
    def test_a_hole_has_its_own_law_s_pressure(self, bore: float, flow: float) -> None:
        """Δp = a q + b q², by hand; a whole step of Newton turns its sign about for ever."""
        by = hole_resistance(bore, GAS_DENSITY, GAS_VISCOSITY)
        case = Breathing((GasWay("r1", "leak", "c7", AIR, by),), "c7", ("c7",))
        found = case.pressures(flow)["c7"]
        wanted = math.copysign(by.laminar * abs(flow) + by.square * flow * flow, flow)
        assert found == pytest.approx(wanted, rel=1e-4, abs=by.laminar * 2e-9)

    @pytest.mark.parametrize(("wear", "share"), [("sound", 1.0), ("used", 2.0), ("worn", 4.0)])
    def test_blow_by_by_power_and_wear(self, wear: str, share: float) -> None:
        """1, 2 and 4 ft3/min for every 100 hp (from memory); 1 ft3/min is 28.317 L/min."""

        def unmeasured(document: Raw) -> None:
            part(document, "crankcase")["blow_by_l_min"] = None
            document["car"] |= {"wear": wear, "engine_power_kw": 74.569987}

        found = blow_by(changed(SANDPIPER, unmeasured), DrainGuesses())
        assert found * 60e3 == pytest.approx(28.3168 * share, rel=1e-4)

    def test_through_an_orifice_alone(self) -> None:
        """``Δp = ρ/2 (q / (0.62 A))²``."""
        area = math.pi / 4 * 0.009**2
        hole = hole_resistance(0.009, GAS_DENSITY, GAS_VISCOSITY)
        one = Breathing((GasWay("b", "b", "c7", AIR, hole),), "c7", ("c7",))
        flow = 48 / 60e3
        wanted = 0.5 * GAS_DENSITY * (flow / (0.62 * area)) ** 2
        assert one.pressures(flow)["c7"] == pytest.approx(wanted, rel=0.03)

    def test_what_comes_in_goes_out_by_all_ways(self) -> None:
        """Two ways out, one through another space: flows add up, pressures fall on the way."""
        by = Resistance(1e4, square=1e8)
        ways = (
            GasWay("a", "a", "c7", AIR, by), GasWay("b", "b", "c7", "c8", by),
            GasWay("c", "c", "c8", AIR, Resistance(3e4, square=1e8)),
        )  # fmt: skip
        both = Breathing(ways, "c7", ("c7", "c8"))
        pressures = both.pressures(1e-3)
        flows = both.flows(1e-3, pressures)
        assert flows["a"] + flows["c"] == pytest.approx(1e-3, rel=1e-6)
        assert flows["b"] == pytest.approx(flows["c"], rel=1e-6)
        assert pressures["c7"] > pressures["c8"] > 0.0
        shut = both.pressures(1e-3, {"a"})
        assert shut["c7"] > pressures["c7"]

    def test_a_port_under_oil_carries_it_out(self) -> None:
        """A covered hose lifts oil as soon as gas has its head; then as much oil as blow-by."""
        hole = Resistance(1e3, square=1e7)
        way = GasWay("a", "a", "c7", AIR, hole, np.zeros(3), rise=0.05)
        under = {"a": np.array([-0.02, 0.03, 0.03, -0.02])}
        flow, gravity = np.full(4, 1e-3), np.full(4, 9.80665)
        one = Breathing((way,), "c7", ("c7",))
        found = crankcase_over(one, flow, 820.0, gravity, under, 0.1)
        assert found.covered.tolist() == [0, 1, 1, 0]
        assert found.pressure[1] == pytest.approx(820 * 9.80665 * 0.08)
        assert found.carried[-1] == pytest.approx(2e-4)

    def test_without_a_crankcase_it_is_said(self) -> None:
        def gone(document: Raw) -> None:
            case = part(document, "crankcase")["id"]
            circuit = document["circuit"]
            circuit["components"] = [p for p in circuit["components"] if p["id"] != case]
            circuit["runs"] = [
                r for r in circuit["runs"]
                if case not in (r["start"]["component"], r["end"]["component"])
            ]  # fmt: skip

        with pytest.raises(InvalidInput, match="must have a crankcase"):
            gas_ways(changed(SANDPIPER, gone), DrainGuesses())

    def test_a_breather_on_the_head_takes_gas_up_the_drains(self) -> None:
        head = next(c.id for c in SANDPIPER.circuit.components if c.kind == "head")
        build = read_act({"kind": "fit_breather", "at": head}).done(SANDPIPER).build
        more = over(build).case.pressure.max()
        assert more < over(SANDPIPER).case.pressure.max()


class TestTheWall:
    def test_each_place_at_its_worst(self) -> None:
        """Against the level solved load by load."""
        pan = assemble_pan(SANDPIPER)
        ups = np.array([[0.0, 0.0, 1.0], [0.6, 0.0, 0.8], [0.0, -0.6, 0.8]])
        levels = np.array([level_of_volume(pan.solid, up, pan.oil_volume) for up in ups])
        wall = unrolled(SANDPIPER, pan, ups, levels)
        for at in (0, 30, 70, 110):
            for high in (3, 8, 12):
                place = np.array([*wall.places[at], wall.heights[high]])
                wanted = float((ups @ place - levels).min())
                if not math.isnan(wall.clear[at, high]):
                    assert wall.clear[at, high] == pytest.approx(wanted, abs=1e-9)
        assert clear_of_oil(np.zeros((1, 3)), ups, levels).shape == (1,)

    def test_it_goes_from_the_lowest_floor_to_the_top_of_the_skirt(self) -> None:
        pan = assemble_pan(SANDPIPER)
        up = np.array([[0.0, 0.0, 1.0]])
        heights = unrolled(SANDPIPER, pan, up, np.array([-0.07])).heights
        low = float(pan.solid.vertices[:, 2].min())
        assert heights[0] <= low < heights[1]
        assert heights[-2] < SANDPIPER.pan.skirt_height_mm * 1e-3 <= heights[-1]

    def test_a_keep_out_is_in_the_way(self) -> None:
        def beside(document: Raw) -> None:
            document["car"]["keep_outs"] = [
                {"kind": "box", "name": "starter", "frame": "engine", "from_mm": [60, -200, -60],
                 "to_mm": [160, -120, 40], "wanted_mm": 5}
            ]  # fmt: skip

        build = changed(SANDPIPER, beside)
        up, pan = standing_up(build.car), assemble_pan(build)
        wall = unrolled(build, pan, up[None], np.array([-0.07]))
        assert wall.in_the_way.any() and not wall.in_the_way.all()
        at = int(np.argwhere(wall.in_the_way)[0][0])
        assert wall.sides[at] == "rear"
        bare = unrolled(SANDPIPER, pan, up[None], np.array([-0.07]))
        assert not bare.in_the_way.any()

    def test_a_side_boxs_wall_begins_under_its_lid(self) -> None:
        dunlin = read_build((DEMO / "dunlin.json").read_text())
        up, pan = standing_up(dunlin.car), assemble_pan(dunlin)
        wall = unrolled(dunlin, pan, up[None], np.array([-0.07]))
        out = np.flatnonzero(wall.places[:, 1] < -0.15)
        assert len(out) > 10
        lid = wall.heights > -0.070
        assert np.isnan(wall.clear[out][:, lid]).all()
