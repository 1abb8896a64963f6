"""The pan's own checks, each with the place it is about and, where there is one, the fix."""

from __future__ import annotations

from typing import Literal

import numpy as np
import shapely

from bilge_core.document.build import Build
from bilge_core.document.plates import VerticalPlate
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules.check import Check
from bilge_core.rules.fitted import check_fitted
from bilge_core.settled import SettledLap

GAP_RULE = (6.4e-3, 9.5e-3)
"""Mouth to floor, 1/4 to 3/8 in [m] (common practice, no published source)."""

DISCHARGE = 0.6
"""Discharge coefficient of a sharp-edged opening (handbook value, from memory)."""

_MOST_HEAD = 10e-3  # [m] of oil that the openings may ask for before the box draws down
_GAP = 2e-3  # [m] by which a plate may miss a wall: fitted by hand


def mouth_side(plate: VerticalPlate, x_mm: float, y_mm: float) -> Literal["left", "right"]:
    """Which side of a plate a place in plan is on, as one walks it from its start to its end.

    Examples
    --------
    >>> plate = VerticalPlate(kind="vertical", name="P", from_mm=(200, -50), to_mm=(200, 50),
    ...                       top_depth_mm=40)
    >>> mouth_side(plate, 300, 0)  # walked to the engine's left, ahead is on the right hand
    'right'
    """
    (ax, ay), (bx, by) = plate.from_mm, plate.to_mm
    return "left" if (bx - ax) * (y_mm - ay) - (by - ay) * (x_mm - ax) >= 0.0 else "right"


def _gap_check(build: Build) -> Check:
    gap = build.pickup.gap_mm
    low, high = (limit * 1e3 for limit in GAP_RULE)
    inside = low - 0.1 <= gap <= high + 0.1
    return Check(
        "good" if inside else "caution",
        f"Mouth {gap:.1f} mm above the floor; common practice is {low:.1f} to {high:.1f} mm",
        "pickup.gap_mm",
    )


def _gate_checks(build: Build) -> list[Check]:
    wrong: list[Check] = []
    gates = 0
    for index, plate in enumerate(build.pan.plates):
        if not isinstance(plate, VerticalPlate):
            continue
        side = mouth_side(plate, build.pickup.x_mm, build.pickup.y_mm)
        for at, opening in enumerate(plate.openings):
            if opening.gate is None:
                continue
            gates += 1
            if opening.gate.swings != side:
                wrong.append(
                    Check(
                        "bad",
                        f"Gate {opening.name} in {plate.name} swings away from the mouth: worse "
                        "than none, it lets oil out",
                        f"pan.plates.{index}.openings.{at}.gate.swings",
                        "turn_gate",
                    )
                )
    if wrong or not gates:
        return wrong
    words = "The gate swings" if gates == 1 else f"All {gates} gates swing"
    return [Check("good", f"{words} toward the mouth", "pan.plates")]


def _opening_check(build: Build, engine_speed: float) -> list[Check]:
    area = sum(
        opening.width_mm * opening.height_mm * 1e-6
        for plate in build.pan.plates
        if isinstance(plate, VerticalPlate)
        for opening in plate.openings
    )
    if area == 0.0:
        return []
    flow = float(demanded_flow(build.pump, engine_speed))
    head = (flow / (DISCHARGE * area)) ** 2 / (2.0 * STANDARD_GRAVITY)
    rpm = rpm_of_speed(engine_speed)
    words = (
        f"Openings of {area * 1e4:.0f} cm² in all pass the pump's {flow * 6e4:.0f} L/min "
        f"at {rpm:.0f} rpm with {head * 1e3:.1f} mm of oil"
    )
    if head <= _MOST_HEAD:
        return [Check("good", words, "pan.plates")]
    return [Check("bad", f"{words}: too small, the pump empties the box", "pan.plates")]


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
        for index, plate in enumerate(build.pan.plates)
        if isinstance(plate, VerticalPlate)
    ]
    found = []
    for index, plate, line in upright:
        others = [other for at, _, other in upright if at != index]
        for end, place in (("from", line.coords[0]), ("to", line.coords[1])):
            gap = _end_gap(np.array(place), walls, others)
            if gap > _GAP:
                found.append(
                    Check(
                        "caution",
                        f"{plate.name} ends {gap * 1e3:.0f} mm short of the next wall or plate: "
                        "oil goes round it",
                        f"pan.plates.{index}.{end}_mm",
                        "carry_to_wall",
                    )
                )
    return found


def check_pan(
    build: Build, pan: Pan, engine_speed: float, lap: SettledLap | None = None
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
        *_opening_check(build, engine_speed),
        *_plate_gap_checks(build, pan),
        _gap_check(build),
        *check_fitted(build, pan, engine_speed, lap),
    ]
    order = {"bad": 0, "caution": 1, "good": 2}
    return tuple(sorted(checks, key=lambda check: order[check.state]))
