"""Fixtures and switches for all tests."""

from __future__ import annotations

import copy
import gc
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from bilge_core.network import held_running
from bilge_core.pan import hot_oil
from hypothesis import settings as how_properties_are_tried

how_properties_are_tried.register_profile("untimed", deadline=None)
how_properties_are_tried.load_profile("untimed")  # a busy machine is no fault: none is timed

ROOT = Path(__file__).resolve().parent.parent
DEMO = ROOT / "demo"
TEMPLATES = sorted((ROOT / "core" / "bilge_core" / "document" / "templates").glob("*.json"))
TEMPLATE_KEYS = [path.stem for path in TEMPLATES]


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--long", action="store_true", help="run the long tests and the benchmarks too"
    )


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if config.getoption("--long"):
        return
    for item in items:
        if item.get_closest_marker("long") or "benchmark" in getattr(item, "fixturenames", ()):
            item.add_marker(pytest.mark.skip(reason="long: run ./bilge test --long"))


def pytest_collection_finish() -> None:
    """All that stands by now stays to the end: no collection of garbage need go through it."""
    gc.collect()
    gc.freeze()


@pytest.fixture(scope="session")
def dunlin() -> Build:
    return read_build((DEMO / "dunlin.json").read_text())


@pytest.fixture(scope="session")
def deeper() -> Build:
    return read_build((DEMO / "dunlin-deeper.json").read_text())


@pytest.fixture(scope="session")
def dunlin_gated() -> Build:
    return read_build((DEMO / "dunlin-gated.json").read_text())


@pytest.fixture(scope="session")
def saltmarsh() -> Log:
    file = open_log((DEMO / "saltmarsh.csv").read_bytes())
    return prepare(read_log(file, file.proposal))


def _with_the_engines_oil(document: dict[str, Any]) -> dict[str, Any]:
    """A document whose engine has its own oil besides what was said to stand in the pan."""
    try:
        build = build_from(copy.deepcopy(document))
        ratio = hot_oil(build) / (build.oil.volume_l * 1e-3)
        held = held_running(build).total * 1e3 / ratio
    except InvalidInput:
        return document  # a test of what is refused
    oil = {**document["oil"], "volume_l": document["oil"]["volume_l"] + held}
    return {**document, "oil": oil}


@pytest.fixture
def box_document() -> Callable[..., dict[str, Any]]:
    """A build document of a plain box pan: 400 long, 240 wide, 140 deep, skirt 0."""

    def make(**changes: Any) -> dict[str, Any]:
        document: dict[str, Any] = {
            "format": "bilge-build",
            "version": 2,
            "name": "box",
            "car": {"nose_points": "front", "lean_right_deg": 0, "nose_up_deg": 0},
            # 20 °C, so that this much stands in the pan; what the engine holds comes on top
            "oil": {"grade": "5W-40", "volume_l": 5, "away_l": 0, "temperature_c": 20},
            "pan": {
                "zones": [
                    {
                        "name": "box",
                        "outline_mm": [[0, -120], [400, -120], [400, 120], [0, 120]],
                        "floor": {"kind": "flat", "depth_mm": 140},
                    }
                ],
                "skirt_height_mm": 0,
            },
            "pickup": {
                "x_mm": 200,
                "y_mm": 0,
                "mouth": {"kind": "round", "diameter_mm": 40},
                "gap_mm": 8,
            },
            "pump": {"displacement_cm3": 12, "drive_ratio": 0.5},
        }
        for path, value in changes.items():
            holder: Any = document
            *keys, last = path.split("__")
            for key in keys:
                holder = holder[int(key)] if key.isdigit() else holder[key]
            holder[int(last) if last.isdigit() else last] = value
        return _with_the_engines_oil(document)

    return make


def steady_log(forward_g: float, leftward_g: float, seconds: float = 10.0) -> Log:
    """A log of one steady load."""
    time = np.arange(0.0, seconds, 0.02)
    one = np.ones_like(time)
    return Log(time, 30 * one, 9.80665 * forward_g * one, 9.80665 * leftward_g * one, 600 * one)
