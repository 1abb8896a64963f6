"""What Drains costs beside a reference of the same run: a sort of a million figures."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.drains.over_lap import drain_over
from bilge_core.forecast.back_ups import DrainsForecast, forecast_drains
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log
from bilge_core.pan import assemble_pan
from bilge_core.tell.drains import drains_out

from tests.conftest import DEMO


@pytest.fixture(scope="module")
def build() -> Build:
    return read_build((DEMO / "sandpiper.json").read_text())


@pytest.fixture(scope="module")
def forecast(build: Build, saltmarsh: Log) -> DrainsForecast:
    return forecast_drains(build, saltmarsh, find_corners(saltmarsh))


def test_the_reference(benchmark: Any) -> None:
    benchmark(np.sort, np.random.default_rng(1).random(1_000_000))


def test_a_rose_of_72_directions(benchmark: Any, build: Build, forecast: DrainsForecast) -> None:
    told, pan = forecast.forecasts[0], assemble_pan(build)
    benchmark(drain_rose, told.drain.line, pan, build.car, 1.8 / 60e3, told.oil, 200.0)


def test_a_line_over_the_lap(benchmark: Any, forecast: DrainsForecast) -> None:
    told = forecast.forecasts[0]
    benchmark(drain_over, told.drain.line, told.drain.room, told.oil, told.met)


def test_all_drains_of_a_build_told(benchmark: Any, build: Build, forecast: DrainsForecast) -> None:
    benchmark(drains_out, build, assemble_pan(build), forecast)
