"""Benchmarks of the detailed solver: CPU time of one simulated second in the reference box.

5 L in 0.40 x 0.24 x 0.14 m under the load of c4, pump, drain-backs, wall drag and shut-in air on;
run by ./bilge test --long. Wanted: quick 0.4, 10 mm 1.2, 8 mm 3 CPU s per second.
"""

from __future__ import annotations

import time
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil
from bilge_core.pan import assemble_pan

from tests.conftest import DEMO
from tests.oil_boxes import DelayLine, pumped_box, run_coupled, violent_load

SECONDS = 5.0
CASES = {
    "quick": ((0.020, 0.020, 0.007), 0.02),
    "10 mm": (0.010, 0.01),
    "8 mm": (0.008, 0.01),
}


@pytest.mark.parametrize("name", CASES)
def test_reference_box(benchmark: Any, name: str) -> None:
    cell, longest = CASES[name]
    run_coupled(pumped_box(cell, 0.5e-3, 1.0, longest), 0.2, violent_load)

    def whole() -> float:
        coupled = pumped_box(cell, 0.5e-3, 1.0, longest)
        begun = time.process_time()
        run_coupled(coupled, SECONDS, violent_load)
        return (time.process_time() - begun) / SECONDS

    benchmark.extra_info["cpu_s_per_s"] = benchmark.pedantic(whole, rounds=1, warmup_rounds=0)


@pytest.mark.parametrize("engine", ["circuit", "delay line"])
def test_demo_lap_quick(benchmark: Any, dunlin: Build, saltmarsh: Log, engine: str) -> None:
    """Ten seconds of the demo's lap; with a plain delay line it is what the circuit costs.

    The same oil in the pan and drawn from it at a steady flow, so that the particles are as many.
    """
    log = saltmarsh.between(0.0, 10.0)
    pan = assemble_pan(dunlin)

    def whole() -> int:
        oil = MovingOil(dunlin, pan, log, RESOLUTIONS["quick"])
        if engine != "circuit":
            oil.coupled.engine = DelayLine(0.45e-3, 1.0)
        return sum(1 for _ in oil.run())

    assert benchmark.pedantic(whole, rounds=4, warmup_rounds=1) > 400


@pytest.mark.parametrize("name", ["dunlin", "curlew"])
def test_dry_against_wet(benchmark: Any, saltmarsh: Log, name: str) -> None:
    """Ten seconds of a lap, wet and dry-sumped with three mouths; wanted: dry at most 1.3 wet."""
    build = read_build((DEMO / f"{name}.json").read_text())
    log, pan = saltmarsh.between(0.0, 10.0), assemble_pan(build)

    def whole() -> int:
        return sum(1 for _ in MovingOil(build, pan, log, RESOLUTIONS["quick"]).run())

    assert benchmark.pedantic(whole, rounds=4, warmup_rounds=1) > 400


def test_reference_sorting_the_same_samples(benchmark: Any) -> None:
    """The same fixed piece of NumPy work as in test_speed, to compare machines by."""
    numbers = np.random.default_rng(1).normal(size=(100, 10_000))
    assert benchmark(np.sort, numbers).shape == (100, 10_000)
