"""An accumulator over a lap: closed forms, litres, the map, the valve that is left open."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import get_args

import numpy as np
import pytest
from bilge_core.acts.bottle import Tapped
from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.circuit.run import length_of
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.forecast.bottle import (
    best_charge,
    charge_cold,
    charge_warm,
    drunk,
    givings,
    holds_for,
    lost_backwards,
    oil_given,
)
from bilge_core.forecast.bottle_map import bottle_map, charged, with_bottle
from bilge_core.forecast.on_record import CircuitLap, Record, circuit_lap
from bilge_core.forecast.stopping import standing, stopped
from bilge_core.loads.log import Log
from bilge_core.network import network_of, settled_in
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.records import at_rest
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.bottle import bottle_out, on_record, other_check, stopped_out, trial_out
from scipy.optimize import minimize_scalar

from tests.conftest import DEMO
from tests.networks import BOTTLE, MOVED, Raw, after, dunlin

PLAIN = Path("core/bilge_core/document/templates/inline-front-sump.json")
TIME = np.arange(0.0, 20.01, 0.05)
LAP = Log(TIME, *np.zeros((3, len(TIME))), np.full(len(TIME), speed_of_rpm(5500.0)))
GAS = np.where((TIME > 4.0) & (TIME < 5.2), 0.9, 0.0) + np.where((TIME > 12) & (TIME < 12.6), 1, 0)
DIPS = Record(TIME, np.clip(GAS, 0.0, 1.0))


def over(build: Build, record: Record = DIPS) -> CircuitLap:
    return circuit_lap(build, LAP, record, (), band=False)


def tuned(build: Build, **changes: object) -> Build:
    return read_act({"kind": "tune_accumulator", **changes}).done(build).build


@pytest.fixture(scope="module")
def bottled() -> Build:
    return after(MOVED, BOTTLE)


@pytest.fixture(scope="module")
def lap(bottled: Build) -> CircuitLap:
    return over(bottled)


@pytest.mark.parametrize("gamma", [1.0, 1.2, 1.4])
def test_the_best_charge_is_the_lowest_pressure_wanted(gamma: float) -> None:
    """For a slow dip; for a quick one a little above, as the gas cools."""
    full, least = 5e5, 2.5e5

    def lacks(warm: float) -> float:
        return -oil_given(2e-3, warm, full, least, gamma)

    best = minimize_scalar(lacks, bounds=(0.2e5, 4.9e5), method="bounded")
    assert best.x == pytest.approx(best_charge(full, least, gamma), abs=0.02e5)
    if gamma == 1.0:
        assert best.x == pytest.approx(least, abs=0.02e5)


def test_a_slow_dip_is_the_textbooks() -> None:
    """V[(P0/P2) - (P0/P1)], absolute: closed form of the ideal gas at one temperature."""
    p0, p1, p2 = 3e5, 6e5, 4e5
    ours = oil_given(2e-3, p0 - AIR_PRESSURE, p1 - AIR_PRESSURE, p2 - AIR_PRESSURE, 1.0)
    assert ours == pytest.approx(2e-3 * (p0 / p2 - p0 / p1))


def test_a_charge_above_all_pressures_gives_nothing() -> None:
    assert oil_given(2e-3, 6e5, 5e5, 2e5) == 0.0
    assert oil_given(2e-3, 2e5, 5e5, 5e5) == pytest.approx(0.0, abs=1e-12)


def test_heat_raises_a_charge_as_the_gas_law_says() -> None:
    assert charge_warm(2.4e5, 363.15) == pytest.approx(3.20e5, abs=0.02e5)  # 2.4 bar is 3.2 at 90
    for warm in (1e5, 2.5e5, 4e5):
        assert charge_warm(charge_cold(warm, 333.15), 333.15) == pytest.approx(warm)


class TestOverALap:
    def test_it_lifts_the_lowest_pressure(self, lap: CircuitLap) -> None:
        without = over(after(MOVED))
        assert lap.pressure.lowest > 1.3 * without.pressure.lowest
        assert lap.pressure.under < without.pressure.under

    def test_what_it_gives_is_told_stretch_by_stretch(self, lap: CircuitLap) -> None:
        first, second = givings(lap)
        assert 4.0 < first.start < 5.0 < first.end < 6.0
        assert 12.0 < second.start < second.end < 15.0
        for each in (first, second):
            assert each.before - each.after > 0.1e-3
            assert each.refilled is not None
            assert each.refilled > each.end
            assert each.sag is not None
            assert 0.3 < each.sag < 1.0
            assert not each.ran_empty
        least = float(lap.trace.charge.min())
        assert min(first.after, second.after) == pytest.approx(least, abs=1e-5)

    def test_a_restrictor_lessens_the_sag_and_starves_the_next(self, bottled: Build) -> None:
        free, pinched = (over(each) for each in (bottled, tuned(bottled, restrictor_mm=4)))
        sags = [givings(each)[0].sag for each in (free, pinched)]
        assert sags[0] is not None
        assert sags[1] is not None
        assert sags[1] > sags[0] + 0.03
        back = [givings(each)[0] for each in (free, pinched)]
        assert back[0].refilled is not None
        assert back[1].refilled is None or back[1].refilled > back[0].refilled + 0.3

    def test_one_dip_close_upon_another_finds_it_not_refilled(self, bottled: Build) -> None:
        """What fills it after the second is the second's: the first never was refilled."""
        gas = np.where(((TIME > 4.0) & (TIME < 5.2)) | ((TIME > 5.5) & (TIME < 6.6)), 0.9, 0.0)
        first, second = givings(over(bottled, Record(TIME, gas)))
        assert first.refilled is None
        assert second.refilled is not None and second.refilled > second.end
        assert second.before < first.before

    def test_a_bottle_too_small_runs_empty(self, bottled: Build) -> None:
        told = givings(over(tuned(bottled, volume_l=0.8, precharge_bar=3.2)))
        assert told[0].ran_empty

    def test_charged_over_all_pressures_it_does_nothing(self, bottled: Build) -> None:
        stiff = over(tuned(bottled, precharge_bar=8))
        assert givings(stiff) == ()
        assert float(stiff.trace.charge.max()) == pytest.approx(0.0, abs=1e-9)

    def test_while_the_engine_runs_nothing_goes_backwards(self, bottled: Build) -> None:
        """With or without the check valve: even a gassy pump pushes forward. Shown, not assumed."""
        for build in (bottled, tuned(bottled, check_valve=False)):
            assert lost_backwards(over(build)) < 5e-6

    def test_a_pump_that_stops_takes_oil_back_without_a_check_valve(self, bottled: Build) -> None:
        coasts = replace(LAP, engine_speed=np.where(LAP.time > 8.0, 0.0, LAP.engine_speed))
        litres = [
            lost_backwards(circuit_lap(build, coasts, DIPS, (), band=False))
            for build in (bottled, tuned(bottled, check_valve=False))
        ]
        assert litres[0] < 0.01e-3
        assert litres[1] > 0.02e-3

    def test_it_holds_as_long_as_the_circuit_run_says(self, bottled: Build) -> None:
        """The closed form beside the network: all air from 4 s on, until the dip begins."""
        starved = Record(TIME, np.where(TIME > 4.0, 1.0, 0.0))
        run = over(bottled, starved)
        without = over(after(MOVED), starved)

        def falls(lap: CircuitLap) -> float:
            under = lap.gallery < 0.6 * lap.usual
            return float(lap.log.time[np.argmax(under)])

        assert holds_for(run) == pytest.approx(falls(run) - falls(without), rel=0.35)

    def test_it_holds_by_hand(self, lap: CircuitLap) -> None:
        """What it gives, over what the engine drinks half way between both pressures."""
        row, pressure = lap.network.still.bottles[0], lap.pressure
        warm = float(row["amount"] * lap.network.still.whole["bottle_warmth"][0] / row["volume"])
        oil = oil_given(2e-3, warm - AIR_PRESSURE, pressure.usual, pressure.wanted)
        worst = int(np.argmin(lap.gallery / lap.usual))
        half_way = 0.5 * (pressure.usual + pressure.wanted)
        flow = drunk(lap)[worst] * half_way / lap.gallery[worst]
        assert holds_for(lap) == pytest.approx(oil / flow, rel=1e-3)


