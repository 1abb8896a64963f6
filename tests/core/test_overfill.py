"""Oil above the mark as a trial: it stops before the crank."""

from __future__ import annotations

from itertools import pairwise

import pytest
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.options.candidate import room_of
from bilge_core.options.overfill import KEEPS_CLEAR, STEP, overfill_plan
from bilge_core.physics.axes import standing_up
from bilge_core.tell.overfill import overfill_out

from tests.conftest import steady_log
from tests.core.test_plates_fitted import DUNLIN, done

LOG = steady_log(0.0, 0.5, 2.0)


def test_pours_go_up_by_a_step_and_the_crank_comes_nearer() -> None:
    plan = overfill_plan(DUNLIN, LOG, ())
    assert plan[0].total == pytest.approx((6.2 + STEP) * 1e-3)
    for one, other in pairwise(plan):
        assert other.total - one.total == pytest.approx(STEP * 1e-3)
        assert other.crank < one.crank
        assert other.dry <= one.dry + 1e-9
    assert all(each.crank >= KEEPS_CLEAR for each in plan if not each.stop)


def test_it_is_the_gap_of_the_build_so_filled() -> None:
    plan = overfill_plan(DUNLIN, LOG, ())
    filled = done(DUNLIN, kind="refill", to_l=round(plan[1].total * 1e3, 3))
    assert plan[1].crank == room_of(filled).crank


@pytest.mark.parametrize(("clear_mm", "pours"), [(0.2, 0), (-0.2, 1)])
def test_it_stops_at_the_first_that_comes_too_near(clear_mm: float, pours: int) -> None:
    """A crank so low that the first pour is just too much, and just not."""
    first = overfill_plan(DUNLIN, LOG, ())[0].crank
    crank = DUNLIN.car.crank
    assert crank is not None
    upright = float(standing_up(DUNLIN.car)[2])  # of a leaned engine less than its height
    lower = ((first - KEEPS_CLEAR) * 1e3 + clear_mm) / upright
    car = {**DUNLIN.car.model_dump(),
           "crank": {**crank.model_dump(), "height_mm": crank.height_mm - lower}}  # fmt: skip
    near = build_from({**DUNLIN.model_dump(), "car": car})
    plan = overfill_plan(near, LOG, ())
    assert [bool(each.stop) for each in plan] == [False] * pours + [True]
    assert "at the least" in plan[-1].stop


def test_without_the_crank_nobody_can_say_where_to_stop() -> None:
    bare = build_from({**DUNLIN.model_dump(), "car": {**DUNLIN.car.model_dump(), "crank": None}})
    with pytest.raises(InvalidInput, match="nobody can say where to stop"):
        overfill_plan(bare, LOG, ())


def test_it_is_told_with_what_to_look_at() -> None:
    told = overfill_out(DUNLIN, overfill_plan(DUNLIN, LOG, ()))
    assert told.mark_l == 6.2 and told.step_l == STEP
    assert any("smoke" in each for each in told.look_at)
