"""Checks of what is fitted and round the pan: figures gathered for the rules."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.crank import crank_gap
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.circuit.run import bore_of
from bilge_core.document.engine import Crank
from bilge_core.document.fitted import Boss
from bilge_core.document.inspection import Inspected
from bilge_core.document.plates import HorizontalPlate
from bilge_core.document.pump import GaugeReading
from bilge_core.document.records import NO_RECORDS, Records
from bilge_core.drains.laid import place_of_boss
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_gravity
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules import Check, around, bolts, bosses, crank, gauge, inspection, pickup
from bilge_core.settled import SettledLap, settle

_DRAINS = ("turbo_drain", "return")


@dataclass(frozen=True)
class _Situation:
    """The oil at rest in the car, and over the lap when there is one."""

    build: Build
    pan: Pan
    normal: Array
    level: float
    lap: SettledLap | None

    def under_oil(self, place: Array) -> float:
        """How deep a place is under the standing oil [m], negative above it."""
        return self.level - float(place @ self.normal)

    def time_under(self, place: Array) -> float | None:
        """For how long of the lap it is under oil [s]."""
        if self.lap is None:
            return None
        return float((self.lap.normals @ place < self.lap.levels).sum()) * self.lap.step


def _drain(at: _Situation, boss: Boss, field: str) -> Check:
    place = place_of_boss(boss)
    height = -at.under_oil(place) - boss.bore_mm * 0.5e-3
    return bosses.check_drain(boss.name, height, at.time_under(place), field)


def _plug(at: _Situation, boss: Boss, field: str) -> Check:
    lowest = float((at.pan.solid.vertices @ at.normal).min())
    left_in = float(place_of_boss(boss) @ at.normal) - boss.bore_mm * 0.5e-3 - lowest
    return bosses.check_plug(boss.name, left_in, field)


def _dipstick(at: _Situation, boss: Boss, field: str) -> Check | None:
    floor = at.pan.floor_at(boss.x_mm * 1e-3, boss.y_mm * 1e-3)
    if floor is None:
        return bosses.check_dipstick(boss.name, False, False, field)
    foot = np.array([boss.x_mm * 1e-3, boss.y_mm * 1e-3, floor])
    return bosses.check_dipstick(boss.name, True, at.under_oil(foot) >= 0.0, field)


def near_bolt(build: Build, boss: Boss, field: str) -> Check | None:
    """Whether a boss leaves room for a spanner at the pan's bolts."""
    gaps = [
        math.hypot(bolt.x_mm - boss.x_mm, bolt.y_mm - boss.y_mm) * 1e-3
        for bolt in (build.pan.flange.bolts if build.pan.flange else [])
    ]
    if not gaps:
        return None
    bore, depth = boss.bore_mm * 1e-3, boss.depth_mm * 1e-3
    return bosses.check_spanner(boss.name, min(gaps), bore, depth, field)


def _boss_checks(at: _Situation) -> list[Check | None]:
    found: list[Check | None] = []
    for index, boss in enumerate(at.build.pan.bosses):
        if boss.blocked:
            continue
        field = f"pan.bosses.{index}"
        if boss.kind in _DRAINS:
            found.append(_drain(at, boss, field))
        elif boss.kind == "drain_plug":
            found.append(_plug(at, boss, field))
        elif boss.kind == "dipstick":
            found.append(_dipstick(at, boss, field))
        if boss.fixing == "tapped":
            found.append(bosses.tapped(boss.name, f"{field}.fixing"))
        found.append(near_bolt(at.build, boss, field))
    return found


def _pickup_checks(build: Build, engine_speed: float) -> list[Check | None]:
    found: list[Check | None] = []
    tube, braces = build.circuit.suction, build.pickup.braces
    path = f"circuit.runs.{build.circuit.runs.index(tube)}" if tube else ""
    if tube is not None and tube.end.seal is not None:
        age = tube.end.age or "unknown"
        found.append(pickup.check_joint(tube.end.seal, age, f"{path}.end"))
    if braces is not None:
        found.append(pickup.check_braces(braces.at_bell, braces.at_tube))
    bore_mm = bore_of(tube.line) if tube else None
    if bore_mm is not None:
        bore = bore_mm * 1e-3
        speed = float(demanded_flow(build.circuit.pump, engine_speed)) / (math.pi / 4.0 * bore**2)
        found.append(
            pickup.check_tube(bore, speed, rpm_of_speed(engine_speed), f"{path}.line.bore_mm")
        )
    return found


