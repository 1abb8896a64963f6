"""The network's laws against closed forms and libraries from outside."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bilge_core.network.draft import Draft, Vessel
from bilge_core.network.laws import AIR_PRESSURE, pump_flow, valve_flow
from bilge_core.network.pipes import Resistance, bend_loss, hole_resistance, pipe_resistance
from bilge_core.network.records import MOUTH, Kind
from CoolProp.CoolProp import PropsSI
from fluids.flow_meter import differential_pressure_meter_C_epsilon
from fluids.friction import friction_factor
from hypothesis import given
from hypothesis import strategies as st

from tests.networks import COLD, OIL, bottle, fill, go, laid


@given(st.floats(0.004, 0.03), st.floats(0.1, 3.0), st.floats(0.003, 0.3), st.floats(700.0, 900.0))
def test_a_pipes_friction_is_that_of_the_library(
    bore: float, length: float, viscosity: float, density: float
) -> None:
    """`fluids`: 10 % rms; 20 % at most but between the end of laminar flow and 1.5 times it."""
    fitted = pipe_resistance(bore, length, density, viscosity)
    area = math.pi / 4 * bore**2
    errors = []
    for flow in np.geomspace(1e-6, 11 * area, 120):
        reynolds = density * flow / area * bore / viscosity
        drop = friction_factor(reynolds) * length / bore * 0.5 * density * (flow / area) ** 2
        error = fitted.drop(flow) / drop - 1
        errors.append(error)
        if not 1400 < reynolds < 3200:
            assert abs(error) < 0.20
        else:
            assert abs(error) < 0.35  # where friction itself jumps by half
    assert float(np.sqrt(np.mean(np.square(errors)))) < 0.10


def test_laminar_flow_is_hagens_and_poiseuilles() -> None:
    """Textbook: Δp = 128 μ L q / (π d⁴)."""
    flow = 2e-5
    drop = pipe_resistance(0.014, 2.0, 820.0, 0.05).drop(flow)
    assert drop == pytest.approx(128 * 0.05 * 2.0 * flow / (math.pi * 0.014**4), rel=1e-9)


def test_losses_of_bends_and_ends_count_on_the_mean_speeds_head() -> None:
    bare = pipe_resistance(0.019, 0.25, 800.0, 0.012)
    bent = pipe_resistance(0.019, 0.25, 800.0, 0.012, minor=1.8)
    flow = 45 / 60e3
    speed = flow / (math.pi / 4 * 0.019**2)
    assert bent.drop(flow) - bare.drop(flow) == pytest.approx(1.8 * 400 * speed**2, rel=1e-6)


def test_a_long_bend_loses_less_than_a_tight_one() -> None:
    quarter = math.pi / 2
    assert bend_loss(quarter, 0.10, 0.019) < bend_loss(quarter, 0.022, 0.019)
    assert bend_loss(quarter / 2, 0.045, 0.019) < bend_loss(quarter, 0.045, 0.019)


def test_a_small_hole_is_an_orifice() -> None:
    """ISO 5167's discharge as `fluids` has it for a small hole in a wide line: 0.60 to 0.62."""
    bore, flow = 2e-3, 3 / 60e3
    mass = flow * OIL.density
    discharge, _ = differential_pressure_meter_C_epsilon(
        D=0.05, D2=bore, m=mass, P1=8e5, P2=5e5, rho=OIL.density, mu=OIL.viscosity, k=1.4,
        meter_type="ISO 5167 orifice",
    )  # fmt: skip
    area = math.pi / 4 * bore**2
    from_outside = OIL.density / 2 * (flow / discharge / area) ** 2
    ours = hole_resistance(bore, OIL.density, OIL.viscosity).drop(flow)
    assert ours == pytest.approx(from_outside, rel=0.12)


