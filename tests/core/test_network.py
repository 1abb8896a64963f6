"""The network of a build: what it is laid out from, and what it holds."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.network import GUESSES, network_of, settled_in, steady
from bilge_core.network.elimination import eliminate, plan_elimination
from bilge_core.network.guesses import Guessed
from bilge_core.network.oil import oil_of
from bilge_core.network.pipes import hole_resistance, pipe_resistance
from bilge_core.network.records import NODE, at_rest
from bilge_core.network.references import engine_of
from bilge_core.network.running import suction_of
from bilge_core.physics.turns import speed_of_rpm

from tests.everything import everything_of_today
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
    part,
    steadily,
)


class TestWhatItIsLaidOutFrom:
    def test_the_gauges_reading_comes_back(self) -> None:
        """Calibrated at 3.9 bar, 3200 rpm and 110 °C: the gallery has that there, to 2 %."""
        network = network_of(changed(dunlin(), lambda d: d["oil"].update(temperature_c=110.0)))
        found = steady(network, np.array([speed_of_rpm(3200.0)])).gallery
        assert found[0] == pytest.approx(3.9e5, rel=0.02)

    def test_on_the_relief_a_gauge_behind_filter_and_cooler_reads_under_its_setting(self) -> None:
        """Common practice, no published source: about a tenth."""
        network = network_of(dunlin())
        found = steady(network, np.array([speed_of_rpm(6500.0)])).gallery
        assert 0.85 < found[0] / 5.4e5 < 0.99

    def test_a_component_that_says_what_it_holds_is_held_to_it(self) -> None:
        network = network_of(dunlin())
        held = settled_in(network, RUNNING)
        head = [what for _, what in network.vessels].index("floor")
        assert held.in_vessels[head] == pytest.approx(0.5e-3, rel=0.12)
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
        found = steady(network, np.array([0.5 * onto, onto])).gallery
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
        pressed = [float(each.nodes["liquid"].sum()) for each in held]
        bore = (8 / 16 - 2 * 0.035) * 25.4e-3
        full = 2 * 1.2 * np.pi / 4 * bore**2  # both lines, all of them
        assert pressed[1] - pressed[0] == pytest.approx(full + 2 * 20e-6, rel=0.03)
        drop = [float(h.nodes["pressure"][n.outlet] - h.nodes["pressure"][n.gallery])
                for h, n in zip(held, (bare, sized), strict=True)]  # fmt: skip
        assert drop[1] > drop[0] + 0.2e5

    def test_a_filter_s_bypass_opens_where_it_is_told(self) -> None:
        def tell(document: Raw) -> None:
            part(document, "filter")["bypass_bar"] = 1.3

        guessed, told = (network_of(each) for each in (dunlin(), changed(dunlin(), tell)))
        opens = [
            float(each.still.elements["opens"][each.element(id_of(dunlin(), "filter"), "bypass")])
            for each in (guessed, told)
        ]
        assert opens == pytest.approx([GUESSES["filter_bypass"].likely, 1.3e5])

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

    @pytest.mark.parametrize(("bleeds", "least", "most"), [(True, 0.02, 0.2), (False, 0.0, 0.002)])
    def test_a_shut_thermostat_bleeds_or_does_not(
        self, bleeds: bool, least: float, most: float
    ) -> None:
        def cold(document: Raw) -> None:
            document["oil"]["temperature_c"] = 60.0
            for each in document["circuit"]["components"]:
                if each["kind"] == "sandwich_plate":
                    each["kind"], each["opens_c"], each["bleeds"] = "thermostat", 82.0, bleeds
                    del each["thermostat_c"]

        build = changed(dunlin(), cold)
        network = network_of(build)
        flow = settled_in(network, RUNNING).elements["flow"]
        valve = id_of(build, "thermostat")
        through = float(flow[network.element(valve, "to cooler")])
        past = float(flow[network.element(valve, "past cooler")])
        assert least <= through / past < most

    def test_a_two_stage_pump_has_its_low_mode_and_its_low_relief_below_its_speed(self) -> None:
        low = {"displacement_cm3": 8.0, "up_to_rpm": 2500, "relief_bar": 2.0}

        def two(document: Raw) -> None:
            part(document, "pressure_stage")["low_stage"] = low

        network = network_of(changed(dunlin(), two))
        below, above = steady(network, speed_of_rpm(np.array([2400.0, 2600.0]))).gallery
        assert below < 2.1e5 and above > 2.6e5
        # it lowers the first relief alone, no regulator beside it
        lowered = []
        for build, kind in (
            (changed(dunlin(), two), "relief"),
            (changed(after(MOVED, {"kind": "fit_regulator", "opens_bar": 4.5}), two), "regulator"),
        ):
            found = network_of(build)
            at = found.element(id_of(build, kind), "relief")
            lowered.append(float(found.still.elements["lowered"][at]))
        assert lowered == [2.0e5, 0.0]

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
        def untold(document: Raw) -> None:
            for each in document["circuit"]["components"]:
                each["holds_l"] = 0.3 if each["kind"] == "filter" else None

        build = after({"kind": "outside_return", "head": "head"})
        held = [
            settled_in(network_of(changed(each, untold)), RUNNING).in_vessels[0]
            for each in (dunlin(), build)
        ]
        assert held[1] < 0.9 * held[0]

    def test_a_joint_that_leaks_lets_air_into_the_pump_all_the_time(self) -> None:
        """Common practice, no published source: it looks just like slosh, but goes by no corner."""

        def leak(bore: float) -> float:
            def put(document: Raw) -> None:
                runs = document["circuit"]["runs"]
                next(r for r in runs if r["name"] == "pickup tube")["end"]["leak_mm"] = bore

            network = network_of(changed(dunlin(), put))
            trace = steadily(network, 4.0)
            inlet = trace.end.nodes[network.inlet]
            assert (float(inlet["gas_share"]) > 0.01) == (bore > 0.0)
            return float(trace.pressure[-1, network.gallery])

        tight, small, large = leak(0.0), leak(1.5), leak(4.0)
        assert tight > small > large and large < 0.97 * tight

    def test_a_bypass_led_through_a_fitting_still_finds_its_way_to_the_pan(self) -> None:
        """A regulator's bypass through a bulkhead fitting holds the same pressure as straight."""
        straight = after(MOVED, {"kind": "fit_regulator", "opens_bar": 4.0})

        def through(document: Raw) -> None:
            circuit = document["circuit"]
            fitting = {**circuit["components"][0], "id": "c900", "kind": "bulkhead", "name": "wall"}
            circuit["components"].append(fitting)
            regulator = part(document, "regulator")["id"]
            line = next(r for r in circuit["runs"] if r["start"]["component"] == regulator
                       and r["start"]["port"] == "bypass")  # fmt: skip
            onward = {**line, "id": "r900", "start": {"component": "c900", "port": "b"}}
            circuit["runs"].append(onward)
            line["end"] = {"component": "c900", "port": "a"}

        found = [
            steady(network_of(each), np.array([speed_of_rpm(6500.0)])).gallery[0]
            for each in (straight, changed(straight, through))
        ]
        assert found[1] == pytest.approx(found[0], rel=0.03) and found[0] < 4.4e5

    def test_without_a_way_to_a_gallery_it_is_refused_in_place(self) -> None:
        def cut(document: Raw) -> None:
            runs = document["circuit"]["runs"]
            document["circuit"]["runs"] = [r for r in runs if r["name"] != "filter to gallery"]

        with pytest.raises(InvalidInput, match=r"circuit\.runs: must lead oil"):
            network_of(changed(dunlin(), cut))