def test_the_mark_goes_with_what_is_filled_up() -> None:
    oil = dunlin().oil.model_copy(update={"mark_l": 6.0})
    before = read_act(MOVED).done(dunlin().model_copy(update={"oil": oil})).build
    after_it = read_act(BOTTLE).done(before).build
    assert after_it.oil.mark_l is not None
    more = after_it.oil.volume_l - before.oil.volume_l
    assert more > 0.3
    assert after_it.oil.mark_l - 6.0 == pytest.approx(more)


def test_a_valve_by_hand_has_no_switch_point(bottled: Build) -> None:
    electric = tuned(bottled, valve="electric", switch_bar=3.0)
    by_hand = tuned(electric, valve="by_hand")
    opens = [
        next(c.opens_bar for c in b.circuit.components if c.kind == "shut_off_valve")
        for b in (electric, by_hand)
    ]
    assert opens == [3.0, None]


class TestTheMap:
    SIZES = (0.5e-3, 1.5e-3, 3e-3)
    CHARGES = (0.5e5, 1.5e5, 2.5e5, 3.5e5)

    def test_its_cells_are_laps_of_their_own(self, bottled: Build) -> None:
        found = bottle_map(bottled, LAP, DIPS, (), self.SIZES, self.CHARGES, step=0.005)
        own = over(tuned(bottled, volume_l=1.5, precharge_bar=2.5))
        assert found.lowest[1, 2] == pytest.approx(own.pressure.lowest, rel=0.01)
        assert found.under[1, 2] == pytest.approx(own.pressure.under, abs=0.03)

    def test_the_best_cell_is_that_of_short_steps(self, bottled: Build) -> None:
        quick, slow = (
            bottle_map(bottled, LAP, DIPS, (), self.SIZES, self.CHARGES, step=step)
            for step in (0.02, 0.005)
        )
        assert quick.best == slow.best
        assert quick.lowest == pytest.approx(slow.lowest, abs=0.1e5)

    def test_more_is_never_less(self, bottled: Build) -> None:
        found = bottle_map(bottled, LAP, DIPS, (), self.SIZES, self.CHARGES[:3])
        assert (np.diff(found.share, axis=0) > -0.01).all()

    def test_a_bottle_is_charged_as_the_settled_one(self, bottled: Build) -> None:
        network = network_of(bottled)
        speed = float(LAP.engine_speed[0])
        other = with_bottle(network, 3e-3, 1.5e5)
        quick = charged(other, settled_in(network, speed))
        slow = settled_in(other, speed)
        assert quick.charges == pytest.approx(slow.charges, rel=0.03)
        row = quick.bottles[0]
        node = int(np.flatnonzero(quick.nodes["bottle"] == 0)[0])
        pressure = float(quick.nodes["pressure"][node]) + AIR_PRESSURE
        assert row["amount"] * row["warmth"] / row["gas"] == pytest.approx(pressure)


