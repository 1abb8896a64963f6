"""Beside the drawing of the pan: fills, dips, checks, gaps."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from bilge_core.agreement.poured import LEVEL_CAR, compare_poured, explain_poured
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.ground import ground_clearance
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.car import Car
from bilge_core.document.dipped import Dipped
from bilge_core.document.records import NO_RECORDS, Records
from bilge_core.loads.log import Log
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.axes import standing_gravity, standing_up
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.settled import level_curve, settle_lap
from bilge_core.tell.checks import CheckOut, check_out
from bilge_core.tell.numbers import Point, SpacePoint, litres, mm, space_point


class FillOut(BaseModel):
    """Oil standing at any fill: level against litres, and which way is up [mm, L]."""

    normal: SpacePoint
    lowest_mm: float
    curve_l_mm: list[Point]


class DipPointOut(BaseModel):
    """One pour-and-dip point beside the computed level; null beyond what the pan holds."""

    poured_l: float
    dipped_mm: float
    computed_mm: float | None


class ExplanationOut(BaseModel):
    """A dimension that would explain the mismatch."""

    what: str
    change_mm: float
    rms_mm: float


class GroundOut(BaseModel):
    """The gap under the pan's lowest corner, which is at `at_mm` in the engine's frame."""

    gap_mm: float
    at_mm: SpacePoint
    margin_mm: float | None


class ClearanceOut(BaseModel):
    """The smallest gap to one keep-out; places in the engine's frame."""

    name: str
    index: int
    gap_mm: float
    wanted_mm: float
    at_mm: SpacePoint
    to_mm: SpacePoint


class MarkOut(BaseModel):
    """A mark of the dipstick, and what stands in the pan at it."""

    name: str
    level_mm: float
    litres: float


class PanOut(BaseModel):
    """What the Pan screen shows beside the drawing."""

    level: FillOut
    in_car: FillOut
    dips: list[DipPointOut]
    rms_mm: float | None
    explanations: list[ExplanationOut]
    checks: list[CheckOut]
    lowest_below_rail_mm: float
    ground: GroundOut | None
    clearances: list[ClearanceOut]
    marks: list[MarkOut]
    at_mark_l: float | None


USUAL_HIGHEST_RPM = 6500.0
"""Where no lap says how fast the engine turns."""


def _fill(pan: Pan, car: Car) -> FillOut:
    normal = standing_up(car)
    curve = level_curve(pan, standing_gravity(car), points=81)
    x, y, z = normal.round(6).tolist()
    return FillOut(
        normal=(x, y, z),
        lowest_mm=mm((pan.solid.vertices @ normal).min()),
        curve_l_mm=[
            (litres(volume), mm(height))
            for volume, height in zip(curve.volumes, curve.heights, strict=True)
        ],
    )


def _dips(pan: Pan, document: Build, dipped: Dipped) -> list[DipPointOut]:
    found = compare_poured(pan, document.car, dipped)
    computed = dict(zip(found.poured.tolist(), found.computed.tolist(), strict=True))
    return [
        DipPointOut(
            poured_l=point.poured_l,
            dipped_mm=point.level_mm,
            computed_mm=mm(computed[point.poured_l * 1e-3])
            if point.poured_l * 1e-3 in computed
            else None,
        )
        for point in dipped.points
    ]


def _ground(pan: Pan, document: Build) -> GroundOut | None:
    found = ground_clearance(document, pan)
    if found is None:
        return None
    return GroundOut(
        gap_mm=mm(found.gap, 1),
        at_mm=space_point(np.array(found.at), 1),
        margin_mm=None if found.margin is None else mm(found.margin, 1),
    )


def _clearances(pan: Pan, document: Build) -> list[ClearanceOut]:
    return [
        ClearanceOut(
            name=each.name,
            index=each.index,
            gap_mm=mm(each.gap, 1),
            wanted_mm=mm(each.wanted, 1),
            at_mm=space_point(np.array(each.at), 1),
            to_mm=space_point(np.array(each.to), 1),
        )
        for each in clearances(document, pan)
    ]


def _marks(pan: Pan, document: Build) -> list[MarkOut]:
    """What stands in the pan at each mark, the engine as in the car."""
    curve = level_curve(pan, standing_gravity(document.car), points=201)
    return [
        MarkOut(
            name=mark.name,
            level_mm=mark.level_mm,
            litres=litres(np.interp(mark.level_mm * 1e-3, curve.heights, curve.volumes)),
        )
        for mark in document.pan.dip_marks
    ]


def pan_out(document: Build, log: Log | None, records: Records = NO_RECORDS) -> PanOut:
    """Fills, dips and checks of a build and its records, over a prepared log if there is one.

    Raises
    ------
    InvalidInput
        If the build cannot hold together.
    """
    pan = assemble_pan(document)
    highest, lap = speed_of_rpm(document.car.top_rpm or USUAL_HIGHEST_RPM), None
    if log is not None:
        highest = float(np.max(log.engine_speed))
        lap = settle_lap(pan, document, log)
    dipped = records.dipped
    comparison = compare_poured(pan, document.car, dipped) if dipped and dipped.points else None
    return PanOut(
        level=_fill(pan, LEVEL_CAR),
        in_car=_fill(pan, document.car),
        dips=_dips(pan, document, dipped) if dipped else [],
        rms_mm=mm(comparison.rms) if comparison is not None and len(comparison.poured) else None,
        explanations=[
            ExplanationOut(
                what=each.what,
                change_mm=mm(each.change, 1),
                rms_mm=mm(each.rms),
            )
            for each in explain_poured(document, dipped)
        ],
        checks=[check_out(document, c) for c in check_pan(document, pan, highest, lap, records)],
        lowest_below_rail_mm=mm(-pan.solid.vertices[:, 2].min(), 1),
        ground=_ground(pan, document),
        clearances=_clearances(pan, document),
        marks=_marks(pan, document),
        at_mark_l=document.oil.mark_l,
    )
