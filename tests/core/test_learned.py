"""What the track book told stands in place of guesses, in every forecast, and says so."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.agreement.asked import ASKED, asked_of
from bilge_core.agreement.response import drawn_at, with_more_up_top
from bilge_core.agreement.stand_in import with_less_oil
from bilge_core.document.build import Build
from bilge_core.document.marks import with_knowledge
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.on_record import Record
from bilge_core.loads.log import Log
from bilge_core.network import held_running, network_of
from bilge_core.network.held import held_words
from bilge_core.pan import hot_oil, oil_in_pan

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())
FOUND = {"value": 0.25, "give": 0.1, "source": "12 November"}


def learnt(build: Build = DUNLIN, **found: Any) -> Build:
    rows = {key: {**FOUND, **value} for key, value in found.items()}
    return read_act({"kind": "learn", "source": "12 November", **rows}).done(build).build


def test_oil_up_top_is_missing_from_the_pan_as_if_it_had_not_been_poured() -> None:
    told = learnt(up_top_more_l={})
    assert oil_in_pan(DUNLIN) - oil_in_pan(told) == pytest.approx(
        0.25e-3 * hot_oil(DUNLIN) / (DUNLIN.oil.volume_l * 1e-3)
    )
    assert oil_in_pan(told) == pytest.approx(oil_in_pan(with_less_oil(DUNLIN, 0.25)))
    # another key, another volume above; what is poured and what the parts hold are as they were
    assert told.oil == DUNLIN.oil
    assert held_running(told).pressed == pytest.approx(held_running(DUNLIN).pressed)
    assert "+0.3 by the track book" in held_words(held_running(told))


def test_a_moving_lap_begins_with_so_much_less() -> None:
    time = np.arange(0.0, 1.0, 0.02)
    lap = Log(time, 30 + 0 * time, *np.zeros((2, 50)), np.full(50, 500.0))
    more, less = (
        forecast_moving(build, lap).lap.volume[0]
        for build in (learnt(up_top_more_l={}), with_less_oil(DUNLIN, 0.25))
    )
    assert more == pytest.approx(less, rel=1e-6)


def test_how_the_pump_seals_is_no_guess_any_more() -> None:
    told = network_of(learnt(sealing_pct={"value": 6.0}))
    assert "sealing_oil" in network_of(DUNLIN).taken
    assert "sealing_oil" not in told.taken
    guessed = network_of(DUNLIN, {"sealing_oil": 0.06})
    assert all(
        np.array_equal(getattr(told.still, part), getattr(guessed.still, part))
        for part in ("elements", "whole")
    )
    # a fit still looks round it
    low, high = (network_of(learnt(sealing_pct={}), {"sealing_oil": at}) for at in (0.01, 0.09))
    assert not np.array_equal(low.still.elements, high.still.elements) or not np.array_equal(
        low.still.whole, high.still.whole
    )


def test_bearings_and_what_told_of_them() -> None:
    told = learnt(bearings_pct={"value": 110.0, "give": 5.5})
    before = DUNLIN.circuit.bearings
    after = told.circuit.bearings
    assert after is not None
    assert after.source == "12 November"
    assert after.uncertainty_pct == pytest.approx(5.0)
    if before is not None:
        assert after.flow_l_min == pytest.approx(1.1 * before.flow_l_min)


@pytest.mark.parametrize(("give", "percent"), [(79.0, 98.8), (90.0, 100.0)])
def test_bearings_are_no_less_sure_than_not_at_all(give: float, percent: float) -> None:
    """80 % of what was thought, give or take more than that: a figure of 100 % at the most."""
    after = learnt(bearings_pct={"value": 80.0, "give": give}).circuit.bearings
    assert after is not None and after.uncertainty_pct == percent


def test_what_was_learnt_is_of_the_car_whatever_is_built() -> None:
    before, deeper = DUNLIN.model_dump(mode="json"), read_build(
        (DEMO / "dunlin-deeper.json").read_text()
    ).model_dump(mode="json")  # fmt: skip
    mine = learnt(up_top_more_l={}, sealing_pct={}).model_dump(mode="json")
    into = build_from(with_knowledge(before, mine, deeper))
    assert into.learned is not None
    assert into.learned.up_top_more_l is not None
    assert into.pan == build_from(deeper).pan


def test_a_second_time_adds_to_the_first() -> None:
    once = learnt(up_top_more_l={})
    again = with_more_up_top(once, 0.125e-3).learned
    assert again is not None and again.up_top_more_l is not None
    assert again.up_top_more_l.value == pytest.approx(0.375)
    begins = {each.key: each.before for each in asked_of(learnt(sealing_pct={"value": 50e-1}))}
    assert begins["sealing_oil"] == pytest.approx(0.05)
    assert begins["held_more"] == 0.0
    beyond = asked_of(learnt(sealing_pct={"value": 19.0}))
    assert next(each.before for each in beyond if each.key == "sealing_oil") == ASKED[2].high


def test_what_was_learnt_can_be_forgotten() -> None:
    both = learnt(up_top_more_l={}, sealing_pct={})
    forget = {"kind": "learn", "source": "by hand", "forget": ["up_top_more_l"]}
    done = read_act(forget).done(both)
    assert done.words == "learned: oil up top is guessed again; by hand"
    assert done.build.learned is not None
    assert done.build.learned.up_top_more_l is None and done.build.learned.sealing_pct is not None
    last = read_act({**forget, "forget": ["sealing_pct"]}).done(done.build).build
    assert last == DUNLIN


def test_one_run_of_a_response_is_that_of_so_much_less_oil() -> None:
    time = np.arange(0.0, 3.0, 0.02)
    lap = Log(time, 30 + 0 * time, 0 * time, 14.0 * np.sin(2.0 * time), np.full(150, 550.0))
    found = forecast_moving(with_less_oil(DUNLIN, 0.5), lap)
    record = Record.of_looks(found.lap.time, found.lap.mouth.swallowed)
    share = np.interp(lap.time, record.time, record.gas_share)
    assert share.max() > 0.2
    assert drawn_at(DUNLIN, lap, 0.5e-3) == pytest.approx(share, abs=1.0 / 255.0)


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ({}, "source"),
        ({"up_top_more_l": {**FOUND, "value": 6.0}}, "oil.volume_l"),
        ({"up_top_more_l": {**FOUND, "value": 60.0}}, "up_top_more_l.value"),
        ({"sealing_pct": {**FOUND, "value": 0.0}}, "sealing_pct.value"),
        ({"gauge_lag_s": {**FOUND, "give": -1.0}}, "gauge_lag_s.give"),
    ],
)
def test_faults_are_named(raw: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_act({"kind": "learn", "source": "12 November", **raw}).done(DUNLIN)
    assert field in refused.value.problems[0].field


def test_more_up_top_than_there_is() -> None:
    with pytest.raises(InvalidQuantity, match="held_more"):
        with_more_up_top(DUNLIN, 20e-3)
