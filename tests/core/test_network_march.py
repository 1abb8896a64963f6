"""The network step by step: what it keeps, where it gives way, what air does to it."""

from __future__ import annotations

import numpy as np
import pytest
from bilge_core.errors import InvalidQuantity
from bilge_core.network import GUESSES, network_of, run, settled_in
from bilge_core.network.draft import Draft, Vessel
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.pipes import Resistance
from bilge_core.network.plug import gas_about_to_leave, pop, push
from bilge_core.network.records import MOUTH, PARCELS, WHOLE
from bilge_core.network.running import LEVEL, slips_on_gas
from bilge_core.network.vessels import floor_level
from bilge_core.physics.turns import speed_of_rpm

from tests.networks import (
    BOTTLE,
    MOVED,
    RUNNING,
    Raw,
    after,
    changed,
    dunlin,
    go,
    gulps,
    id_of,
    laid,
    part,
    steadily,
)


class TestConservation:
    @pytest.mark.parametrize("acts", [[], [MOVED, BOTTLE], [{"kind": "feed_turbo"}]])
    def test_oil_is_neither_made_nor_lost(self, acts: list[Raw]) -> None:
        network = network_of(after(*acts))
        begin = settled_in(network, RUNNING)
        end = gulps(network).end
        drawn = float(end.whole["drawn_oil"][0])
        assert end.held - drawn == pytest.approx(begin.held, abs=1e-12)

    def test_steady_what_is_drawn_comes_back(self) -> None:
        trace = steadily(network_of(dunlin()), seconds=5.0)
        drawn = float(trace.end.whole["drawn_oil"][0])
        assert float(trace.end.given.sum()) == pytest.approx(drawn, rel=3e-3)

    def test_oil_that_runs_back_down_the_tube_is_given_back(self) -> None:
        """A pump that stands, its gallery full and under pressure, lets oil back to the pan."""
        draft = Draft()
        node = ("n", "inlet")
        draft.tube_volume = 50e-6
        draft.hold(node, 1e-3)
        draft.line(("t", "suction"), MOUTH, node, Resistance(1e8), suction=True)
        flowing, nodes = laid(draft)
        flowing.nodes["liquid"][nodes[node]] *= 1.00005
        begin = flowing.held
        go(flowing, 1.0)
        drawn = float(flowing.whole["drawn_oil"][0])
        assert drawn < 0.0 and flowing.held - drawn == pytest.approx(begin, abs=1e-15)


class TestThePlug:
    def test_a_gulp_arrives_after_the_tubes_volume(self) -> None:
        """Textbook: displaced volume over flow."""
        network = network_of(dunlin())
        step = 0.002
        gas = np.zeros(1500)
        gas[500:550] = 1.0
        state = settled_in(network, RUNNING)
        seen = []
        for share in gas:
            go(state, step, step=step, speed=RUNNING, gas=float(share))
            seen.append(float(state.nodes["gas"][network.inlet]))
        arrived = next(at for at, each in enumerate(seen) if each > 1e-9) * step
        flow = float(state.elements["flow"][0])
        tube = float(network.still.whole["tube"][0])
        assert arrived - 1.0 == pytest.approx(tube / flow, abs=2.5 * step)

    def test_short_gulps_of_many_kinds_fill_the_ring_and_are_kept_in_sum(self) -> None:
        network = network_of(dunlin())
        state = settled_in(network, 40.0)
        begin = state.held
        for at in range(3 * PARCELS):
            go(state, 0.002, step=0.002, speed=40.0, gas=(at % 7) / 7)
        assert int(state.whole["parcels"][0]) <= PARCELS
        assert state.held - float(state.whole["drawn_oil"][0]) == pytest.approx(begin, abs=1e-13)

    @pytest.mark.parametrize("first", [0, 5, PARCELS - 2, PARCELS - 1])
    def test_what_is_about_to_leave_is_what_leaves_wherever_the_ring_begins(
        self, first: int
    ) -> None:
        parcels, whole = np.zeros((PARCELS, 2)), np.zeros(1, dtype=WHOLE)
        whole["first"], whole["parcels"] = first, 3
        for n, gas in enumerate((0.1, 0.5, 0.9)):
            parcels[(first + n) % PARCELS] = 1e-6, gas
        for volume, mean in ((0.5e-6, 0.1), (2e-6, 0.3), (3e-6, 0.5), (9e-6, 0.5)):
            assert gas_about_to_leave(parcels, whole, volume) == pytest.approx(mean)
        assert pop(parcels, whole, 2.5e-6, False) == pytest.approx(1.05e-6)
        push(parcels, whole, 1e-6, 0.0, True)
        assert int(whole["parcels"][0]) == 2
        assert pop(parcels, whole, 9e-6, True) == pytest.approx(0.45e-6)


