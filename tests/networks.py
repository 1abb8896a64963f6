"""Networks for tests: small ones laid out by hand, and the demo car's with what acts make of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.network import Network, Trace, run, settled_in
from bilge_core.network.assembly import flowing_of
from bilge_core.network.draft import Draft, Port
from bilge_core.network.guesses import Guessed
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.march import march
from bilge_core.network.oil import NetworkOil
from bilge_core.network.records import NOTHING_KEPT, Flowing
from bilge_core.network.running import LEVEL
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import speed_of_rpm

OIL = NetworkOil("10W-60", 820.0, 0.015, 0.02)
COLD = 293.15


def laid(draft: Draft) -> tuple[Flowing, Mapping[Port, int]]:
    """A draft as the loops take it, and its nodes."""
    if not draft.ways:
        draft.way("")
    return flowing_of(draft, OIL, Guessed({"bottle_warmth": COLD}))


def bottle(draft: Draft, port: Port, litres: float, precharge: float) -> None:
    """A bottle at a port; its pre-charge [Pa] over the air's at 20 °C."""
    draft.hold(port, 0.0)
    draft.bottles.append((port, litres * 1e-3, (precharge + AIR_PRESSURE) * litres * 1e-3 / COLD))


def fill(flowing: Flowing, node: int, pressure: float) -> None:
    """Fill a bottle slowly to a pressure [Pa] over the air's, its gas at 20 °C."""
    row = flowing.bottles[flowing.nodes["bottle"][node]]
    row["gas"] = row["amount"] * COLD / (pressure + AIR_PRESSURE)
    row["warmth"] = COLD
    nodes, whole = flowing.nodes, flowing.whole[0]
    space = nodes["volume"][node] * (1 + pressure / whole["bulk"]) + row["volume"] - row["gas"]
    floating = whole["stays"] * nodes["volume"][node] * AIR_PRESSURE / (pressure + AIR_PRESSURE)
    nodes["liquid"][node] = space - floating
    nodes["pressure"][node] = pressure


def go(
    flowing: Flowing, seconds: float, step: float = 0.005, speed: float = 0.0,
    gravity: Array = LEVEL, gas: float = 0.0,
) -> tuple[Array, Array, Array]:  # fmt: skip
    """March on; pressures, flows and what vessels hold at the end of each step."""
    steps = round(seconds / step)
    rows = [flowing.nodes, flowing.elements, flowing.vessels]
    pressures, flows, held = (np.zeros((steps, len(each))) for each in rows)
    kept = NOTHING_KEPT._replace(pressures=pressures, flows=flows, held=held)
    march(
        flowing, step, np.full(steps, speed), np.tile(gravity, (steps, 1)), np.full(steps, gas),
        kept,
    )  # fmt: skip
    return pressures, flows, held


Raw = dict[str, Any]
MOVED: Raw = {"kind": "move_filter", "filters": 1, "dash": 10}
BOTTLE: Raw = {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4}
RUNNING = speed_of_rpm(4000.0)


@cache
def dunlin() -> Build:
    return read_build(Path("demo/dunlin.json").read_text())


def after(*acts: Raw) -> Build:
    build = dunlin()
    for raw in acts:
        named = {
            key: next(c.id for c in build.circuit.components if c.kind == raw[key])
            for key in ("turbo", "head")
            if key in raw
        }
        build = read_act({**raw, **named}).done(build).build
    return build


def changed(build: Build, change: Callable[[Raw], None]) -> Build:
    document = build.model_dump(mode="json")
    change(document)
    return build_from(document)


def part(document: Raw, kind: str) -> Raw:
    found = next(each for each in document["circuit"]["components"] if each["kind"] == kind)
    assert isinstance(found, dict)
    return found


def id_of(build: Build, kind: str) -> str:
    return next(each.id for each in build.circuit.components if each.kind == kind)


def steadily(
    network: Network, seconds: float = 8.0, gas: float = 0.0, step: float = 0.005,
    speed: float = RUNNING, start: Any = None,
) -> Trace:  # fmt: skip
    count = round(seconds / step)
    begin = settled_in(network, speed) if start is None else start
    return run(
        network, begin, np.full(count, speed), np.tile(LEVEL, (count, 1)), np.full(count, gas), step
    )


def gulps(network: Network, step: float = 0.005, seconds: float = 12.0) -> Trace:
    """Half a second of air at 2 s and a tenth at 6 s."""
    time = np.arange(round(seconds / step)) * step
    gas = np.where((time > 2.0) & (time < 2.5) | (time > 6.0) & (time < 6.1), 1.0, 0.0)
    rows = np.tile(LEVEL, (len(time), 1))
    return run(network, settled_in(network, RUNNING), np.full(len(time), RUNNING), rows, gas, step)
