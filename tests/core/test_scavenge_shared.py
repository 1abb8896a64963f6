"""Two pickups on one stage: the same swept volume, the wet one starved, and what a trial found."""

from __future__ import annotations

import math
from types import SimpleNamespace

import numpy as np
import pytest
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.moving.dry_engine import DryEngine
from bilge_core.oil import density
from bilge_core.oil.grades import GRADES
from bilge_core.pan import assemble_pan
from bilge_core.scavenge.lap import STARVES, dry_lap, oil_of_stage
from bilge_core.scavenge.shared import (
    by_restrictors,
    left_to_the_wet,
    on_a_stage_each,
    on_one_stage,
    shared_pairs,
)
from bilge_core.scavenge.stages import Stage, scavenged
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO, steady_log

CURLEW = read_build((DEMO / "curlew.json").read_text())
PAN = assemble_pan(CURLEW)
PART = st.floats(1e-6, 40e-6)
RATIO = st.floats(0.2, 1.5)


@given(st.tuples(PART, RATIO), st.tuples(PART, RATIO), st.floats(10.0, 900.0))
def test_joined_and_parted_again_all_sweep_the_same(
    first: tuple[float, float], second: tuple[float, float], speed: float
) -> None:
    """Displacement times turns of all stages stays; every mouth keeps one stage."""
    each = (Stage("c1", "a", *first, (0,)), Stage("c2", "b", *second, (1,)))

    def swept(stages: tuple[Stage, ...]) -> float:
        return float(sum(float(stage.swept(speed)) for stage in stages))

    joined = on_one_stage(each, (0, 1))
    parted = on_a_stage_each(joined, (0, 1))
    assert [stage.mouths for stage in joined] == [(0, 1)]
    assert [stage.mouths for stage in parted] == [(0,), (1,)]
    assert swept(joined) == pytest.approx(swept(each)) == pytest.approx(swept(parted))
    assert on_one_stage(joined, (0, 1)) is joined and on_a_stage_each(each, (0, 1)) is each


def test_of_three_on_one_stage_one_takes_its_third_along() -> None:
    (kept, own) = on_a_stage_each((Stage("c1", "a", 30e-6, 0.5, (0, 1, 2)),), (0, 2))
    assert kept.mouths == (0, 1) and kept.per_turn == pytest.approx(20e-6)
    assert own.mouths == (2,) and own.per_turn == pytest.approx(10e-6)


def test_in_moving_oil_the_one_that_sucks_air_has_the_whole_stage() -> None:
    """Flow by each mouth of a stage; a third mouth is another's, a stage without one has none."""
    side = SimpleNamespace(_stage_of=np.array([0, 0, 1]))
    for gas, flows in (
        ([0.0, 0.0, 0.0], [0.5, 0.5, 0.0]), ([0.3, 0.2, 1.0], [0.5, 0.5, 0.0]),
        ([0.0, 0.9, 0.0], [0.0, 1.0, 0.0]), ([0.7, 0.6, 1.0], [1.0, 0.0, 0.0]),
        ([0.0, STARVES, 0.0], [0.5, 0.5, 0.0]), ([0.0, STARVES + 0.01, 0.0], [0.0, 1.0, 0.0]),
    ):  # fmt: skip
        drawn = DryEngine._by_mouths(side, 0, 1.0, np.array(gas))  # type: ignore[arg-type]
        assert drawn.tolist() == flows
        assert oil_of_stage(np.array(gas), side._stage_of, 0) == pytest.approx(
            float(drawn @ (1.0 - np.array(gas)))
        )
    none = DryEngine._by_mouths(side, 2, 1.0, np.zeros(3))  # type: ignore[arg-type]
    assert none.tolist() == [0.0, 0.0, 0.0]


def test_the_one_in_oil_gets_nothing_once_the_other_sucks_air() -> None:
    """A trial of two equal inlets: 20.0 and 0.0 L/min."""
    stage_of = np.zeros(2, dtype=np.int64)
    both = oil_of_stage(np.array([0.0, 0.0]), stage_of, 0)
    dry = oil_of_stage(np.array([0.0, 1.0]), stage_of, 0)
    assert (20.0 * both, 20.0 * dry) == (20.0, 0.0)
    for share, gets in ((STARVES, 0.5 * (1.0 + 1.0 - STARVES)), (STARVES + 1e-6, 1.0 - STARVES)):
        assert oil_of_stage(np.array([0.0, share]), stage_of, 0) == pytest.approx(gets, abs=1e-5)


def test_thrown_to_one_side_for_good_only_pickups_on_both_sides_starve() -> None:
    """All oil at the right rear mouth: with either other one on its stage it stays there."""
    log = steady_log(0.0, 1.2, 6.0)
    own = dry_lap(CURLEW, PAN, log)
    found = {pair.names: pair for pair in shared_pairs(CURLEW, PAN, log, own)}
    assert len(found) == 3 and not any(pair.is_built for pair in found.values())
    length = float(np.ptp(log.time))
    for names, pair in found.items():
        assert pair.each.left == pytest.approx(float(own.in_pan.max()))
        if "rear right pickup" in names:
            assert pair.starved > 0.9 * length and pair.one.left > 1.5 * pair.each.left
            assert pair.one.least_cover < pair.each.least_cover
        else:
            assert pair.starved == 0.0  # both suck air, on one stage as on two


def test_where_they_are_built_on_one_stage_that_is_the_lap_as_it_is(
    saltmarsh: Log, monkeypatch: pytest.MonkeyPatch
) -> None:
    stages, mouths = scavenged(CURLEW, PAN)
    joined = on_one_stage(stages, (0, 1))
    lap = dry_lap(CURLEW, PAN, saltmarsh, stages=joined)
    assert float(np.ptp(lap.in_pan + lap.in_tank + lap.coming_back)) < 1e-9
    monkeypatch.setattr("bilge_core.scavenge.shared.scavenged", lambda *_: (joined, mouths))
    pair = shared_pairs(CURLEW, PAN, saltmarsh, lap)[0]
    assert pair.is_built and pair.one.left == float(lap.in_pan.max())
    assert pair.each.left < pair.one.left


def test_a_restrictor_and_a_hose_alike_leave_the_wet_one_next_to_nothing() -> None:
    """By hand: flows through like holes go as one over the root of the density."""
    holes, hoses = by_restrictors(CURLEW)
    heavy = density(GRADES[CURLEW.oil.grade], CURLEW.oil.temperature_c + 273.15)
    oil, air = 1.0 / math.sqrt(heavy), 1.0 / math.sqrt(1.0)
    assert holes == pytest.approx(oil / (oil + air))
    assert 0.0 < hoses < holes < 0.05
    with pytest.raises(InvalidQuantity, match="above 0"):
        left_to_the_wet(0.0, 0.5)
