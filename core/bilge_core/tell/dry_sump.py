"""A dry sump as everybody reads it: sizes, stages, tank, and which stage draws what."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Separator
from bilge_core.document.circuit.feeding import Cooler, PlateCooler
from bilge_core.forecast.settled import SettledForecast
from bilge_core.loads.corners import Corner
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules import State
from bilge_core.scavenge.belt import drive_teeth
from bilge_core.scavenge.by_corner import by_corner
from bilge_core.scavenge.lap import DryLap, oil_of_stage, stages_of
from bilge_core.scavenge.rose import scavenge_rose
from bilge_core.scavenge.sizing import Sized, sizing
from bilge_core.scavenge.stages import Stage, scavenged
from bilge_core.scavenge.tank import tank_of, tank_space
from bilge_core.scavenge.way_back import along
from bilge_core.tell.drive import DriveOut, drive_out
from bilge_core.tell.dry_what_if import (
    AlikeOut,
    CarriedOut,
    LostOut,
    SharedOut,
    TankMarksOut,
    alike_out,
    carried_out,
    marks_out,
    shared_out,
    without_out,
)
from bilge_core.tell.numbers import litres, mm

_SHOWN: dict[str, tuple[str, float, int]] = {
    "m3/s": ("x_l_min", 60e3, 1), "m3": ("x_l", 1e3, 2), "m": ("x_mm", 1e3, 1),
    "Pa": ("x_bar", 1e-5, 2), "1/min": ("x_rpm", 1.0, 0), "1": ("", 1.0, 2), "s": ("s", 1.0, 1),
    "m/s": ("m/s", 1.0, 1),
}  # fmt: skip
"""From a size's unit to a field that is shown in it, the factor, and how far it is told."""
_HARD = 90  # [%] of the lap's loads are below the one that the rose is drawn for (ours)
_MOST_POINTS = 900


class SizedOut(BaseModel):
    """One size, wanted against found; `field` ends in the unit of both, or is that unit."""

    key: str
    name: str
    at: str
    field: str
    wanted: float | None
    wanted_most: float | None
    found: float | None
    state: State
    why: str
    source: str


class StageOut(BaseModel):
    """A scavenge stage; its mouths by their places among all."""

    id: str
    name: str
    displacement_cm3: float
    drive_ratio: float
    mouths: list[int]


class DryMouthOut(BaseModel):
    """A scavenge mouth, the engine's frame."""

    id: str
    name: str
    x_mm: float
    y_mm: float
    diameter_mm: float


class TankOut(BaseModel):
    """A tank's inside."""

    id: str
    name: str
    volume_l: float
    height_mm: float
    length_mm: float
    width_mm: float
    is_round: bool
    outlet: str
    outlet_off_mm: float
    """How far its outlet is from the middle."""
    has_separator: bool
    has_cooler: bool


class InCornerOut(BaseModel):
    """A corner, and its worst second."""

    number: int
    name: str
    hand: str
    peak_g: float
    at_s: float
    shares: list[float]
    """Of oil in what each stage draws over the corner."""
    worst: float
    """Of oil in what all stages draw in its worst second."""
    brings: list[float]
    left_l: float


class DryTracesOut(BaseModel):
    """Over the lap."""

    time_s: list[float]
    pan_l: list[float]
    tank_l: list[float]
    cover_mm: list[float]
    shares: list[list[float]]
    """Of oil in what each stage draws, stage by stage."""
    flows_l_min: list[list[float]]
    """What each stage sweeps."""
    joined: list[float]
    """Of gas where all that they bring comes together, ahead of separator and cooler."""
    in_cooler: list[float]
    """Of gas in the cooler; empty: there is none."""
    into_tank: list[float]
    """Of gas in what comes into the tank."""
    coming_back_l: list[float]
    """Oil in the lines between stages and tank."""
    lost_l: float


class DryRoseOut(BaseModel):
    """Oil left lying under a steady load, by where it is thrown; null: the stages never keep up."""

    thrown_deg: list[float]
    left_l: list[float | None]
    capacity: list[float]
    load_g: float


class DryOverLapOut(BaseModel):
    """A dry sump over a lap, by one model."""

    model: str
    corners: list[InCornerOut]
    traces: DryTracesOut


