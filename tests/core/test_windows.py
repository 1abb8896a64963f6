"""Windows of a lap: where they lie, what they leave out, and that a lap in them is the lap."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.dips import stretches_above
from bilge_core.forecast.windows import LEAD, WORTH, Window, left_out, windows_of
from bilge_core.loads.grip import with_grip
from bilge_core.loads.log import Log
from bilge_core.options.trial import InTheWindows, base_lap, of_windows, varied
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_plates_fitted import DUNLIN, done

TIME = np.arange(0.0, 60.0, 0.02)


def gas(*stretches: tuple[float, float], share: float = 1.0) -> np.ndarray:
    found = np.zeros(len(TIME))
    for start, end in stretches:
        found[(start <= TIME) & (end >= TIME)] = share
    return found


def windows(*stretches: tuple[float, float], share: float = 1.0) -> tuple[Window, ...]:
    return windows_of(TIME, gas(*stretches, share=share), np.zeros(len(TIME)))


class TestWhere:
    def test_just_above_the_share_that_is_worth_it(self) -> None:
        assert windows((10, 12), share=WORTH) == ()
        assert len(windows((10, 12), share=WORTH + 0.01)) == 1

    def test_near_ones_are_one(self) -> None:
        assert len(windows((10, 12), (13.5, 14))) == 1
        assert len(windows((10, 12), (16, 17))) == 2

    def test_a_lead_begins_where_there_is_little_load(self) -> None:
        load = np.where((TIME > 8.4) & (TIME < 12.0), 9.0, 0.0)
        (found,) = windows_of(TIME, gas((10, 12)), load)
        assert found.start - LEAD > 8.4  # a plain lead would begin in the corner
        assert found.begin == pytest.approx(8.4, abs=0.021)

    def test_a_lap_that_begins_dry_begins_with_its_window(self) -> None:
        (found,) = windows((0.0, 1.0))
        assert (found.begin, found.start) == (0.0, 0.0)

    def test_bad_input_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity):
            windows_of(TIME, gas((1, 2)), np.zeros(3))
        with pytest.raises(InvalidQuantity):
            windows_of(TIME, gas((1, 2)), np.zeros(len(TIME)), lead=-1.0)

    @given(st.lists(st.tuples(st.floats(0, 58), st.floats(0.1, 3)), max_size=8))
    def test_none_overlaps_the_next_and_no_gas_is_left_out(
        self, raw: list[tuple[float, float]]
    ) -> None:
        share = gas(*((start, start + lasts) for start, lasts in raw))
        found = windows_of(TIME, share, np.zeros(len(TIME)))
        for one, other in pairwise(found):
            assert one.end <= other.begin
        assert all(each.begin <= each.start < each.end for each in found)
        assert left_out(found, stretches_above(TIME, share, 0.5)) == pytest.approx(0.0, abs=1e-9)


class TestMoreGrip:
    def test_the_line_is_the_same(self) -> None:
        """Distance is speed times time: v goes with the root of grip, time with one over it."""
        log = Log(TIME, np.full(len(TIME), 30.0), np.ones(len(TIME)), np.ones(len(TIME)),
                  np.linspace(300.0, 600.0, len(TIME)))  # fmt: skip
        more = with_grip(log, 1.1)
        assert more.leftward == pytest.approx(1.1 * log.leftward)
        assert more.duration == pytest.approx(log.duration / 1.1**0.5)
        assert more.engine_speed.max() == log.engine_speed.max()
        for wrong in (0.0, -1.0, float("nan")):
            with pytest.raises(InvalidQuantity):
                with_grip(log, wrong)


@pytest.fixture(scope="module")
def some(saltmarsh: Log) -> Log:
    """Half a minute with two of the demo's dips."""
    return saltmarsh.between(float(saltmarsh.time[0]), float(saltmarsh.time[0]) + 30.0)


class TestALapInWindows:
    def test_it_is_the_whole_lap_within_the_scatter(self, some: Log) -> None:
        """Of another build than the windows are of: its own oil, its own circuit between them."""
        base = base_lap(DUNLIN, some, ())
        more = done(DUNLIN, kind="refill", to_l=6.7)
        whole = base_lap(more, some, ())
        runs = InTheWindows(more, base)
        assert 0.0 < sum(each.lasts for each in runs.windows) < 0.9 * some.duration
        found = {number: runs.run(number) for number in range(len(runs.windows))}
        told = of_windows(found, len(runs.windows))
        assert told.windows is None and told.base_dry == pytest.approx(base.dry, abs=0.15)
        # 0.045 s a window from start to start, three deviations (docs/options.md)
        assert told.dry == pytest.approx(whole.dry, abs=0.135 * len(runs.windows) ** 0.5 + 0.05)
        assert told.share == pytest.approx(whole.share, abs=0.05)
        assert of_windows({0: found[0]}, len(runs.windows) + 1).windows == 1

    def test_a_window_begins_with_what_the_circuit_leaves(self, some: Log) -> None:
        base = base_lap(DUNLIN, some, ())
        runs = InTheWindows(DUNLIN, base)
        first = runs.run(0)
        number = int(np.searchsorted(base.time - base.time[0], runs.windows[0].begin))
        assert 0.0 < number < len(base.time)
        more = InTheWindows(done(DUNLIN, kind="refill", to_l=6.7), base).run(0)
        # half a litre more, swollen hot
        assert (more.pan - first.pan) * 1e3 == pytest.approx(0.53, abs=0.02)


def test_a_proof_varies_oil_and_grip_alone(saltmarsh: Log) -> None:
    build: Build = DUNLIN
    less, log = varied(build, saltmarsh, "less_oil")
    assert less.oil.volume_l == build.oil.volume_l - 0.5 and log is saltmarsh
    hot, _ = varied(build, saltmarsh, "hot")
    assert hot.oil.temperature_c == build.oil.temperature_c + 15.0
    same, more = varied(build, saltmarsh, "grip")
    assert same is build and more.duration < saltmarsh.duration
    assert varied(build, saltmarsh, "lap") == (build, saltmarsh)
