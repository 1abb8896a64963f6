"""The demo's turbocharged car over its lap, for tests of drains and breathing."""

from __future__ import annotations

from functools import cache
from typing import Any

from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.drains.laid import drains_of
from bilge_core.forecast.back_ups import DrainsForecast, Tried, forecast_drains
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log

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
