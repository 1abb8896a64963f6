"""What joins lines, shuts them or takes a tapping: no more than a thread at each end."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from bilge_core.document.circuit.component import OIL, Component, Port, Service, port

_ANY: tuple[Service, ...] = (*OIL, "vent", "water")
_THROUGH = (port("a", "one end", "both", *_ANY), port("b", "other end", "both", *_ANY))


class Tee(Component):
    """Three ways that meet."""

    PORTS: ClassVar[tuple[Port, ...]] = (*_THROUGH, port("c", "branch", "both", *_ANY))
    kind: Literal["tee"]


class SenderTee(Component):
    """A tapping for a gauge or a sender in a line."""

    PORTS: ClassVar[tuple[Port, ...]] = _THROUGH
    kind: Literal["sender_tee"]


class Bulkhead(Component):
    """A fitting through a wall."""

    PORTS: ClassVar[tuple[Port, ...]] = _THROUGH
    kind: Literal["bulkhead"]


class ShutOffValve(Component):
    """A valve that is opened and shut by hand or by current."""

    PORTS: ClassVar[tuple[Port, ...]] = _THROUGH
    kind: Literal["shut_off_valve"]
    worked: Literal["by_hand", "electric"]
    opens_bar: float | None = Field(
        default=None, gt=0, le=30, description="of an electric one: under which it opens"
    )
    bore_mm: float | None = Field(default=None, gt=0, le=60)


class Restrictor(Component):
    """A small hole that limits a flow."""

    PORTS: ClassVar[tuple[Port, ...]] = _THROUGH
    kind: Literal["restrictor"]
    bore_mm: float = Field(gt=0, le=30)


class DrainCock(Component):
    """A cock at the lowest point."""

    PORTS: ClassVar[tuple[Port, ...]] = (port("inlet", "inlet", "in", *_ANY),)
    kind: Literal["drain_cock"]


class Cover(Component):
    """A block-off plate or cover that may carry tappings."""

    PORTS: ClassVar[tuple[Port, ...]] = (
        port("tappings", "tapping", "both", *OIL, "vent", many=True),
    )
    kind: Literal["cover"]
