"""What a check offers to mend, done."""

from __future__ import annotations

import numpy as np
import shapely

from bilge_core.document.build import Build
from bilge_core.document.plates import VerticalPlate
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan import assemble_pan
from bilge_core.rules import Fix


def mended_by(build: Build, fix: Fix, field: str) -> Build:
    """The build after the fix that a check offers.

    Parameters
    ----------
    build : Build
    fix : {"turn_gate", "carry_to_wall"}
    field : str
        The check's own.

    Returns
    -------
    Build

    Raises
    ------
    InvalidInput
        If there is no such plate, opening or gate.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> turned = mended_by(build, "turn_gate", "pan.plates.0.openings.0.gate.swings")
    >>> turned.pan.plates[0].openings[0].gate.swings
    'left'
    """
    keys = field.split(".")
    number = int(keys[2])
    plate = build.pan.plates[number] if number < len(build.pan.plates) else None
    if not isinstance(plate, VerticalPlate):
        raise InvalidInput([Problem(field, "is no vertical plate of this build")])
    if fix == "carry_to_wall":
        return _carried(build, plate, number, keys[-1])
    at = int(keys[4]) if keys[3] == "openings" else -1
    gate = plate.openings[at].gate if 0 <= at < len(plate.openings) else None
    if gate is None:
        raise InvalidInput([Problem(field, "is no gate of this build")])
    document = build.model_dump(mode="json")
    turned = {"left": "right", "right": "left"}[gate.swings]
    document["pan"]["plates"][number]["openings"][at]["gate"]["swings"] = turned
    return build_from(document)


def _carried(build: Build, plate: VerticalPlate, number: int, end: str) -> Build:
    """One end of a plate carried on along its own line to the next wall."""
    here = np.array(plate.from_mm if end == "from_mm" else plate.to_mm)
    start = np.array(plate.to_mm if end == "from_mm" else plate.from_mm)
    along = (here - start) / np.hypot(*(here - start))
    walls = assemble_pan(build).plan
    ray = shapely.LineString([here * 1e-3, here * 1e-3 + along * 10.0])
    hits = shapely.get_parts(ray.intersection(walls.boundary))
    if len(hits) == 0:
        return build
    reach = min(float(shapely.Point(here * 1e-3).distance(hit)) for hit in hits)
    document = build.model_dump(mode="json")
    document["pan"]["plates"][number][end] = (here + along * reach * 1e3).round(0).tolist()
    return build_from(document)