@pytest.mark.parametrize(("pressure", "litres_a_minute"), [(0.5, 1.3), (2.0, 2.6), (4.0, 3.7)])
def test_a_turbos_restrictor_lets_through_what_a_trial_saw(
    pressure: float, litres_a_minute: float
) -> None:
    """2 mm: figures of a trial with hot oil, to a tenth."""
    hole = hole_resistance(2e-3, 820.0, 0.01)
    assert hole.drop(litres_a_minute / 60e3) / 1e5 == pytest.approx(pressure, rel=0.22)


class TestTheRelief:
    def test_by_hand(self) -> None:
        """A relief from 5 bar with 0.15 bar every 10 L/min: 5.3 bar let 20 L/min go."""
        slope = 0.15e5 / (10 / 60e3)
        flow, _ = valve_flow(5.3e5, 5e5, 1e-12, slope, 0.0)
        assert flow * 60e3 == pytest.approx(20.0, rel=2e-3)  # and what its seat leaks

    def test_shut_on_the_near_side_and_open_on_the_far(self) -> None:
        assert valve_flow(4.999e5, 5e5, 1e-12, 9e7, 0.0)[0] < 1e-6
        assert valve_flow(5.001e5, 5e5, 1e-12, 9e7, 0.0)[0] > 1e-6

    def test_holds_the_pressure_where_pump_and_relief_meet(self) -> None:
        """Pump 30 L/min, bearings 15 L/min at 5 bar: 5 + slope bar, solved by hand."""
        draft = Draft()
        inlet, out = ("p", "inlet"), ("p", "outlet")
        draft.way("")
        draft.vessel(Vessel("", "thrown", lags=(0.1, 0.0, 1.0)))
        draft.tube_volume = 50e-6
        bearings, slope = 5e5 / (15 / 60e3), 0.15e5 / (10 / 60e3)
        draft.line(("t", "suction"), MOUTH, inlet, Resistance(1e3), suction=True)
        draft.element(
            Kind.STAGE, ("p", "stage"), inlet, out, displacement=30 / 60e3, ratio=1.0, port=1.0
        )
        draft.line(("g", "bearings"), out, draft.sink(0), Resistance(bearings))
        draft.element(Kind.VALVE, ("r", "relief"), out, inlet, opens=5e5, laminar=slope)
        flowing, nodes = laid(draft)
        pressure, flow, _ = go(flowing, 5.0, speed=2 * math.pi)
        by_hand = (30 / 60e3 + 5e5 / slope) / (1 / bearings + 1 / slope)
        assert pressure[-1, nodes[out]] == pytest.approx(by_hand, rel=1e-4)
        drawn, relieved = flow[-1, 0] * 60e3, flow[-1, 3] * 60e3
        assert drawn + relieved == pytest.approx(30.0, rel=1e-4)
        assert flow[-1, 2] * 60e3 == pytest.approx(drawn, rel=1e-3)


class TestThePump:
    def test_delivers_what_it_sweeps_when_its_port_is_wide(self) -> None:
        flow, _, _ = pump_flow(0.0, 4e5, 5e-4, 1.0, 3e3, 820.0, 0.0, 0.0, 0.03)
        assert flow == pytest.approx(5e-4, rel=1e-9)

    def test_can_fill_no_faster_than_its_port_lets_it(self) -> None:
        """An orifice at the air's pressure less the vapour's is the most."""
        port = 2e-5
        most = port * math.sqrt(2 * (AIR_PRESSURE - 3e3) / 820.0)
        flow, _, _ = pump_flow(0.0, 4e5, 10 * most, port, 3e3, 820.0, 0.0, 0.0, 0.03)
        assert flow == pytest.approx(most, rel=1e-6)

    def test_slips_by_the_pressure_across_it_and_more_on_gas(self) -> None:
        args = (0.0, 4e5, 5e-4, 1.0, 3e3, 820.0, 1e-11)
        full, gassy, gas = (pump_flow(*args, each, 0.03)[0] for each in (0.0, 0.5, 1.0))
        assert 5e-4 - full == pytest.approx(4e-6)
        assert 5e-4 - gassy == pytest.approx(8e-6)
        assert 5e-4 - gas == pytest.approx(4e-6 / 0.03)

    def test_slopes_are_those_of_the_flow(self) -> None:
        at = (-0.3e5, 3e5, 7e-4, 5e-5, 3e3, 820.0, 1e-11, 0.3, 0.03)
        _, by_inlet, by_outlet = pump_flow(*at)
        up = pump_flow(at[0] + 1.0, *at[1:])[0] - pump_flow(at[0] - 1.0, *at[1:])[0]
        down = pump_flow(at[0], at[1] + 1.0, *at[2:])[0] - pump_flow(at[0], at[1] - 1.0, *at[2:])[0]
        assert by_inlet == pytest.approx(up / 2, rel=1e-4)
        assert by_outlet == pytest.approx(down / 2, rel=1e-4)


