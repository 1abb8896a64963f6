"""A crankcase that stages pull under the air: orifices by hand, what is taken is what comes in."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast.back_ups import drains_at, forecast_drains
from bilge_core.loads.log import Log
from bilge_core.network import network_of, steady
from bilge_core.network.breathing import Breathing, gas_ways
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.pan import assemble_pan
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.scavenge.sizing import scavenge_suction, sizing, top_speed
from bilge_core.scavenge.stages import lines_behind, scavenged, stages_on_pan, swept_of
from bilge_core.scavenge.vacuum import (
    breathing_when_pulled,
    case_pressure,
    case_pull,
    gas_pulled,
    with_leak,
)
from fluids.friction import friction_factor
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO

NEAR = 5.0  # [Pa] by which the breathing's own iteration may stop short
SEALED = Breathing((), "c7", ("c7",))
CURLEW = read_build((DEMO / "curlew.json").read_text())


def shut(build: Build) -> Build:
    """The same without a breather on its crankcase: it leaks, and no more."""
    circuit = build.circuit
    case = next(each for each in circuit.components if each.kind == "crankcase")
    runs = [
        run for run in circuit.runs
        if not (run.service == "vent" and case.id in (run.start.component, run.end.component))
    ]  # fmt: skip
    return build.model_copy(update={"circuit": circuit.model_copy(update={"runs": runs})})


def through(pressure: float, bore: float) -> float:
    """Air through a sharp hole [m3/s]: 0.61 A sqrt(2 p / rho), rho as the breathing has it."""
    return 0.61 * math.pi / 4.0 * bore**2 * math.sqrt(2.0 * abs(pressure) / 1.0)


@pytest.mark.parametrize("pulled", [1.5e-3, 3e-3, 10e-3])
def test_what_stages_take_comes_in_as_blow_by_and_by_the_leak(pulled: float) -> None:
    leaky, blow = with_leak(SEALED, 4e-3), 1e-3
    pressure = case_pressure(leaky, blow, pulled)
    assert -AIR_PRESSURE < pressure < 0.0
    taken = pulled * (1.0 + pressure / AIR_PRESSURE)
    assert taken == pytest.approx(blow + through(pressure, 4e-3), rel=0.03)


def test_stages_that_take_just_what_comes_leave_it_at_the_airs() -> None:
    leaky = with_leak(SEALED, 4e-3)
    assert case_pressure(leaky, 1e-3, 1e-3) == pytest.approx(0.0, abs=0.1)
    # nothing pulled: blow-by leaves by the leak alone
    alone = case_pressure(leaky, 1e-3, 0.0)
    assert through(alone, 4e-3) == pytest.approx(1e-3, rel=0.03)


@given(st.floats(0.0, 3e-3), st.floats(0.0, 8e-3), st.floats(1.5e-3, 9e-3), st.floats(1.05, 2.0))
def test_more_pull_never_raises_it_and_more_leak_never_moves_it_from_the_airs(
    blow: float, pulled: float, bore: float, more: float
) -> None:
    usual = case_pressure(with_leak(SEALED, bore), blow, pulled)
    assert case_pressure(with_leak(SEALED, bore), blow, pulled * more) <= usual + NEAR
    assert case_pressure(with_leak(SEALED, bore), blow * more, pulled) >= usual - NEAR
    assert abs(case_pressure(with_leak(SEALED, bore * more), blow, pulled)) <= abs(usual) + NEAR


def test_gas_is_what_is_swept_less_the_oil_that_comes_back() -> None:
    """Curlew: three stages of 10.4 cm3 at 0.55 of the crank."""
    stages, _ = scavenged(CURLEW, assemble_pan(CURLEW))
    speed = np.array([speed_of_rpm(6000.0)])
    swept = sum(each.per_turn * each.ratio for each in stages) * 100.0
    network = network_of(CURLEW)
    pulled = float(gas_pulled(CURLEW, network, speed)[0])
    assert swept * 60e3 == pytest.approx(3 * 10.4 * 0.55 * 6.0, rel=1e-3)
    assert 0.4 * swept < pulled < swept
    assert pulled == pytest.approx(swept - float(steady(network).drawn_at(speed)[0]))


def test_stages_that_draw_from_no_pan_pull_no_crankcase() -> None:
    """A turbo's own stage, a pan that nobody scavenges: nothing is pulled, nothing refused."""
    circuit = CURLEW.circuit
    runs = [run for run in circuit.runs if run.service != "scavenge"]
    bare = CURLEW.model_copy(update={"circuit": circuit.model_copy(update={"runs": runs})})
    network = network_of(CURLEW)
    assert case_pull(bare, network, top_speed(bare)) is None
    breathing, blow = gas_ways(bare, DrainGuesses()), np.ones(3)
    same = breathing_when_pulled(bare, network, breathing, blow, np.ones(3))
    assert same[0] is breathing and same[1] is blow


def row(build: Build) -> Any:
    return next(each for each in sizing(build, None, None) if each.key == "case_pull")


