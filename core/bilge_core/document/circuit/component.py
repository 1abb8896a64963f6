"""What every component of the circuit is: a thing with ports, at a place."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Name, Part

Service = Literal["suction", "pressure", "return", "scavenge", "drain", "vent", "water"]
"""What a run carries. *Suction* goes to a pressure stage, *scavenge* to a scavenge stage, *return*
is oil under pressure on its way back, *drain* oil that falls, *vent* gas."""

Way = Literal["in", "out", "both"]

OIL: frozenset[Service] = frozenset({"suction", "pressure", "return", "scavenge", "drain"})


@dataclass(frozen=True)
class Port:
    """One port of a kind of component.

    key : by which runs name it
    words : as the trade would say it
    way : which way what it carries goes through it, seen from the component
    services : what may be joined to it
    many : a space with any number of openings or tappings; it need not be joined or plugged
    bypass : what goes back from a relief, which is no way for the oil that is wanted
    """

    key: str
    words: str
    way: Way
    services: frozenset[Service]
    many: bool = False
    bypass: bool = False


def port(
    key: str,
    words: str,
    way: Way,
    *services: Service,
    many: bool = False,
    bypass: bool = False,
) -> Port:
    """A port that takes some services.

    Examples
    --------
    >>> sorted(port("vent", "vent", "both", "vent", many=True).services)
    ['vent']
    """
    return Port(key, words, way, frozenset(services), many, bypass)


class Place(Part):
    """Where a component sits, in the engine's frame of the document or in the car's."""

    fixed_to: Literal["engine", "car"] = "engine"
    at_mm: tuple[Coordinate, Coordinate, Coordinate]


PortKey = Annotated[str, Field(pattern=r"^[a-z][a-z_0-9]{0,39}$")]
"""A port of the kind's table, or a boss of the pan by its id."""


Faces = Literal["ahead", "behind", "left", "right", "up", "down"]


class PortAt(Part):
    """Where a port differs from what its kind's table says."""

    port: PortKey
    thread: Name | None = None
    at_mm: tuple[Coordinate, Coordinate, Coordinate] | None = None
    faces: Faces | None = Field(
        default=None, description="which way a line leaves it, in its component's own frame"
    )


class Component(Part):
    """Something in the circuit that has a thread at both ends or a pressure drop of its own."""

    PORTS: ClassVar[tuple[Port, ...]] = ()
    WAYS: ClassVar[Mapping[str, tuple[str, ...]] | None] = None
    """From a port to those that what came in there leaves by; None: every one to every other."""

    id: Id = ""
    name: Name
    place: Place | None = None
    plugged: list[PortKey] = Field(default=[], max_length=20)
    ports: list[PortAt] = Field(default=[], max_length=20)
    holds_l: float | None = Field(
        default=None, ge=0, le=40, description="oil that it holds while the engine runs, hot"
    )
    assumed: bool = Field(
        default=False, description="its figures are a template's: nobody measured them"
    )

    @classmethod
    def port_of(cls, key: str) -> Port | None:
        """The port of a key; None where its kind has none such."""
        return next((each for each in cls.PORTS if each.key == key), None)

    @classmethod
    def from_port(cls, key: str) -> tuple[Port, ...]:
        """The ports that leave what came in at one, its own apart."""
        if cls.WAYS is not None:
            keys = cls.WAYS.get(key, ())
        else:
            keys = tuple(each.key for each in cls.PORTS if each.key != key)
        return tuple(each for each in cls.PORTS if each.key in keys and each.way != "in")
