"""What a check offers to mend, as acts."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
import shapely
from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, at, build_with, place_of
from bilge_core.acts.mend_drains import DRAIN_MENDS, DrainMend
from bilge_core.document.build import Build
from bilge_core.document.plates import VerticalPlate
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan import assemble_pan
from bilge_core.rules import Check

_OTHER_HAND = {"left": "right", "right": "left"}


class TurnGate(Act):
    """A gate hung to swing the other way."""

    kind: Literal["turn_gate"]
    gate: str

    @override
    def done(self, build: Build) -> Done:
        path = place_of(build, self.gate, "gate")
        document = build.model_dump(mode="json")
        gate = at(document, path)
        if path[-1] != "gate":
            raise InvalidInput([Problem("gate", "must be a gate, by its id")])
        gate["swings"] = _OTHER_HAND[gate["swings"]]
        name = at(document, path[:-1])["name"]
        return Done(build_with(build, document), f"gate {name} turned round")


class CarryToWall(Act):
    """One end of an upright plate carried on along its own line to the next wall."""

    kind: Literal["carry_to_wall"]
    plate: str
    end: Literal["start", "end"]

    @override
    def done(self, build: Build) -> Done:
        path = place_of(build, self.plate, "plate")
        number = int(path[2]) if path[:2] == ["pan", "plates"] and len(path) == 3 else -1
        plate = build.pan.plates[number] if number >= 0 else None
        if not isinstance(plate, VerticalPlate):
            raise InvalidInput([Problem("plate", "must be an upright plate, by its id")])
        carried = _carried(build, plate, number, self.end)
        return Done(carried, f"plate {plate.name} carried to the wall")


Mend = Annotated[TurnGate | CarryToWall | DrainMend, Field(discriminator="kind")]
"""What a check can offer."""


def _carried(
    build: Build, plate: VerticalPlate, number: int, end: Literal["start", "end"]
) -> Build:
    key = "from_mm" if end == "start" else "to_mm"
    here, start = (np.array(each) for each in (plate.from_mm, plate.to_mm))
    if end == "end":
        here, start = start, here
    along = (here - start) / np.hypot(*(here - start))
    walls = assemble_pan(build).plan
    ray = shapely.LineString([here * 1e-3, here * 1e-3 + along * 10.0])
    hits = shapely.get_parts(ray.intersection(walls.boundary))
    if len(hits) == 0:
        return build
    reach = min(float(shapely.Point(here * 1e-3).distance(hit)) for hit in hits)
    document = build.model_dump(mode="json")
    document["pan"]["plates"][number][key] = (here + along * reach * 1e3).round(0).tolist()
    return build_with(build, document)


def mend_of(build: Build, check: Check) -> Mend | None:
    """The act that mends what a check of a build found; None where there is nothing to mend.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.rules import gates
    >>> build = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> field = "pan.plates.0.openings.0.gate.swings"
    >>> mend_of(build, gates.gate_swings_away("G3", "P1", field)).gate
    'g26'
    """
    if check.fix is None:
        return None
    if check.fix in DRAIN_MENDS:
        return DRAIN_MENDS[check.fix](build, check)
    steps: list[Any] = [int(step) if step.isdigit() else step for step in check.field.split(".")]
    part = at(build.model_dump(), steps[:-1])["id"]
    if check.fix == "turn_gate":
        return TurnGate(kind="turn_gate", gate=part)
    end: Literal["start", "end"] = "start" if steps[-1] == "from_mm" else "end"
    return CarryToWall(kind="carry_to_wall", plate=part, end=end)