def test_an_open_breather_leaves_hardly_any_and_a_shut_case_is_told_as_a_band() -> None:
    open_case, shut_case = row(CURLEW), row(shut(CURLEW))
    assert open_case.found < 200.0 and open_case.state == "good"
    assert "leaks" not in open_case.at
    pull = case_pull(shut(CURLEW), network_of(CURLEW), top_speed(CURLEW))
    assert pull is not None
    assert shut_case.found == pytest.approx(max(pull.likely, 0.0))
    assert abs(pull.least) <= abs(pull.likely) <= abs(pull.most)


def larger(build: Build, times: float) -> Build:
    components = [
        each.model_copy(update={"displacement_cm3": each.displacement_cm3 * times})
        if each.kind == "scavenge_stage" else each
        for each in build.circuit.components
    ]  # fmt: skip
    circuit = build.circuit.model_copy(update={"components": components})
    return build.model_copy(update={"circuit": circuit})


def test_stages_too_large_for_a_shut_case_and_too_small_are_told() -> None:
    strong = row(larger(shut(CURLEW), 3.0))
    assert strong.state == "caution" and strong.found > 25e3
    assert "to" in strong.at and "leaks" in strong.at and "relief valve" in strong.why
    weak = row(larger(shut(CURLEW), 0.5))
    assert weak.state == "caution" and "Blow-by is more than the stages take" in weak.why


def test_a_drain_is_helped_by_no_more_than_the_leakiest_case_gives() -> None:
    build = larger(shut(CURLEW), 2.0)
    network = network_of(build)
    breathing = gas_ways(build, DrainGuesses())
    speed = np.linspace(200.0, 900.0, 30)
    blow = np.full(30, 0.8e-3)
    leaky, left = breathing_when_pulled(build, network, breathing, blow, speed)
    assert len(leaky.ways) == len(breathing.ways) + 1
    assert (np.diff(left) <= 1e-9).all() and left[-1] < 0.0  # faster, more is pulled
    pulled = float(gas_pulled(build, network, speed[-1:])[0])
    by_hand = case_pressure(with_leak(breathing, 8e-3), 0.8e-3, pulled)
    assert leaky.pressures(float(left[-1]))[leaky.source] == pytest.approx(by_hand, rel=1e-2)


def standing(rpm: float) -> Log:
    still = np.zeros((3, 20))
    return Log(np.arange(0.0, 2.0, 0.1), *still, np.full(20, float(speed_of_rpm(rpm))))


def test_the_lap_and_one_load_feel_it_and_a_wet_sump_does_not(dunlin: Build) -> None:
    build = larger(shut(CURLEW), 2.0)
    assert float(forecast_drains(build, standing(8600.0), ()).case.pressure.max()) < -500.0
    assert drains_at(build, 0.0, 0.0).pressure < 0.0
    wet = forecast_drains(dunlin, standing(6000.0), ())
    assert (wet.let_out == wet.blow_by).all() and float(wet.case.pressure.min()) > 0.0


class TestScavengeSuction:
    """What a stage's line takes of pressure, running full."""

    def stage(self) -> Any:
        return stages_on_pan(CURLEW.circuit)[0]

    def with_line(self, **figures: Any) -> Build:
        """The first stage's hose changed."""
        _, lines = lines_behind(CURLEW.circuit, self.stage().id)
        hose = next(run for run in lines if run.line.kind == "hose")
        changed = hose.model_copy(update={"line": hose.line.model_copy(update=figures)})
        runs = [changed if run.id == hose.id else run for run in CURLEW.circuit.runs]
        circuit = CURLEW.circuit.model_copy(update={"runs": runs})
        return CURLEW.model_copy(update={"circuit": circuit})

    def pull(self, build: Build, rpm: float) -> float | None:
        return scavenge_suction(build, network_of(CURLEW), self.stage(), float(speed_of_rpm(rpm)))

    @pytest.mark.parametrize(("rpm", "bore"), [(8600.0, 14.0), (6000.0, 10.0)])
    def test_it_is_the_lines_friction_and_its_ends(self, rpm: float, bore: float) -> None:
        """Friction factors of `fluids`; 1.5 heads of entry and exit."""
        found = self.pull(self.with_line(bore_mm=bore, length_mm=700.0), rpm)
        oil, flow = (
            network_of(CURLEW).oil,
            float(swept_of(self.stage(), np.array(speed_of_rpm(rpm)))),
        )
        speed = flow / (math.pi / 4.0 * (bore * 1e-3) ** 2)
        reynolds = oil.density * speed * bore * 1e-3 / oil.viscosity
        heads = friction_factor(reynolds) * 700.0 / bore + 1.5
        assert found == pytest.approx(heads * 0.5 * oil.density * speed**2, rel=0.1)

    def test_a_line_too_narrow_is_told_with_its_stage(self) -> None:
        build = self.with_line(bore_mm=8.0)
        told = next(each for each in sizing(build, None, None) if each.key == "scavenge_suction")
        assert told.state == "caution" and self.stage().name in told.at
        good = next(each for each in sizing(CURLEW, None, None) if each.key == "scavenge_suction")
        assert good.state == "good" and good.found < told.found

    def test_what_is_not_known_is_not_told(self) -> None:
        assert self.pull(self.with_line(bore_mm=None, dash=None), 6000.0) is None
        assert self.pull(self.with_line(length_mm=None), 6000.0) is None
        own = self.stage().model_copy(update={"id": "c0"})
        assert scavenge_suction(CURLEW, network_of(CURLEW), own, 600.0) is None
