"""Another circuit on the record of a coupled run, and when its pan's oil stands for its own."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.moving import MovingForecast, forecast_moving
from bilge_core.forecast.on_record import Record, apart, circuit_lap, in_pan
from bilge_core.loads.log import Log
from bilge_core.loads.manoeuvres import Manoeuvre, manoeuvre_log
from bilge_core.network import between_looks, met_over, network_of
from bilge_core.network.order import component_of, order_of
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.circuit_lap import circuit_lap_out, layout_out

from tests.conftest import DEMO
from tests.networks import BOTTLE, MOVED, Raw, after, dunlin

CORNER = manoeuvre_log(Manoeuvre("corner", "left", 1.2, 0.4, 2.0, speed_of_rpm(5500.0)))
NEAR = 0.03e5  # [Pa] rms that a preview is wanted within


STARTS = 4


@cache
def ran(*acts: str, seed: int = 0) -> tuple[Build, MovingForecast]:
    build = after(*(NAMED[act] for act in acts))
    return build, forecast_moving(build, CORNER, seed=seed)


NAMED: dict[str, Raw] = {
    "moved": MOVED,
    "bottle": BOTTLE,
    "soft": {"kind": "tune_accumulator", "precharge_bar": 1.2},
    "pinched": {"kind": "tune_accumulator", "restrictor_mm": 3},
}


def record_of(forecast: MovingForecast) -> Record:
    return Record.of_looks(forecast.lap.time, forecast.lap.mouth.swallowed)


def rms(build: Build, on: MovingForecast, own: MovingForecast) -> float:
    lap = circuit_lap(build, CORNER, record_of(on), (), band=False)
    looks = own.lap.time - own.lap.time[0]
    told = np.interp(looks[1:], lap.trace.time, lap.gallery)
    return float(np.sqrt(np.mean((told - own.lap.pressure[1:]) ** 2)))


class TestOnARunsOwnRecord:
    @pytest.mark.parametrize("acts", [(), ("moved",), ("moved", "bottle")])
    def test_the_gallery_is_the_coupled_runs(self, acts: tuple[str, ...]) -> None:
        build, own = ran(*acts)
        assert rms(build, own, own) < NEAR / 2
        assert own.lap.pressure.min() < 0.9 * own.lap.pressure[0]  # the corner is felt

    def test_what_the_mouth_finds_at_a_look_is_not_what_was_swallowed(self) -> None:
        """Between looks the share comes and goes, and a mouth that owes oil is given none."""
        _, own = ran()
        lap = own.lap.mouth
        assert ((lap.swallowed >= 0.0) & (lap.swallowed <= 1.0)).all()
        apart_by = np.abs(lap.swallowed - lap.gas_share)
        assert apart_by.max() > 0.05
        gas = float(np.sum(lap.swallowed[1:] * lap.drawn[1:]))
        assert gas == pytest.approx(float(np.sum(lap.gas_share[1:] * lap.drawn[1:])), rel=0.3)


class TestPreviews:
    @pytest.mark.parametrize("changed", ["soft", "pinched"])
    def test_within_the_rules_it_is_near_its_own_run(self, changed: str) -> None:
        """By the median of four starts: two starts of one build are as far apart, 0.01 to 0.04 bar,
        as oil that splashes never does so twice alike."""
        theirs, on = ran("moved", "bottle")
        build, _ = ran("moved", "bottle", changed)
        record = record_of(on)
        mine, other = (
            circuit_lap(each, CORNER, record, (), band=False) for each in (build, theirs)
        )
        assert apart(build, mine, theirs, other).is_little
        found = [
            rms(
                build, ran("moved", "bottle", seed=seed)[1],
                ran("moved", "bottle", changed, seed=seed)[1],
            )
            for seed in range(STARTS)
        ]  # fmt: skip
        assert float(np.median(found)) < NEAR

    def test_less_oil_in_the_pan_is_another_run(self) -> None:
        build = dunlin()
        less = build.model_copy(
            update={"oil": build.oil.model_copy(update={"volume_l": build.oil.volume_l - 0.2})}
        )
        record = Record(CORNER.time, np.zeros(len(CORNER.time)))
        mine, other = (circuit_lap(b, CORNER, record, (), band=False) for b in (less, build))
        found = apart(less, mine, build, other)
        assert found.oil == pytest.approx(-0.2e-3, rel=0.15)  # hot, it is a little more
        assert not found.is_little

    def test_another_relief_draws_otherwise(self) -> None:
        build = dunlin()
        raw = {"kind": "figures", "figures": []}
        stiff = read_act(raw | {"figures": [
            {"field": f"circuit.components.{at}.opens_bar", "value": 3.0}
            for at, each in enumerate(build.circuit.components) if each.kind == "relief"
        ]}).done(build).build  # fmt: skip
        record = Record(CORNER.time, np.zeros(len(CORNER.time)))
        mine, other = (circuit_lap(b, CORNER, record, (), band=False) for b in (stiff, build))
        assert apart(stiff, mine, build, other).draw > 1.0 / 60e3


class TestRecords:
    def test_means_between_looks_keep_their_sum(self) -> None:
        time = np.arange(0.0, 2.01, 0.02)
        share = np.abs(np.sin(7.0 * time)) ** 2
        share[0] = 0.0
        at, told = between_looks(time, share)
        met = met_over(
            time, np.full(len(time), 500.0), np.tile([0.0, 0.0, -9.81], (len(time), 1)), at, told
        )
        assert met.gas.sum() * met.step == pytest.approx(share[1:].sum() * 0.02, rel=0.01)

    def test_a_lap_of_nothing_is_refused(self) -> None:
        time = np.zeros(1)
        with pytest.raises(InvalidQuantity):
            met_over(time, time, np.zeros((1, 3)), time, time)

    def test_oil_is_conserved_as_it_is_told(self) -> None:
        """In the pan and out of it, twenty times a second: the tube's oil is all that is left out,
        and what has come back and is not yet in the pan."""
        build, own = ran("moved", "bottle")
        lap = circuit_lap(build, CORNER, record_of(own), (), band=False)
        told = circuit_lap_out(lap, in_pan(build, lap))
        volume = np.interp(told.samples.time_s, own.lap.time, own.lap.volume) * 1e3
        assert np.abs(np.array(told.in_pan_l) - volume).max() < 0.25

    def test_what_was_logged_stands_beside_it(self) -> None:
        build = dunlin()
        measured = np.full(len(CORNER.time), 4.2e5)
        log = Log(**{**CORNER.__dict__, "oil_pressure": measured})
        record = Record(log.time, np.zeros(len(log.time)))
        told = circuit_lap_out(circuit_lap(build, log, record, (), band=False), 0.004)
        assert set(told.samples.measured_bar or []) == {4.2}
        bare = circuit_lap_out(circuit_lap(build, CORNER, record, (), band=False), 0.004)
        assert bare.samples.measured_bar is None


def order_names(build: Build) -> tuple[list[str], dict[str, list[str]]]:
    order = order_of(build, network_of(build))
    line = [component_of(build, part).kind for part in order.line]
    names = {each.id: each.kind for each in build.circuit.components}
    return line, {
        names[branch.parts[-1].component]: [names[branch.root]]
        + [names[part.component] for part in branch.parts]
        for branch in order.branches
    }


class TestTheOrderOfThings:
    def test_a_cooler_behind_a_plate_comes_before_what_the_plate_feeds(self) -> None:
        line, _ = order_names(dunlin())
        assert line == ["relief", "sandwich_plate", "cooler", "filter"]

    def test_all_that_can_be_fitted_has_its_place(self) -> None:
        build = after(
            {**MOVED, "filters": 2}, {"kind": "fit_cooler"},
            {"kind": "fit_regulator", "opens_bar": 5}, BOTTLE, {"kind": "feed_turbo"},
        )  # fmt: skip
        line, branches = order_names(build)
        one_after_another = ["take_off_plate", "remote_filter", "check_valve", "tee"]
        places = [line.index(kind) for kind in one_after_another]
        assert places == sorted(places)
        assert "regulator" in line
        assert branches["accumulator"] == ["tee", "shut_off_valve", "accumulator"]
        assert branches["turbo"][0] == "gallery"
        assert branches["head"][0] == "gallery"

    @pytest.mark.parametrize("name", ["dunlin", "dunlin-gated", "dunlin-shop", "dunlin-deeper"])
    def test_nodes_are_those_of_the_network(self, name: str) -> None:
        build = read_build((DEMO / f"{name}.json").read_text())
        network = network_of(build)
        told = layout_out(build, network)
        assert told.line[0].enters == told.outlet
        assert told.line[-1].leaves == told.gallery
        assert len(told.elements) == len(network.still.elements)
        nodes = {node for part in told.line for node in (part.enters, part.leaves)} | {told.inlet}
        assert nodes == set(range(len(network.still.nodes)))

    def test_a_bottle_on_a_tapping_hangs_from_the_gallery(self) -> None:
        _, branches = order_names(after({**BOTTLE, "at": "gallery_tapping"}))
        assert branches["accumulator"] == ["gallery", "shut_off_valve", "accumulator"]

    def test_branches_are_told_as_the_oil_comes_by_them(self) -> None:
        build = after(MOVED, BOTTLE)
        names = {each.id: each.kind for each in build.circuit.components}
        roots = [names[each.root] for each in order_of(build, network_of(build)).branches]
        assert roots == ["tee", "gallery"]
