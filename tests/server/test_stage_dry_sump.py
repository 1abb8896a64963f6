"""The stage Dry sump: wet, made dry, over the lap by settled and by moving oil."""

from __future__ import annotations

from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.schemas import ActIn
from builds.services import act
from builds.states import add_build, checked_document
from config.errors import NotFound
from runs.schemas import RunIn
from runs.selectors import figures_of_run, over_laps
from runs.services import ask_for_run
from stages.dry_sump.answer import dry_sump
from stages.options.answer import latest

from tests.conftest import DEMO
from tests.server.runs_made import NO_WORKER, work


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture
def curlew(user: User, short_build: Build) -> Build:
    """The dry-sumped demo car over six seconds of a lap."""
    document = checked_document((DEMO / "curlew.json").read_bytes())
    return add_build(user, document, "from a file", short_build.lap)


def test_a_wet_sump_is_told_to_be_one_and_made_dry_by_one_act(
    user: User, plain_build: Build
) -> None:
    told = dry_sump(user.workshop, plain_build.pk)
    assert told.dry is None and told.words == "The pump draws from the pan."
    wanted = ActIn.model_validate(
        {"base_state": 1, "system": "us", "act": {"kind": "go_dry", "depth_mm": "3 in",
                                                  "tank_l": "2 gal", "pickups": 2}}
    )  # fmt: skip
    build = act(user, plain_build.pk, wanted)
    assert build.current is not None
    assert build.current.change == "dry sump: pan 3 in deep, 2 scavenge stages, tank of 2 gal"
    dry = dry_sump(user.workshop, plain_build.pk).dry
    assert dry is not None and len(dry.stages) == 2
    assert dry.tank.volume_l == pytest.approx(7.57, abs=0.01)
    assert dry.depth_mm == pytest.approx(76.2)


def test_it_is_told_by_settled_oil_until_its_own_run_is_finished(
    user: User, stranger: User, curlew: Build
) -> None:
    first = dry_sump(user.workshop, curlew.pk)
    assert first.moving is None and first.dry is not None and first.dry.over_lap is not None
    assert first.words.startswith("On settled oil")
    run = work(ask_for_run(user, RunIn(build_id=curlew.pk)))
    told = dry_sump(user.workshop, curlew.pk)
    assert told.moving is not None and told.moving.model.startswith("Moving oil")
    assert len(told.moving.traces.shares) == 3
    for shares in told.moving.traces.shares:
        assert all(0.0 <= each <= 1.0 for each in shares)
    traces = told.moving.traces
    carried = (traces.joined, traces.in_cooler, traces.into_tank, traces.coming_back_l)
    assert {len(each) for each in carried} == {len(traces.time_s)}
    # the demo's separator is ahead of its cooler: less gas behind it, all lap
    joined, cooler, into = (sum(each) / len(each) for each in carried[:3])
    assert 0.5 < joined < 0.9 and into < joined and cooler == pytest.approx(into, abs=0.05)
    assert 0.2 < min(traces.coming_back_l) < max(traces.coming_back_l) < 2.0
    # what a run knows by place has the builder's names
    figures = figures_of_run(user.workshop, run.pk)
    assert [each.name for each in figures.mouths] == [
        "oil tank's outlet", "front pickup", "rear right pickup", "rear left pickup"
    ]  # fmt: skip
    (over,) = over_laps(curlew)
    assert "tank's outlet" in over.verdict.sentence
    with pytest.raises(NotFound):
        dry_sump(stranger.workshop, curlew.pk)


def test_without_a_lap_sizes_stand_alone(user: User, curlew: Build) -> None:
    Build.objects.filter(pk=curlew.pk).update(lap=None)
    told = dry_sump(user.workshop, curlew.pk)
    assert told.dry is not None and told.dry.over_lap is None and told.dry.rose is None
    assert {each.key for each in told.dry.sizes} == {
        "pressure_stage", "ratio", "pump_speed", "suction_pull", "scavenge_suction", "case_pull",
        "return_speed", "tank_vent",
    }  # fmt: skip
    assert latest(user.workshop, curlew.pk).study is None