class TestTorricelli:
    def test_a_head_empties_through_an_orifice_in_his_time(self) -> None:
        """Textbook: t = 2A/(C a √2g)·(√h0 − √h1), where the hole is deep enough to run full."""
        draft = Draft()
        draft.way("")
        area, bore = 0.4 * 0.1, 6e-3
        draft.vessel(
            Vessel("h", "floor", floor=(0.4, 0.1, 0.0), holes=[((0.0, 0.0, bore, 1.0), -1)])
        )
        draft.join(("c", "a"))
        flowing, _ = laid(draft)
        flowing.vessels["one"] = area * 0.100
        _, _, held = go(flowing, 200.0)
        time_at = [(held[:, 0] > area * h).sum() * 0.005 for h in (0.09, 0.04)]
        hole = 0.62 * math.pi / 4 * bore**2
        want = 2 * area / (hole * math.sqrt(2 * 9.80665)) * (math.sqrt(0.09) - math.sqrt(0.04))
        assert time_at[1] - time_at[0] == pytest.approx(want, rel=2e-3)

    def test_a_thin_layer_goes_over_the_holes_rim_as_over_a_weir(self) -> None:
        """From memory: 0.544 √g π D h^1.5, less than the orifice while h is small against D."""
        draft = Draft()
        draft.way("")
        draft.vessel(
            Vessel("h", "floor", floor=(0.4, 0.1, 0.0), holes=[((0.0, 0.0, 0.03, 1.0), -1)])
        )
        draft.join(("c", "a"))
        flowing, _ = laid(draft)
        flowing.vessels["one"] = 0.04 * 0.004
        go(flowing, 0.001, step=0.001)
        weir = 0.544 * math.sqrt(9.80665) * math.pi * 0.03 * 0.004**1.5
        assert float(flowing.given[0]) == pytest.approx(weir * 0.001, rel=1e-6)


def test_two_bottles_even_out_as_two_vessels_do() -> None:
    """Textbook: two springs through a laminar line, the difference falls by exp(−t (k1+k2)/a).

    A bottle's spring is dp/dV = γ P / V; small changes, at once, so that its gas is adiabatic.
    """
    draft = Draft()
    one, other = ("b1", "line"), ("b2", "line")
    bottle(draft, one, 2.0, 1e5)
    bottle(draft, other, 1.0, 1e5)
    resistance = 5e8
    draft.line(("r", "line"), one, other, Resistance(resistance))
    flowing, nodes = laid(draft)
    flowing.whole["bottle_time"] = 1e9
    fill(flowing, nodes[one], 4.02e5)
    fill(flowing, nodes[other], 3.98e5)
    pressure, _, _ = go(flowing, 1.0, step=0.001)
    gap = pressure[:, nodes[one]] - pressure[:, nodes[other]]
    gas = flowing.bottles["gas"]
    absolute = 4e5 + AIR_PRESSURE
    rate = (1.4 * absolute / gas[0] + 1.4 * absolute / gas[1]) / resistance
    at = 400
    assert math.log(gap[99] / gap[at - 1]) == pytest.approx(rate * (at - 100) * 0.001, rel=0.02)


