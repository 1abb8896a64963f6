"""Lines of the demo cars as tests lay them."""

from __future__ import annotations

from typing import Any

from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.lines.flows import flows_cold, flows_hot
from bilge_core.lines.laid import Line, lines_of

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())
CURLEW = read_build((DEMO / "curlew.json").read_text())
SANDPIPER = read_build((DEMO / "sandpiper.json").read_text())
TO_COOLER = next(run.id for run in DUNLIN.circuit.runs if run.name == "to the cooler")
WAY = [
    {"at_mm": [150, 80, 120]}, {"at_mm": [150, 260, 120], "radius_mm": 130},
    {"at_mm": [500, 260, 120]},
]  # fmt: skip


def done(build: Build, **act: Any) -> Build:
    return read_act(act).done(build).build


def laid_out(build: Build) -> tuple[Line, ...]:
    return lines_of(build, flows_hot(build), flows_cold(build))


def line_of(build: Build, run: str = TO_COOLER) -> Line:
    return next(each for each in laid_out(build) if each.run.id == run)


def with_way(**more: Any) -> Build:
    return done(DUNLIN, **{"kind": "lay_line", "run": TO_COOLER, "dash": 10, "points": WAY, **more})
