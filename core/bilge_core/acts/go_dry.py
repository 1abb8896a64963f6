"""From a wet sump to a dry one, as one act: pan, pickups, stages, tank, lines and oil."""

from __future__ import annotations

import math
from typing import Literal

import shapely
from pydantic import Field
from shapely.ops import nearest_points
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, most
from bilge_core.acts.plumbing import OPEN, Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.document.circuit.run import Dash
from bilge_core.document.drive import BeltDrive, PumpBody
from bilge_core.document.ids import Document
from bilge_core.errors import InvalidInput
from bilge_core.network import held_running
from bilge_core.oil import GRADES, hot_volume_ratio
from bilge_core.pan import assemble_pan
from bilge_core.pan.filling import LYING
from bilge_core.physics.pulleys import radius_of
from bilge_core.quantities import si_from
from bilge_core.scavenge.belt import drive_teeth
from bilge_core.scavenge.drive import made_taut, nearest_belt
from bilge_core.scavenge.tank import SLIM

_MOUTH = 25.0  # [mm] across a scavenge pickup's mouth (ours)
_GAP = 8.0  # [mm] of it over the floor: as any mouth (common practice, 6.4 to 9.5)
_IN = 26.0  # [mm] from the walls to a mouth's middle (ours)
_PITCH, _WIDTH = 8.0, 25.0  # [mm] of a belt (ours)
_CLEAR = 6.0  # pitches between pulleys beyond half their radii (ours)
_LOW = 25.0  # [deg] below the level that the pump lies, seen from the crank (ours)
_NOSE = 45.0  # [mm] of the crank's pulley ahead of the rail (ours)
_ENDS, _A_STAGE, _ROUND = 45.0, 34.0, 110.0  # [mm] of a pump: ends, each stage, across (ours)
_TANK_OUT_OF = 0.62
"""Share of a tank that is oil as it runs (ours: the rest is for foam and what comes back)."""

_PLACES: dict[int, tuple[tuple[str, float, float], ...]] = {
    2: (("front", 1.0, 0.5), ("rear", 0.0, 0.5)),
    3: (("front", 1.0, 0.5), ("rear right", 0.0, 0.0), ("rear left", 0.0, 1.0)),
    4: (("front right", 1.0, 0.0), ("front left", 1.0, 1.0), ("rear right", 0.0, 0.0),
        ("rear left", 0.0, 1.0)),
}  # fmt: skip
"""Where scavenge pickups go, along and across the pan (ours)."""