class TestStopping:
    def test_a_valve_left_open_lets_it_all_out(self, bottled: Build) -> None:
        network = network_of(bottled)
        states = (settled_in(network, network.running), settled_in(network, speed_of_rpm(900.0)))
        found = stopped(network, *states)
        assert found.kept_at_speed > 0.4e-3
        assert found.kept_at_idle < 0.1 * found.kept_at_speed
        assert found.left[-1] == pytest.approx(0.0, abs=1e-5)
        assert found.lands == pytest.approx(found.kept_at_speed, abs=1e-5)

    def test_a_soft_charge_is_partly_kept_at_idle(self, bottled: Build) -> None:
        soft = stopped_out(tuned(bottled, precharge_bar=0.4))
        assert soft is not None
        assert 0.2 < soft.kept_at_idle_l < soft.kept_at_speed_l

    def test_the_level_rises_by_what_lands(self) -> None:
        build = dunlin()
        low, high = standing(build), standing(build, 0.8e-3)
        assert high.volume - low.volume == pytest.approx(0.8e-3)
        assert low.level is not None
        assert high.level is not None
        assert low.under_crank is not None
        assert high.under_crank is not None
        rise = high.level - low.level
        assert rise > 0.004
        assert low.under_crank - high.under_crank == pytest.approx(rise, abs=1e-9)

    def test_more_than_the_pan_holds_has_no_level(self) -> None:
        assert standing(dunlin(), 0.05).level is None

    def test_poured_to_the_mark_it_stands_at_the_mark(self) -> None:
        build = dunlin()
        oil = build.oil.model_copy(update={"mark_l": build.oil.volume_l})
        over_mark = standing(build.model_copy(update={"oil": oil})).over_mark
        assert over_mark == pytest.approx(0.0, abs=1e-9)


