"""What the network costs beside a reference of the same run: a sort of a million figures."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.read import read_build
from bilge_core.network import network_of, run
from bilge_core.network.running import LEVEL, settled_in
from bilge_core.physics.turns import speed_of_rpm

ACTS: dict[str, list[dict[str, Any]]] = {
    "as_raced": [],
    "much": [
        {"kind": "move_filter", "filters": 2, "dash": 10},
        {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4},
        {"kind": "fit_cooler", "holds_l": 0.5},
        {"kind": "feed_turbo"},
        {"kind": "fit_regulator", "opens_bar": 5},
    ],
}


@pytest.mark.parametrize("circuit", ACTS)
def test_a_lap_of_a_hundred_seconds_at_200_hz(benchmark: Any, circuit: str) -> None:
    build = read_build(Path("demo/dunlin.json").read_text())
    for raw in ACTS[circuit]:
        build = read_act(raw).done(build).build
    network = network_of(build)
    time = np.arange(20_000) * 0.005
    speed = speed_of_rpm(4500.0 + 2000.0 * np.sin(time))
    gas = np.where(np.sin(1.3 * time) > 0.9, 0.8, 0.0)
    gravity = LEVEL + np.stack([3 * np.sin(time), 9 * np.sin(0.7 * time), 0 * time], axis=1)
    begin = settled_in(network, float(speed[0]))
    benchmark.extra_info["nodes"] = len(network.still.nodes)
    benchmark.extra_info["elements"] = len(network.still.elements)
    benchmark(run, network, begin, speed, gravity, gas)


def test_the_reference(benchmark: Any) -> None:
    figures = np.random.default_rng(1).random(1_000_000)
    benchmark(np.sort, figures)


def test_a_network_is_assembled(benchmark: Any) -> None:
    build = read_build(Path("demo/dunlin.json").read_text())
    benchmark(network_of, build)
