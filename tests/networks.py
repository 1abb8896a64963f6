"""Small networks laid out by hand, for tests of laws that have a closed form."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from bilge_core.network.assembly import flowing_of
from bilge_core.network.draft import Draft, Port
from bilge_core.network.guesses import Guessed
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.march import march
from bilge_core.network.oil import NetworkOil
from bilge_core.network.records import Flowing
from bilge_core.network.running import LEVEL
from bilge_core.physics.arrays import Array

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
    kept = (
        np.zeros((steps, len(flowing.nodes))),
        np.zeros((steps, len(flowing.elements))),
        np.zeros((steps, len(flowing.vessels))),
    )
    march(
        flowing, step, np.full(steps, speed), np.tile(gravity, (steps, 1)), np.full(steps, gas),
        *kept,
    )  # fmt: skip
    return kept
