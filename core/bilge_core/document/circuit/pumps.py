"""Where oil is sucked and pumped, and what limits the pressure."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from bilge_core.document.circuit.component import Component, Port, port
from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Name, Part
from bilge_core.document.pump import USUAL_FILLING_PCT, FlowPoint, LowStage
from bilge_core.physics.arrays import Array


class PanRegion(Component):
    """A part of the pan that oil lies in; ports besides its own are the pan's bosses, by id."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("pickup", "at the mouth", "out", "suction", "scavenge", many=True),
        port("returns", "back into the pan", "in", "drain", "return", many=True),
    )
    kind: Literal["pan_region"]


class ScavengeMouth(Part):
    """A scavenge pickup's mouth, facing the floor."""

    x_mm: Coordinate = Field(description="ahead of the rear face of the rail")
    y_mm: Coordinate = Field(description="left of the crank's centreline")
    gap_mm: float = Field(ge=0, le=60, description="above the floor below it")
    diameter_mm: float = Field(ge=5, le=120)


class PickupTube(Component):
    """A pickup: mouth below, tube to a pump above.

    Its mouth's place is the pan's, or a place of its own where a dry sump has several.
    """

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("mouth", "mouth", "in", "suction", "scavenge"),
        port("outlet", "to the pump", "out", "suction", "scavenge"),
    )
    kind: Literal["pickup"]
    mouth_at: ScavengeMouth | None = None


class PressureStage(Component):
    """A stage that feeds the engine.

    When a flow point is given, the displacement follows from it.
    """

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", "suction"),
        port("relief_return", "return of its relief", "in", "return"),
        port("outlet", "outlet", "out", "pressure"),
    )
    kind: Literal["pressure_stage"]
    displacement_cm3: float = Field(gt=0, le=500, description="per turn of the pump")
    drive_ratio: float = Field(gt=0, le=4, description="pump turns per turn of the crank")
    flow_point: FlowPoint | None = None
    low_stage: LowStage | None = None
    driven_by: Name | None = Field(default=None, description="shaft, gear or belt that turns it")

    def displacement_at(self, engine_rpm: Array | float) -> Array:
        """Per turn [cm3] at a crank speed: a two-stage pump is in its low mode below a switch-over.

        Unplugged it stays in the high one (common practice, no published source).
        """
        low = self.low_stage
        if low is None or low.unplugged:
            return np.full_like(np.asarray(engine_rpm, dtype=np.float64), self.displacement_cm3)
        below = np.asarray(engine_rpm) < low.up_to_rpm
        return np.asarray(np.where(below, low.displacement_cm3, self.displacement_cm3))

    def swept_l_min(self, engine_rpm: float) -> float:
        """What it would deliver, quite filled, at a crank speed [L/min].

        Examples
        --------
        >>> PressureStage(kind="pressure_stage", name="pump", displacement_cm3=12,
        ...               drive_ratio=0.5).swept_l_min(6000)
        36.0
        """
        return float(self.displacement_at(engine_rpm)) * self.drive_ratio * engine_rpm / 1e3

    @model_validator(mode="before")
    @classmethod
    def _by_flow_point(cls, raw: Any) -> Any:
        if not isinstance(raw, dict) or not isinstance(raw.get("flow_point"), dict):
            return raw
        point = raw["flow_point"]
        figures = [
            point.get("flow_l_min"),
            point.get("engine_rpm"),
            point.get("filling_pct", USUAL_FILLING_PCT),
            raw.get("drive_ratio"),
        ]
        if not all(
            isinstance(f, int | float) and not isinstance(f, bool) and f > 0 for f in figures
        ):
            return raw
        flow, rpm, filling, ratio = (float(f) for f in figures)
        return {**raw, "displacement_cm3": round(flow * 1e3 / (rpm * ratio * filling / 100.0), 4)}


class ScavengeStage(Component):
    """A stage that pulls oil back; it takes gas as well."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", "scavenge"),
        port("outlet", "outlet", "out", "return"),
    )
    kind: Literal["scavenge_stage"]
    displacement_cm3: float = Field(gt=0, le=500, description="per turn of the pump")
    drive_ratio: float = Field(gt=0, le=4, description="pump turns per turn of the crank")
    driven_by: Name | None = None


class Relief(Component):
    """A valve that lets oil back where the pressure that it senses is over its opening."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", "pressure"),
        port("outlet", "outlet", "out", "pressure"),
        port("bypass", "what it lets go", "out", "return", bypass=True),
    )
    kind: Literal["relief"]
    opens_bar: float | None = Field(default=None, gt=0, le=30)
    bore_mm: float | None = Field(default=None, gt=0, le=60)
    senses: Id = Field(
        default="", description="the component whose pressure opens it; empty: its own inlet"
    )


class Regulator(Component):
    """A regulator outside the engine, its bypass led to a named place."""

    PORTS: ClassVar[tuple[Port, ...]] = Relief.PORTS
    kind: Literal["regulator"]
    opens_bar: float | None = Field(default=None, gt=0, le=30)
    bore_mm: float | None = Field(default=None, gt=0, le=60)
    senses: Id = ""