class GoDry(Act):
    """A shallow pan with scavenge pickups, a stage for each, a tank, and a pump that draws from it.

    Sizes are plausible and invented; everything is edited one by one afterwards.
    """

    kind: Literal["go_dry"]
    depth_mm: Length = Field(default=70.0, description="of the shallow pan, below the rail")
    pickups: Literal[2, 3, 4] = 3
    ratio: float = Field(
        default=2.6, gt=0, le=8, description="of what all stages sweep over the pressure stage"
    )
    tank_l: Typed = Field(default=9.0, le=most(Tank, "volume_l"))
    separator: Literal["ahead", "after", "none"] = Field(
        default="ahead", description="of the cooler in the return"
    )
    cooler: bool = True
    turbos: Literal["pan", "own_stage"] = "pan"
    dash: Dash = 12

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if circuit.of_kind("tank"):
            raise refused("kind", "is dry already: it has a tank")
        if self.depth_mm <= 2.0 * _GAP:
            raise refused("depth_mm", f"must be deeper than {2 * _GAP:g} mm: mouths go into it")
        spots = self._new_pan(build, circuit.document)
        pan, pump = circuit.only("pan_region"), circuit.only("pressure_stage")
        self._off_the_bosses(circuit)
        for old in circuit.of_kind("pickup"):
            circuit.drop(old)
        suction = circuit.run_into(pump, "inlet")
        if suction is not None:
            circuit.drop_run(suction)
        outlets = self._scavenge(circuit, pan, pump, spots)
        tank = self._tank(circuit, pump)
        self._returns(circuit, outlets, tank)
        pump["driven_by"] = "dry sump belt"
        self._drive(build, circuit, len(outlets))
        words = (
            f"dry sump: pan {self.said('depth_mm')} deep, {self.pickups} scavenge stages, "
            f"tank of {self.said('tank_l', 'L')}"
        )
        return circuit.done_with_oil(words, self.poured_l)

    def _new_pan(self, build: Build, document: Document) -> list[tuple[str, float, float]]:
        """A flat pan within the same rail; names and places of the mouths in it."""
        rail = assemble_pan(build).rail
        ring = [(round(x * 1e3, 1), round(y * 1e3, 1)) for x, y in rail.exterior.coords[:-1]]
        document["pan"] |= {
            "zones": [
                {"name": "shallow pan", "outline_mm": ring,
                 "floor": {"kind": "flat", "depth_mm": self.depth_mm}}
            ],
            "plates": [], "bosses": [], "dip_marks": [], "made": None,
        }  # fmt: skip
        inside = shapely.Polygon(ring).buffer(-_IN)
        if inside.is_empty:
            raise refused("kind", f"needs a rail wider than {2 * _IN:g} mm")
        x0, y0, x1, y1 = inside.bounds
        spots = []
        for name, along, across in _PLACES[self.pickups]:
            wanted = shapely.Point(x0 + along * (x1 - x0), y0 + across * (y1 - y0))
            near = nearest_points(inside, wanted)[0]
            spots.append((name, round(near.x, 1), round(near.y, 1)))
        document["pickup"] |= {
            "x_mm": spots[0][1], "y_mm": spots[0][2], "gap_mm": _GAP,
            "mouth": {"kind": "round", "diameter_mm": _MOUTH},
        }  # fmt: skip
        return spots

    def _off_the_bosses(self, circuit: Plumbing) -> None:
        """Lines that ended at the old pan's bosses come back into the pan anywhere."""
        pan = circuit.only("pan_region")
        for run in circuit.runs:
            if run["end"]["component"] == pan["id"]:
                run["end"]["port"] = "returns"

    def _scavenge(
        self, circuit: Plumbing, pan: Document, pump: Document,
        spots: list[tuple[str, float, float]],
    ) -> list[Document]:  # fmt: skip
        ratio = pump["drive_ratio"]
        turbos = circuit.of_kind("turbo") if self.turbos == "own_stage" else []
        each = round(self.ratio * pump["displacement_cm3"] / (len(spots) + len(turbos)), 2)
        stages, last = [], pump
        for at, (name, x, y) in enumerate(spots):
            own = {"x_mm": x, "y_mm": y, "gap_mm": _GAP, "diameter_mm": _MOUTH}
            tube = circuit.add(
                "pickup", f"{name} pickup", after=last, mouth_at=own if at else None, assumed=True
            )
            last = circuit.add(
                "scavenge_stage", f"{name} stage", after=tube, displacement_cm3=each,
                drive_ratio=ratio, driven_by="dry sump belt", assumed=True,
            )  # fmt: skip
            circuit.join(f"{name} mouth", "scavenge", (pan, "pickup"), (tube, "mouth"), OPEN)
            line = hose(self.dash)
            circuit.join(f"{name} scavenge", "scavenge", (tube, "outlet"), (last, "inlet"), line)
            stages.append(last)
        for turbo in turbos:
            last = circuit.add(
                "scavenge_stage", f"{turbo['name']}'s stage", after=last, displacement_cm3=each,
                drive_ratio=ratio, driven_by="dry sump belt", assumed=True,
            )  # fmt: skip
            drain = circuit.run_from(turbo, "drain")
            if drain is not None:
                circuit.drop_run(drain)
            name = f"drain of the {turbo['name']}"
            circuit.join(name, "scavenge", (turbo, "drain"), (last, "inlet"), hose(10))
            stages.append(last)
        return stages

    def _tank(self, circuit: Plumbing, pump: Document) -> Document:
        radius = (self.tank_l * 1e6 / (2.0 * math.pi * SLIM)) ** (1.0 / 3.0)
        tank = circuit.add(
            "tank", "oil tank", volume_l=self.tank_l, diameter_mm=round(2.0 * radius),
            outlet="middle", assumed=True,
        )  # fmt: skip
        cock = circuit.add("drain_cock", "tank's drain cock", after=tank, assumed=True)
        circuit.join("to the drain cock", "drain", (tank, "drain"), (cock, "inlet"), OPEN)
        circuit.join("tank to the pump", "suction", (tank, "outlet"), (pump, "inlet"), hose(16))
        breathers = circuit.of_kind("catch_can")
        if breathers:
            end = (breathers[0], "gas_in")
        else:
            found = circuit.of_kind("breather")
            end = (found[0] if found else circuit.add("breather", "breather"), "inlet")
        circuit.join("breathing of the tank", "vent", (tank, "gas"), end, hose(12))
        return tank

    def _returns(self, circuit: Plumbing, stages: list[Document], tank: Document) -> None:
        """All stages' outlets joined, through separator and cooler into the tank."""
        here = (stages[0], "outlet")
        for stage in stages[1:]:
            tee = circuit.add("tee", "scavenge tee", after=stage, assumed=True)
            circuit.join("to the tee", "return", here, (tee, "a"), hose(self.dash))
            circuit.join("to the tee", "return", (stage, "outlet"), (tee, "b"), hose(self.dash))
            here = (tee, "c")
        parts = {
            "ahead": ["separator", *(["cooler"] if self.cooler else [])],
            "after": [*(["cooler"] if self.cooler else []), "separator"],
            "none": ["cooler"] if self.cooler else [],
        }[self.separator]
        for kind in parts:
            name = "separator" if kind == "separator" else "scavenge cooler"
            part = circuit.add(kind, name, after=here[0], assumed=True)
            circuit.join(f"to the {name}", "return", here, (part, "inlet"), hose(16))
            if kind == "separator":
                gas = (tank, "gas")
                circuit.join("gas to the tank", "vent", (part, "gas"), gas, hose(10))
            here = (part, "outlet")
        circuit.join("back to the tank", "return", here, (tank, "returns"), hose(16))

    def _drive(self, build: Build, circuit: Plumbing, stages: int) -> None:
        """A belt to a pump low on the engine's right, in line; none where no pulleys give it."""
        pulleys = drive_teeth(circuit.only("pressure_stage")["drive_ratio"])
        if not pulleys:
            return
        ahead = max(x for x, _ in assemble_pan(build).rail.exterior.coords) * 1e3
        crank, pump = pulleys[0]
        apart = 1.5 * (radius_of(_PITCH, crank) + radius_of(_PITCH, pump)) + _PITCH * _CLEAR
        low = math.radians(_LOW)
        drive = BeltDrive(
            pitch_mm=_PITCH, width_mm=_WIDTH, crank_teeth=crank, pump_teeth=pump, belt_teeth=100,
            across_mm=round(-apart * math.cos(low), 1), up_mm=round(-apart * math.sin(low), 1),
            crank_x_mm=round(ahead + _NOSE, 1), assumed=True,
            body=PumpBody(length_mm=_ENDS + _A_STAGE * (stages + 1), diameter_mm=_ROUND),
        )  # fmt: skip
        drive = drive.model_copy(update={"belt_teeth": nearest_belt(drive)})
        circuit.document["drive"] = made_taut(drive).model_dump(mode="json")

    def poured_l(self, made: Build) -> float:
        """What is poured [L]: what the engine and its lines hold, what lies in the pan, and the
        tank's share.
        """
        try:
            held = held_running(made).total * 1e3
        except InvalidInput:
            held = made.oil.away_l
        hot = held + LYING * 1e3 + _TANK_OUT_OF * self.tank_l
        temperature = si_from(made.oil.temperature_c, "temperature", "°C")
        return round(hot / hot_volume_ratio(GRADES[made.oil.grade], temperature), 2)
