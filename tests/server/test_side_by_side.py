"""Any two states of a build beside each other."""

from __future__ import annotations

from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.schemas import ActIn
from builds.services import act
from config.errors import NotFound
from runs.models import Result
from runs.schemas import RunIn
from runs.selectors import latest_of
from runs.services import ask_for_run
from runs.side_by_side import side_by_side

from tests.server.runs_made import NO_WORKER, work


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


def test_each_side_is_told_by_the_finest_that_is_known_of_it(
    user: User, stranger: User, plain_build: Build
) -> None:
    run = ask_for_run(user, RunIn(build_id=plain_build.pk))
    work(run)
    poured = ActIn.model_validate(
        {"base_state": 1, "system": "us", "act": {"kind": "refill", "to_l": "7 qt"}}
    )
    act(user, plain_build.pk, poured)
    told = side_by_side(user.workshop, plain_build.pk, 1, 2, "us")
    one, other = told.sides
    assert (one.state, other.state) == (1, 2)
    assert one.model.startswith("Moving oil") and one.lowest_bar is not None
    assert other.model == "Settled oil" and other.lowest_bar is None
    assert one.verdict is not None and other.verdict is not None
    assert one.oil_l < other.oil_l == pytest.approx(6.62, abs=0.01)
    assert one.ground_mm == other.ground_mm
    assert [each.field for each in told.differences] == ["oil.volume_l", "oil.mark_l"]
    assert one.windage is not None and other.windage is None
    assert told.thrown == ""  # of one alone
    assert side_by_side(user.workshop, plain_build.pk, 2, 2, "us").differences == []
    with pytest.raises(NotFound):
        side_by_side(user.workshop, plain_build.pk, 1, 99, "us")
    with pytest.raises(NotFound):
        side_by_side(stranger.workshop, plain_build.pk, 1, 2, "us")


def test_what_the_crank_throws_is_laid_beside_another_run_of_the_lap(
    user: User, short_build: Build, plain_build: Build
) -> None:
    """Of another build whose crank throws any, and then of another state of this one."""
    gated = work(ask_for_run(user, RunIn(build_id=short_build.pk)))
    assert latest_of(user.workshop, short_build.pk).thrown == ""  # nothing to lay beside it
    open_pan = work(ask_for_run(user, RunIn(build_id=plain_build.pk)))
    # in these six seconds the gated pan's oil stays off its crank
    assert latest_of(user.workshop, plain_build.pk).thrown == ""
    assert latest_of(user.workshop, short_build.pk).thrown == (
        f"next to nothing, unlike {open_pan.build.name}, state 1"
    )
    poured = ActIn.model_validate(
        {"base_state": 1, "system": "us", "act": {"kind": "refill", "to_l": "8 qt"}}
    )
    act(user, plain_build.pk, poured)
    assert latest_of(user.workshop, plain_build.pk).thrown == ""  # not run yet
    work(ask_for_run(user, RunIn(build_id=plain_build.pk)))
    fuller = latest_of(user.workshop, plain_build.pk).thrown
    told = side_by_side(user.workshop, plain_build.pk, 1, 2, "us")
    before, after = (side.windage for side in told.sides)
    assert before is not None and after is not None
    times = after.reached_l / before.reached_l
    assert times > 1.2  # over two litres more stand higher
    assert fuller == f"{times:.1f} times what state 1 throws"
    assert told.thrown == f"{times:.1f} times what {told.sides[0].name} throws"
    assert gated.result is not None
    Result.objects.filter(pk=gated.result_id).update(
        summary={**gated.result.summary, "windage": None}
    )  # as a run of before it was told
    assert latest_of(user.workshop, short_build.pk).thrown == ""


def test_without_a_lap_what_is_known_is_told(user: User, build: Build) -> None:
    Build.objects.filter(pk=build.pk).update(lap=None)
    told = side_by_side(user.workshop, build.pk, 1, 1, "metric")
    assert told.lap_name is None
    assert [(each.verdict, each.model) for each in told.sides] == [(None, ""), (None, "")]
