"""How long a large circuit takes to be checked and read; figures: docs/speed.md."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.read import read_build, write_build


@pytest.fixture
def large(dunlin: Build) -> Build:
    """At least 40 components and 60 runs: filters moved, coolers, a bottle, turbos, breathers."""
    head = next(part.id for part in dunlin.circuit.components if part.kind == "head")
    acts: list[dict[str, Any]] = [
        {"kind": "move_filter"}, {"kind": "fit_accumulator", "volume_l": 2},
        *({"kind": "fit_cooler"} for _ in range(6)),
        *({"kind": "feed_turbo"} for _ in range(10)),
        {"kind": "fit_catch_can", "volume_l": 2, "drains_back": True},
        *({"kind": "fit_breather", "at": head} for _ in range(5)),
        *({"kind": "outside_return", "head": head} for _ in range(5)),
    ]  # fmt: skip
    build = dunlin
    for act in acts:
        build = read_act(act).done(build).build
    assert len(build.circuit.components) >= 40 and len(build.circuit.runs) >= 60
    return build


def test_checking_a_large_circuit(benchmark: Any, large: Build) -> None:
    (only,) = benchmark(check_circuit, large)
    assert only.state == "good"


def test_reading_a_large_circuit(benchmark: Any, large: Build) -> None:
    text = write_build(large)
    assert benchmark(read_build, text) == large


def test_an_act_on_a_large_circuit(benchmark: Any, large: Build) -> None:
    act = read_act({"kind": "feed_turbo"})
    assert benchmark(lambda: act.done(large)).words
