"""Where oil does its work in the engine, and what it falls back through."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from bilge_core.document.circuit.calibration import Bearings, JetsTold
from bilge_core.document.circuit.component import Component, Port, port


class Gallery(Component):
    """The main gallery with the bearings that it feeds."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("feed", "feed", "in", "pressure"),
        port("second_feed", "second feed", "in", "pressure"),
        port("bearings", "bearings", "out", "drain"),
        port("tappings", "tapping", "out", "pressure", many=True),
    )
    kind: Literal["gallery"]
    bearings: Bearings | None = Field(
        default=None, description="what gauge readings told; set by calibrating alone"
    )
    jets: JetsTold | None = Field(
        default=None, description="what they told of the jets; set by calibrating alone"
    )


class Jets(Component):
    """Piston cooling jets."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("feed", "feed", "in", "pressure"),
        port("spray", "spray", "out", "drain"),
    )
    kind: Literal["jets"]
    count: int = Field(ge=1, le=32)
    bore_mm: float = Field(gt=0, le=10)
    opens_bar: float | None = Field(default=None, ge=0, le=20)


class Head(Component):
    """A head or cam box: oil lies on its floor until it drains."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("feed", "feed", "in", "pressure"),
        port("drains", "drain", "out", "drain", many=True),
        port("gas", "breathing", "both", "vent", many=True),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {"feed": ("drains",), "gas": ("gas",)}
    kind: Literal["head"]
    floor_length_mm: float | None = Field(default=None, gt=0, le=1500)
    floor_width_mm: float | None = Field(default=None, gt=0, le=600)
    wall_height_mm: float | None = Field(default=None, gt=0, le=300)


class TimingChest(Component):
    """The space round chain or gears that oil falls through on its way to the pan."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("oil_in", "oil in", "in", "drain", many=True),
        port("oil_out", "oil out", "out", "drain"),
        port("gas", "breathing", "both", "vent", many=True),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {"oil_in": ("oil_out",), "gas": ("gas",)}
    kind: Literal["timing_chest"]


class Crankcase(Component):
    """The space round the crank: oil thrown off falls through it, blow-by fills it."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("oil_in", "oil in", "in", "drain", "return", many=True),
        port("oil_out", "down to the pan", "out", "drain", many=True),
        port("gas", "breathing", "both", "vent", many=True),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {"oil_in": ("oil_out",), "gas": ("gas",)}
    kind: Literal["crankcase"]
    blow_by_l_min: float | None = Field(
        default=None, ge=0, le=2000, description="gas past the rings at full power, measured"
    )


class Turbo(Component):
    """A turbocharger: fed, and drained."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("feed", "oil feed", "in", "pressure"),
        port("drain", "oil drain", "out", "drain", "scavenge"),
    )
    kind: Literal["turbo"]
    bearing: Literal["journal", "ball"] | None = None
    drain_bore_mm: float | None = Field(default=None, gt=0, le=60)
    gasket_mm: float | None = Field(
        default=None, gt=0, le=60, description="the hole in its drain flange's gasket"
    )
    seal_height_mm: float | None = Field(
        default=None, gt=0, le=200, description="its shaft's seals over the drain's flange"
    )
