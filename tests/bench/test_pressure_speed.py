"""What Pressure costs beside a reference of the same run: a sort of a million figures.

The record is of settled oil: a run in moving oil has as many looks.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast import forecast_settled
from bilge_core.forecast.bottle_map import bottle_map
from bilge_core.forecast.on_record import Record, circuit_lap
from bilge_core.loads.log import Log
from bilge_core.tell.bottle import OnRecord, on_record, trial_out

from tests.conftest import DEMO


@pytest.fixture(scope="module")
def build() -> Build:
    raw = {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4, "at": "gallery_tapping"}
    return read_act(raw).done(read_build((DEMO / "dunlin.json").read_text())).build


@pytest.fixture(scope="module")
def on(build: Build, saltmarsh: Log) -> OnRecord:
    settled = forecast_settled(build, saltmarsh)
    record = Record(settled.log.time, settled.lap.gas_share)
    return on_record(settled.log, record, settled.corners, build)


def test_the_reference(benchmark: Any) -> None:
    figures = np.random.default_rng(1).random(1_000_000)
    benchmark(np.sort, figures)


def test_the_circuit_over_the_lap(benchmark: Any, build: Build, on: OnRecord) -> None:
    benchmark(circuit_lap, build, on.log, on.record, on.corners)


def test_an_answer_to_a_drag(benchmark: Any, build: Build, on: OnRecord) -> None:
    sizes = iter(np.linspace(1.0, 4.0, 1000).tolist())

    def drag() -> None:
        act = TuneAccumulator(kind="tune_accumulator", volume_l=next(sizes))
        trial_out(build, act, on)

    benchmark(drag)


def test_a_map_of_ten_by_twenty(benchmark: Any, build: Build, on: OnRecord) -> None:
    sizes, charges = np.linspace(0.5e-3, 4e-3, 10), np.linspace(0.2e5, 4e5, 20)
    benchmark.pedantic(
        bottle_map,
        (build, on.log, on.record, on.corners, sizes.tolist(), charges.tolist()),
        rounds=3,
    )
