"""The pump, and what the gauge read, as the build document holds them."""

from __future__ import annotations

from typing import Any

from pydantic import Field, model_validator

from bilge_core.document.parts import Part


class FlowPoint(Part):
    """What the pump was seen to deliver at one speed."""

    flow_l_min: float = Field(gt=0, le=2000)
    engine_rpm: float = Field(ge=100, le=20_000)
    filling_pct: float = Field(
        gt=10, le=100, description="of its displacement that it delivered there (volumetric)"
    )


class LowStage(Part):
    """The low mode of a two-stage pump; unplugged it stays in the high one."""

    displacement_cm3: float = Field(gt=0, le=500, description="per turn of the pump, in low mode")
    up_to_rpm: float = Field(ge=300, le=12_000, description="crank speed of the switch-over")
    relief_bar: float | None = Field(default=None, gt=0, le=30)
    unplugged: bool = False


class Pump(Part):
    """What the pump swallows.

    When a flow point is given, the displacement follows from it.
    """

    displacement_cm3: float = Field(gt=0, le=500, description="per turn of the pump")
    drive_ratio: float = Field(gt=0, le=4, description="pump turns per turn of the crank")
    flow_point: FlowPoint | None = None
    low_stage: LowStage | None = None
    relief_bar: float | None = Field(
        default=None, gt=0, le=30, description="at which the relief valve opens"
    )

    @model_validator(mode="before")
    @classmethod
    def _by_flow_point(cls, raw: Any) -> Any:
        if not isinstance(raw, dict) or not isinstance(raw.get("flow_point"), dict):
            return raw
        point = raw["flow_point"]
        figures = [
            point.get("flow_l_min"),
            point.get("engine_rpm"),
            point.get("filling_pct"),
            raw.get("drive_ratio"),
        ]
        if not all(
            isinstance(f, int | float) and not isinstance(f, bool) and f > 0 for f in figures
        ):
            return raw
        flow, rpm, filling, ratio = (float(f) for f in figures)
        return {**raw, "displacement_cm3": round(flow * 1e3 / (rpm * ratio * filling / 100.0), 4)}


class GaugeReading(Part):
    """Gallery pressure as the gauge showed it."""

    engine_rpm: float = Field(ge=100, le=20_000)
    pressure_bar: float = Field(ge=0, le=30)
    oil_temperature_c: float = Field(ge=-20, le=180)
