"""Oil up top: gas that goes up against it, what lies in a head over a lap, which drains are wet."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.forecast.heads import heads_over, mean_held
from bilge_core.loads.corners import find_corners
from bilge_core.loads.manoeuvres import Manoeuvre, manoeuvre_log
from bilge_core.network import network_of
from bilge_core.network.breathing import GAS_DENSITY, GAS_VISCOSITY, gas_ways
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.pipes import hole_resistance
from bilge_core.network.running import on_steadily, settled_in
from bilge_core.network.vessels import flooded_flow, hole_flow, hole_flow_with_gas
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.heads import heads_out

from tests.conftest import DEMO
from tests.networks import changed, dunlin

G = 9.80665
SANDPIPER = read_build((DEMO / "sandpiper.json").read_text())
HEAD = next(c.id for c in SANDPIPER.circuit.components if c.kind == "head")
Raw = dict[str, Any]


def with_head_breather(alone: bool, bore_mm: float | None = None) -> Build:
    """With gas let out of the head; `alone`: and nowhere else."""
    build = read_act({"kind": "fit_breather", "at": HEAD}).done(SANDPIPER).build
    document = build.model_dump(mode="json")
    runs = document["circuit"]["runs"]
    case = next(c["id"] for c in document["circuit"]["components"] if c["kind"] == "crankcase")
    if alone:
        document["circuit"]["runs"] = [
            run for run in runs
            if run["service"] != "vent" or run["start"]["component"] != case
        ]  # fmt: skip
    for run in document["circuit"]["runs"]:
        if bore_mm and run["start"]["component"] == HEAD and run["service"] == "drain":
            run["line"] |= {"bore_mm": bore_mm, "count": 6}
    return build_from(document)


def row_of(build: Build) -> Any:
    network = network_of(build)
    at = next(at for at, (of, _) in enumerate(network.vessels) if of == HEAD)
    return network.still.vessels[at]


class TestGasAgainstOil:
    @pytest.mark.parametrize(("gas", "oil"), [(0, 8.9), (20, 4.6), (60, 2.4), (120, 0.9)])
    def test_six_holes_of_twelve_millimetres(self, gas: float, oil: float) -> None:
        """Wallis' flooding correlation with C 0.8 (from memory), worked by hand [L/min]."""
        each = flooded_flow(0.012, 9.81, 820.0, gas / 60e3 / 6)
        assert 6 * each * 60e3 == pytest.approx(oil, abs=0.06)

    def test_so_much_gas_that_nothing_falls(self) -> None:
        assert flooded_flow(0.012, G, 820.0, 10e-3) == 0.0

    def test_without_gas_a_hole_is_a_hole(self) -> None:
        for depth in (0.002, 0.02, 0.08):
            told = hole_flow_with_gas(depth, 0.012, G, 700.0, 0.0, 500.0, 900.0)
            assert told == hole_flow(depth, 0.012, G)

    def test_oil_that_is_heavy_enough_stops_the_gas(self) -> None:
        """Deeper than ``p / (ρ g)`` of the crankcase shut, it falls as through a free hole."""
        shut = 300.0
        head = shut / (700.0 * G)
        gas = 30 / 60e3
        shallow = hole_flow_with_gas(0.8 * head, 0.012, G, 700.0, gas, 20.0, shut)
        deep = hole_flow_with_gas(head + 0.05, 0.012, G, 700.0, gas, 20.0, shut)
        assert shallow == pytest.approx(flooded_flow(0.012, G, 700.0, gas))
        assert deep == pytest.approx(hole_flow(0.05, 0.012, G))


class TestInTheNetwork:
    def test_no_gas_goes_up_where_the_head_has_no_way_out(self) -> None:
        row = row_of(SANDPIPER)
        assert (row["gas"], row["push"], row["shut"]) == (0.0, 0.0, 0.0)

    def test_all_blow_by_goes_up_where_there_is_no_other_way(self) -> None:
        """48 L/min, as its builder measured, at the speed of full power."""
        build = with_head_breather(alone=True)
        row = row_of(build)
        area = 6 * np.pi / 4 * 0.012**2
        assert row["gas"] * area * 60e3 == pytest.approx(48.0, rel=1e-3)
        assert row["full_speed"] == pytest.approx(speed_of_rpm(6400))
        # nothing else lets it out: it holds oil up to the walls round the drains, a guess
        assert row["shut"] == pytest.approx(0.04 * G * 0.85 * row["density"])

    def test_with_a_way_of_its_own_less_goes_up(self) -> None:
        both, alone = (row_of(with_head_breather(alone=each)) for each in (False, True))
        assert 0.0 < both["gas"] < alone["gas"]
        assert both["shut"] < alone["shut"]

    def test_gas_holds_oil_in_the_head(self) -> None:
        """Six drains of 9 mm carry the head's feed, but not against all of its blow-by."""
        speed = float(speed_of_rpm(6400))
        held = []
        for build in (SANDPIPER, with_head_breather(alone=True, bore_mm=9)):
            network = network_of(build)
            at = next(at for at, (of, _) in enumerate(network.vessels) if of == HEAD)
            held.append(float(settled_in(network, speed).in_vessels[at]))
        free = network_of(with_head_breather(alone=True, bore_mm=9))
        still = free.still.copy()
        still.vessels["gas"] = 0.0
        calm = settled_in(replace(free, still=still), speed)
        at = next(at for at, (of, _) in enumerate(free.vessels) if of == HEAD)
        assert held[1] > 1.5 * float(calm.in_vessels[at])

    def test_a_dry_drain_takes_the_gas(self) -> None:
        """Thrown to one side, oil leaves drains bare: it lies there as if no gas went up."""
        network = network_of(with_head_breather(alone=True, bore_mm=9))
        still = network.still.copy()
        still.vessels["gas"] = 0.0
        thrown = np.array([0.0, 9.0, -G])
        at = next(at for at, (of, _) in enumerate(network.vessels) if of == HEAD)
        with_gas, without = (
            float(settled_in(each, 650.0, thrown).in_vessels[at])
            for each in (network, replace(network, still=still))
        )
        assert with_gas == pytest.approx(without, rel=1e-6)

    def test_gas_is_driven_by_what_the_crankcase_has_over_the_head(self) -> None:
        build = with_head_breather(alone=True)
        ways, flow = gas_ways(build, DrainGuesses()), 48 / 60e3
        pressures = ways.pressures(flow)
        over = pressures[ways.source] - pressures[HEAD]
        assert row_of(build)["push"] == pytest.approx(over)
        assert 0.0 < over < pressures[ways.source]
        # six drains of 12 mm, half of each free
        free = hole_resistance(0.012 * 0.5**0.5, GAS_DENSITY, GAS_VISCOSITY, 6)
        assert over == pytest.approx(free.drop(flow), rel=1e-6)

    def test_oil_is_kept_whatever_holds_it(self) -> None:
        network = network_of(with_head_breather(alone=True, bore_mm=9))
        state = settled_in(network, 500.0)
        before = state.held
        on_steadily(state, 600.0, 5.0)
        drawn = float(state.whole["drawn_oil"][0])
        assert state.held - before == pytest.approx(drawn, abs=1e-12)


