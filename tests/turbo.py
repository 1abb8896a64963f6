"""The demo's turbocharged car over its lap, for tests of drains and breathing."""

from __future__ import annotations

from functools import cache
from typing import Any

from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.checks.drains import check_drains
from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Turbo
from bilge_core.document.read import build_from, read_build
from bilge_core.drains.laid import drains_of
from bilge_core.forecast.back_ups import DrainsForecast, Tried, forecast_drains
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from bilge_core.pan import assemble_pan

from tests.conftest import DEMO

SANDPIPER = read_build((DEMO / "sandpiper.json").read_text())
RUN = drains_of(SANDPIPER).placed[0].run
Raw = dict[str, Any]


@cache
def turbo_lap() -> Log:
    file = open_log((DEMO / "saltmarsh-turbo.csv").read_bytes())
    return prepare(read_log(file, file.proposal))


def over(build: Build, tried: Tried | None = None) -> DrainsForecast:
    log = turbo_lap()
    return forecast_drains(build, log, find_corners(log), tried or Tried())


def changed(build: Build, change: Any) -> Build:
    document = build.model_dump(mode="json")
    change(document)
    return build_from(document)


def part(document: Raw, kind: str) -> Raw:
    found: Raw = next(p for p in document["circuit"]["components"] if p["kind"] == kind)
    return found


def act(build: Build, **figures: Any) -> Build:
    done = read_act(figures).done(build)
    assert [each.words for each in check_circuit(done.build) if each.state != "good"] == []
    return done.build


def tuned(build: Build, run: str, **figures: Any) -> Build:
    return act(build, kind="tune_drain", run=run, **figures)


def head_of(build: Build) -> str:
    return next(c.id for c in build.circuit.components if c.kind == "head")


def turbo_of(build: Build, at: int = 0) -> str:
    return build.circuit.of_kind(Turbo)[at].id


def scavenged(**figures: Any) -> Build:
    return act(SANDPIPER, kind="drain_turbo", turbo=turbo_of(SANDPIPER), how="scavenged", **figures)


def states(build: Build) -> dict[str, str]:
    return {c.rule.key: c.state for c in check_drains(build, assemble_pan(build), over(build))}
