"""What Slosh asks: the core's figures, kept for the next who asks."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast import forecast_settled
from bilge_core.loads.log import Log
from bilge_core.pan import assemble_pan
from bilge_core.pan.sections import cut_pan
from builds.models import Build
from builds.selectors import document_of
from forecasts.models import KeptVerdict
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from loads.models import Lap
from loads.services import store_lap
from stages.slosh import answer
from stages.slosh.schemas import SloshOut

from tests.conftest import DEMO
from tests.server.conftest import Api, fields, figures

pytestmark = pytest.mark.django_db


def test_slosh_is_what_the_core_says(api: Api, build: Build, saltmarsh: Log) -> None:
    _, told = api("GET", f"/stages/slosh/{build.pk}")
    result = forecast_settled(BuildDocument.model_validate(build.current.document), saltmarsh)
    assert told["verdict"]["sentence"] == result.verdict.sentence
    assert told["lap"]["dry_s"] == pytest.approx(result.dry_time.dry, abs=1e-3)
    samples = told["lap"]["samples"]
    assert len({len(values) for values in samples.values()}) == 1
    at = 1021
    assert samples["level_mm"][at] == pytest.approx(result.lap.levels[at] * 1e3, abs=0.006)
    assert samples["cover_mm"][at] == pytest.approx(result.lap.cover[at] * 1e3, abs=0.06)
    drawing = told["drawing"]
    assert drawing["capacity_to_rail_l"] == pytest.approx(10.54, abs=0.01)
    assert min(z for ring in drawing["side"]["inside_mm"] for _, z in ring) == -138.0
    assert KeptVerdict.objects.get().told["sentence"] == result.verdict.sentence
    _, shelf = api("GET", "/shelf")
    assert shelf[0]["verdict"] == told["verdict"]


def test_a_section_is_cut_where_it_is_wanted(api: Api, build: Build) -> None:
    """By the core: at the mouth as the drawing has it, elsewhere as it is there."""
    drawing = api("GET", f"/stages/slosh/{build.pk}")[1]["drawing"]
    path = f"/stages/slosh/{build.pk}/section"
    at = drawing["front"]["at_mm"]
    assert api("GET", f"{path}/front?at_mm={at}&state=1")[1] == drawing["front"]
    pan = assemble_pan(document_of(build))
    for view, across, place in (("side", "y", -60.0), ("front", "x", 300.0)):
        status, cut = api("GET", f"{path}/{view}?at_mm={place}&state=1")
        assert (status, cut["at_mm"]) == (200, place)
        section = cut_pan(pan, across, place * 1e-3)  # type: ignore[arg-type]
        inside = np.array(cut["inside_mm"][0])
        assert inside == pytest.approx(section.inside[0] * 1e3, abs=0.01)
    assert api("GET", f"{path}/side?at_mm=4000&state=1")[1]["inside_mm"] == []
    assert api("GET", f"{path}/side?at_mm=0&state=9")[0] == 404
    for wrong in ("front?at_mm=nan&state=1", "front?at_mm=9e9&state=1", "top?at_mm=0&state=1"):
        assert api("GET", f"{path}/{wrong}")[0] == 422, wrong


def test_the_same_is_served_as_it_was_worked_out(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Once worked out an answer is kept; an edit makes another, and undoing it finds the first."""
    worked = []
    real = answer.forecast_over

    def count(*given: Any) -> Any:
        worked.append(given)
        return real(*given)

    monkeypatch.setattr(answer, "forecast_over", count)
    path = f"/stages/slosh/{build.pk}"
    first = api("GET", path)[1]
    assert api("GET", path)[1] == first
    assert len(worked) == 1
    edit = figures("oil.volume_l", "7")
    assert api("POST", f"/builds/{build.pk}/acts", edit)[0] == 200
    assert api("GET", path)[1]["drawing"] != first["drawing"]
    assert len(worked) == 2
    assert api("POST", f"/builds/{build.pk}/undo", {"base_state": 2})[0] == 200
    assert api("GET", path)[1] == first
    assert len(worked) == 2


def test_what_is_not_felt_is_drawn_and_not_worked_out_again(
    api: Api, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A zone renamed is renamed in the drawing; the oil lies as it lay."""
    path = f"/stages/slosh/{build.pk}"
    first = api("GET", path)[1]
    monkeypatch.setattr(answer, "forecast_over", lambda *given: pytest.fail("worked out again"))
    edit = figures("pan.zones.0.name", "well")
    assert api("POST", f"/builds/{build.pk}/acts", edit)[0] == 200
    told = api("GET", path)[1]
    assert told["drawing"]["zones"][0]["name"] == "well"
    assert (told["state"], told["lap"]) == (2, first["lap"])
    assert KeptVerdict.objects.count() == 1


def test_the_answer_is_what_the_description_says(api: Api, build: Build, lap: Lap) -> None:
    """It is put together from parts: all of it, and nothing else."""
    told = api("GET", f"/stages/slosh/{build.pk}")[1]
    assert SloshOut.model_validate(told).model_dump(mode="json") == told
    over = api("GET", f"/stages/slosh/{build.pk}/laps/{lap.pk}")[1]
    assert over == told["lap"]
    assert (over["lap_id"], over["lap_name"]) == (lap.pk, lap.name)


def test_without_a_lap_it_says_so(api: Api, build: Build) -> None:
    assert api("PUT", f"/builds/{build.pk}/lap", {"base_state": 1, "lap_id": None})[0] == 200
    _, told = api("GET", f"/stages/slosh/{build.pk}")
    assert (told["verdict"]["state"], told["lap"]) == ("no_lap", None)
    assert told["drawing"]["standing"]["cover_mm"] > 0


def test_a_faulty_build_does_not_hide_the_shelf(api: Api, build: Build) -> None:
    state = build.current
    state.document["pickup"]["gap_mm"] = -20  # as if an older version had let it pass
    state.save()
    _, shelf = api("GET", "/shelf")
    assert shelf[0]["verdict"]["state"] == "faulty"
    status, told = api("GET", f"/stages/slosh/{build.pk}")
    assert (status, fields(told)) == (422, ["pickup.gap_mm"])


@settings(
    max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(
    st.sampled_from(["oil.volume_l", "pan.zones.1.outline_mm.0.1", "pickup.mouth", "notes", "pan"]),
    st.text(max_size=40),
)
def test_no_figure_is_a_server_error(api: Api, build: Build, field: str, typed: str) -> None:
    base = Build.objects.get(pk=build.pk).current.number
    status, _ = api("POST", f"/builds/{build.pk}/acts", figures(field, typed, base))
    assert status in {200, 422}


def test_unknown_paths(api: Api) -> None:
    assert api("GET", "/warp")[0] == 404
    assert api.client.post("/api/builds/1").status_code == 405


def test_a_new_build_is_judged_by_ones_own_newest_lap(api: Api, lap: Lap, stranger: Any) -> None:
    """Never by another workshop's, be it newer."""
    store_lap(stranger, "theirs", DEMO / "saltmarsh-rain.csv", "rain.csv")
    status, told = api("POST", "/builds", {"template": "flat-six", "name": "mine"})
    assert (status, told["lap_id"]) == (201, lap.pk)
