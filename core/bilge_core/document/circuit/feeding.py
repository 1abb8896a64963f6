"""What lies between the pump and the engine: filters, plates, coolers, bottle."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from bilge_core.document.circuit.component import OIL, Component, Port, Service, port
from bilge_core.document.parts import Part

_FILTERED: tuple[Service, ...] = ("pressure", "return")


class Drop(Part):
    """The pressure that a part takes, as its maker gives it: hot oil, clean."""

    drop_bar: float = Field(gt=0, le=20)
    flow_l_min: float = Field(gt=0, le=2000)


class Filter(Component):
    """A filter on its pad, or on a plate upon it."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", *_FILTERED),
        port("outlet", "outlet", "out", *_FILTERED),
    )
    kind: Literal["filter"]
    bypass_bar: float | None = Field(
        default=None, gt=0, le=10, description="at which its bypass opens"
    )
    drop: Drop | None = None


class RemoteFilter(Component):
    """A base for one or two filters away from the block, with two ports a side."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("in_left", "inlet, left", "in", *_FILTERED),
        port("in_right", "inlet, right", "in", *_FILTERED),
        port("out_left", "outlet, left", "out", *_FILTERED),
        port("out_right", "outlet, right", "out", *_FILTERED),
    )
    kind: Literal["remote_filter"]
    filters: Literal[1, 2]
    bypass_bar: float | None = Field(default=None, gt=0, le=10)
    drop: Drop | None = None


_TAKE_OFF: dict[str, tuple[str, ...]] = {
    "inlet": ("cooler_out", "outlet"),
    "cooler_in": ("outlet",),
}


class SandwichPlate(Component):
    """A plate under the filter that sends oil round by the cooler."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "from the block", "in", "pressure"),
        port("cooler_out", "to the cooler", "out", "pressure"),
        port("cooler_in", "from the cooler", "in", "pressure"),
        port("outlet", "to the filter", "out", "pressure"),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = _TAKE_OFF
    kind: Literal["sandwich_plate"]
    thermostat_c: float | None = Field(
        default=None, ge=20, le=150, description="at which it opens to the cooler; null: none"
    )


class TakeOffPlate(Component):
    """A plate in the filter's place, for lines to a filter elsewhere."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "from the block", "in", "pressure"),
        port("line_out", "to the remote filter", "out", "pressure"),
        port("line_in", "from the remote filter", "in", "pressure"),
        port("outlet", "to the block", "out", "pressure"),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {
        "inlet": ("line_out",),
        "line_in": ("outlet",),
    }
    kind: Literal["take_off_plate"]


class Thermostat(Component):
    """A thermostat in the lines that opens the way to the cooler."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", *_FILTERED),
        port("cooler_out", "to the cooler", "out", *_FILTERED),
        port("cooler_in", "from the cooler", "in", *_FILTERED),
        port("outlet", "outlet", "out", *_FILTERED),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = _TAKE_OFF
    kind: Literal["thermostat"]
    opens_c: float | None = Field(default=None, ge=20, le=150)
    bleeds: bool = Field(default=True, description="a little goes round by the cooler while cold")


class Cooler(Component):
    """A cooler in the air."""

    PORTS: ClassVar[tuple[Port, ...]] = Filter.PORTS
    kind: Literal["cooler"]
    rating_kw: float | None = Field(default=None, gt=0, le=200)
    rated_over_kelvin: float | None = Field(
        default=None, ge=5, le=150,
        description="between oil and what cools it, at which its maker rates it",
    )  # fmt: skip
    drop: Drop | None = None


class PlateCooler(Component):
    """A plate heat exchanger between oil and water."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        *Filter.PORTS,
        port("water_in", "water in", "in", "water"),
        port("water_out", "water out", "out", "water"),
    )
    WAYS: ClassVar[dict[str, tuple[str, ...]] | None] = {
        "inlet": ("outlet",),
        "water_in": ("water_out",),
    }
    kind: Literal["plate_cooler"]
    rating_kw: float | None = Field(default=None, gt=0, le=200)
    rated_over_kelvin: float | None = Field(
        default=None, ge=5, le=150,
        description="between oil and what cools it, at which its maker rates it",
    )  # fmt: skip
    drop: Drop | None = None


class WaterSource(Component):
    """Where a plate cooler's water comes from and goes back to."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("flow", "flow", "out", "water", many=True),
        port("back", "back", "in", "water", many=True),
    )
    kind: Literal["water_source"]
    water_c: float | None = Field(default=None, ge=-20, le=140)
    flow_l_min: float | None = Field(default=None, gt=0, le=2000)


class Accumulator(Component):
    """A bottle with gas behind its oil. A pressure vessel."""

    PORTS: ClassVar[tuple[Port, ...]] = (port("line", "its line", "both", "pressure"),)
    kind: Literal["accumulator"]
    volume_l: float = Field(gt=0, le=20, description="of gas and oil together")
    precharge_bar: float | None = Field(
        default=None, ge=0, le=30, description="gas alone, at 20 °C, on a gauge"
    )
    rating_bar: float | None = Field(default=None, gt=0, le=100, description="its maker's")


class CheckValve(Component):
    """A valve that lets one way only."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("inlet", "inlet", "in", *OIL),
        port("outlet", "outlet", "out", *OIL),
    )
    kind: Literal["check_valve"]
    opens_bar: float | None = Field(default=None, ge=0, le=10)
    bore_mm: float | None = Field(default=None, gt=0, le=60)