def test_a_colder_reading_s_slip_is_that_of_thicker_oil() -> None:
    """What the pump let slip while the gauge was read is no oil of the engine's."""

    def colder(document: Raw) -> None:
        told = part(document, "gallery")["bearings"]
        told.update(flow_l_min=18.0, at_bar=4.0, oil_temperature_c=70.0)

    build = changed(dunlin(), colder)
    oil = oil_of(build)
    engine = engine_of(build, oil, Guessed())
    thicker = oil.viscosity_at(70.0) / oil.viscosity
    let_through = 18.0 / 60e3 - engine.leak / thicker * 4e5
    bearings = (1.0 - GUESSES["head_share"].likely) * let_through
    assert engine.bearings == pytest.approx(4e5 / bearings / thicker, rel=1e-6)


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
    assert network.elements[suction_of(network)][1] == "suction"


def test_figures_that_cannot_be_are_refused() -> None:
    with pytest.raises(InvalidQuantity, match="bore"):
        pipe_resistance(0.0, 1.0, 800.0, 0.01)
    with pytest.raises(InvalidQuantity, match="viscosity"):
        hole_resistance(0.002, 800.0, float("nan"))
    with pytest.raises(AssertionError):
        Guessed({"no_such": 1.0})


@pytest.mark.parametrize("layout", ["flat-six", "vee-rear-sump"])
def test_what_is_left_over_is_kept_by_both_heads_alike(layout: str) -> None:
    """Films and pockets of an engine with two heads: half in each, and none on the crank."""
    path = Path("core/bilge_core/document/templates") / f"{layout}.json"
    pockets = network_of(read_build(path.read_text())).still.vessels["pocket"]
    assert pockets[0] == pytest.approx(pockets[1]) and pockets[0] > 1e-5
    assert pockets[2:].sum() == 0.0
