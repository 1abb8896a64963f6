"""What the Pan screen shows beside the drawing: fills, dips, checks."""

from __future__ import annotations

import numpy as np
from accounts.models import Workshop
from bilge_core.acts.reshape import depth_for_capacity
from bilge_core.agreement.poured import LEVEL_CAR, compare_poured, explain_poured
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.ground import ground_clearance
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.car import Car
from bilge_core.document.dipped import Dipped
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.axes import standing_gravity, standing_up
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.settled import level_curve, settle_lap
from builds.models import Build
from builds.selectors import build_of, document_of
from loads.services import log_of

from forecasts.kept import kept_json
from forecasts.schemas import (
    CheckOut,
    ClearanceOut,
    DepthForIn,
    DepthForOut,
    DipPointOut,
    ExplanationOut,
    FillOut,
    GroundOut,
    MarkOut,
    PanOut,
)

USUAL_HIGHEST_RPM = 6500.0
"""Where no lap says how fast the engine turns."""


def _fill(pan: Pan, car: Car) -> FillOut:
    normal = standing_up(car)
    curve = level_curve(pan, standing_gravity(car), points=81)
    x, y, z = normal.round(6).tolist()
    return FillOut(
        normal=(x, y, z),
        lowest_mm=round(float((pan.solid.vertices @ normal).min()) * 1e3, 2),
        curve_l_mm=[
            (round(float(litres) * 1e3, 3), round(float(height) * 1e3, 2))
            for litres, height in zip(curve.volumes, curve.heights, strict=True)
        ],
    )


def _dips(pan: Pan, document: BuildDocument, dipped: Dipped) -> list[DipPointOut]:
    found = compare_poured(pan, document.car, dipped)
    computed = dict(zip(found.poured.tolist(), found.computed.tolist(), strict=True))
    return [
        DipPointOut(
            poured_l=point.poured_l,
            dipped_mm=point.level_mm,
            computed_mm=round(computed[point.poured_l * 1e-3] * 1e3, 2)
            if point.poured_l * 1e-3 in computed
            else None,
        )
        for point in dipped.points
    ]


def _ground(pan: Pan, document: BuildDocument) -> GroundOut | None:
    found = ground_clearance(document, pan)
    if found is None:
        return None
    x, y, z = (round(place * 1e3, 1) for place in found.at)
    margin = None if found.margin is None else round(found.margin * 1e3, 1)
    return GroundOut(gap_mm=round(found.gap * 1e3, 1), at_mm=(x, y, z), margin_mm=margin)


def _clearances(pan: Pan, document: BuildDocument) -> list[ClearanceOut]:
    def place(point: tuple[float, float, float]) -> tuple[float, float, float]:
        x, y, z = (round(part * 1e3, 1) for part in point)
        return x, y, z

    return [
        ClearanceOut(
            name=each.name,
            index=each.index,
            gap_mm=round(each.gap * 1e3, 1),
            wanted_mm=round(each.wanted * 1e3, 1),
            at_mm=place(each.at),
            to_mm=place(each.to),
        )
        for each in clearances(document, pan)
    ]


def _marks(pan: Pan, document: BuildDocument) -> list[MarkOut]:
    """What stands in the pan at each mark, the engine as in the car."""
    curve = level_curve(pan, standing_gravity(document.car), points=201)
    return [
        MarkOut(
            name=mark.name,
            level_mm=mark.level_mm,
            litres=round(
                float(np.interp(mark.level_mm * 1e-3, curve.heights, curve.volumes)) * 1e3, 3
            ),
        )
        for mark in document.pan.dip_marks
    ]


def depth_for(workshop: Workshop, build_id: int, wanted: DepthForIn) -> DepthForOut:
    """How much deeper some zones must be for the pan to hold a volume.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    try:
        by = depth_for_capacity(document, wanted.capacity_l * 1e-3, wanted.zones)
    except InvalidQuantity as error:
        field = "zones" if error.name == "zones" else "capacity_l"
        raise InvalidInput(
            [Problem(field, f"{error.value} cannot be; it must be {error.requirement}")]
        ) from None
    return DepthForOut(by_mm=round(by * 1e3, 1))


def pan_figures(workshop: Workshop, build_id: int) -> bytes:
    """Fills, dips and checks of a build as it stands, as JSON.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    return kept_json("pan", build.current, build.lap, lambda: _figures(build))


def _figures(build: Build) -> PanOut:
    document = document_of(build)
    pan = assemble_pan(document)
    highest, lap = speed_of_rpm(USUAL_HIGHEST_RPM), None
    if build.lap is not None:
        log = log_of(build.lap)
        highest = float(np.max(log.engine_speed))
        lap = settle_lap(pan, document, log)
    dipped = document.pan.dipped
    comparison = compare_poured(pan, document.car, dipped) if dipped and dipped.points else None
    return PanOut(
        level=_fill(pan, LEVEL_CAR),
        in_car=_fill(pan, document.car),
        dips=_dips(pan, document, dipped) if dipped else [],
        rms_mm=round(comparison.rms * 1e3, 2)
        if comparison is not None and len(comparison.poured)
        else None,
        explanations=[
            ExplanationOut(
                what=each.what,
                change_mm=round(each.change * 1e3, 1),
                rms_mm=round(each.rms * 1e3, 2),
            )
            for each in explain_poured(document)
        ],
        checks=[
            CheckOut(
                state=c.state,
                words=c.words,
                field=c.field,
                fix=c.fix,
                wanted=c.rule.words,
                source=c.rule.source,
            )
            for c in check_pan(document, pan, highest, lap)
        ],
        lowest_below_rail_mm=round(-float(pan.solid.vertices[:, 2].min()) * 1e3, 1),
        ground=_ground(pan, document),
        clearances=_clearances(pan, document),
        marks=_marks(pan, document),
        at_mark_l=document.oil.mark_l,
    )