class DrySumpOut(BaseModel):
    """All of a dry sump but its runs."""

    sizes: list[SizedOut]
    stages: list[StageOut]
    mouths: list[DryMouthOut]
    tank: TankOut
    marks: TankMarksOut
    outline_mm: list[tuple[float, float]]
    """Of the pan's rail."""
    depth_mm: float
    over_lap: DryOverLapOut | None
    rose: DryRoseOut | None
    without: list[LostOut]
    """The lap without each stage in turn; empty without a lap."""
    shared: list[SharedOut]
    """Each two pickups on one stage and on a stage each; empty without a lap."""
    alike: AlikeOut
    carried: CarriedOut | None
    drive: DriveOut | None
    """The belt that turns the pump; null: nobody said, or its wheels touch."""
    drives: list[tuple[int, int]]
    """Pulleys that give the pump's ratio: teeth at the crank, teeth at the pump."""
    also: list[str]
    """What else must be done."""


ALSO = (
    "The old pump and its drive come out, or its passage is blocked with a plate.",
    "The gallery is fed by a line of its own; the old feed passage is plugged.",
    "A bracket carries the pump, its belt in line with the crank's pulley; check the belt's line "
    "with a straight edge.",
    "The old dipstick hole is blanked: the level is read at the tank, engine running.",
    "The tank sits where neither a wheel nor a wall reaches it in a crash, its drain on the "
    "outside, mounted to hold.",
)
"""Common practice, no published source."""


def _sized(row: Sized) -> SizedOut:
    field, factor, places = _SHOWN[row.unit]

    def told(value: float | None) -> float | None:
        return None if value is None else round(value * factor, places)

    return SizedOut(
        key=row.key, name=row.name, at=row.at, field=field, wanted=told(row.wanted),
        wanted_most=told(row.wanted_most), found=told(row.found), state=row.state, why=row.why,
        source=row.source,
    )  # fmt: skip


def _tank(build: Build) -> TankOut:
    tank = tank_of(build)
    space = tank_space(tank)
    off = float(np.hypot(space.outlet.centre[0], space.outlet.centre[1]))
    coolers = [*build.circuit.of_kind(Cooler), *build.circuit.of_kind(PlateCooler)]
    return TankOut(
        id=tank.id, name=tank.name, volume_l=litres(space.volume), height_mm=mm(space.height),
        length_mm=mm(2.0 * space.half_length), width_mm=mm(2.0 * space.half_width),
        is_round=space.is_round, outlet=tank.outlet, outlet_off_mm=mm(off),
        has_separator=bool(build.circuit.of_kind(Separator)), has_cooler=bool(coolers),
    )  # fmt: skip


@dataclass(frozen=True)
class DryOver:
    """A dry sump over time, whatever model gave it, SI; as `DryLap` has it."""

    time: Array
    swept: Array
    oil: Array
    in_pan: Array
    in_tank: Array
    cover: Array
    lost: float = 0.0


