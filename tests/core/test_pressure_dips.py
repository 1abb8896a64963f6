"""Pressure dips, what the verdict makes of them, and the circuit alone over a lap."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bilge_core.cli.check import check
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast import find_dips, find_pressure_dips, give_verdict
from bilge_core.forecast.alone import circuit_over, swings
from bilge_core.forecast.pressure import PressureOverLap
from bilge_core.forecast.verdict import badness
from bilge_core.loads.log import Log
from bilge_core.network import GUESSES, network_of, settled_in, steady
from bilge_core.network.guesses import Guessed
from bilge_core.network.way_back import TAKEN_OUT, way_back_of
from bilge_core.pan import assemble_pan
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.pickup.demand import demanded_flow, drawn_flow
from bilge_core.settled import settle_lap
from bilge_core.tell.alone import guesses_out
from bilge_core.tell.verdict import OverLap, pressure_out, verdict_out, worst_first

from tests.conftest import DEMO
from tests.networks import RUNNING, Raw, changed, dunlin, gulps, part, steadily

TIME = np.arange(0.0, 10.0, 0.01)
LOG = Log(TIME, *np.zeros((3, len(TIME))), np.full(len(TIME), 500.0))


def over(*low: tuple[float, float, float], usual: float = 5e5) -> PressureOverLap:
    """Usual pressure but for stretches from, to, at a share of it."""
    pressure = np.full(len(TIME), usual)
    for start, end, share in low:
        pressure[(start <= TIME) & (end >= TIME)] = share * usual
    return find_pressure_dips(LOG, pressure, np.full(len(TIME), usual), ())


def dry(seconds: float, share: float = 1.0):  # type: ignore[no-untyped-def]
    gas = np.where((TIME >= 2.0) & (2.0 + seconds > TIME), share, 0.0)
    return find_dips(LOG, -gas, gas, ())


class TestDips:
    def test_are_told_longest_first_with_their_lowest(self) -> None:
        found = over((1.0, 1.3, 0.5), (4.0, 4.9, 0.3))
        assert [round(dip.lasts, 1) for dip in found.dips] == [0.9, 0.3]
        assert found.dips[0].lowest == pytest.approx(1.5e5)
        assert found.under == pytest.approx(1.2, abs=0.05)
        assert (found.lowest, found.usual) == (pytest.approx(1.5e5), 5e5)
        assert found.wanted == pytest.approx(3e5)

    def test_a_moment_between_joins_them(self) -> None:
        assert len(over((1.0, 1.3, 0.5), (1.33, 1.6, 0.5)).dips) == 1
        assert len(over((1.0, 1.3, 0.5), (1.4, 1.7, 0.5)).dips) == 2

    def test_are_a_share_of_what_is_usual_at_that_speed(self) -> None:
        """Idle has 1.4 bar and is sound; 2.5 bar at 6000 rpm is not."""
        rising = np.linspace(1.4e5, 5e5, len(TIME))
        assert find_pressure_dips(LOG, rising, rising, ()).dips == ()
        assert find_pressure_dips(LOG, np.full(len(TIME), 2.5e5), np.full(len(TIME), 5e5), ()).dips

    def test_the_rule_of_thumb_is_shown_beside_and_judges_nothing(self) -> None:
        """10 psi for every 1000 rpm, from memory: at 4775 rpm 3.3 bar."""
        found = over(usual=3.2e5)
        assert found.under_line == pytest.approx(9.99, abs=0.02) and found.dips == ()
        assert over(usual=3.4e5).under_line == 0.0

    def test_the_band_is_each_pumps_own_lowest_near_there(self) -> None:
        pressure = np.full(len(TIME), 5e5)
        pressure[500:520] = 2e5
        less, more = pressure.copy(), pressure.copy()
        less[510:530], more[500:520] = 1.2e5, 2.6e5
        usual = np.full(len(TIME), 5e5)
        found = find_pressure_dips(LOG, pressure, usual, (), (less, more))
        assert found.band == (1.2e5, 2.6e5)
        assert pressure_out(found).band_bar == (1.2, 2.6)

    def test_what_cannot_be_is_refused(self) -> None:
        usual = np.full(len(TIME), 5e5)
        with pytest.raises(InvalidQuantity, match="one at every time"):
            find_pressure_dips(LOG, usual[:-1], usual, ())
        with pytest.raises(InvalidQuantity, match="usually above 0"):
            find_pressure_dips(LOG, usual, 0.0 * usual, ())
        with pytest.raises(InvalidQuantity):
            find_pressure_dips(LOG, usual * math.nan, usual, ())


class TestTheVerdict:
    def test_a_bare_mouth_that_the_gallery_does_not_feel_is_a_caution_with_its_figure(self) -> None:
        told = give_verdict(dry(0.06), 0.01, over((2.1, 2.15, 0.8)))
        assert told.state == "caution"
        assert "runs dry for 0.06 s" in told.sentence
        assert "keeps 4.0 bar, usual is 5.0 bar; under 3.0 bar is a dip" in told.sentence

    def test_a_pressure_dip_is_not_safe_whatever_the_mouth_says(self) -> None:
        told = give_verdict(dry(0.0), 0.01, over((2.0, 2.6, 0.3)))
        assert told.state == "not_safe"
        assert "Oil pressure dips for 0.6 s" in told.sentence and "down to 1.5 bar" in told.sentence
        both = give_verdict(dry(0.8), 0.01, over((2.0, 2.6, 0.3), (5.0, 5.3, 0.5)))
        assert "dips twice a lap" in both.sentence and "The pickup is dry once" in both.sentence

    def test_settled_oil_is_judged_by_its_mouth(self) -> None:
        assert give_verdict(dry(0.06), 0.01).state == "not_safe"
        assert give_verdict(dry(0.2, 0.3), 0.01).state == "caution"

    def test_the_worst_over_laps_has_the_longest_without_pressure(self) -> None:
        assert badness("not_safe", 0.3, 0.0) > badness("not_safe", 0.2, 9.0)
        rows = [
            OverLap(lap_id=at, lap_name=str(at), model="moving", verdict=told, oil=told)
            for at, (d, low) in enumerate(
                [(3.0, ()), (0.1, ((2.0, 2.2, 0.5),)), (0.0, ((2.0, 2.6, 0.5),))]
            )
            for told in [
                verdict_out(give_verdict(dry(d), 0.0, over(*low)), dry(d), over(*low))
            ]
        ]  # fmt: skip
        assert [row.lap_id for row in worst_first(rows)] == [2, 1, 0]
        assert [row.oil_rank for row in worst_first(rows)] == [0, 1, 2]


class TestTheDrawOfSettledOil:
    @pytest.mark.parametrize("rpm", [2500.0, 4000.0, 6500.0])
    @pytest.mark.parametrize("gas", [0.0, 0.2, 0.4, 0.6])
    def test_follows_the_network(self, rpm: float, gas: float) -> None:
        """A trial: 1.2 L/min. Here 2.4 to a gas share of 0.4, 5 at 0.6: the pump slips there."""
        build = dunlin()
        network = network_of(build)
        speed = speed_of_rpm(rpm)
        real = float(np.mean(steadily(network, 4.0, gas=gas, speed=speed).flow[-200:, 0]))
        swept = demanded_flow(build.circuit.pump, np.array([speed]))
        taken = steady(network).drawn_at(np.array([speed]))
        rule = float(drawn_flow(swept, taken, np.array([gas]))[0])
        assert rule * 60e3 == pytest.approx(real * 60e3, abs=2.4 if gas <= 0.4 else 5.0)


class TestTheCircuitAlone:
    def test_feels_the_gas_that_the_mouth_lets_in(self) -> None:
        build = dunlin()
        network = network_of(build)
        time = np.arange(0.0, 6.0, 0.02)
        log = Log(time, *np.zeros((3, 300)), np.full(300, RUNNING))
        air = np.where((time > 2.0) & (time < 2.6), 1.0, 0.0)
        held = circuit_over(build, log, 0.0 * air, (), network)
        felt = circuit_over(build, log, air, (), network)
        assert held.pressure.dips == () and len(felt.pressure.dips) == 1
        assert 2.0 < felt.pressure.dips[0].lowest_at < 3.0

    def test_each_guess_is_told_with_what_it_moves_the_greatest_first(self, saltmarsh: Log) -> None:
        log = saltmarsh.between(0.0, 22.0)
        found = swings(dunlin(), log)
        assert [swing.matters for swing in found] == sorted(
            (swing.matters for swing in found), reverse=True
        )
        keys = {swing.guess.key for swing in found}
        assert keys == set(network_of(dunlin()).taken)
        slip = next(swing for swing in found if swing.guess.key == "sealing_oil")
        assert slip.lowest[0] < slip.lowest[1] and slip.dry[0] == slip.dry[1]
        told = guesses_out(found).guesses
        assert told[0].moves and not told[-1].moves

    def test_drains_that_nobody_measured_move_dry_time(self, saltmarsh: Log) -> None:
        """What the builder said of heads is taken away: then their drains are what is left."""

        def untold(document: Raw) -> None:
            for each in document["circuit"]["components"]:
                each["holds_l"] = 0.3 if each["kind"] == "filter" else None

        found = swings(changed(dunlin(), untold), saltmarsh.between(0.0, 22.0))
        drains = next(swing for swing in found if swing.guess.key == "drain_bore")
        assert drains.held[0] > drains.held[1] + 0.15e-3 and drains.dry[0] > drains.dry[1]

    def test_what_a_cooler_on_the_way_back_holds_is_a_guess_like_any(self, saltmarsh: Log) -> None:
        """Behind the separator as much gas as it lets pass is in it, the rest is oil."""
        curlew = read_build((DEMO / "curlew.json").read_text())
        cooler = next(
            swing
            for swing in swings(curlew, saltmarsh.between(0.0, 12.0))
            if swing.guess.key == "cooler_holds"
        )
        network, way = network_of(curlew), way_back_of(curlew)
        assert way is not None
        fed = float(steady(network).drawn_at(np.array(network.running)))
        swept = float(way.per_radian.sum()) * network.running
        oil = fed / (fed + (1.0 - TAKEN_OUT) * (swept - fed))
        assert cooler.held[1] - cooler.held[0] == pytest.approx((0.8e-3 - 0.25e-3) * oil, rel=1e-9)

        def told(document: Raw) -> None:
            part(document, "cooler")["holds_l"] = 0.5

        known = way_back_of(changed(curlew, told))
        assert known is not None and "cooler_holds" not in known.taken

    def test_on_the_command_line(self, capsys: pytest.CaptureFixture[str]) -> None:
        lap = str(DEMO / "saltmarsh.csv")
        assert check([str(DEMO / "dunlin.json"), lap, "--circuit"]) == 1
        told = capsys.readouterr().out
        assert "The circuit alone, on the gas that the mouth lets in:" in told
        assert "how far the pump slips on gas" in told and "% of usual" in told
        assert "The running engine holds 2.1 L" in told


def test_a_guess_that_is_measured_is_none_any_more() -> None:
    def measured(document: Raw) -> None:
        part(document, "filter")["drop"] = {"drop_bar": 0.4, "flow_l_min": 40}
        part(document, "head").update(floor_length_mm=420.0, floor_width_mm=130.0)

    before, after = network_of(dunlin()).taken, network_of(changed(dunlin(), measured)).taken
    assert set(before) - set(after) == {"filter_drop", "head_length", "head_width"}


def test_pans_of_settled_and_moving_oil_begin_from_one_network() -> None:
    build = dunlin()
    network = network_of(build)
    pan = assemble_pan(build)
    held = settled_in(network, network.running).held
    lap = settle_lap(pan, build, LOG)
    assert pan.oil_volume == pytest.approx(6.66e-3 - held, abs=0.05e-3)
    assert (lap.gas_share == 0.0).all()
    assert gulps(network, seconds=1.0).end.whole["failed"][0] == 0
    assert Guessed()["relief"] == GUESSES["relief"].likely
    assert build_from(build.model_dump(mode="json")) == build
