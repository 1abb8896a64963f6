"""Benchmarks, run by ./bilge test --long; figures and what they must reach: docs/speed.md."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.forecast import forecast_settled
from bilge_core.loads.log import Log
from bilge_core.pan import assemble_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.settled import cover_rose, settle


@pytest.fixture
def long_lap() -> Log:
    """100 s at 100 Hz of changing loads."""
    time = np.arange(0.0, 100.0, 0.01)
    forward = 9.8 * 0.9 * np.sin(time)
    leftward = 9.8 * 1.3 * np.sin(0.37 * time)
    return Log(time, 40 + 0 * time, forward, leftward, 600 + 0 * time)


def test_rose_of_72_directions(benchmark: Any, dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    rose = benchmark(cover_rose, pan, dunlin.car)
    assert len(rose.edge) == 72


def test_one_load(benchmark: Any, dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    gravity = apparent_gravity(dunlin.car, -5.0, 9.0)
    assert benchmark(settle, pan, gravity).cover != 0.0


def test_one_load_from_the_document(benchmark: Any, dunlin: Build) -> None:
    gravity = apparent_gravity(dunlin.car, -5.0, 9.0)
    assert benchmark(lambda: settle(assemble_pan(dunlin), gravity)).cover != 0.0


def test_lap_of_100_s_at_100_hz(benchmark: Any, dunlin: Build, long_lap: Log) -> None:
    result = benchmark(forecast_settled, dunlin, long_lap)
    assert len(result.lap.cover) == 10_000


def test_reference_sorting_the_same_samples(benchmark: Any, long_lap: Log) -> None:
    """A fixed piece of NumPy work in the same run, to compare machines by."""
    numbers = np.random.default_rng(1).normal(size=(100, 10_000))
    assert benchmark(np.sort, numbers).shape == (100, 10_000)