def over_lap_out(
    build: Build, model: str, over: DryOver, corners: Sequence[Corner]
) -> DryOverLapOut:
    """A dry sump over a lap, by a model."""
    every = slice(None, None, 1 + len(over.time) // _MOST_POINTS)
    shares = over.oil / np.maximum(over.swept, 1e-12)
    back = along(build, over.time, over.swept, over.oil, every.step)
    found = by_corner(over.time, over.swept, over.oil, over.in_pan, corners)
    return DryOverLapOut(
        model=model,
        corners=[
            InCornerOut(
                number=each.corner.number, name=each.corner.name or "", hand=each.corner.hand,
                peak_g=round(each.corner.peak_g, 2), at_s=round(each.start, 2),
                shares=each.shares.round(3).tolist(), worst=round(each.worst, 3),
                brings=each.brings.round(3).tolist(), left_l=litres(each.left, 2),
            )
            for each in found
        ],
        traces=DryTracesOut(
            time_s=over.time[every].round(2).tolist(),
            pan_l=(over.in_pan[every] * 1e3).round(2).tolist(),
            tank_l=(over.in_tank[every] * 1e3).round(2).tolist(),
            cover_mm=(over.cover[every] * 1e3).round().tolist(),
            shares=shares[every].T.round(2).tolist(),
            flows_l_min=(over.swept[every].T * 60e3).round(1).tolist(),
            joined=back.joined.round(2).tolist(),
            in_cooler=[] if back.in_cooler is None else back.in_cooler.round(2).tolist(),
            into_tank=back.into_tank.round(2).tolist(),
            coming_back_l=(back.held * 1e3).round(2).tolist(), lost_l=litres(over.lost, 2),
        ),
    )  # fmt: skip


def settled_over_lap(build: Build, lap: DryLap, corners: Sequence[Corner]) -> DryOverLapOut:
    """By settled oil."""
    over = DryOver(
        lap.time, lap.swept, lap.oil, lap.in_pan, lap.in_tank, lap.cover, lap.lost
    )  # fmt: skip
    return over_lap_out(build, "Settled oil", over, corners)


def _rose(build: Build, pan: Pan, forecast: SettledForecast, lap: DryLap) -> DryRoseOut:
    log = forecast.log
    load = float(np.percentile(np.hypot(log.forward, log.leftward), _HARD)) / STANDARD_GRAVITY
    returned = float(np.percentile(lap.returned, _HARD))
    speed = float(np.percentile(log.engine_speed, _HARD))
    rose = scavenge_rose(build, pan, max(returned, 1e-6), max(speed, 1.0), load)
    return DryRoseOut(
        thrown_deg=np.degrees(rose.thrown).round(1).tolist(),
        left_l=[None if np.isinf(each) else round(each * 1e3, 2) for each in rose.left],
        capacity=rose.capacity.round(2).tolist(), load_g=round(load, 2),
    )  # fmt: skip


def dry_sump_out(build: Build, pan: Pan, forecast: SettledForecast | None) -> DrySumpOut:
    """A dry sump; over a lap where there is one.

    Parameters
    ----------
    build : Build
        With a tank.
    pan : Pan
        As assembled from it.
    forecast : SettledForecast or None
        Of it over a lap.

    Raises
    ------
    InvalidInput
        If a mouth is outside the pan, or its circuit cannot be run.
    """
    stages, mouths = scavenged(build, pan)
    lap = None if forecast is None else forecast.lap.dry
    over = None
    if forecast is not None and lap is not None:
        over = settled_over_lap(build, lap, forecast.corners)
    log = None if forecast is None else forecast.log
    sizes = sizing(build, log, lap)
    return DrySumpOut(
        sizes=[_sized(row) for row in sizes],
        stages=[
            StageOut(
                id=each.component, name=each.name, displacement_cm3=round(each.per_turn * 1e6, 2),
                drive_ratio=each.ratio, mouths=list(each.mouths),
            )
            for each in stages
        ],
        mouths=[
            DryMouthOut(
                id=each.component, name=each.name, x_mm=mm(float(each.mouth.centre[0])),
                y_mm=mm(float(each.mouth.centre[1])), diameter_mm=mm(2.0 * each.mouth.half_length),
            )
            for each in mouths
        ],
        tank=_tank(build), marks=marks_out(build, sizes, lap),
        outline_mm=[(mm(x), mm(y)) for x, y in pan.rail.exterior.coords],
        depth_mm=mm(float(-pan.solid.vertices[:, 2].min())),
        over_lap=over,
        rose=None if forecast is None or lap is None else _rose(build, pan, forecast, lap),
        without=[] if forecast is None or lap is None else without_out(build, pan, forecast),
        shared=[] if forecast is None or lap is None else shared_out(build, pan, forecast, lap),
        alike=alike_out(build),
        carried=None if lap is None else carried_out(build, lap),
        drive=drive_out(build), drives=list(drive_teeth(stages[0].ratio)),
        also=list(ALSO),
    )  # fmt: skip


def drawn_by_stages(
    stages: Sequence[StageOut], rpm: Array, gas: Sequence[Array]
) -> tuple[Array, Array]:
    """What stages sweep and the oil of it [m3/s], of a run's mouths; shapes (n, stages).

    Parameters
    ----------
    stages : sequence of StageOut
    rpm : ndarray, shape (n,)
        Of the crank.
    gas : sequence of ndarray, shape (n,)
        Share of it in what each of the pan's mouths swallowed.

    Examples
    --------
    >>> one = StageOut(id="c1", name="a", displacement_cm3=30, drive_ratio=0.5, mouths=[0, 1])
    >>> gas = [np.array([0.0, 0.4, 0.0]), np.array([0.0, 0.2, 0.9])]
    >>> swept, oil = drawn_by_stages([one], np.full(3, 6000.0), gas)
    >>> (swept * 60e3).round(1).ravel().tolist(), (oil * 60e3).round(1).ravel().tolist()
    ([90.0, 90.0, 90.0], [90.0, 63.0, 9.0])
    """
    drawing = [
        Stage(
            each.id, each.name, each.displacement_cm3 * 1e-6, each.drive_ratio, tuple(each.mouths)
        )
        for each in stages
    ]
    speed, of_mouths = speed_of_rpm(rpm), np.column_stack(gas)
    swept = np.column_stack([each.swept(speed) for each in drawing])
    stage_of = stages_of(drawing, len(gas))
    share = np.array([
        [oil_of_stage(row, stage_of, number) for number in range(len(drawing))] for row in of_mouths
    ])  # fmt: skip
    return swept, swept * share
