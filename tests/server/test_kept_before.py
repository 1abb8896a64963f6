"""What earlier versions kept is still told."""

from __future__ import annotations

from typing import Any

import pytest
from builds.models import Build
from runs.models import Result, Run
from runs.services import ask_for_run

from tests.server.runs_made import NO_WORKER, wanted, work

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


def test_figures_of_a_run_of_before(api: Any, user: Any, short_build: Build) -> None:
    """Dips without their side and fore g, no pressure, gates by the builder's names."""
    run = work(ask_for_run(user, wanted(short_build)))
    assert run.result is not None
    figures = run.result.figures
    (mouth,) = figures.pop("mouths")  # of before there could be several
    del figures["record"]
    figures["samples"] |= mouth.pop("samples")
    figures |= {key: mouth[key] for key in ("draws_air_s", "least_cover_at_s")}
    figures["dips"] = [
        {
            "rank": 1, "start_s": 1.0, "end_s": 2.0, "dry_s": 1.0, "worst_s": 1.5,
            "cover_mm": -3.0, "load_g": 1.1, "corner": 1, "hand": "left", "place": "in corner 1",
            "words": "dry for 1.0 s",
        }
    ]  # fmt: skip
    figures["verdict"] = {
        "state": "runs_dry", "headline": "Not safe", "sentence": "The pickup runs dry for 1.0 s.",
        "dry_s": 1.0, "dip_count": 1,
    }  # fmt: skip
    mouth_cover = figures["samples"]["cover_mm"]
    for later in ("pressure", "lowest_bar"):
        del figures[later]
    for later in ("pressure_bar", "usual_bar", "drawn_l_min", "held_l", "swallowed", "up_top_l"):
        del figures["samples"][later]
    figures["samples"]["gates_open"] = {"P1, G3": [0.0]}
    figures["passed_l"] = {"P1, G3": 0.4}
    Result.objects.filter(pk=run.result.pk).update(figures=figures)
    Run.objects.filter(pk=run.pk).update(felt="")
    status, told = api("GET", f"/runs/{run.pk}/figures")
    assert status == 200
    (found,) = told["mouths"]
    assert told["record"] == 2 and found["dips"][0]["side_g"] is None
    assert found["samples"]["cover_mm"] == mouth_cover and found["dry_s"] == figures["dry_s"]
    assert found["samples"]["swallowed"] == [] and "cover_mm" not in told["samples"]
    assert (told["verdict"]["state"], told["verdict"]["under_s"]) == ("not_safe", None)
    assert told["pressure"] is None and told["samples"]["pressure_bar"] == []
    assert set(told["samples"]["gates_open"]) == {"P1, G3"}
    assert api("GET", "/runs")[1]["runs"][0]["is_current"] is False
    assert api("GET", f"/runs/of-build/{short_build.pk}")[1]["finished"] is None
    assert api("GET", "/runs/known")[1] == []
