"""Benchmarks of Options: a remedy in windows beside its whole lap, and remedies made ready.

Run by ./bilge test --long. Recorded as a ratio to the whole lap in the same run: the demo's dry lap
is 72 % windows, so what the ladder saves comes from stopping early.
"""

from __future__ import annotations

import time
from typing import Any

from bilge_core.document.build import Build
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log
from bilge_core.options.prepared import prepare
from bilge_core.options.trial import InTheWindows, base_lap

from tests.core.test_plates_fitted import done


def test_windows_beside_the_whole_lap(benchmark: Any, dunlin: Build, saltmarsh: Log) -> None:
    base = base_lap(dunlin, saltmarsh, find_corners(saltmarsh))
    build = done(dunlin, kind="fit_gates")

    def in_windows(numbers: tuple[int, ...] | None = None) -> float:
        begun = time.process_time()
        runs = InTheWindows(build, base)
        for number in numbers or range(len(runs.windows)):
            runs.run(number)
        return time.process_time() - begun

    begun = time.process_time()
    base_lap(build, saltmarsh, base.corners)
    whole = time.process_time() - begun
    worst = InTheWindows(build, base).worst
    benchmark.extra_info["worst_windows_ratio"] = in_windows(worst) / whole
    benchmark.extra_info["all_windows_ratio"] = (
        benchmark.pedantic(in_windows, rounds=1, warmup_rounds=0) / whole
    )


def test_remedies_made_ready(benchmark: Any, dunlin: Build) -> None:
    """All single remedies with parts, hours and room: the first rows wait for it."""
    assert len(benchmark.pedantic(lambda: prepare(dunlin, None), rounds=3, warmup_rounds=1)) > 30
