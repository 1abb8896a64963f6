"""What a gauge's readings tell of the engine, by the network that they were read off."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import LEAST_UNCERTAINTY, Bearings
from bilge_core.document.circuit.engine_side import Gallery
from bilge_core.document.circuit.pumps import Regulator, Relief
from bilge_core.document.pump import GaugeReading
from bilge_core.network.assembly import Network, network_of
from bilge_core.network.parts import felt_at
from bilge_core.network.running import steady_at
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules import gauge

_NEVER = 30.0  # [bar] that a relief is set to where it is left out
_CAN_BE = 0.8
"""Of the relief's opening: no gauge on it shows less (ours: filter and cooler take a tenth)."""
_ROUNDS = 12
_ENOUGH = 1e-4  # of the flow that a round moves
_SURE_STEP = 1.05  # of the flow, to see what it moves
_MOST_STEP = 3.0  # by which a round may change the flow


@dataclass(frozen=True)
class Told:
    """What readings told.

    bearings : what the engine lets through; None where no reading tells
    telling : the readings that told
    on_relief : those that showed the relief
    other : those with oil not within 20 K of the running oil, or no pressure
    """

    bearings: Bearings | None
    telling: tuple[GaugeReading, ...]
    on_relief: tuple[GaugeReading, ...]
    other: tuple[GaugeReading, ...]


def _with(build: Build, bearings: Bearings, temperature_c: float, relieved: bool) -> Network:
    """The network of a build with these bearings, its oil so warm, its relief in it or not."""
    parts = []
    for part in build.circuit.components:
        change: dict[str, object] = {}
        if isinstance(part, Gallery):
            change = {"bearings": bearings}
        elif isinstance(part, Relief | Regulator) and not relieved:
            change = {"opens_bar": _NEVER}
        parts.append(part.model_copy(update=change))
    circuit = build.circuit.model_copy(update={"components": parts})
    oil = build.oil.model_copy(update={"temperature_c": temperature_c})
    return network_of(build.model_copy(update={"circuit": circuit, "oil": oil}))


def _shown(build: Build, bearings: Bearings, reading: GaugeReading, relieved: bool) -> float:
    """What the gauge would show [bar], running steadily as a reading was taken."""
    network = _with(build, bearings, reading.oil_temperature_c, relieved)
    component = build.circuit.component(build.circuit.gauge)
    port = None if component is None else (component.id, felt_at(component))
    node = network.gallery if port is None else network.node_of.get(port, network.gallery)
    return steady_at(network, speed_of_rpm(reading.engine_rpm), node) / 1e5


def _begun(build: Build, reading: GaugeReading, flow_l_min: float) -> Bearings:
    return Bearings(
        flow_l_min=flow_l_min,
        at_bar=reading.pressure_bar,
        oil_temperature_c=reading.oil_temperature_c,
        uncertainty_pct=LEAST_UNCERTAINTY,
        source="",
    )


def _fitted(build: Build, rows: Sequence[GaugeReading]) -> tuple[Bearings, list[float]]:
    """Bearings by least squares of the logarithms, relief left out; what is left over of each."""
    best = max(rows, key=lambda row: row.pressure_bar)
    flow = build.circuit.pump.swept_l_min(best.engine_rpm)
    left: list[float] = []

    def misses(flow_l_min: float) -> Array:
        bearings = _begun(build, best, flow_l_min)
        return np.array(
            [math.log(_shown(build, bearings, row, False) / row.pressure_bar) for row in rows]
        )

    for _ in range(_ROUNDS):
        here = misses(flow)
        slope = (misses(flow * _SURE_STEP) - here) / math.log(_SURE_STEP)
        step = -float(slope @ here) / max(float(slope @ slope), 1e-12)
        step = min(max(step, -math.log(_MOST_STEP)), math.log(_MOST_STEP))
        flow *= math.exp(step)
        left = here.tolist()
        if abs(step) < _ENOUGH:
            break
    return _begun(build, best, flow), left


def told_by_gauge(build: Build, readings: Sequence[GaugeReading]) -> Told:
    """What readings tell of the bearings and all else that the engine lets oil through.

    Parameters
    ----------
    build : Build
        Where its relief opens must be known.
    readings : sequence of GaugeReading

    Returns
    -------
    Told

    Notes
    -----
    The network's steady pressures are fitted to the readings, the relief left out of it. A reading
    is of the relief when it is near its opening, or when it is under 0.85 of what the others
    predict without one and high enough to be held by it. Not told: how far the pump slips, how
    much of it jets take, where those open; the pump is taken to fill.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> rows = [GaugeReading(engine_rpm=3200, pressure_bar=3.9, oil_temperature_c=110),
    ...         GaugeReading(engine_rpm=6500, pressure_bar=5.2, oil_temperature_c=112)]
    >>> told = told_by_gauge(build, rows)
    >>> len(told.on_relief), 19 < told.bearings.flow_l_min < 23
    (1, True)
    """
    opens = build.circuit.relief_bar
    assert opens is not None  # the act asks for it first
    warm: list[GaugeReading] = []
    other: list[GaugeReading] = []
    for row in readings:
        fits = gauge.LIKE_WARMTH.holds(abs(row.oil_temperature_c - build.oil.temperature_c))
        (warm if fits and row.pressure_bar > 0.0 else other).append(row)
    held = [row for row in warm if gauge.is_on_relief(row.pressure_bar, opens)]
    telling = [row for row in warm if row not in held]
    while len(telling) > 1:
        found = next((row for row in telling if _is_held(build, row, telling, opens)), None)
        if found is None:
            break
        telling.remove(found)
        held.append(found)
    if not telling:
        return Told(None, (), tuple(held), tuple(other))
    bearings, left = _fitted(build, telling)
    best = max(telling, key=lambda row: row.pressure_bar)
    count = f"{len(telling)} gauge reading{'s' if len(telling) > 1 else ''}"
    spread = 100.0 * float(np.std(left, ddof=1)) if len(left) > 1 else 0.0
    told = bearings.model_copy(
        update={
            "flow_l_min": round(bearings.flow_l_min, 4),
            "uncertainty_pct": round(min(100.0, max(LEAST_UNCERTAINTY, spread)), 1),
            "source": f"{count}, the highest {best.pressure_bar:g} bar at {best.engine_rpm:g} rpm",
        }
    )
    return Told(told, tuple(telling), tuple(held), tuple(other))


def _is_held(
    build: Build, row: GaugeReading, telling: Sequence[GaugeReading], opens: float
) -> bool:
    """Whether the other readings, without a relief, would have this one much higher."""
    if row.pressure_bar < _CAN_BE * opens or row.engine_rpm < max(r.engine_rpm for r in telling):
        return False
    others = [each for each in telling if each is not row]
    bearings, _ = _fitted(build, others)
    return not gauge.is_told_of_engine(row.pressure_bar, _shown(build, bearings, row, False))