class TestOverALap:
    LOG = manoeuvre_log(Manoeuvre("corner", "left", 1.0, 0.4, 4.0, speed_of_rpm(6000.0)))

    def test_oil_lies_on_the_side_that_it_is_thrown_to(self) -> None:
        """A left turn throws it to the car's right: the nose's side of an engine that points so."""
        for hand, sign in (("left", 1.0), ("right", -1.0)):
            log = manoeuvre_log(Manoeuvre("corner", hand, 1.0, 0.4, 4.0, speed_of_rpm(6000.0)))  # type: ignore[arg-type]
            (head,) = heads_over(SANDPIPER, log, find_corners(log))
            (corner,) = head.corners
            wet = head.drains[np.array(corner.wet), 0]
            assert corner.corner.hand == hand and len(wet) > 0
            assert np.all(sign * wet > 0.0)

    def test_freer_drains_hold_less(self) -> None:
        (head,) = heads_over(SANDPIPER, self.LOG, ())
        assert head.pocket + head.freer < head.held.mean()
        now = mean_held(network_of(SANDPIPER), SANDPIPER, self.LOG, HEAD)
        assert head.held.mean() == pytest.approx(head.pocket + now)

    def test_measured_drains_are_told_so(self) -> None:
        assert not heads_over(SANDPIPER, self.LOG, ())[0].measured
        build = with_head_breather(alone=False, bore_mm=11)
        (head,) = heads_over(build, self.LOG, ())
        assert head.measured and head.drains[0, 2] == pytest.approx(0.011)
        assert head.gas_up > 0.0

    def test_as_told(self) -> None:
        (head,) = heads_out(SANDPIPER, self.LOG, find_corners(self.LOG))
        assert head.corners[0].hand == "left" and len(head.corners[0].wet) == len(head.drains)
        assert head.freer_mean_l < head.mean_l <= head.most_l
        assert head.outside_mean_l is not None and head.outside_mean_l <= head.mean_l
        assert mean_held(network_of(SANDPIPER), SANDPIPER, self.LOG, "c99") == 0.0


def _through_a_chest(raw: Raw, dash: int | None) -> None:
    """The head's drains fall into a timing chest, which has one way down to where they fell."""
    runs = raw["circuit"]["runs"]
    drains = next(run for run in runs if run["start"]["port"] == "drains")
    onward = {**drains, "id": "r900", "name": "way down of the chest"}
    onward["start"] = {"component": "c900", "port": "oil_out"}
    if dash is not None:
        onward["line"] = {"kind": "hose", "dash": dash}
    drains["end"] = {"component": "c900", "port": "oil_in"}
    runs.append(onward)
    chest = {"kind": "timing_chest", "id": "c900", "name": "timing chest"}
    raw["circuit"]["components"].append(chest)


def test_a_timing_chest_holds_what_its_way_down_asks_for() -> None:
    """Q = c A √(2 g h): all of a head's oil through a hole, its head by the bore's fourth power."""

    def held(dash: int | None) -> dict[str, float]:
        network = network_of(changed(dunlin(), lambda raw: _through_a_chest(raw, dash)))
        there = settled_in(network, speed_of_rpm(5000.0)).in_vessels
        return dict(zip((of for of, _ in network.vessels), there.tolist(), strict=True))

    small, large, untold = held(8), held(12), held(None)
    bores = {8: 10.92, 12: 17.27}  # as in tests/core/test_circuit_holds.py
    assert small["c900"] / large["c900"] == pytest.approx((bores[12] / bores[8]) ** 4, rel=0.1)
    assert 0.0 < untold["c900"] < large["c900"]  # 30 mm, guessed
    head = network_of(dunlin())
    alone = settled_in(head, speed_of_rpm(5000.0)).in_vessels[0]
    assert small["c8"] == large["c8"] == pytest.approx(alone)
