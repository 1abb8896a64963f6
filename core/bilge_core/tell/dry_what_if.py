"""What a dry sump loses with a stage, the gas on its way back, and its tank's marks."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.forecast.settled import SettledForecast
from bilge_core.network.way_back import TAKEN_OUT
from bilge_core.pan import Pan
from bilge_core.pan.filling import oil_in_tank
from bilge_core.scavenge.lap import DryLap
from bilge_core.scavenge.level import after_a_start, tank_marks
from bilge_core.scavenge.lost import without_each_stage
from bilge_core.scavenge.shared import by_restrictors, shared_pairs
from bilge_core.scavenge.sizing import Sized
from bilge_core.scavenge.tank import tank_of, tank_space
from bilge_core.scavenge.way_back import Order, carried
from bilge_core.tell.numbers import litres, mm


class LostOut(BaseModel):
    """The lap with a stage blocked, in settled oil."""

    id: str
    name: str
    left_l: float
    """Most that lies in the pan."""
    cover_mm: float
    """Least over the tank's outlet."""
    bare_after_s: float | None
    """Until the outlet is bare; null: it stays covered."""
    thrown_out_l: float


class SharedOut(BaseModel):
    """Two pickups on one stage, and on a stage each: the lap both ways, in settled oil."""

    names: tuple[str, str]
    is_built: bool
    """The build has them on one stage."""
    starved_s: float
    """With oil at one of them while their one stage draws air."""
    one_left_l: float
    """Most that lies in the pan with one stage for both."""
    each_left_l: float
    one_cover_mm: float
    """Least over the tank's outlet."""
    each_cover_mm: float


class AlikeOut(BaseModel):
    """What the branch in oil gets of a stage that draws air by the other, all else alike."""

    restrictors_pct: float
    hoses_pct: float


class CarriedOut(BaseModel):
    """Gas along the way back, over the lap, and where the separator is."""

    order: Order
    joined_pct: float
    cooler_pct: float | None
    """In what goes through the cooler; null: there is none."""
    tank_pct: float
    taken_out_pct: float
    """Of its gas that a separator takes out: a guess."""


class TankMarksOut(BaseModel):
    """Marks over the tank's floor, car level, engine running."""

    low_mm: float | None
    """Under it the outlet comes too near the surface; null: no lap to tell by."""
    expected_mm: float
    full_mm: float
    litres_a_cm: float
    start_falls_mm: float
    """How far it falls after a start, until the first oil is back."""
    start_s: float
    """When that is, at idle."""
    comes_down_l: float
    """What is up top and on its way while it idles: after a stop it lies in the pan."""


def without_out(build: Build, pan: Pan, forecast: SettledForecast) -> list[LostOut]:
    """The lap without each stage in turn."""
    return [
        LostOut(
            id=each.component, name=each.name, left_l=litres(each.left, 2),
            cover_mm=mm(each.least_cover),
            bare_after_s=None if each.bare_after is None else round(each.bare_after, 1),
            thrown_out_l=litres(each.thrown_out, 2),
        )
        for each in without_each_stage(build, pan, forecast.log)
    ]  # fmt: skip


def shared_out(build: Build, pan: Pan, forecast: SettledForecast, lap: DryLap) -> list[SharedOut]:
    """Each two pickups on one stage and on a stage each."""
    return [
        SharedOut(
            names=pair.names, is_built=pair.is_built, starved_s=round(pair.starved, 1),
            one_left_l=litres(pair.one.left, 2), each_left_l=litres(pair.each.left, 2),
            one_cover_mm=mm(pair.one.least_cover), each_cover_mm=mm(pair.each.least_cover),
        )
        for pair in shared_pairs(build, pan, forecast.log, lap)
    ]  # fmt: skip


def alike_out(build: Build) -> AlikeOut:
    """Why neither restrictors nor hoses of one length save the branch that is in oil."""
    restrictors, hoses = by_restrictors(build)
    return AlikeOut(restrictors_pct=round(100 * restrictors, 1), hoses_pct=round(100 * hoses, 1))


def carried_out(build: Build, lap: DryLap) -> CarriedOut | None:
    """Gas along the way back; None where no stage leads to the tank."""
    joined = 1.0 - float(lap.oil.sum()) / max(float(lap.swept.sum()), 1e-12)
    found = carried(build.circuit, min(max(joined, 0.0), 1.0))
    if found is None:
        return None
    return CarriedOut(
        order=found.order, joined_pct=round(100 * found.joined),
        cooler_pct=None if found.in_cooler is None else round(100 * found.in_cooler),
        tank_pct=round(100 * found.into_tank), taken_out_pct=round(100 * TAKEN_OUT),
    )  # fmt: skip


def marks_out(build: Build, sizes: Sequence[Sized], lap: DryLap | None) -> TankMarksOut:
    """The tank's marks: the low one from what its outlet needs, the others from its oil."""
    space = tank_space(tank_of(build))
    needed = next((row.wanted for row in sizes if row.key == "tank_oil"), None)
    running = oil_in_tank(build) if lap is None else float(np.median(lap.in_tank))
    marks = tank_marks(space, running, needed)
    down, first = after_a_start(build)
    return TankMarksOut(
        low_mm=None if marks.low is None else mm(marks.low), expected_mm=mm(marks.expected),
        full_mm=mm(marks.full), litres_a_cm=round(space.area * 10.0, 3),
        start_falls_mm=mm(down / space.area), start_s=round(first, 1), comes_down_l=litres(down, 2),
    )  # fmt: skip
