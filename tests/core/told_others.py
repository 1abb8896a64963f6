"""What is told of other things than a build over a lap: acts, logs, a track book, files, tables."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import asdict, replace
from functools import cache
from typing import Any

import numpy as np
import trimesh
from bilge_core.acts.registry import read_act
from bilge_core.agreement.as_usual import AsUsual, as_usual
from bilge_core.agreement.judged import Named, frozen_at, judge
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import BilgeError
from bilge_core.job.operations import OPERATIONS
from bilge_core.loads.corners import find_corners
from bilge_core.loads.facts import log_facts
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from bilge_core.making.dxf import as_dxf
from bilge_core.making.parts import flat_parts
from bilge_core.making.svg import as_svg
from bilge_core.pan import assemble_pan
from bilge_core.shop.parts import PARTS
from bilge_core.tell.flat_drawing import flat_drawing_out
from bilge_core.tell.judged import ForecastKept, judged_out, judged_trace
from bilge_core.tell.printed import PrintAsked, plate_flat
from bilge_core.tell.scanned import ScanAsked, scanned_out

from tests.conftest import DEMO, TEMPLATES
from tests.core import test_acts, test_book, test_circuit_acts, test_plates_fitted, test_rules
from tests.core.circuit_acts import ONE_OF_EACH, Raw
from tests.core.told_all import plain, short_lap
from tests.core.told_checks import of_checks
from tests.core.told_figures import of_figures
from tests.core.told_shortly import differs, rounded, shortly
from tests.core.told_troubled import of_troubled

BUILDS = {
    path.stem: read_build(path.read_text())
    for path in (*DEMO.glob("*.json"), *TEMPLATES)
    if path.stem != "readings"
}


_LONG = 100
"""Letters of a row that are kept as they are."""


@cache
def ring() -> Log:
    file = open_log((DEMO / "saltmarsh.csv").read_bytes())
    return short_lap(prepare(read_log(file, file.proposal)))


def done_in_turn(build: Build, acts: list[Raw]) -> Build:
    """A build after all acts that can be done to it, each kind once, one after the other."""
    kinds: set[str] = set()
    for raw in acts:
        if raw["kind"] in kinds:
            continue
        kinds.add(raw["kind"])
        try:
            act = read_act(test_circuit_acts.with_ids_for(build, raw))
            build = act.done(build).build
        except (BilgeError, StopIteration, KeyError):
            continue
    return build


def _cut(words: str) -> str:
    """A long row by its beginning and a fingerprint of all of it."""
    if len(words) <= _LONG:
        return words
    return f"{words[:_LONG]} {hashlib.sha256(words.encode()).hexdigest()[:12]}"


def of_acts() -> Any:
    """Each act alone: its words, and a build after it."""
    gated, plain_pan = BUILDS["dunlin-gated"], BUILDS["inline-front-sump"]
    alone = [
        *((gated, raw) for raw, _ in test_acts.ONE_OF_EACH),
        *((test_plates_fitted.DUNLIN, raw) for raw, _ in test_plates_fitted.ONE_OF_EACH),
    ]
    for before, raw, _ in ONE_OF_EACH:
        build = done_in_turn(plain_pan, before)
        alone.append((build, test_circuit_acts.with_ids_for(build, raw)))
    rows = []
    for build, raw in alone:
        try:
            done = read_act(raw).done(build)
        except BilgeError as error:
            rows.append({"words": f"refused: {error}"})
            continue
        was, now = (rounded(each.model_dump(mode="json")) for each in (build, done.build))
        changed = differs(was, now)
        rows.append({"words": done.words, "changed": shortly([_cut(each) for each in changed])})
    return rows


def of_loads() -> Any:
    """Of each log of the demo: how it is read, and its corners."""
    rows = {}
    for path in sorted(DEMO.glob("*.csv")):
        file = open_log(path.read_bytes())
        log = prepare(read_log(file, file.proposal))
        traces = (log.speed, log.forward, log.leftward, log.engine_speed)
        told_of = [asdict(log_facts(log)), [asdict(each) for each in find_corners(log)]]
        rows[path.stem] = shortly([*told_of, *(each.tolist() for each in traces)])
    return rows


def of_book() -> Any:
    """A season of five sessions with what is due, and the laps of one against a forecast."""
    typed: list[Raw] = [
        {"ambient_c": 18, "hottest_c": 108, "lowest_bar": 3.1, "can_ml": 60, "level_before_mm": 99},
        {"ambient_c": 21, "hottest_c": 112, "lowest_bar": 3.0, "can_ml": 70, "level_after_mm": 92},
        {"ambient_c": 27, "hottest_c": 121, "lowest_bar": 2.8, "can_ml": 65, "added_l": 0.4},
        {"ambient_c": 30, "hottest_c": 138, "lowest_bar": 1.7, "can_ml": 190, "laps": 14},
        {"level_before_mm": 101, "level_after_mm": 95, "laps": 9, "words": "light flickered"},
    ]  # fmt: skip
    rows = [
        test_book.session(f"s{at}", f"2026-05-{3 * at + 1:02d}", 1.5 + 0.5 * at, **more)
        for at, more in enumerate(typed)
    ]
    rows.append(test_book.done("filter", "2026-05-09"))
    return [plain(test_book.told_of(*rows)), *_judged()]


def _judged() -> list[Any]:
    """Three laps that dip where the forecast did, later, deeper, and where it did not."""
    log = ring()
    time = log.time - log.time[0]
    flat = np.full(len(time), 5e5)
    foreseen = np.where((time > 9.0) & (time < 9.8), 2e5, flat)
    shown = np.where((time > 9.15) & (time < 10.1), 1.6e5, flat)
    shown = np.where((time > 19.0) & (time < 19.4), 2.2e5, shown)
    steady = AsUsual(np.array([100.0, 700.0]), np.array([4e5, 5e5]))
    frozen = frozen_at(log, find_corners(log), time, foreseen, flat, steady)
    laps = [
        Named(f"Lap {number}", replace(log, oil_pressure=bars + 2.137e3 * np.sin(40.0 * time)))
        for number, bars in enumerate((shown, np.roll(shown, 8), flat), start=1)
    ]
    kept = ForecastKept(
        model="Moving oil, coarse cells", lap="Saltmarsh", state=1, run=1,
        made_at="2026-05-01T10:00:00+00:00", dips=1, dry_s=0.8, lowest_bar=2.0,
    )  # fmt: skip
    judged = judge(laps, frozen)
    usual = as_usual([lap.log for lap in laps])
    return [
        plain(judged_out(judged, frozen, kept)), plain(judged_trace(judged, 0, 0)),
        usual.at(np.linspace(200.0, 700.0, 6)).tolist(),
    ]  # fmt: skip


def _lines_of(text: str) -> list[str]:
    return [line for line in text.splitlines() if line.strip()]


def of_files() -> Any:
    """Flat patterns as drawn, a drawing read back, a box that was scanned."""
    build = BUILDS["dunlin-shop"]
    pan = assemble_pan(build)
    plate = plate_flat(build, PrintAsked(what="pickup_plate", bore_mm=22.0))
    parts = [*flat_parts(build, pan), plate]
    box = trimesh.creation.box((400, 240, 140)).export(file_type="stl")
    asked = ScanAsked(unit="mm", up="+z", nose="+x")
    return [
        [_lines_of(as_svg([part])) for part in parts],
        plain(flat_drawing_out(as_dxf([parts[-2]]).encode(), pan, None, "up", False)),
        plain(scanned_out(box, "box.stl", asked)),
    ]


def of_shop() -> Any:
    """Every part and every piece of work of the generic list, a line each."""
    parts = {
        key: f"{part.words}, {part.per}: {part.cost:g}, {part.lead_days} d, {part.weight:g} kg"
        for key, part in PARTS.items()
    }
    work = {key: f"{each.words}: {each.hours:g} h" for key, each in OPERATIONS.items()}
    return {"parts": parts, "work": work}


def of_rules() -> Any:
    """What is said of a figure on either side of each rule's edge."""
    rows: dict[str, list[str]] = {}
    for key, say, *sides, _, _ in test_rules.EDGES:
        for figure in sides:
            said = say(figure)
            if isinstance(said, test_rules.Said):
                rows.setdefault(key, []).append(f"{figure:g}, {said}: {said.words}")
    return rows


OTHERS: dict[str, Callable[[], Any]] = {
    "acts": of_acts,
    "loads": of_loads,
    "shop": of_shop,
    "book": lambda: shortly(of_book()),
    "files": lambda: shortly(of_files()),
    "figures": of_figures,
    "rules": of_rules,
    "troubled": of_troubled,
    "checks": of_checks,
}
