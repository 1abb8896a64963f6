"""Pan and circuit together: what one gives the other, and what neither loses."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.forecast.moving import forecast_moving
from bilge_core.loads.log import Log
from bilge_core.loads.manoeuvres import Manoeuvre, manoeuvre_log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.engine import CircuitEngine
from bilge_core.moving.exchange import Drawn
from bilge_core.moving.lap import MovingOil
from bilge_core.network import network_of
from bilge_core.network.running import LEVEL, settled_in
from bilge_core.pan import assemble_pan, hot_oil
from bilge_core.physics.turns import speed_of_rpm

from tests.networks import Raw, after, changed, dunlin
from tests.oil_boxes import REST, pumped_box, run_coupled

CORNER = manoeuvre_log(Manoeuvre("corner", "left", 1.2, 0.4, 2.0, speed_of_rpm(5500.0)))


def moving(build: Build, log: Log = CORNER) -> MovingOil:
    return MovingOil(build, assemble_pan(build), log, RESOLUTIONS["quick"])


class TestWhatIsThere:
    def test_what_the_engine_holds_is_not_in_the_pan(self) -> None:
        """The same oil is never held twice; poured, swollen hot."""
        oil = moving(dunlin())
        there = oil.coupled.oil.volume + oil.coupled.held
        particle = oil.coupled.returns[0].portion
        assert there == pytest.approx(hot_oil(dunlin()), abs=particle)
        assert oil.engine.held > 2.0e-3

    def test_nothing_is_lost_over_a_corner(self) -> None:
        """Booked by what flowed: to the rounding of the particles' own figures."""
        oil = moving(dunlin())
        total = [oil.coupled.oil.volume + oil.coupled.held for _ in oil.run()]
        assert np.ptp(total) < 1e-6 * total[0]

    def test_an_engine_that_holds_it_all_is_refused_in_place(self) -> None:
        build = dunlin()
        little = build.model_copy(update={"oil": build.oil.model_copy(update={"volume_l": 2.05})})
        pan = assemble_pan(build)
        with pytest.raises(InvalidInput, match=r"oil\.volume_l: leaves nothing in the pan"):
            MovingOil(little, pan, CORNER, RESOLUTIONS["quick"])

    def test_so_is_more_than_pan_and_skirt_have_room_for(self) -> None:
        build = dunlin()
        much = build.model_copy(update={"oil": build.oil.model_copy(update={"volume_l": 60.0})})
        with pytest.raises(InvalidInput, match=r"have room for"):
            MovingOil(much, assemble_pan(build), CORNER, RESOLUTIONS["quick"])


def _engine(speed: Callable[[float], float]) -> CircuitEngine:
    network = network_of(dunlin())
    return CircuitEngine(network, speed, settled_in(network, speed(0.0), LEVEL))


class TestBothWays:
    def test_the_same_start_is_the_same_run(self) -> None:
        log = CORNER.between(0.0, 1.5)
        one, other = (forecast_moving(dunlin(), log, seed=3) for _ in range(2))
        assert one.lap.pressure.tobytes() == other.lap.pressure.tobytes()
        assert one.gas_share.tobytes() == other.gas_share.tobytes()

    def test_gas_at_the_mouth_takes_the_gallerys_pressure(self) -> None:
        lap = forecast_moving(dunlin(), CORNER).lap
        dry = lap.mouth.gas_share > 0.9
        assert dry.any() and lap.pressure.min() < 0.8 * lap.pressure[:20].mean()
        worst = lap.time[int(np.argmin(lap.pressure))]
        assert lap.time[dry].min() < worst < lap.time[dry].max() + 0.5

    def test_the_mouth_draws_more_while_it_finds_gas(self) -> None:
        """On the relief: then it shuts, and all that the pump sweeps goes through the mouth."""
        engine = _engine(lambda time: speed_of_rpm(6500.0))
        oil = engine.draw(0.0, 0.02, LEVEL, np.array([1.0])).flow
        for n in range(1, 40):
            half = engine.draw(0.02 * n, 0.02, LEVEL, np.array([0.5])).flow
        assert half > 1.1 * oil

    def test_a_step_is_run_in_parts_at_the_speed_of_their_middles(self) -> None:
        asked: list[float] = []

        def speed(time: float) -> float:
            asked.append(time)
            return 400.0

        engine = _engine(speed)
        asked.clear()
        engine.draw(1.0, 0.012, LEVEL, np.array([1.0]))
        assert asked == pytest.approx([1.002, 1.006, 1.010])

    def test_what_it_took_is_what_the_mouth_said_was_oil(self) -> None:
        engine = _engine(lambda time: speed_of_rpm(3000.0))
        held = engine.held
        taken = engine.draw(0.0, 0.013, LEVEL, np.array([0.7]))
        assert taken.oil == pytest.approx(0.7 * taken.flow * 0.013, rel=1e-9)
        back = float(engine.give().sum())
        assert engine.held == pytest.approx(held + taken.oil - back, abs=1e-12)

    def test_a_pump_that_slips_more_on_gas_has_less(self) -> None:
        oil = moving(dunlin())
        lap = oil.lap(list(oil.run()))
        low, high = oil.slipping(lap, 0.0016), oil.slipping(lap, 0.1)
        same = oil.slipping(lap, 0.03)
        assert low.min() <= same.min() <= high.min()
        assert float(np.sqrt(np.mean((same - lap.pressure) ** 2))) < 0.06e5


