"""What is known of a pump besides its displacement, and what the gauge read."""

from __future__ import annotations

from pydantic import Field

from bilge_core.document.parts import Part

USUAL_FILLING_PCT = 90.0
"""Of a pump's displacement that comes out where nobody knows it (from memory)."""


class FlowPoint(Part):
    """What the pump was seen to deliver at one speed."""

    flow_l_min: float = Field(gt=0, le=2000)
    engine_rpm: float = Field(ge=100, le=20_000)
    filling_pct: float = Field(
        default=USUAL_FILLING_PCT,
        gt=10,
        le=100,
        description="of its displacement that it delivered there (volumetric)",
    )


class LowStage(Part):
    """The low mode of a two-stage pump; unplugged it stays in the high one."""

    displacement_cm3: float = Field(gt=0, le=500, description="per turn of the pump, in low mode")
    up_to_rpm: float = Field(ge=300, le=12_000, description="crank speed of the switch-over")
    relief_bar: float | None = Field(default=None, gt=0, le=30)
    unplugged: bool = False


class GaugeReading(Part):
    """Gallery pressure as the gauge showed it."""

    engine_rpm: float = Field(ge=100, le=20_000)
    pressure_bar: float = Field(ge=0, le=30)
    oil_temperature_c: float = Field(ge=-20, le=180)