class TestTheStep:
    def test_halved_it_moves_the_time_under_a_line_by_less_than_two_hundredths(self) -> None:
        network = network_of(after(MOVED))
        under = []
        for step in (0.02, 0.01, 0.005, 0.0025):
            pressure = gulps(network, step).pressure[:, network.gallery]
            under.append(float((pressure < 2.4e5).sum()) * step)
        assert under[-1] > 0.2
        assert abs(under[2] - under[3]) < 0.02 and abs(under[0] - under[3]) < 0.06

    def test_twice_is_the_same_to_the_bit(self) -> None:
        network = network_of(dunlin())
        one, other = gulps(network), gulps(network)
        assert one.pressure.tobytes() == other.pressure.tobytes()

    def test_the_order_of_what_is_drawn_moves_nothing(self) -> None:
        def turned(document: Raw) -> None:
            document["circuit"]["components"].reverse()
            document["circuit"]["runs"].reverse()

        one = network_of(after(MOVED, BOTTLE))
        other = network_of(changed(after(MOVED, BOTTLE), turned))
        here, there = gulps(one), gulps(other)
        gap = here.pressure[:, one.gallery] - there.pressure[:, other.gallery]
        assert float(np.abs(gap).max()) < 1e-3  # of 500,000 Pa

    @pytest.mark.parametrize("acts", [[], [MOVED, BOTTLE]])
    def test_white_noise_leaves_no_step_undone(self, acts: list[Raw]) -> None:
        network = network_of(after(*acts))
        rng = np.random.default_rng(7)
        count = 20_000
        gravity = LEVEL + rng.normal(0.0, 9.0, (count, 3))
        trace = run(
            network, network.still, rng.uniform(0.0, 800.0, count), gravity,
            rng.uniform(0.0, 1.0, count),
        )  # fmt: skip
        assert trace.end.whole["failed"][0] == 0
        assert np.isfinite(trace.pressure).all()
        assert float(trace.pressure.min()) > -AIR_PRESSURE

    @pytest.mark.long
    def test_nor_do_a_hundred_and_eighty_thousand(self) -> None:
        network = network_of(after(MOVED, {**BOTTLE, "valve": "electric"}, {"kind": "feed_turbo"}))
        rng = np.random.default_rng(11)
        count = 180_000
        trace = run(
            network, network.still, rng.uniform(0.0, 900.0, count),
            LEVEL + rng.normal(0.0, 12.0, (count, 3)), rng.uniform(0.0, 1.0, count),
        )  # fmt: skip
        assert trace.end.whole["failed"][0] == 0

    def test_what_it_cannot_run_is_refused(self) -> None:
        network = network_of(dunlin())
        speed, rows = np.full(3, 100.0), np.tile(LEVEL, (3, 1))
        with pytest.raises(InvalidQuantity, match="rows, as the speed"):
            run(network, network.still, speed, rows, np.zeros(4))
        with pytest.raises(InvalidQuantity, match="above 0 s"):
            run(network, network.still, speed, rows, np.zeros(3), step=0.0)
        with pytest.raises(InvalidQuantity, match="finite"):
            run(network, network.still, speed * np.nan, rows, np.zeros(3))


