"""A dry sump's tank and separator, and where gas goes."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from bilge_core.document.circuit.component import Component, Port, port


class Tank(Component):
    """A dry sump's tank: upright in the car, a cylinder, or a box where it has length and width."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("returns", "oil back", "in", "return", many=True),
        port("outlet", "to the pressure stage", "out", "suction"),
        port("gas", "breathing", "both", "vent", many=True),
        port("drain", "drain", "out", "drain"),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {
        "returns": ("outlet", "drain"),
        "gas": ("gas",),
    }
    kind: Literal["tank"]
    volume_l: float = Field(gt=0, le=60)
    diameter_mm: float | None = Field(default=None, gt=0, le=600)
    height_mm: float | None = Field(default=None, gt=0, le=1500)
    length_mm: float | None = Field(default=None, gt=0, le=1000, description="of a box, along")
    width_mm: float | None = Field(default=None, gt=0, le=1000, description="of a box, across")
    outlet: Literal["middle", "front", "rear", "left", "right"] = Field(
        default="middle", description="where in its floor the pump draws, the car's own sides"
    )
    outlet_mm: float = Field(default=28.0, ge=8, le=80, description="bore of the outlet")


class Separator(Component):
    """A separator that takes gas out of scavenged oil."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", "return"),
        port("outlet", "oil out", "out", "return"),
        port("gas", "gas out", "out", "vent"),
    )
    kind: Literal["separator"]


class Breather(Component):
    """An opening to the air, with a filter on it or a hose to the intake."""

    PORTS: ClassVar[tuple[Port, ...]] = (port("inlet", "inlet", "in", "vent", many=True),)
    kind: Literal["breather"]
    opening_mm: float | None = Field(
        default=None, gt=0, le=100, description="its narrowest, as a bore"
    )


class CatchCan(Component):
    """A can that keeps the oil that gas carries."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("gas_in", "gas in", "in", "vent", many=True),
        port("gas_out", "gas out", "out", "vent"),
        port("drain", "drain", "out", "drain"),
    )
    kind: Literal["catch_can"]
    volume_l: float = Field(gt=0, le=20)
