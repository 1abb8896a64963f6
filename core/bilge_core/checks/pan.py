"""All checks of a pan, trouble first."""

from __future__ import annotations

import numpy as np
import shapely

from bilge_core.checks.fitted import check_fitted
from bilge_core.document.build import Build
from bilge_core.document.plates import VerticalPlate
from bilge_core.document.records import NO_RECORDS, Records
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules import Check, gates, mouth, plates
from bilge_core.settled import SettledLap


def _upright(build: Build) -> list[tuple[int, VerticalPlate]]:
    """The upright plates with their places in the document."""
    return [(i, p) for i, p in enumerate(build.pan.plates) if isinstance(p, VerticalPlate)]


def _gate_checks(build: Build) -> list[Check]:
    wrong: list[Check] = []
    count = 0
    for index, plate in _upright(build):
        side = plate.side_of(build.pickup.x_mm, build.pickup.y_mm)
        for at, opening in enumerate(plate.openings):
            if opening.gate is None:
                continue
            count += 1
            if opening.gate.swings != side:
                field = f"pan.plates.{index}.openings.{at}.gate.swings"
                wrong.append(gates.gate_swings_away(opening.name, plate.name, field))
    if wrong or not count:
        return wrong
    return [gates.gates_swing_in(count)]


def _opening_checks(build: Build, engine_speed: float) -> list[Check]:
    area = sum(
        opening.width_mm * opening.height_mm * 1e-6
        for _, plate in _upright(build)
        for opening in plate.openings
    )
    if area == 0.0:
        return []
    flow = float(demanded_flow(build.circuit.pump, engine_speed))
    return [plates.check_openings(area, flow, rpm_of_speed(engine_speed))]


def _end_gap(place: Array, walls: shapely.Geometry, others: list[shapely.LineString]) -> float:
    """How far a plate's end is from the nearest wall or other plate [m]; nil beyond a wall."""
    point = shapely.Point(place)
    inside = shapely.contains(walls, point)
    to_wall = float(walls.boundary.distance(point)) if inside else 0.0
    return min([to_wall, *(float(line.distance(point)) for line in others)])


def _plate_gap_checks(build: Build, pan: Pan) -> list[Check]:
    walls = pan.plan
    upright = [
        (index, plate, shapely.LineString(np.array([plate.from_mm, plate.to_mm]) * 1e-3))
        for index, plate in _upright(build)
    ]
    found = []
    for index, plate, line in upright:
        others = [other for at, _, other in upright if at != index]
        for end, place in (("from", line.coords[0]), ("to", line.coords[1])):
            gap = _end_gap(np.array(place), walls, others)
            found.append(plates.check_end(plate.name, gap, f"pan.plates.{index}.{end}_mm"))
    return [check for check in found if check is not None]


def check_pan(
    build: Build,
    pan: Pan,
    engine_speed: float,
    lap: SettledLap | None = None,
    records: Records = NO_RECORDS,
) -> tuple[Check, ...]:
    """Check the pan against itself and the trade's rules.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.
    engine_speed : float
        Crank's speed at which the pump asks for most [rad/s].
    lap : SettledLap, optional
        For how long of the lap things are under oil.
    records : Records, optional
        What was looked at, and what the gauge read.

    Returns
    -------
    tuple of Check
        Trouble first.

    Raises
    ------
    InvalidQuantity
        If the engine speed is negative or not finite.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> {check.field: check.state for check in check_pan(build, assemble_pan(build), 800.0)
    ...  if check.field == "pan.plates"}
    {'pan.plates': 'good'}
    """
    checks = [
        *_gate_checks(build),
        *_opening_checks(build, engine_speed),
        *_plate_gap_checks(build, pan),
        mouth.check_gap(build.pickup.gap_mm * 1e-3),
        *check_fitted(build, pan, engine_speed, lap, records),
    ]
    order = {"bad": 0, "caution": 1, "good": 2}
    return tuple(sorted(checks, key=lambda check: order[check.state]))