TO_VALVE = "to the bottle's valve"


class TestTrials:
    def tried(self, build: Build, **changes: object) -> object:
        on = on_record(LAP, DIPS, (), build)
        return trial_out(build, TuneAccumulator(kind="tune_accumulator", **changes), on)  # type: ignore[arg-type]

    def test_a_build_without_one_is_fitted_with_one(self) -> None:
        told = self.tried(dunlin(), volume_l=2, precharge_bar=2.4)
        assert told.act.kind == "fit_accumulator"  # type: ignore[attr-defined]
        assert "at the cooler return, check valve" in told.words  # type: ignore[attr-defined]
        assert told.oil_added_l == pytest.approx(0.6, abs=0.15)  # type: ignore[attr-defined]

    def test_what_is_tried_is_what_is_set(self, bottled: Build) -> None:
        told = self.tried(bottled, volume_l=3, precharge_bar=2.0)
        set_so = told.act.done(bottled).build  # type: ignore[attr-defined]
        lap = circuit_lap(set_so, LAP, DIPS, (), step=0.01, band=False)
        assert told.pressure.lowest_bar == pytest.approx(lap.pressure.lowest / 1e5, abs=0.006)  # type: ignore[attr-defined]
        assert told.oil_added_l == round(set_so.oil.volume_l - bottled.oil.volume_l, 2)  # type: ignore[attr-defined]

    def test_filled_up_the_pan_keeps_its_oil(self, bottled: Build) -> None:
        told = self.tried(bottled, volume_l=4, precharge_bar=1.0)
        assert abs(told.oil_apart_l) < 0.12  # type: ignore[attr-defined]
        dry = self.tried(bottled, volume_l=4, precharge_bar=1.0, fill_up=False)
        assert dry.oil_apart_l < -0.5  # type: ignore[attr-defined]
        assert not dry.is_like  # type: ignore[attr-defined]

    def test_what_is_in_its_line_is_told_as_tried(self, bottled: Build) -> None:
        told = self.tried(
            bottled, valve="electric", switch_bar=2.9, restrictor_mm=2, length_mm=700
        ).bottle.line  # type: ignore[attr-defined]
        assert (told.switch_bar, told.restrictor_mm, told.length_mm) == (2.9, 2.0, 700.0)
        assert not told.is_laid
        bare = self.tried(bottled).bottle.line  # type: ignore[attr-defined]
        assert (bare.switch_bar, bare.restrictor_mm, bare.length_mm) == (None, None, None)

    def test_another_length_keeps_the_bore_and_another_size_does_not(self) -> None:
        raw = read_build((DEMO / "plumbed.json").read_text()).model_dump(mode="json")
        run = next(each for each in raw["circuit"]["runs"] if each["name"] == TO_VALVE)
        run["line"] |= {"bore_mm": 13.5, "slack_mm": 12.0}
        run["route"] = []
        build = build_from(raw)

        def line(**changes: object) -> object:
            act = TuneAccumulator(kind="tune_accumulator", **changes)  # type: ignore[arg-type]
            runs = act.done(build).build.circuit.runs
            return next(each.line for each in runs if each.name == TO_VALVE)

        longer, wider = line(length_mm=700), line(dash=12)
        assert (longer.bore_mm, longer.slack_mm) == (13.5, 12.0)  # type: ignore[attr-defined]
        assert (wider.bore_mm, wider.slack_mm) == (None, 12.0)  # type: ignore[attr-defined]

    def test_the_length_of_a_line_that_is_laid_is_its_ways(self) -> None:
        plumbed = read_build((DEMO / "plumbed.json").read_text())
        told = self.tried(plumbed, dash=12).bottle.line  # type: ignore[attr-defined]
        run = next(each for each in plumbed.circuit.runs if each.name == TO_VALVE)
        assert told.is_laid and told.length_mm == pytest.approx(length_of(run), abs=0.06)
        with pytest.raises(InvalidInput, match="length_mm: is that of its way as laid"):
            self.tried(plumbed, length_mm=700)

    @pytest.mark.parametrize(
        ("raw", "field"),
        [
            ({"volume_l": 0}, "volume_l"),
            ({"volume_l": 25}, "volume_l"),
            ({"precharge_bar": "2 mm"}, "precharge_bar"),
            ({"restrictor": True}, "restrictor_mm"),
            ({"dash": 7}, "dash"),
        ],
    )
    def test_what_cannot_be_is_refused_in_place(self, raw: Raw, field: str, bottled: Build) -> None:
        with pytest.raises(InvalidInput) as refused:
            tuned(bottled, **raw)
        assert field in refused.value.problems[0].field

    def test_a_check_valve_needs_a_line(self) -> None:
        tapped = after({**BOTTLE, "at": "gallery_tapping"})
        assert other_check(tapped, LAP, DIPS, ()) is None
        with pytest.raises(InvalidInput, match="tapping"):
            tuned(tapped, check_valve=True)

    def test_both_schools_of_the_check_valve_are_told(self, bottled: Build) -> None:
        other = other_check(bottled, LAP, DIPS, ())
        told = bottle_out(bottled, over(bottled), ())
        assert other is not None
        assert told is not None
        assert told.has_check
        assert not other.fitted

    def test_an_electric_valve_is_counted(self, bottled: Build) -> None:
        build = tuned(bottled, valve="electric", switch_bar=3.0)
        told = bottle_out(build, over(build), ())
        assert told is not None
        assert told.opens is not None
        assert 1 <= told.opens <= 4
        # it gives, the pressure is back, it shuts, the pressure is gone: many times a dip
        assert told.chatters is not None and told.chatters > 2 * told.opens
        by_hand = bottle_out(tuned(build, valve="by_hand"), over(build), ())
        assert by_hand is not None and by_hand.chatters is None

    def test_a_build_without_one_has_nothing_to_tell(self) -> None:
        build = dunlin()
        assert bottle_out(build, over(build), ()) is None
        assert other_check(build, LAP, DIPS, ()) is None
        assert stopped_out(build) is None


def test_where_nothing_is_said_the_nearest_line_takes_it() -> None:
    act = {"kind": "fit_accumulator", "volume_l": 2, "check_valve": False}
    cooled: Raw = {"kind": "fit_cooler"}
    feed, back, tapped = ({**act, "at": each} for each in get_args(Tapped))
    assert after(MOVED, act) == after(MOVED, feed)
    assert after(cooled, MOVED, act) == after(cooled, MOVED, feed)
    assert after(act) == after(back)  # this car has a cooler
    # a dry sump's cooler is in what its stages send back: no pressure, no bottle
    curlew = read_build((DEMO / "curlew.json").read_text())
    dry = read_act(act).done(curlew)
    assert "at the gallery tapping" in dry.words
    assert len(at_rest(network_of(dry.build).still).bottles) == 1
    with pytest.raises(InvalidInput, match="needs a cooler"):
        read_act(back).done(curlew)
    plain = read_build(PLAIN.read_text())
    first, second = (read_act(each).done(plain).build for each in (act, tapped))
    assert first == second
