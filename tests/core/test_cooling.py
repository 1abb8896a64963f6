"""Heat into the oil and out of it, against handbook relations and closed forms."""

from __future__ import annotations

import math

import ht
import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.cooling.engine import (
    RATED_AT,
    WATER_FLOW,
    Conditions,
    cooling_over,
    heat_from_temperatures,
    rating_for,
    water_flow,
)
from bilge_core.cooling.exchangers import BTU_PER_HOUR, capacity_rate, exchanger_rated
from bilge_core.cooling.stint import HOTTEST, Heat, steady_temperature, stint
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.network.conditions import (
    AlongPart,
    Condition,
    at_temperature,
    conditions,
    past_filter,
)
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.supply import cooling_out, measured_share, supply_out

from tests.networks import BOTTLE, MOVED, Raw, after, changed, dunlin, part

HARD = Conditions(
    power=200e3, used=0.6, share=0.035, air=298.15, water=361.15, speed=speed_of_rpm(5500.0),
    gas=0.0, lasts=1800.0, begin=333.15,
)  # fmt: skip


def rated(kw: float | None, build: Build | None = None, over: float | None = None) -> Build:
    def put(document: Raw) -> None:
        part(document, "cooler").update(rating_kw=kw, rated_over_kelvin=over)

    return changed(build or dunlin(), put)


class TestExchangers:
    def test_counterflow_is_the_textbooks(self) -> None:
        """Kays and London, as every handbook has it: (1 - e)/(1 - C e), e = exp(-NTU(1 - C))."""
        oil, water = 1200.0, 4000.0
        cooler = exchanger_rated(20e3, 30.0, oil, water, "counterflow")
        c = oil / water
        e = math.exp(-cooler.conductance / oil * (1.0 - c))
        assert (1.0 - e) / (1.0 - c * e) * oil * 30.0 == pytest.approx(20e3, rel=1e-6)

    def test_crossflow_is_the_librarys(self) -> None:
        cooler = exchanger_rated(12e3, 80.0, 1200.0, 340.0, "crossflow")
        units = cooler.conductance / 340.0
        share = ht.effectiveness_from_NTU(units, Cr=340.0 / 600.0, subtype="crossflow")
        assert cooler.effectiveness(600.0) == pytest.approx(share)

    @pytest.mark.parametrize("kind", ["crossflow", "counterflow"])
    def test_a_rating_is_given_back_as_it_is_told(self, kind: str) -> None:
        cooler = exchanger_rated(15e3, 60.0, 1200.0, 500.0, kind)  # type: ignore[arg-type]
        assert cooler.takes(1200.0, 60.0) == pytest.approx(15e3, rel=1e-3)
        assert cooler.takes(1200.0, 30.0) == pytest.approx(7.5e3, rel=1e-3)

    def test_less_oil_leaves_colder_and_gas_spoils_it(self) -> None:
        cooler = exchanger_rated(12e3, 80.0, 1200.0, 340.0, "crossflow")
        drops = [cooler.takes(rate, 80.0) / rate for rate in (1200.0, 600.0, 200.0)]
        assert drops == sorted(drops)
        assert cooler.takes(1200.0, 80.0, 0.3) < cooler.takes(1200.0, 80.0)
        assert cooler.takes(1200.0, 80.0, 1.0) == pytest.approx(0.0)
        assert cooler.takes(0.0, 80.0) == 0.0

    @pytest.mark.parametrize(
        "wrong", [(0.0, 80.0, 1200.0, 300.0), (12e3, 0.0, 1200.0, 300.0), (25e3, 80.0, 1e3, 300.0)]
    )
    def test_a_rating_that_cannot_be_is_refused(self, wrong: tuple[float, ...]) -> None:
        with pytest.raises(InvalidQuantity, match="rating"):
            exchanger_rated(*wrong, "crossflow")  # type: ignore[arg-type]

    def test_sixty_thousand_btu_an_hour(self) -> None:
        """17.6 kW: by the definition of the British thermal unit."""
        assert pytest.approx(17.6e3, rel=1e-3) == 60_000 * BTU_PER_HOUR

    def test_what_oil_carries_is_what_a_temperature_tells(self) -> None:
        """20 L/min of 820 kg/m3 and 2.2 kJ/kg/K, warmed by 20 K: 12.0 kW by hand."""
        assert heat_from_temperatures(20 / 60e3, 820.0, 373.0, 393.0) == pytest.approx(
            12.03e3, rel=1e-3
        )
        assert capacity_rate(20 / 60e3, 820.0) * 20.0 == pytest.approx(12.03e3, rel=1e-3)
        with pytest.raises(InvalidQuantity, match="above"):
            heat_from_temperatures(20 / 60e3, 820.0, 393.0, 373.0)


