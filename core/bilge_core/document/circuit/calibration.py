"""What a pressure gauge told of the engine: how much its bearings let through."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence

import numpy as np
from pydantic import Field

from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.document.ids import Document, with_ids_by_place
from bilge_core.document.parts import Part
from bilge_core.document.pump import GaugeReading
from bilge_core.rules import gauge

LEAST_UNCERTAINTY = 16.0
"""[%] ours: steady readings gave back known bearings to this in a trial; a pump's filling and 5 K
of the oil are most of it."""


class Bearings(Part):
    """Oil that the bearings and all else let through at one pressure, of warm oil."""

    flow_l_min: float = Field(gt=0, le=2000)
    at_bar: float = Field(gt=0, le=30)
    oil_temperature_c: float = Field(ge=-20, le=180)
    uncertainty_pct: float = Field(ge=0, le=100)
    source: str = Field(max_length=200)
    circuit: str = Field(
        default="", max_length=16, description="what the circuit was known by when it was told"
    )


class JetsTold(Part):
    """What readings under and over the jets' opening told of them, beside the bearings."""

    share: float = Field(
        gt=0, le=10, description="of what holes of their bore let through, what they do"
    )
    uncertainty_pct: float = Field(ge=0, le=100)
    source: str = Field(max_length=200)


def telling(
    readings: Sequence[GaugeReading], relief_bar: float, temperature_c: float
) -> list[GaugeReading]:
    """Those readings that tell of the engine: below the relief, of oil about as warm."""
    return [
        reading
        for reading in readings
        if reading.pressure_bar > 0.0
        and not gauge.is_on_relief(reading.pressure_bar, relief_bar)
        and gauge.LIKE_WARMTH.holds(abs(reading.oil_temperature_c - temperature_c))
    ]


def bearings_told(
    pump: PressureStage,
    relief_bar: float | None,
    readings: Sequence[GaugeReading],
    temperature_c: float,
) -> Bearings | None:
    """What the gauge's readings tell of the bearings; None where none of them tells.

    Parameters
    ----------
    pump : PressureStage
    relief_bar : float or None
        At which its relief opens.
    readings : sequence of GaugeReading
    temperature_c : float
        Running temperature of the oil.

    Returns
    -------
    Bearings or None

    Notes
    -----
    The bearings let oil through in proportion to pressure, as laminar flow does; jets and other
    orifices, which let through less at high pressure, are not told apart. The reading at the
    highest pressure below the relief is the one taken; where several tell, how far they part is
    the uncertainty, if that is more than what a trial found.

    Examples
    --------
    >>> pump = PressureStage(
    ...     kind="pressure_stage", name="pump", displacement_cm3=20, drive_ratio=1.0)
    >>> seen = [GaugeReading(engine_rpm=2000, pressure_bar=2.5, oil_temperature_c=100)]
    >>> told = bearings_told(pump, 5.0, seen, 105.0)
    >>> told.flow_l_min, told.at_bar
    (40.0, 2.5)
    """
    rows = [] if relief_bar is None else telling(readings, relief_bar, temperature_c)
    if not rows:
        return None
    best = max(rows, key=lambda reading: reading.pressure_bar)
    per_bar = np.array([pump.swept_l_min(row.engine_rpm) / row.pressure_bar for row in rows])
    spread = 100.0 * float(np.std(per_bar) / np.mean(per_bar))
    count = f"{len(rows)} gauge reading{'s' if len(rows) > 1 else ''}"
    return Bearings(
        flow_l_min=round(pump.swept_l_min(best.engine_rpm), 6),
        at_bar=best.pressure_bar,
        oil_temperature_c=best.oil_temperature_c,
        uncertainty_pct=round(min(100.0, max(LEAST_UNCERTAINTY, spread)), 1),
        source=f"{count}, the highest {best.pressure_bar:g} bar at {best.engine_rpm:g} rpm",
    )


_NOT_FELT_BY_THE_GAUGE = (
    "name", "place", "assumed", "holds_l", "bearings", "blow_by_l_min", "gasket_mm",
    "seal_height_mm", "opening_mm", "mouth_at", "outlet", "outlet_mm", "length_mm", "width_mm",
    "rated_over_kelvin", "jets",
)  # fmt: skip


_LATER = {"leak_mm": None}
"""Fields that documents did not always have, and what stands for their not being there: a circuit
is known by what it was known by before.
"""
_END_NOT_FELT = frozenset({"narrowest_mm", "hose_end_deg"})
"""Fields of an end that no line under pressure is told by."""
_LINE_NOT_FELT = frozenset({"slack_mm", "wall_mm"})
"""Fields of a line that change nothing that a gauge reads."""


def _flowing(row: Document) -> Document:
    """What of a component or a run the gauge feels."""
    felt = {key: value for key, value in row.items() if key not in _NOT_FELT_BY_THE_GAUGE}
    for end in ("start", "end"):
        if isinstance(felt.get(end), dict):
            felt[end] = {
                k: v
                for k, v in felt[end].items()
                if k not in _END_NOT_FELT and (k not in _LATER or v != _LATER[k])
            }
    if felt.get("ports"):
        felt["ports"] = [{k: v for k, v in each.items() if k != "faces"} for each in felt["ports"]]
    if isinstance(felt.get("line"), dict):
        felt["line"] = {k: v for k, v in felt["line"].items() if k not in _LINE_NOT_FELT}
    return felt


def known_by(circuit: Document) -> str:
    """What a circuit is known by to the gauge: the same where nothing that flows has changed.

    Examples
    --------
    >>> one = {"components": [{"id": "c1", "name": "tee"}], "runs": []}
    >>> known_by(one) == known_by({"components": [{"id": "c7", "name": "T"}], "runs": []})
    True
    """
    bare = with_ids_by_place({"circuit": circuit})["circuit"]
    rows = [[_flowing(row) for row in bare[part]] for part in ("components", "runs")]
    return hashlib.sha256(json.dumps(rows, sort_keys=True).encode()).hexdigest()[:16]
