"""What Lines costs beside a reference of the same run: a sort of a million figures."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.circuit.route import Route, laid
from bilge_core.document.read import build_from, read_build
from bilge_core.lines.bending import Bender
from bilge_core.lines.flows import flows_cold, flows_hot
from bilge_core.lines.laid import gaps_of, lines_of
from bilge_core.options.candidate import Prices
from bilge_core.pan import assemble_pan
from bilge_core.tell.lines_all import lines_out

from tests.conftest import DEMO

_RUNS, _POINTS, _AROUND = 40, 10, 40


@pytest.fixture(scope="module")
def build() -> Build:
    return read_build((DEMO / "plumbed.json").read_text())


@pytest.fixture(scope="module")
def crowded(build: Build) -> Build:
    """The demo car with forty things round it: boxes and bars by turns."""
    raw = build.model_dump(mode="json")
    box, rack = raw["car"]["keep_outs"][:2]
    raw["car"]["keep_outs"] = [
        {**(box if n % 2 else rack), "id": f"k{n + 1}", "name": f"thing {n}"}
        for n in range(_AROUND)
    ]
    return build_from(raw)


@pytest.fixture(scope="module")
def routes() -> list[Route]:
    """Forty routes of ten points each: stairs round the engine."""
    found = []
    for n in range(_RUNS):
        angles = np.linspace(0.0, 1.5 * math.pi, _POINTS) + n
        points = np.column_stack([0.5 * np.cos(angles), 0.5 * np.sin(angles), 0.01 * angles])
        found.append(laid(points, [0.05] * (_POINTS - 2)))
    return found


def test_the_reference(benchmark: Any) -> None:
    benchmark(np.sort, np.random.default_rng(1).random(1_000_000))


def test_forty_runs_against_forty_things(
    benchmark: Any, crowded: Build, routes: list[Route]
) -> None:
    first, last = lines_of(crowded, flows_hot(crowded), flows_cold(crowded))[0].ends

    def all_gaps() -> int:
        return sum(len(gaps_of(crowded, each, 0.02, (first.port, last.port))) for each in routes)

    assert benchmark(all_gaps) == _RUNS * _AROUND


def test_all_lines_of_a_build_told(benchmark: Any, build: Build) -> None:
    pan = assemble_pan(build)
    benchmark(lines_out, build, Prices.generic(), Bender(), None, pan)
