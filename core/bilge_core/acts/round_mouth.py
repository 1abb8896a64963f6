"""The room round the mouth that plates are laid out in, and their names."""

from __future__ import annotations

import math
from dataclasses import dataclass

from bilge_core.acts.act import Length
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.pickup.demand import demanded_flow
from bilge_core.rules.plates import DISCHARGE, HEAD

_FASTEST = 6500.0  # [rpm] where the build does not say its own (ours)
_ROUND_MOUTH = 9.0  # [mm] that an opening leaves round the mouth (ours: a hand's fit)

LEAK = {"rubber": 4.0, "metal": 12.0}
"""Of a shut gate's opening [%], by its leaf. Ours: metal seals less (common practice has no
figure)."""


@dataclass(frozen=True)
class Room:
    """The box in plan of the zone that the mouth is in, and its least depth [mm]."""

    rear: float
    front: float
    right: float
    left: float
    depth: float


def room_at_mouth(build: Build) -> Room:
    """The room of the zone that the mouth stands in.

    Raises
    ------
    InvalidInput
        If it stands over no zone.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> room_at_mouth(read_build(Path("demo/dunlin.json").read_text()))
    Room(rear=212.0, front=452.0, right=-107.0, left=107.0, depth=138.0)
    """
    x, y = build.pickup.x_mm, build.pickup.y_mm
    for zone in build.pan.zones:
        rear, right, front, left = zone.polygon.bounds
        if rear <= x <= front and right <= y <= left:
            return Room(rear, front, right, left, zone.floor.shallowest_mm)
    raise InvalidInput([Problem("pickup.x_mm", "stands over no zone of the pan")])


def opening_for(build: Build) -> Length:
    """The side of a square opening over the mouth [mm]: what the pump asks, and room for the bell.

    Notes
    -----
    ``Q = C A sqrt(2 g h)`` with the head that `bilge_core.rules.plates.HEAD` allows.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> opening_for(read_build(Path("demo/dunlin.json").read_text()))
    64.0
    """
    flow = float(demanded_flow(build.circuit.pump, speed_of_rpm(build.car.top_rpm or _FASTEST)))
    area = flow / (DISCHARGE * math.sqrt(2.0 * STANDARD_GRAVITY * HEAD.most))
    mouth = build.pickup.mouth
    across = mouth.diameter_mm if mouth.kind == "round" else max(mouth.length_mm, mouth.width_mm)
    return float(math.ceil(max(math.sqrt(area) * 1e3, across + 2.0 * _ROUND_MOUTH)))