class TestNitrogen:
    def test_a_bottle_filled_slowly_holds_what_the_gas_tables_say(self) -> None:
        """CoolProp's nitrogen at 20 °C, from 2.4 to 5.4 bar gauge: ideal gas is good to 0.2 %."""
        draft = Draft()
        port = ("b", "line")
        bottle(draft, port, 2.0, 2.4e5)
        flowing, nodes = laid(draft)
        fill(flowing, nodes[port], 5.4e5)
        low, high = (
            PropsSI("D", "T", COLD, "P", p + AIR_PRESSURE, "Nitrogen") for p in (2.4e5, 5.4e5)
        )
        oil = 2e-3 - float(flowing.bottles["gas"][0])
        assert oil == pytest.approx(2e-3 * (1 - low / high), rel=3e-3)

    def test_squeezed_at_once_it_follows_the_line_of_constant_entropy(self) -> None:
        """CoolProp again: from 2.4 bar at constant entropy to 5.4 bar, within half a percent."""
        draft = Draft()
        port = ("b", "line")
        bottle(draft, port, 2.0, 2.4e5)
        source = ("s", "out")
        draft.line(("l", "line"), source, port, Resistance(1e6))
        flowing, nodes = laid(draft)
        flowing.whole["bottle_time"] = 1e9
        flowing.nodes["liquid"][nodes[source]] += 0.9e-3  # pushed in at once
        go(flowing, 1.0, step=0.002)
        pressure = float(flowing.nodes["pressure"][nodes[port]]) + AIR_PRESSURE
        entropy = PropsSI("S", "T", COLD, "P", 2.4e5 + AIR_PRESSURE, "Nitrogen")
        before = PropsSI("D", "T", COLD, "P", 2.4e5 + AIR_PRESSURE, "Nitrogen")
        after = PropsSI("D", "S", entropy, "P", pressure, "Nitrogen")
        assert float(flowing.bottles["gas"][0]) == pytest.approx(2e-3 * before / after, rel=5e-3)
        warm = PropsSI("T", "S", entropy, "P", pressure, "Nitrogen")
        assert float(flowing.bottles["warmth"][0]) == pytest.approx(warm, rel=5e-3)

    def test_it_comes_back_to_the_bottles_warmth(self) -> None:
        draft = Draft()
        port = ("b", "line")
        bottle(draft, port, 2.0, 2.4e5)
        flowing, nodes = laid(draft)
        fill(flowing, nodes[port], 4e5)
        flowing.bottles["warmth"] = 350.0
        go(flowing, 10.0)
        assert float(flowing.bottles["warmth"][0]) - COLD == pytest.approx(
            (350 - COLD) / math.e, rel=0.12
        )


def test_a_bottle_holds_the_pressure_for_the_time_of_the_closed_form() -> None:
    """Gas at constant temperature into bearings ∝ p: t = a ∫ dV/p, V = P0 V0 / P.

    dV = P0V0 dp/P², q = p/a: t = a P0 V0 ∫ dp / (p (p + p_air)²) from p2 to p1 (gauge p).
    """
    draft = Draft()
    port = ("b", "line")
    bottle(draft, port, 2.0, 2.0e5)
    draft.vessel(Vessel("", "thrown", lags=(0.1, 0.0, 1.0)))
    bearings = 4e5 / (20 / 60e3)
    draft.line(("g", "bearings"), port, draft.sink(0), Resistance(bearings))
    flowing, nodes = laid(draft)
    flowing.whole["bottle_time"] = 1e-9  # always at the bottle's warmth
    fill(flowing, nodes[port], 5e5)
    pressure, _, _ = go(flowing, 6.0, step=0.001)
    time = float((pressure[:, nodes[port]] > 2.2e5).sum()) * 0.001
    p = np.linspace(2.2e5, 5e5, 20001)
    amount = (2.0e5 + AIR_PRESSURE) * 2e-3
    want = bearings * amount * float(np.trapezoid(1 / (p * (p + AIR_PRESSURE) ** 2), p))
    assert time == pytest.approx(want, rel=0.01)
