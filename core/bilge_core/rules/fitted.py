"""Checks of what is fitted: bosses, pickup tube and joint, tray, scraper, gauge readings."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.crank import crank_gap
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.fitted import Boss
from bilge_core.document.plates import HorizontalPlate
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_gravity
from bilge_core.physics.turns import rpm_of_speed
from bilge_core.pickup.demand import ON_RELIEF, demanded_flow
from bilge_core.rules.check import Check
from bilge_core.settled import SettledLap, settle

QUICK_TUBE = 3.0
"""Speed of oil in a pickup tube above which it is said to be quick [m/s] (ours)."""

SPANNER_ROOM = 12e-3
"""From a pan bolt's middle to the side of a boss [m] (ours: a small socket's half width)."""

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

    def time_under(self, place: Array) -> float:
        """For how long of the lap it is under oil [s]."""
        if self.lap is None:
            return 0.0
        return float((self.lap.normals @ place < self.lap.levels).sum()) * self.lap.step


def _place(boss: Boss) -> Array:
    return np.array([boss.x_mm, boss.y_mm, -boss.depth_mm]) * 1e-3


def _drain(at: _Situation, boss: Boss, field: str) -> Check:
    place = _place(boss)
    deep = at.under_oil(place) * 1e3 + boss.bore_mm / 2.0
    if deep > 0.0:
        return Check(
            "bad",
            f"{boss.name} enters {deep:.0f} mm under the standing oil; a drain enters above it, "
            "or it cannot drain",
            field,
        )
    under = at.time_under(place)
    if under > 0.05:
        return Check(
            "caution",
            f"{boss.name} enters {-deep:.0f} mm above the standing oil, but is under it for "
            f"{under:.1f} s of the lap",
            field,
        )
    lap = " and all the lap" if at.lap is not None else ""
    return Check("good", f"{boss.name} enters {-deep:.0f} mm above the oil, standing{lap}", field)


def _plug(at: _Situation, boss: Boss, field: str) -> Check:
    lowest = float((at.pan.solid.vertices @ at.normal).min())
    left_in = (float(_place(boss) @ at.normal) - boss.bore_mm * 0.5e-3 - lowest) * 1e3
    if left_in > 8.0:
        return Check(
            "caution",
            f"{boss.name} sits {left_in:.0f} mm above the lowest point: oil stays behind it when "
            "it is drained",
            field,
        )
    return Check("good", f"{boss.name} drains to the lowest point, car level", field)


def _dipstick(at: _Situation, boss: Boss, field: str) -> Check | None:
    floor = at.pan.floor_at(boss.x_mm * 1e-3, boss.y_mm * 1e-3)
    if floor is None:
        return Check(
            "bad",
            f"{boss.name} is not over the pan any more: a sump that moved leaves its old dipstick "
            "hole to be blocked",
            field,
        )
    foot = np.array([boss.x_mm * 1e-3, boss.y_mm * 1e-3, floor])
    if at.under_oil(foot) < 0.0:
        return Check(
            "caution", f"{boss.name} stands over a floor that no standing oil covers", field
        )
    return None


def _fixing(build: Build, boss: Boss, field: str) -> Check | None:
    if boss.fixing != "tapped":
        return None
    return Check(
        "bad",
        f"{boss.name} is tapped into the pan's wall: too thin for a thread. Weld a boss, or use a "
        "through-fitting with a nut inside and sealing washers",
        f"{field}.fixing",
    )


def _near_bolt(build: Build, boss: Boss, field: str) -> Check | None:
    if build.pan.flange is None or boss.depth_mm > 45.0:
        return None
    reach = boss.bore_mm * 0.5e-3 + SPANNER_ROOM
    gaps = [
        math.hypot(bolt.x_mm - boss.x_mm, bolt.y_mm - boss.y_mm) * 1e-3
        for bolt in build.pan.flange.bolts
    ]
    if not gaps or min(gaps) >= reach:
        return None
    return Check(
        "caution",
        f"{boss.name} is {min(gaps) * 1e3:.0f} mm from a pan bolt: no spanner gets on that bolt",
        field,
    )


def _boss_checks(at: _Situation) -> list[Check]:
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
        found += [_fixing(at.build, boss, field), _near_bolt(at.build, boss, field)]
    return [check for check in found if check is not None]


def _pickup_checks(build: Build, engine_speed: float) -> list[Check]:
    found = []
    joint, braces, tube = build.pickup.joint, build.pickup.braces, build.pickup.tube
    if joint is not None and joint.seal != "brazed":
        if joint.seal == "none":
            found.append(
                Check(
                    "bad",
                    "The pickup joint has no seal: it is a suction joint and draws air at any g",
                    "pickup.joint.seal",
                )
            )
        elif joint.age != "new":
            old = "used before" if joint.age == "reused" else "of unknown age"
            found.append(
                Check(
                    "caution",
                    f"The pickup joint's seal is {old}: renew it before any remedy, an old one "
                    "draws air at any g and looks like slosh",
                    "pickup.joint.age",
                )
            )
        else:
            found.append(Check("good", "The pickup joint has a new seal", "pickup.joint"))
    if braces is not None and not braces.at_tube:
        where = "at its bell only" if braces.at_bell else "at its joint only"
        found.append(
            Check(
                "caution",
                f"The pickup is held {where}: the tube flexes and cracks along its edge; brace it "
                "at the tube as well",
                "pickup.braces.at_tube",
            )
        )
    if tube is not None:
        flow = float(demanded_flow(build.pump, engine_speed))
        speed = flow / (math.pi / 4.0 * (tube.bore_mm * 1e-3) ** 2)
        rpm = rpm_of_speed(engine_speed)
        found.append(
            Check(
                "caution" if speed > QUICK_TUBE else "good",
                f"Oil goes up the {tube.bore_mm:.0f} mm tube at {speed:.1f} m/s at {rpm:.0f} rpm"
                + (": quick for a suction line" if speed > QUICK_TUBE else ""),
                "pickup.tube.bore_mm",
            )
        )
    return found


def _crank_checks(at: _Situation) -> list[Check]:
    crank = at.build.car.crank
    if crank is None:
        return []
    standing = crank_gap(at.build, at.normal[None, :], np.array([at.level]))
    assert standing is not None
    gap = float(standing[0]) * 1e3
    found = [
        Check(
            "good" if gap > 0.0 else "bad",
            f"Standing oil is {gap:.0f} mm below the crank's swept circle"
            if gap > 0.0
            else f"Standing oil reaches {-gap:.0f} mm into the crank's swept circle: too much oil",
            "car.crank",
        )
    ]
    if at.lap is not None:
        moving = crank_gap(at.build, at.lap.normals, at.lap.levels)
        assert moving is not None
        touched = float((moving < 0.0).sum()) * at.lap.step
        if touched > 0.0:
            found.append(
                Check(
                    "caution",
                    f"Settled oil reaches the crank's swept circle for {touched:.1f} s of the lap",
                    "car.crank",
                )
            )
    bottom = crank.height_mm - crank.swept_radius_mm
    for index, plate in enumerate(at.build.pan.plates):
        if not isinstance(plate, HorizontalPlate):
            continue
        room = bottom + plate.depth_mm
        if plate.role == "windage_tray" or room < 0.0:
            words = (
                f"{plate.name} clears the crank's swept circle by {room:.0f} mm"
                if room >= 0.0
                else f"{plate.name} reaches {-room:.0f} mm into the crank's swept circle"
            )
            found.append(
                Check("good" if room > 3.0 else "bad", words, f"pan.plates.{index}.depth_mm")
            )
    return found


def _gauge_checks(build: Build) -> list[Check]:
    relief = build.pump.relief_bar
    if not build.gauge_readings or relief is None:
        return []
    free = [r for r in build.gauge_readings if r.pressure_bar < ON_RELIEF * relief]
    if free:
        return [
            Check(
                "good",
                f"{len(free)} of {len(build.gauge_readings)} gauge readings are below the relief's "
                "opening and say what the engine drinks",
                "gauge_readings",
            )
        ]
    return [
        Check(
            "caution",
            "Every gauge reading is on the relief valve, which says nothing of the engine's "
            "demand: read one hot at middling rpm",
            "gauge_readings",
        )
    ]


def _keep_out_checks(build: Build, pan: Pan) -> list[Check]:
    found = []
    for each in clearances(build, pan):
        gap, wanted = each.gap * 1e3, each.wanted * 1e3
        field = f"car.keep_outs.{each.index}"
        if gap < 0.0:
            words = f"The pan reaches {-gap:.0f} mm into the {each.name}"
            found.append(Check("bad", words, field))
        elif gap < wanted:
            words = f"{gap:.0f} mm to the {each.name}, {wanted:.0f} mm wanted"
            found.append(Check("caution", words, field))
    if build.car.keep_outs and not found:
        count = len(build.car.keep_outs)
        found.append(Check("good", f"Clear of all {count} keep-outs", "car.keep_outs"))
    return found


def _inspection_checks(build: Build) -> list[Check]:
    found = []
    for index, row in enumerate(build.pan.inspection):
        field = f"pan.inspection.{index}"
        if row.found == "replace":
            found.append(Check("bad", f"{row.item}: to be mended or replaced", field))
        elif row.found == "watch":
            found.append(Check("caution", f"{row.item}: to be watched", field))
    open_rows = sum(row.found == "not_looked" for row in build.pan.inspection)
    if build.pan.inspection and open_rows:
        words = f"{open_rows} of {len(build.pan.inspection)} things not yet looked at"
        found.append(Check("caution", words, "pan.inspection"))
    return found


def check_fitted(
    build: Build, pan: Pan, engine_speed: float, lap: SettledLap | None = None
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

    Returns
    -------
    list of Check
        Nothing of what the document does not say.

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
    return [
        *_keep_out_checks(build, pan),
        *_boss_checks(at),
        *_pickup_checks(build, engine_speed),
        *_crank_checks(at),
        *_gauge_checks(build),
        *_inspection_checks(build),
    ]