class TestStint:
    def test_it_nears_its_rest_as_one_exponential(self) -> None:
        heat = Heat(4e3, 20e3, 50.0, 300.0, lambda _: 0.0)
        time, warm = stint(heat, 310.0, 1200.0)
        exact = 380.0 + (310.0 - 380.0) * np.exp(-time * 50.0 / 20e3)
        assert np.abs(warm - exact).max() < 0.01
        assert steady_temperature(heat) == pytest.approx(380.0)

    def test_what_has_no_rest_is_followed_to_the_hottest(self) -> None:
        heat = Heat(50e3, 10e3, 1.0, 300.0, lambda _: 0.0)
        assert steady_temperature(heat) is None
        assert stint(heat, 300.0, 600.0)[1].max() == HOTTEST

    def test_a_stint_that_does_not_last_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match="stint"):
            stint(Heat(1.0, 1.0, 1.0, 300.0, lambda _: 0.0), 300.0, 0.0)


class TestAnEngine:
    def test_heat_in_is_heat_out_at_rest(self) -> None:
        found = cooling_over(rated(12.0), HARD)
        assert found.steady is not None
        taken = sum(each.heat for each in found.coolers)
        assert taken + found.lost == pytest.approx(found.given, rel=1e-6)
        assert found.given == pytest.approx(200e3 * 0.6 * 0.035)
        (cooler,) = found.coolers
        rate = capacity_rate(cooler.flow, 1.0)
        assert cooler.oil_out < cooler.oil_in
        assert (cooler.oil_in - cooler.oil_out) * rate * 850 == pytest.approx(cooler.heat, rel=0.1)

    def test_a_measured_rise_tells_the_share_of_power_that_warms_the_oil(self) -> None:
        """60 L/min from 90 to 105 °C; 2.2 kJ/kg/K as above, about 820 kg/m3 there: 27 kW."""
        told = measured_share(dunlin(), HARD, 60 / 60e3, 90.0, 105.0)
        assert told.given == pytest.approx(1e-3 * 820.0 * 2200.0 * 15.0, rel=0.03)
        assert told.share * 200e3 * 0.6 == told.given
        twice = measured_share(dunlin(), HARD, 120 / 60e3, 90.0, 105.0)
        assert twice.share == pytest.approx(2.0 * told.share)
        with pytest.raises(InvalidQuantity, match="above"):
            measured_share(dunlin(), HARD, 60 / 60e3, 105.0, 105.0)

    def test_water_told_of_a_plate_cooler_is_counted(self) -> None:
        fitted = read_act({"kind": "fit_cooler", "cooler": "plate"}).done(dunlin()).build

        def told(litres: float | None) -> Build:
            return changed(fitted, lambda d: part(d, "water_source").update(flow_l_min=litres))

        assert water_flow(told(45.0)) == pytest.approx(45 / 60e3)
        assert water_flow(told(None)) == WATER_FLOW == water_flow(dunlin())

    def test_a_larger_cooler_keeps_it_colder_and_more_power_hotter(self) -> None:
        steady = [cooling_over(rated(kw), HARD).steady or 999.0 for kw in (6.0, 12.0, 24.0)]
        assert steady == sorted(steady, reverse=True)
        more = cooling_over(rated(12.0), Conditions(**{**HARD.__dict__, "power": 300e3})).steady
        assert (more or 999.0) > steady[1]

    def test_a_thermostat_keeps_it_from_being_cooled_cold(self) -> None:
        light = Conditions(**{**HARD.__dict__, "power": 60e3})
        free = cooling_over(rated(20.0), light).steady
        kept = cooling_over(
            rated(
                20.0, changed(dunlin(), lambda d: part(d, "sandwich_plate").update(thermostat_c=85))
            ),
            light,
        ).steady
        assert free is not None
        assert kept is not None
        assert kept > free + 5.0

    def test_a_cooler_nobody_rated_takes_nothing_and_says_so(self) -> None:
        found = cooling_over(rated(None), HARD)
        assert found.coolers[0].is_guessed
        assert found.coolers[0].heat == 0.0

    def test_the_rating_it_needs_keeps_what_is_wanted(self) -> None:
        wanted = 383.15
        rating = rating_for(rated(None), HARD, wanted)
        assert rating is not None
        steady = cooling_over(rated(rating / 1e3), HARD).steady
        assert steady == pytest.approx(wanted, abs=0.5)
        assert not cooling_over(rated(rating / 1e3), HARD).coolers[0].is_guessed

    def test_no_rating_cools_below_the_air(self) -> None:
        assert rating_for(rated(None), HARD, 290.0) is None

    def test_a_rating_that_cannot_be_is_refused_in_place(self) -> None:
        hot = rated(199.0)
        with pytest.raises(InvalidInput, match="rating_kw"):
            cooling_over(hot, HARD)

    def test_a_rating_counts_at_its_makers_difference(self) -> None:
        """12 kW with the oil 40 K warmer is twice the cooler that 12 kW at 80 K is."""
        over_40, over_80, guessed = (
            cooling_over(rated(12.0, over=over), HARD) for over in (40.0, 80.0, None)
        )
        assert guessed.steady == over_80.steady
        assert over_40.steady is not None and over_80.steady is not None
        assert over_40.steady < over_80.steady - 5.0
        needed = [rating_for(rated(None, over=over), HARD, 383.15) for over in (40.0, 80.0)]
        assert needed[0] is not None and needed[1] is not None
        assert needed[0] == pytest.approx(0.5 * needed[1], rel=0.1)
        told = cooling_out(rated(12.0, over=40.0), HARD, power_guessed=False)
        assert (told.needed_over_kelvin, told.over_is_guessed) == (40.0, False)
        told = cooling_out(rated(12.0), HARD, power_guessed=False)
        assert (told.needed_over_kelvin, told.over_is_guessed) == (80.0, True)
        assert RATED_AT["plate_cooler"] == 30.0

    @pytest.mark.parametrize(("over", "holds"), [(5.0, True), (4.9, False), (150.0, True),
                                                 (151.0, False)])  # fmt: skip
    def test_a_difference_is_one_that_somebody_rates_at(self, over: float, holds: bool) -> None:
        if holds:
            rated(12.0, over=over)
            return
        with pytest.raises(InvalidInput, match="rated_over_kelvin"):
            rated(12.0, over=over)

    def test_a_difference_is_typed_in_either_system(self) -> None:
        """90 degrees Fahrenheit warmer are 50 K, with no 32 taken off."""
        for typed, system in (("90 °F", "metric"), ("50", "metric"), ("90", "us"), ("50 K", "us")):
            raw = {"kind": "fit_cooler", "rating_kw": "12 kW", "rated_over_kelvin": typed}
            act = read_act(raw, system)  # type: ignore[arg-type]
            assert act.rated_over_kelvin == pytest.approx(50.0)  # type: ignore[union-attr]

    def test_as_it_is_told(self) -> None:
        told = cooling_out(rated(12.0), HARD, power_guessed=False)
        assert told.given_kw == 4.2
        assert told.needed_kw is not None and told.needed_btu_h is not None
        needed = rating_for(rated(12.0), HARD, told.wanted_c + 273.15)
        assert told.needed_kw == pytest.approx((needed or 0.0) / 1e3, abs=0.051)
        assert told.needed_btu_h == pytest.approx(told.needed_kw * 3412.14, rel=0.02)
        assert told.given_btu_h == pytest.approx(4.2e3 / BTU_PER_HOUR, abs=60)
        assert told.steady_c is not None
        assert told.steady_bar is not None
        colder = told.steady_c < told.wanted_c
        assert (told.steady_bar > told.usual_bar) == colder
        assert len(told.time_s) == len(told.temperature_c)

    def test_what_goes_through_the_cooler_is_the_circuits(self) -> None:
        build = rated(12.0)
        found = cooling_over(build, HARD)
        assert found.steady is not None
        there = at_temperature(build, found.steady - 273.15)
        (run,) = conditions(there, np.array([HARD.speed]))
        cooler = found.coolers[0]
        (along,) = [part for part in run.along if part.component == cooler.component]
        assert cooler.flow == pytest.approx(along.flow, rel=0.02)


