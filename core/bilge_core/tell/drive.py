"""A pump's belt drive as everybody reads it: where it runs, how far out, what is near."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import BaseModel

from bilge_core.checks.dry import check_drive
from bilge_core.clearance.parts import part_gaps
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.rules import State
from bilge_core.rules.around import check_keep_out
from bilge_core.scavenge.drive import Drive, drive_of
from bilge_core.scavenge.sizing import top_speed
from bilge_core.tell.checks import CheckOut, check_out
from bilge_core.tell.numbers import mm


class WheelOut(BaseModel):
    """A wheel of the drive, from the crank's centreline; null teeth of an idler."""

    name: Literal["crank", "pump", "idler"]
    across_mm: float
    up_mm: float
    radius_mm: float
    teeth: int | None
    wrap_deg: float
    is_inside: bool
    """Its teeth are in the belt; else it presses on the belt's back."""


class GapOfPumpOut(BaseModel):
    """How near a pump on a belt comes to something round it."""

    name: str
    gap_mm: float
    """Below nil: as much as must be shaved off, or the pump moved by."""
    wanted_mm: float
    state: State


class DriveOut(BaseModel):
    """A belt drive as it lies."""

    ratio: float
    wheels: list[WheelOut]
    straights_mm: list[list[tuple[float, float]]]
    """Each free length of the belt by its ends, across and up."""
    centres_mm: float
    belt_teeth: int
    belt_mm: float
    """Of its pitch line."""
    move_mm: float | None
    """The pump goes so far away from the crank until the belt is taut."""
    offset_mm: float
    out_of_line_deg: float
    meshing: float
    fewest: str
    belt_speed_m_s: float
    at_rpm: float
    checks: list[CheckOut]
    gaps: list[GapOfPumpOut]
    """Nearest against what is wanted first; empty where the pump has no place."""


def _wheels(build: Build, found: Drive) -> list[WheelOut]:
    assert build.drive is not None
    teeth = {"crank": build.drive.crank_teeth, "pump": build.drive.pump_teeth}
    rows = zip(found.names, found.wheels, found.belt.wraps, strict=True)
    return [
        WheelOut(
            name=name, across_mm=mm(wheel.across), up_mm=mm(wheel.up),
            radius_mm=mm(wheel.radius), teeth=teeth.get(name),
            wrap_deg=round(math.degrees(wrap), 1), is_inside=wheel.is_inside,
        )
        for name, wheel, wrap in rows
    ]  # fmt: skip


def _gaps(build: Build) -> list[GapOfPumpOut]:
    pump = build.circuit.pump.id
    near = [each for each in part_gaps(build) if each.part == pump]
    found = []
    for each in sorted(near, key=lambda each: each.gap - each.wanted):
        name = build.car.keep_outs[each.keep_out].name
        check = check_keep_out(name, each.gap, each.wanted, f"car.keep_outs.{each.keep_out}")
        found.append(
            GapOfPumpOut(
                name=name, gap_mm=mm(each.gap), wanted_mm=mm(each.wanted),
                state="good" if check is None else check.state,
            )
        )  # fmt: skip
    return found


def drive_out(build: Build) -> DriveOut | None:
    """A build's belt drive; None where it has none, or one whose wheels touch.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> drive_out(read_build(Path("demo/dunlin.json").read_text())) is None
    True
    """
    drive = build.drive
    if drive is None:
        return None
    try:
        found = drive_of(drive)
    except InvalidInput:
        return None
    top = top_speed(build)
    return DriveOut(
        ratio=round(found.ratio, 4), wheels=_wheels(build, found),
        straights_mm=[[(mm(x), mm(y)) for x, y in each] for each in found.belt.straights],
        centres_mm=mm(found.centres), belt_teeth=drive.belt_teeth, belt_mm=mm(found.belt.length),
        move_mm=None if found.move is None else round(found.move * 1e3, 2) + 0.0,
        offset_mm=drive.offset_mm, out_of_line_deg=round(math.degrees(found.out_of_line), 3),
        meshing=round(found.meshing, 1), fewest=found.fewest,
        belt_speed_m_s=round(top * found.wheels[0].radius, 1),
        at_rpm=round(float(rpm_of_speed(top))),
        checks=[check_out(build, each) for each in check_drive(build)], gaps=_gaps(build),
    )  # fmt: skip
