"""What a gauge's readings tell of the engine, by the network that they were read off."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import least_squares

from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import LEAST_UNCERTAINTY, Bearings, JetsTold
from bilge_core.document.circuit.engine_side import Gallery, Jets
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
_ENOUGH = 1e-5  # of the logarithms, that a round moves
_SURE_STEP = 0.02  # of the logarithms, to see what they move
_FROM_TO = 30.0  # by which the pump's whole sweep may be too much or too little
_SPRAY = 5.0  # by which jets may spray more or less than such holes (ours)
_ALIKE = 1e8  # condition from which the unknowns are not told apart
_READ_TO = 0.03
"""Of a pressure: that a reading is good to (ours: a needle's 0.05 bar at 3, 2 K of the oil)."""
_FOR_JETS = 3
"""Readings from which jets can be told apart: two unknowns, and one to see how well they fit."""


@dataclass(frozen=True)
class Told:
    """What readings told.

    bearings : what the engine lets through; None where no reading tells
    jets : what of it the jets do; None where readings do not tell them apart
    telling : the readings that told
    on_relief : those that showed the relief
    other : those with oil not within 20 K of the running oil, or no pressure
    """

    bearings: Bearings | None
    jets: JetsTold | None
    telling: tuple[GaugeReading, ...]
    on_relief: tuple[GaugeReading, ...]
    other: tuple[GaugeReading, ...]


@dataclass(frozen=True)
class _Fit:
    """Bearings, what share of such holes' flow jets spray, and how well the readings agree.

    share : None where it was not asked
    left : of each reading, logarithm of what fits over what was read
    share_spread : standard deviation of the share's logarithm by how good a reading is
    """

    bearings: Bearings
    share: float | None
    left: Array
    share_spread: float = math.inf


def _with(build: Build, fit: _Fit, temperature_c: float, relieved: bool) -> Network:
    """The network of a build with what fits, its oil so warm, its relief in it or not."""
    spray = {}
    if fit.share is not None:
        spray = {"jets": JetsTold(share=fit.share, uncertainty_pct=0.0, source="")}
    parts = []
    for part in build.circuit.components:
        change: dict[str, object] = {}
        if isinstance(part, Gallery):
            change = {"bearings": fit.bearings, **spray}
        elif isinstance(part, Relief | Regulator) and not relieved:
            change = {"opens_bar": _NEVER}
        parts.append(part.model_copy(update=change))
    circuit = build.circuit.model_copy(update={"components": parts})
    oil = build.oil.model_copy(update={"temperature_c": temperature_c})
    return network_of(build.model_copy(update={"circuit": circuit, "oil": oil}))


def _shown(build: Build, fit: _Fit, reading: GaugeReading, relieved: bool) -> float:
    """What the gauge would show [bar], running steadily as a reading was taken."""
    network = _with(build, fit, reading.oil_temperature_c, relieved)
    component = build.circuit.component(build.circuit.gauge)
    port = None if component is None else (component.id, felt_at(component))
    node = network.gallery if port is None else network.node_of.get(port, network.gallery)
    return steady_at(network, speed_of_rpm(reading.engine_rpm), node) / 1e5


def _fitted(build: Build, rows: Sequence[GaugeReading], apart: bool = False) -> _Fit:
    """Bearings, and jets `apart`, by least squares of the logarithms; the relief is left out."""
    best = max(rows, key=lambda row: row.pressure_bar)
    swept = build.circuit.pump.swept_l_min(best.engine_rpm)

    def of(logs: Array, left: Array) -> _Fit:
        bearings = Bearings(
            flow_l_min=swept * math.exp(logs[0]),
            at_bar=best.pressure_bar,
            oil_temperature_c=best.oil_temperature_c,
            uncertainty_pct=LEAST_UNCERTAINTY,
            source="",
        )
        return _Fit(bearings, math.exp(logs[1]) if apart else None, left)

    def misses(logs: Array) -> Array:
        fit = of(logs, logs)
        shown = [_shown(build, fit, row, False) for row in rows]
        return np.log(np.array(shown) / [row.pressure_bar for row in rows])

    most = np.log([_FROM_TO, _SPRAY] if apart else [_FROM_TO])
    found = least_squares(
        misses, np.zeros(most.size), bounds=(-most, most), diff_step=_SURE_STEP, xtol=_ENOUGH,
        x_scale=np.ones(most.size),
    )  # fmt: skip
    fit = of(found.x, np.asarray(found.fun))
    return replace(fit, share_spread=_spread(found.jac, fit.left)) if apart else fit


def _spread(slopes: Array, left: Array) -> float:
    """Standard deviation of the last unknown, readings being as good as they agree or as usual."""
    seen = math.sqrt(float(left @ left) / (left.size - slopes.shape[1]))
    square = slopes.T @ slopes
    if np.linalg.cond(square) > _ALIKE:
        return math.inf
    return max(seen, _READ_TO) * math.sqrt(float(np.linalg.inv(square)[-1, -1]))


def _jets_fitted(build: Build, rows: Sequence[GaugeReading]) -> tuple[_Fit, JetsTold] | None:
    """Bearings and jets where readings tell them apart; else None."""
    if len(rows) < _FOR_JETS or not build.circuit.of_kind(Jets):
        return None
    fit = _fitted(build, rows, apart=True)
    percent = 100.0 * fit.share_spread
    if fit.share is None or not gauge.JETS_APART.holds(percent):
        return None
    source = f"{len(rows)} gauge readings under and over their opening"
    told = JetsTold(share=round(fit.share, 4), uncertainty_pct=round(percent, 1), source=source)
    return fit, told


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
    predict without one and high enough to be held by it. Of three or more readings, under and over
    where jets open, it is told how much of what such holes let through the jets do; what is known
    of them stays as it was otherwise. Not told: how far the pump slips, where jets open; the pump
    is taken to fill.

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
        return Told(None, None, (), tuple(held), tuple(other))
    apart = _jets_fitted(build, telling)
    fit, jets = apart or (_fitted(build, telling), None)
    best = max(telling, key=lambda row: row.pressure_bar)
    count = f"{len(telling)} gauge reading{'s' if len(telling) > 1 else ''}"
    spread = 100.0 * float(np.std(fit.left, ddof=1)) if fit.left.size > 1 else 0.0
    told = fit.bearings.model_copy(
        update={
            "flow_l_min": round(fit.bearings.flow_l_min, 4),
            "uncertainty_pct": round(min(100.0, max(LEAST_UNCERTAINTY, spread)), 1),
            "source": f"{count}, the highest {best.pressure_bar:g} bar at {best.engine_rpm:g} rpm",
        }
    )
    return Told(told, jets, tuple(telling), tuple(held), tuple(other))


def _is_held(
    build: Build, row: GaugeReading, telling: Sequence[GaugeReading], opens: float
) -> bool:
    """Whether the other readings, without a relief, would have this one much higher."""
    if row.pressure_bar < _CAN_BE * opens or row.engine_rpm < max(r.engine_rpm for r in telling):
        return False
    others = [each for each in telling if each is not row]
    fit = _fitted(build, others)
    return not gauge.is_told_of_engine(row.pressure_bar, _shown(build, fit, row, False))