class TestConditions:
    @pytest.mark.parametrize("told", [True, False])
    def test_at_its_own_temperature_an_engine_is_what_it_is(self, told: bool) -> None:
        build, speeds = dunlin(), np.array([100.0, 300.0, 600.0])
        if not told:
            build = changed(build, lambda d: part(d, "gallery").update(bearings=None))
        same = at_temperature(build, build.oil.temperature_c)
        for one, other in zip(conditions(build, speeds), conditions(same, speeds), strict=True):
            assert one.gallery == pytest.approx(other.gallery, rel=0.01)

    def test_a_bottle_is_not_being_filled_meanwhile(self) -> None:
        cold = [at_temperature(b, 15.0) for b in (after(MOVED), after(MOVED, BOTTLE))]
        bare, bottled = (conditions(b, np.array([95.0]))[0] for b in cold)
        flows = [sum(part.flow for part in found.along) for found in (bare, bottled)]
        assert bottled.gallery == pytest.approx(bare.gallery, rel=0.1)
        assert bottled.relieved == pytest.approx(bare.relieved, rel=0.1)
        assert flows[1] < 3.0 * flows[0]


class TestSupply:
    def test_hot_and_cold(self) -> None:
        told = supply_out(dunlin(), None, 6000.0)
        assert told.setting is None
        hot, cold = told.hot[0], told.cold[0]
        assert hot.rpm == cold.rpm == 900
        assert cold.gallery_bar > 2.5 * hot.gallery_bar
        assert cold.relieved_l_min > hot.relieved_l_min
        for row in (*told.hot, *told.cold):
            assert row.outlet_bar >= row.gallery_bar - 0.01
            drops = sum(each.drop_bar for each in row.along if each.drop_bar > 0)
            assert drops >= row.outlet_bar - row.gallery_bar - 0.05

    def test_a_clogged_filters_bypass_is_told(self) -> None:
        clogged = changed(
            dunlin(),
            lambda d: part(d, "filter").update(
                drop={"drop_bar": 3.0, "flow_l_min": 20.0}, bypass_bar=1.0
            ),
        )
        told = supply_out(clogged, None, 6000.0)
        assert told.hot[-1].unfiltered > 0.2
        assert supply_out(dunlin(), None, 6000.0).hot[-1].unfiltered == 0.0

    def test_a_pipe_too_thin_starves_the_pump(self) -> None:
        def thin(document: Raw) -> None:
            pump = part(document, "pressure_stage")["id"]
            into = {"component": pump, "port": "inlet"}
            run = next(r for r in document["circuit"]["runs"] if into.items() <= r["end"].items())
            run["line"] = {"kind": "hard_line", "bore_mm": 8.0, "length_mm": 600.0}

        assert supply_out(changed(dunlin(), thin), None, 6000.0).hot[-1].starves
        assert not supply_out(dunlin(), None, 6000.0).hot[-1].starves

    def test_the_valve_set_so_gives_what_is_wanted(self) -> None:
        told = supply_out(dunlin(), 4.2e5, 6000.0).setting
        assert told is not None
        assert told.opens_bar is not None

        def put(document: Raw) -> None:
            part(document, "relief")["opens_bar"] = told.opens_bar

        fixed = supply_out(changed(dunlin(), put), 4.2e5, 6000.0).setting
        assert fixed is not None
        assert fixed.now_bar == told.opens_bar

    @pytest.mark.parametrize("wanted", [0.05e5, 20e5])
    def test_what_no_setting_gives_is_said(self, wanted: float) -> None:
        told = supply_out(dunlin(), wanted, 6000.0).setting
        assert told is not None
        assert told.opens_bar is None
        assert told.least_bar < told.most_bar

    def test_a_second_filter_halves_the_drop(self) -> None:
        assert supply_out(dunlin(), None, 6000.0).second_filter is None
        told = supply_out(after({"kind": "move_filter"}), None, 6000.0).second_filter
        assert told is not None
        assert told.drop_bar == pytest.approx(told.before_drop_bar / 2, rel=0.15)
        assert told.gallery_bar >= told.before_bar

    def test_longer_lines_regain_what_a_metre_of_them_holds(self) -> None:
        """By hand: a metre of 14.1 mm is 0.156 L, which is what the circuit then holds more."""
        assert supply_out(dunlin(), None, 6000.0).lines is None  # all of it is cast
        cooled = after({"kind": "fit_cooler"})
        told = supply_out(cooled, None, 6000.0).lines
        assert told is not None and told.bore_mm == 14.1
        assert told.more_l_m == pytest.approx(math.pi / 4 * 0.141**2 * 10, abs=5e-4)
        line = next(each for each in cooled.circuit.runs if each.name == told.name)
        longer = cooled.model_dump(mode="json")
        row = next(each for each in longer["circuit"]["runs"] if each["id"] == line.id)
        row["line"]["length_mm"] = (row["line"]["length_mm"] or 0.0) + 1000.0
        then = supply_out(build_from(longer), None, 6000.0).lines
        assert then is not None
        assert then.held_l - told.held_l == pytest.approx(told.more_l_m, abs=0.006)

    def test_a_dry_start_takes_longer_and_a_cooler_more(self) -> None:
        short = supply_out(dunlin(), None, 6000.0).start_up
        long = supply_out(after({"kind": "fit_cooler", "holds_l": 0.9}), None, 6000.0).start_up
        assert long.dry_s > short.dry_s > short.primed_s > 0.0
        brought = dunlin().circuit.pump
        flow = brought.displacement_cm3 * 1e-3 * brought.drive_ratio * 250.0  # [L/min] by hand
        assert short.dry_s == pytest.approx(short.to_fill_l / (0.85 * flow) * 60.0, rel=0.01)


def test_no_more_goes_past_a_filter_than_comes_to_it() -> None:
    def along(*flows: tuple[str, float, float]) -> Condition:
        parts = tuple(AlongPart(part, 0.0, flow, past) for part, flow, past in flows)
        return Condition(600.0, 5e5, 4e5, 0.0, 1e-3, 0.0, parts)

    both = frozenset({"f1", "f2"})
    assert past_filter(along(("f1", 4e-4, 1e-4), ("c", 4e-4, 4e-4)), both) == 0.25
    assert past_filter(along(("f1", 4e-4, 1e-4), ("f2", 4e-4, 3e-4)), both) == pytest.approx(0.5)
    assert past_filter(along(("f1", 4e-4, 4e-4), ("f2", -1e-4, 1e-4)), both) == 1.0
    assert past_filter(along(("f1", 0.0, 0.0)), both) == 0.0
