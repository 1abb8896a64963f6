"""A run: what lies between two ports."""

from __future__ import annotations

import itertools
import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from bilge_core.document.circuit.component import PortKey, Service
from bilge_core.document.circuit.route import laid
from bilge_core.document.ids import Id
from bilge_core.document.parts import Coordinate, Name, Part
from bilge_core.document.pickup import Bend
from bilge_core.errors import InvalidQuantity

Bore = Annotated[float, Field(gt=0, le=200)]
LONGEST_LINE = 10_000.0  # [mm]
MOST_CORNERS, MOST_FITTINGS = 60, 8
"""Of a run's route, both ends among them; at one end of a run."""
LineLength = Annotated[
    float, Field(gt=0, le=LONGEST_LINE, description="along its middle, bends counted")
]
Dash = Literal[3, 4, 6, 8, 10, 12, 16, 20, 24]


class Open(Part):
    """Nothing between: bolted on, or open to each other."""

    kind: Literal["open"]


class Passage(Part):
    """Cast or drilled passages, so many alike."""

    kind: Literal["passage"]
    bore_mm: Bore | None = None
    length_mm: LineLength | None = None
    count: int = Field(default=1, ge=1, le=40)


class Hose(Part):
    """A hose of a dash size, or of a bore where it has none."""

    kind: Literal["hose"]
    dash: Dash | None = Field(
        default=None, description="sixteenths of an inch of a tube's outside diameter"
    )
    bore_mm: Bore | None = None
    length_mm: LineLength | None = None
    sleeve: bool = Field(default=False, description="against heat")
    clips_mm: float | None = Field(default=None, gt=0, le=2000, description="a clip every so often")
    slack_mm: float | None = Field(
        default=None, ge=0, le=1000, description="more than its route, so that nothing pulls"
    )


class HardLine(Part):
    """A bent tube."""

    kind: Literal["hard_line"]
    dash: Dash | None = None
    bore_mm: Bore | None = None
    length_mm: LineLength | None = None
    bends: list[Bend] = Field(default=[], max_length=20)
    wall_mm: float | None = Field(default=None, gt=0, le=10, description="of the tube")
    sleeve: bool = False
    clips_mm: float | None = Field(default=None, gt=0, le=2000)


Line = Annotated[Open | Passage | Hose | HardLine, Field(discriminator="kind")]


class Waypoint(Part):
    """A place that a route goes through, and the bend's radius there."""

    at_mm: tuple[Coordinate, Coordinate, Coordinate]
    radius_mm: float | None = Field(default=None, gt=0, le=1000)


class End(Part):
    """One end of a run: the port, and what is screwed together before it."""

    component: Id
    port: PortKey
    fittings: list[Name] = Field(
        default=[], max_length=MOST_FITTINGS, description="from the port to the line"
    )
    seal: Literal["o_ring", "gasket", "liquid", "brazed", "none"] | None = None
    age: Literal["new", "reused", "unknown"] | None = Field(default=None, description="of its seal")
    narrowest_mm: float | None = Field(
        default=None, gt=0, le=100, description="bore of the narrowest of its fittings"
    )
    leak_mm: float | None = Field(
        default=None, ge=0, le=10, description="hole that would let in as much air; null: tight"
    )
    hose_end_deg: Literal[0, 45, 90] | None = Field(
        default=None, description="how its hose end turns; null: straight"
    )


class Run(Part):
    """A line from one port to another, in the direction in which it flows."""

    id: Id = ""
    name: Name
    service: Service
    start: End
    end: End
    line: Line
    route: list[Waypoint] = Field(default=[], max_length=MOST_CORNERS)
    assumed: bool = Field(default=False, description="its figures are a template's")

    @model_validator(mode="after")
    def _one_length(self) -> Run:
        if self.route and getattr(self.line, "length_mm", None) is not None:
            raise ValueError("a run with a route has that route's length: leave its length out")
        return self


def bore_of(line: Open | Passage | Hose | HardLine) -> float | None:
    """Bore of a line [mm]: as measured, else of its dash size; None where neither is known.

    Notes
    -----
    A dash number is a tube's outside diameter in sixteenths of an inch (common practice, no
    published source); the wall taken off is 0.035 in (from memory). A hose of that size has about
    the tube's bore.

    Examples
    --------
    >>> round(bore_of(Hose(kind="hose", dash=10)), 1)
    14.1
    >>> bore_of(Hose(kind="hose", dash=10, bore_mm=14.3)), bore_of(Open(kind="open"))
    (14.3, None)
    """
    if isinstance(line, Open):
        return None
    if line.bore_mm is not None:
        return line.bore_mm
    dash = None if isinstance(line, Passage) else line.dash
    return None if dash is None else (dash / 16.0 - 2 * 0.035) * 25.4


def length_of(run: Run) -> float | None:
    """Length of a run [mm]: its route's where it has one, else as measured; None where neither is.

    A route is counted with its bends where they have a radius, and a hose's slack with it. One
    that cannot be laid (two points that are one, a leg shorter than its bends) counts from point
    to point; whoever draws it says so.

    Examples
    --------
    >>> ends = {"component": "c1", "port": "a"}
    >>> by = [{"at_mm": (0, 0, 0)}, {"at_mm": (300, 0, 0)}, {"at_mm": (300, 400, 0)}]
    >>> line = {"kind": "hose", "dash": 10, "slack_mm": 20}
    >>> length_of(Run(name="to the cooler", service="pressure", start=ends, end=ends,
    ...               line=line, route=by))
    720.0
    """
    if isinstance(run.line, Open):
        return None
    if len(run.route) < 2:
        return run.line.length_mm
    slack = (run.line.slack_mm or 0.0) if isinstance(run.line, Hose) else 0.0
    points = [each.at_mm for each in run.route]
    try:
        way = laid(points, [each.radius_mm or 0.0 for each in run.route[1:-1]])
    except InvalidQuantity:
        return sum(math.dist(a, b) for a, b in itertools.pairwise(points)) + slack
    if min(way.straights) < 0.0:
        return sum(math.dist(a, b) for a, b in itertools.pairwise(points)) + slack
    return way.length + slack


def contents_of(run: Run) -> float | None:
    """Oil that a full line holds [m3]; None where bore or length is not known.

    Examples
    --------
    >>> ends = {"component": "c1", "port": "a"}
    >>> hose = Hose(kind="hose", dash=10, length_mm=1000)
    >>> line = Run(name="to it", service="pressure", start=ends, end=ends, line=hose)
    >>> round(contents_of(line) * 1e3, 3)  # litres
    0.156
    """
    bore, length = bore_of(run.line), length_of(run)
    if bore is None or length is None:
        return None
    count = run.line.count if isinstance(run.line, Passage) else 1
    return count * math.pi / 4.0 * (bore * 1e-3) ** 2 * length * 1e-3
