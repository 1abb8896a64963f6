"""The network of a build: what it is laid out from, what it keeps, and where it gives way."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.network import GUESSES, network_of, run, settled_in, steady_pressures
from bilge_core.network.assembly import Network
from bilge_core.network.draft import Draft
from bilge_core.network.elimination import eliminate, plan_elimination
from bilge_core.network.guesses import Guessed
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.pipes import Resistance, hole_resistance, pipe_resistance
from bilge_core.network.records import MOUTH, NODE, PARCELS, at_rest
from bilge_core.network.running import LEVEL, Trace, slips_on_gas, stage_of
from bilge_core.physics.turns import speed_of_rpm

from tests.everything import everything_of_today
from tests.networks import go, laid

Raw = dict[str, Any]
MOVED: Raw = {"kind": "move_filter", "filters": 1, "dash": 10}
BOTTLE: Raw = {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4}
RUNNING = speed_of_rpm(4000.0)


@cache
def dunlin() -> Build:
    return read_build(Path("demo/dunlin.json").read_text())


def after(*acts: Raw) -> Build:
    build = dunlin()
    for raw in acts:
        named = {
            key: next(c.id for c in build.circuit.components if c.kind == raw[key])
            for key in ("turbo", "head")
            if key in raw
        }
        build = read_act({**raw, **named}).done(build).build
    return build


def changed(build: Build, change: Callable[[Raw], None]) -> Build:
    document = build.model_dump(mode="json")
    change(document)
    return build_from(document)


def part(document: Raw, kind: str) -> Raw:
    found = next(each for each in document["circuit"]["components"] if each["kind"] == kind)
    assert isinstance(found, dict)
    return found


def id_of(build: Build, kind: str) -> str:
    return next(each.id for each in build.circuit.components if each.kind == kind)


def steadily(
    network: Network, seconds: float = 8.0, gas: float = 0.0, step: float = 0.005,
    speed: float = RUNNING, start: Any = None,
) -> Trace:  # fmt: skip
    count = round(seconds / step)
    begin = settled_in(network, speed) if start is None else start
    return run(
        network, begin, np.full(count, speed), np.tile(LEVEL, (count, 1)), np.full(count, gas), step
    )


def gulps(network: Network, step: float = 0.005, seconds: float = 12.0) -> Trace:
    """Half a second of air at 2 s and a tenth at 6 s."""
    time = np.arange(round(seconds / step)) * step
    gas = np.where((time > 2.0) & (time < 2.5) | (time > 6.0) & (time < 6.1), 1.0, 0.0)
    rows = np.tile(LEVEL, (len(time), 1))
    return run(network, settled_in(network, RUNNING), np.full(len(time), RUNNING), rows, gas, step)


class TestWhatItIsLaidOutFrom:
    def test_the_gauges_reading_comes_back(self) -> None:
        """Calibrated at 3.9 bar, 3200 rpm and 110 °C: the gallery has that there, to 2 %."""
        network = network_of(changed(dunlin(), lambda d: d["oil"].update(temperature_c=110.0)))
        found = steady_pressures(network, network.gallery, np.array([speed_of_rpm(3200.0)]))
        assert found[0] == pytest.approx(3.9e5, rel=0.02)

    def test_on_the_relief_a_gauge_behind_filter_and_cooler_reads_under_its_setting(self) -> None:
        """Common practice, no published source: about a tenth."""
        network = network_of(dunlin())
        found = steady_pressures(network, network.gallery, np.array([speed_of_rpm(6500.0)]))
        assert 0.85 < found[0] / 5.4e5 < 0.99

    def test_a_component_that_says_what_it_holds_is_held_to_it(self) -> None:
        network = network_of(dunlin())
        held = settled_in(network, RUNNING)
        head = [what for _, what in network.vessels].index("floor")
        assert held.in_vessels[head] == pytest.approx(0.8e-3, rel=0.12)
        filtered = changed(dunlin(), lambda d: part(d, "filter").update(holds_l=0.85))
        more = settled_in(network_of(filtered), RUNNING).held - held.held
        assert more == pytest.approx(0.5e-3, rel=0.02)

    def test_what_is_guessed_is_told_and_what_is_given_is_not(self) -> None:
        taken = network_of(dunlin()).taken
        assert "filter_drop" in taken and "filter_holds" not in taken

        def tell(document: Raw) -> None:
            part(document, "filter")["drop"] = {"drop_bar": 0.4, "flow_l_min": 40}
            part(document, "gallery")["bearings"] = None

        told = network_of(changed(dunlin(), tell)).taken
        assert "filter_drop" not in told and "onto_relief" in told

    def test_a_guess_is_set_otherwise(self) -> None:
        low, high = GUESSES["head_share"].low, GUESSES["head_share"].high
        flows = [
            settled_in(network_of(dunlin(), {"head_share": share}), RUNNING).elements["flow"]
            for share in (low, high)
        ]
        cams = network_of(dunlin()).element(id_of(dunlin(), "head"), "cams")
        assert flows[1][cams] > 2.5 * flows[0][cams]

    def test_every_guess_lies_in_its_range(self) -> None:
        for guess in GUESSES.values():
            assert guess.low < guess.likely < guess.high, guess.key

    def test_without_gauge_readings_it_comes_onto_its_relief_where_guessed(self) -> None:
        bare = changed(dunlin(), lambda d: part(d, "gallery").update(bearings=None))
        network = network_of(bare)
        onto = GUESSES["onto_relief"].likely
        found = steady_pressures(network, network.gallery, np.array([0.5 * onto, onto]))
        assert 0.42 < found[0] / found[1] < 0.58 and found[1] > 0.8 * 5.4e5

    def test_one_of_every_kind(self) -> None:
        network = network_of(build_from(everything_of_today()))
        trace = gulps(network, seconds=4.0)
        assert np.isfinite(trace.pressure).all() and trace.end.whole["failed"][0] == 0

    def test_a_line_of_known_size_takes_pressure_and_holds_oil(self) -> None:
        def size(document: Raw) -> None:
            for row in document["circuit"]["runs"]:
                if row["name"] in ("to the cooler", "from the cooler"):
                    row["line"] |= {"dash": 8, "length_mm": 1200}

        sized = network_of(changed(dunlin(), size))
        bare = network_of(dunlin())
        assert len(sized.still.elements) == len(bare.still.elements) + 2
        held = [settled_in(each, RUNNING) for each in (bare, sized)]
        assert held[1].held > held[0].held + 0.13e-3
        drop = [float(h.nodes["pressure"][n.outlet] - h.nodes["pressure"][n.gallery])
                for h, n in zip(held, (bare, sized), strict=True)]  # fmt: skip
        assert drop[1] > drop[0] + 0.2e5

    def test_a_thermostat_sends_cold_oil_past_the_cooler(self) -> None:
        build = changed(dunlin(), lambda d: part(d, "sandwich_plate").update(thermostat_c=82.0))
        network = network_of(build)
        thermostat, cooler = id_of(build, "sandwich_plate"), id_of(build, "cooler")
        hot = settled_in(network, RUNNING).elements["flow"]
        cold_build = changed(build, lambda d: d["oil"].update(temperature_c=60.0))
        cold_network = network_of(cold_build)
        cold = settled_in(cold_network, RUNNING).elements["flow"]
        through = network.element(thermostat, "to cooler")
        matrix = network.element(cooler, "matrix")
        assert hot[matrix] == pytest.approx(hot[through], rel=1e-3)
        assert (
            cold[cold_network.element(thermostat, "past cooler")]
            > 5 * cold[cold_network.element(thermostat, "to cooler")]
        )

    def test_a_two_stage_pump_has_its_low_mode_and_its_low_relief_below_its_speed(self) -> None:
        low = {"displacement_cm3": 8.0, "up_to_rpm": 2500, "relief_bar": 2.0}

        def two(document: Raw) -> None:
            part(document, "pressure_stage")["low_stage"] = low

        network = network_of(changed(dunlin(), two))
        below, above = steady_pressures(
            network, network.gallery, speed_of_rpm(np.array([2400.0, 2600.0]))
        )
        assert below < 2.1e5 and above > 2.6e5

    def test_a_drain_comes_out_at_its_boss(self) -> None:
        drain = {"kind": "drain_turbo", "turbo": "turbo", "how": "gravity",
                 "boss_mm": [200, 120, 30]}  # fmt: skip
        build = after({"kind": "feed_turbo"}, drain)
        network = network_of(build)
        assert len(network.ways) == 2 and network.ways[0] == ""
        assert network.ways[1] in {boss.id for boss in build.pan.bosses}
        state = settled_in(network, RUNNING)
        go(state, 2.0, speed=RUNNING)
        assert (state.given > 0.0).all()

    def test_an_outside_return_lets_a_head_hold_less(self) -> None:
        build = after({"kind": "outside_return", "head": "head"})
        with_return = settled_in(network_of(build), RUNNING)
        assert with_return.held < settled_in(network_of(dunlin()), RUNNING).held - 0.1e-3

    def test_without_a_way_to_a_gallery_it_is_refused_in_place(self) -> None:
        def cut(document: Raw) -> None:
            runs = document["circuit"]["runs"]
            document["circuit"]["runs"] = [r for r in runs if r["name"] != "filter to gallery"]

        with pytest.raises(InvalidInput, match=r"circuit\.runs: must lead oil"):
            network_of(changed(dunlin(), cut))


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
        assert float(trace.end.given.sum()) == pytest.approx(drawn, rel=1e-3)

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
        from bilge_core.network.draft import Vessel

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
        from bilge_core.network.vessels import floor_level

        one = floor_level(1e-3, 0.4, 0.14, 0.2, 0.5, 0.84)
        other = floor_level(1e-3, 0.4, 0.14, -0.2, -0.5, 0.84)
        assert one == pytest.approx(other, abs=1e-9)
        assert floor_level(1e-3, 0.4, 0.14, 0.0, 0.0, 1.0) == pytest.approx(1e-3 / 0.4 / 0.14)


class TestTheElimination:
    def test_solves_what_a_library_solves(self) -> None:
        """NumPy's solver on a random circuit's matrix."""
        rng = np.random.default_rng(3)
        pairs = [(at, int(rng.integers(0, at))) for at in range(1, 14)] + [(3, 11), (5, 12), (0, 9)]
        plan = plan_elimination(14, pairs)
        full = np.diag(rng.uniform(4.0, 6.0, 14))
        for one, other in pairs:
            full[one, other], full[other, one] = rng.normal(size=2)
        matrix = np.zeros(plan.entries)
        rows, columns = np.nonzero(full)
        matrix[plan.places[rows, columns]] = full[rows, columns]
        nodes = np.zeros(14, dtype=NODE)
        right = rng.normal(size=14)
        nodes["change"] = right
        eliminate(matrix, nodes, plan.pivots, plan.meets, plan.targets)
        assert nodes["change"] == pytest.approx(np.linalg.solve(full, right), rel=1e-10)

    def test_a_tree_makes_no_entry_besides_its_own(self) -> None:
        pairs = [(0, at) for at in range(1, 9)]
        assert plan_elimination(9, pairs).entries == 9 + 2 * 8


def test_at_rest_is_the_same_whatever_went_before() -> None:
    network = network_of(after(MOVED, BOTTLE))
    again = at_rest(gulps(network).end)
    assert again.held == pytest.approx(network.still.held, abs=1e-15)
    assert (again.nodes["pressure"] == 0.0).all() and again.bottles["gas"] == pytest.approx(2e-3)
    assert stage_of(network) == network.element(id_of(dunlin(), "pressure_stage"), "stage")


def test_figures_that_cannot_be_are_refused() -> None:
    with pytest.raises(InvalidQuantity, match="bore"):
        pipe_resistance(0.0, 1.0, 800.0, 0.01)
    with pytest.raises(InvalidQuantity, match="viscosity"):
        hole_resistance(0.002, 800.0, float("nan"))
    with pytest.raises(AssertionError):
        Guessed({"no_such": 1.0})