class TestTheDebt:
    def test_is_capped_where_no_oil_lies_near_the_mouth(self) -> None:
        """An observer that says oil where there is none would be owed for ever."""
        coupled = pumped_box(0.02, 0.5e-3, 1e3, 0.01)
        oil = coupled.oil
        oil.count = 4  # hardly any left
        oil.measure_again()
        full = np.ones(len(coupled.inlets[0].cells), dtype=np.float32)
        coupled.observer.inlet_shares = lambda *_: full  # type: ignore[method-assign]
        run_coupled(coupled, 1.0, REST)
        assert coupled._owed[0] < 12.0 * coupled.returns[0].portion
        assert coupled._owed[0] > 8.0 * coupled.returns[0].portion

    def test_oil_that_runs_back_comes_back(self) -> None:
        coupled = pumped_box(0.02, 0.5e-3, 1e3, 0.01)

        class RunsBack:
            held = 0.0

            def draw(self, start: float, step: float, load: Any, shares: Any) -> Drawn:
                return Drawn(np.array([-1e-4]), np.array([-1e-4 * step]))

            def give(self) -> np.ndarray:
                return np.zeros(1)

        before = coupled.oil.volume
        coupled.engine = RunsBack()
        run_coupled(coupled, 1.0, REST)
        assert coupled.oil.volume - before == pytest.approx(
            1e-4, abs=2 * coupled.returns[0].portion
        )


def test_a_drain_at_a_boss_gives_its_oil_back_there() -> None:
    drain: Raw = {
        "kind": "drain_turbo", "turbo": "turbo", "how": "gravity", "boss_mm": [40, 100, 20]
    }  # fmt: skip
    build = after({"kind": "feed_turbo"}, drain)
    oil = moving(build)
    assert len(oil.coupled.returns) == 2
    domain = oil.coupled.oil.domain
    shape = tuple(n + 2 for n in domain.shape)
    i, j, _ = np.unravel_index(int(oil.coupled.returns[1].cells[0]), shape)
    x, y = domain.centres()[0][i - 1], domain.centres()[1][j - 1]
    assert abs(x - 0.040) < 0.02 and abs(y - 0.095) < 0.025


def test_a_bottle_shortens_what_the_gallery_feels() -> None:
    """And takes its oil: filled up, the pan begins with as much."""
    moved: Raw = {"kind": "move_filter", "filters": 1, "dash": 10}
    bottle: Raw = {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.0}
    lows = [
        forecast_moving(build, CORNER).lap.pressure.min()
        for build in (after(moved), after(moved, bottle))
    ]
    assert lows[1] > lows[0] + 0.3e5


def test_without_circuit_figures_a_template_runs() -> None:
    """Nobody gave a relief, bearings, lines or what anything holds."""

    def bare(document: Raw) -> None:
        for each in document["circuit"]["components"]:
            each["holds_l"] = None
            if each["kind"] == "relief":
                each["opens_bar"] = None
            if each["kind"] == "gallery":
                each["bearings"] = None

    build = changed(dunlin(), bare)
    assert build_from(build.model_dump(mode="json")) == build
    lap = forecast_moving(build, CORNER.between(0.0, 1.0)).lap
    assert 3.5e5 < lap.pressure.max() < 5.5e5