def _trays(build: Build, throws: Crank) -> list[Check | None]:
    bottom = throws.height_mm - throws.swept_radius_mm
    return [
        crank.check_tray(
            plate.name, (bottom + plate.depth_mm) * 1e-3, plate.role == "windage_tray",
            f"pan.plates.{index}.depth_mm",
        )
        for index, plate in enumerate(build.pan.plates)
        if isinstance(plate, HorizontalPlate)
    ]  # fmt: skip


def _crank_checks(at: _Situation) -> list[Check | None]:
    scrapers: list[Check | None] = [
        crank.check_scraper(strip.name, strip.gap_mm * 1e-3, f"pan.scrapers.{index}.gap_mm")
        for index, strip in enumerate(at.build.pan.scrapers)
    ]
    throws = at.build.car.crank
    if throws is None:
        return scrapers
    standing = crank_gap(throws, at.normal[None, :], np.array([at.level]))
    found: list[Check | None] = [crank.check_standing(float(standing[0]))]
    if throws.assumed:
        found.append(crank.check_measured())
    if at.lap is not None:
        touches = crank_gap(throws, at.lap.normals, at.lap.levels) < 0.0
        found.append(crank.check_touched(float(touches.sum()) * at.lap.step))
    return [*found, *_trays(at.build, throws), *scrapers]


_WARM_C = 60.0  # [°C] from which a reading tells of the relief: cold oil goes far over it (ours)


def _gauge_checks(build: Build, readings: Sequence[GaugeReading]) -> list[Check | None]:
    relief = build.circuit.relief_bar
    if relief is None:
        return []
    below = sum(not gauge.is_on_relief(r.pressure_bar, relief) for r in readings)
    warm = [r.pressure_bar for r in readings if r.oil_temperature_c >= _WARM_C]
    highest = gauge.check_highest(max(warm), relief) if warm else None
    return [gauge.check_readings(below, len(readings)), highest]


def _bolt_checks(build: Build) -> list[Check | None]:
    pan = build.pan
    if pan.bolt_length_mm is None or pan.flange is None or not pan.flange.bolts:
        return []
    hole = min(bolt.diameter_mm for bolt in pan.flange.bolts)
    figures = (pan.bolt_length_mm, pan.flange.thickness_mm, hole, pan.spacer_mm)
    return [bolts.check_bolts(*(figure * 1e-3 for figure in figures))]


def _keep_out_checks(build: Build, pan: Pan) -> list[Check | None]:
    unmeasured: list[Check | None] = [
        around.check_measured(each.name, f"car.keep_outs.{at}")
        for at, each in enumerate(build.car.keep_outs)
        if each.assumed
    ]
    found = [
        around.check_keep_out(each.name, each.gap, each.wanted, f"car.keep_outs.{each.index}")
        for each in clearances(build, pan)
    ]
    if found and not any(found):
        return [*unmeasured, around.clear_of_all(len(found))]
    return [*unmeasured, *found]


def _inspection_checks(rows: Sequence[Inspected]) -> list[Check | None]:
    seen = {row.item for row in rows if row.found != "not_looked"}
    items = dict.fromkeys([*inspection.ITEMS, *(row.item for row in rows)]) if rows else {}
    unseen = sum(item not in seen for item in items)
    return [
        *(inspection.check_item(row.item, row.found, "records.inspection") for row in rows),
        inspection.check_unseen(unseen, len(items)),
    ]


def check_fitted(
    build: Build,
    pan: Pan,
    engine_speed: float,
    lap: SettledLap | None = None,
    records: Records = NO_RECORDS,
) -> list[Check]:
    """Check what is fitted to the pan and round it against the trade's rules.

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
    list of Check
        Nothing of what neither document nor records say.

    Raises
    ------
    InvalidQuantity
        If the engine speed is negative or not finite.

    References
    ----------
    Common practice, no published source; the limits that are ours say so.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import build_from, read_build
    >>> from bilge_core.pan import assemble_pan
    >>> raw = read_build(Path("demo/dunlin.json").read_text()).model_dump(mode="json")
    >>> raw["pan"]["bosses"] = [{"kind": "turbo_drain", "name": "turbo drain", "x_mm": 300,
    ...                          "y_mm": 107, "depth_mm": 100, "bore_mm": 16}]
    >>> build = build_from(raw)
    >>> [c.state for c in check_fitted(build, assemble_pan(build), 700.0) if "boss" in c.field]
    ['bad']
    """
    standing = settle(pan, standing_gravity(build.car))
    at = _Situation(build, pan, standing.normal, standing.level, lap)
    found = [
        *_keep_out_checks(build, pan),
        *_boss_checks(at),
        *_pickup_checks(build, engine_speed),
        *_crank_checks(at),
        *_gauge_checks(build, records.gauge_readings),
        *_bolt_checks(build),
        *_inspection_checks(records.inspection),
    ]
    return [check for check in found if check is not None]