class TestAValveThatSensesElsewhere:
    @pytest.mark.parametrize("rpm", [5500.0, 6800.0])
    @pytest.mark.parametrize("step", [0.0025, 0.005, 0.01, 0.02, 0.05])
    def test_holds_the_gallery_at_its_opening_and_does_not_chatter(
        self, rpm: float, step: float
    ) -> None:
        """Behind filter and cooler: the gauge stands at the setting, not a tenth under it."""

        def sense(document: Raw) -> None:
            part(document, "relief")["senses"] = part(document, "gallery")["id"]

        network = network_of(changed(dunlin(), sense))
        trace = steadily(network, 6.0, step=step, speed=speed_of_rpm(rpm))
        late = trace.pressure[len(trace.time) // 2 :, network.gallery]
        assert float(np.ptp(late)) < 0.02e5
        assert 5.4e5 < late[-1] < 5.6e5


class TestWhatAirDoes:
    def test_a_pump_on_air_shuts_its_relief_and_draws_its_whole_displacement(self) -> None:
        """On the relief the mouth gives what the engine takes; half air, all that it sweeps."""
        network = network_of(dunlin())
        speed = speed_of_rpm(6500.0)
        oil = steadily(network, speed=speed)
        air = steadily(network, 1.0, gas=0.5, speed=speed)
        relief = network.element(id_of(dunlin(), "relief"), "relief")
        swept = 12e-6 * 0.55 * 6500 / 60
        assert oil.flow[-1, 0] < 0.75 * swept and oil.flow[-1, relief] > 0.2 * swept
        assert air.flow[-1, relief] < 1e-6
        assert air.flow[-1, 0] == pytest.approx(swept, rel=0.12)
        assert air.flow[-1, 0] > 1.15 * oil.flow[-1, 0]

    def test_half_a_second_of_it_is_felt_and_goes_by(self) -> None:
        network = network_of(dunlin())
        pressure = gulps(network).pressure[:, network.gallery]
        steady = pressure[300]
        assert pressure.min() < 0.6 * steady
        assert pressure[-1] == pytest.approx(steady, rel=0.02)

    def test_how_far_the_pump_slips_moves_the_lowest_pressure(self) -> None:
        network = network_of(dunlin())
        lowest = [
            gulps(slips_on_gas(network, sealing)).pressure[:, network.gallery].min()
            for sealing in (GUESSES["sealing_oil"].low, GUESSES["sealing_oil"].high)
        ]
        assert lowest[0] < lowest[1]

    def test_a_bottle_holds_the_gallery_up(self) -> None:
        bare, with_bottle = network_of(after(MOVED)), network_of(after(MOVED, BOTTLE))
        low = [
            float((gulps(each).pressure[:, each.gallery] < 2.0e5).sum())
            for each in (bare, with_bottle)
        ]
        assert low[1] < 0.6 * low[0]

    def test_an_electric_valve_opens_when_pressure_falls_and_stays_open_a_while(self) -> None:
        build = after(MOVED, {**BOTTLE, "valve": "electric"})

        def below(document: Raw) -> None:
            part(document, "shut_off_valve")["opens_bar"] = 2.5

        build = changed(build, below)
        network = network_of(build)
        valve = network.element(id_of(build, "shut_off_valve"), "valve")
        trace = gulps(network)
        given = -trace.flow[:, valve]
        assert given[:400].max() < 1e-7  # shut: nothing out of it
        assert given[400:700].max() > 0.1e-3
        opened = int(np.argmax(given > 1e-5))
        assert (trace.pressure[opened - 2, network.gallery]) < 3.2e5


class TestAHeadInACorner:
    def test_oil_lies_away_from_its_drains_and_it_holds_more(self) -> None:
        """All drains on one side, 1.2 g the other way."""
        draft = Draft()
        draft.way("")

        holes = [((x, 0.06, 10e-3, 2.0), -1) for x in (-0.1, 0.1)]
        draft.vessel(Vessel("h", "floor", floor=(0.4, 0.14, 0.0), holes=holes))
        draft.join(("c", "a"))
        rested = {}
        for side in (0.0, 12.0, -12.0):
            flowing, _ = laid(draft)
            flowing.vessels["one"] = 2e-3
            gravity = np.array([0.0, side, -9.80665])
            go(flowing, 60.0, gravity=gravity)
            rested[side] = float(flowing.vessels["one"][0])
        assert rested[12.0] < 0.02e-3  # oil runs to the drains
        assert rested[-12.0] > 5 * max(rested[0.0], 1e-5)

    def test_the_mirror_of_a_load_is_the_mirror_of_its_level(self) -> None:

        one = floor_level(1e-3, 0.4, 0.14, 0.2, 0.5, 0.84)
        other = floor_level(1e-3, 0.4, 0.14, -0.2, -0.5, 0.84)
        assert one == pytest.approx(other, abs=1e-9)
        assert floor_level(1e-3, 0.4, 0.14, 0.0, 0.0, 1.0) == pytest.approx(1e-3 / 0.4 / 0.14)
