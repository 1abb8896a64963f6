"""What is told of builds and figures that are in trouble: words that sound ones never show."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np
from bilge_core.acts.registry import read_act
from bilge_core.agreement.live import Follower
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.drains.laid import drains_of
from bilge_core.forecast.back_ups import forecast_drains
from bilge_core.forecast.lying import Lying
from bilge_core.loads.corners import find_corners
from bilge_core.loads.guesses import complete
from bilge_core.loads.importing import Columns
from bilge_core.loads.log import Log
from bilge_core.loads.reading import Reading
from bilge_core.options.choice import Standing
from bilge_core.options.overfill import overfill_plan
from bilge_core.options.trial import BaseLap
from bilge_core.pan import assemble_pan
from bilge_core.scavenge.lap import dry_lap
from bilge_core.scavenge.sizing import sizing
from bilge_core.tell.drains_verdict import drains_verdict
from bilge_core.tell.live import live_now, live_point
from bilge_core.tell.options import standing_out

from tests.conftest import DEMO, steady_log
from tests.core import test_live
from tests.core.told_all import short_lap
from tests.core.told_shortly import rounded
from tests.turbo import turbo_lap

_READ = {name: read_build((DEMO / f"{name}.json").read_text()) for name in ("curlew", "sandpiper")}
_DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def _set(build: Build, kind: str, **figures: Any) -> Build:
    """A build with figures of its components of a kind set otherwise."""
    document = build.model_dump(mode="json")
    for part in document["circuit"]["components"]:
        if part["kind"] == kind:
            part.update(figures)
    return build_from(document)


def _oil(build: Build, litres: float) -> Build:
    document = build.model_dump(mode="json")
    document["oil"]["volume_l"] += litres
    return build_from(document)


@cache
def _corner() -> Log:
    return steady_log(0.0, 1.4, 6.0)


def _sized(build: Build) -> list[Any]:
    lap = dry_lap(build, assemble_pan(build), _corner())
    return [
        [each.key, each.at, each.state, each.why, rounded(each.found)]
        for each in sizing(build, _corner(), lap)
    ]


def of_sizing() -> dict[str, Any]:
    """A dry sump with too little oil, too much of it, a small tank, narrow vents, weak stages."""
    curlew = _READ["curlew"]
    cases: dict[str, Callable[[], Build]] = {
        "little oil": lambda: _oil(curlew, -2.0),
        "much oil": lambda: _oil(curlew, 1.5),
        "outlet behind": lambda: _oil(_set(curlew, "tank", outlet="rear"), -3.4),
        "outlet inside the turn": lambda: _oil(_set(curlew, "tank", outlet="left"), -2.0),
        "narrow breather": lambda: _set(curlew, "breather", opening_mm=3.0),
        "weak stages": lambda: _set(curlew, "scavenge_stage", displacement_cm3=4.0),
        "strong stages": lambda: _set(curlew, "scavenge_stage", displacement_cm3=60.0),
    }
    return {name: _sized(make()) for name, make in cases.items()}


def of_drains() -> dict[str, Any]:
    """A turbo's drain of several sizes over the demo's lap, and what it does to the verdict."""
    build, log = _READ["sandpiper"], short_lap(turbo_lap())
    run = drains_of(build).placed[0].run
    found = {}
    for dash in (8, 10, 12, 16):
        sized = read_act({"kind": "tune_drain", "run": run, "dash": dash}).done(build).build
        told = drains_verdict(forecast_drains(sized, log, find_corners(log)))
        found[f"size {dash}"] = told.model_dump(mode="json")
    return found


def of_overfill() -> list[Any]:
    """Poured until the crank, which hangs low, is all but in it."""
    document = _DUNLIN.model_dump(mode="json")
    document["car"]["crank"]["height_mm"] -= 18.0
    plan = overfill_plan(build_from(document), steady_log(0.0, 0.5, 2.0), ())
    return [[rounded(each.total), rounded(each.crank), each.stop] for each in plan]


def of_guesses() -> list[str]:
    """A log whose clock has no unit, in seconds, in thousandths and in minutes."""
    seconds = np.arange(0.0, 90.0, 0.05)
    side = np.sin(0.3 * seconds)
    fixed = {"speed": ("v", "km/h"), "lateral": ("y", "g"), "longitudinal": ("x", "g")}
    words = []
    for times in (1.0, 1e3, 1.0 / 60.0):
        columns = {name: {"heading": h, "unit": u} for name, (h, u) in fixed.items()}
        columns["time"] = {"heading": "t", "unit": ""}
        values = {"t": seconds * times, "v": 90.0 + 9.0 * side, "y": side, "x": 0.2 * side}
        reading = Reading.model_validate({"columns": columns})
        _, guesses = complete(Columns(values, np.arange(len(seconds))), reading)
        words += [each.words for each in guesses]
    return words


def of_laying() -> list[str]:
    """A line laid straight, with one bend and with two."""
    hose = next(run for run in _DUNLIN.circuit.runs if run.line.kind in ("hose", "hard_line"))
    spots = [[0, 150, 20], [60, 150, 20], [60, 220, 20], [0, 220, 60]]
    return [
        read_act(
            {"kind": "lay_line", "run": hose.id, "points": [{"at_mm": each} for each in spots[:n]]}
        ).done(_DUNLIN).words
        for n in (2, 3, 4)
    ]  # fmt: skip


def of_lying() -> list[str]:
    """Where a remedy's oil lies beside the build's own: the same, elsewhere, unknown."""
    corner = _corner()
    gas = np.where(corner.time > 2.0, 1.0, 0.0)
    own = Lying(4.0, 3.9e-3, 0.2e-3, -0.05, -0.11)
    base = BaseLap(_DUNLIN, corner, (), corner.time, gas, 0.0 * gas, 4.0, 0.0, 0.5, lies=own)
    found = (own, replace(own, near=1.3e-3, left=-0.02), None)
    none = Standing("failed", None, 1.234, True, 0.567, 2.468e5, 0.5, 0, 0, 3.9e-3, "Dry.")
    return [standing_out(replace(none, lies=each), base).model_dump_json() for each in found]


def of_live() -> list[str]:
    """A car that is followed for a lap and a half, a dip in it, told every second or so."""
    follower = Follower(test_live.plan(0.0373))
    told = []
    for at in range(320):
        now = at * 0.1013
        bars = 2.345e5 if 5.2 < now % 20.0 < 5.9 else 4.8765e5
        seen = follower.feed(now, 29.37, 487.0, bars, int(now // 20.43))
        if at % 12 == 0:
            told += [live_now(seen, follower).model_dump_json(), live_point(seen).model_dump_json()]
    return told


def of_troubled() -> dict[str, Any]:
    return {
        "sizing": of_sizing(), "drains": of_drains(), "overfill": of_overfill(),
        "guesses": of_guesses(), "laying": of_laying(),
        "lying": of_lying(),
        "live": of_live(),
    }  # fmt: skip
