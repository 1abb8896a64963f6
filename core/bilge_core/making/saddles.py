"""Saddles that a dry sump's round tank stands in, cut of sheet."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely

from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.making.flat import FlatPart, Note

_RUBBER = 3e-3  # [m] between tank and saddle (ours)
_BESIDE = 30e-3  # [m] of saddle beside the tank (ours)
_BEHIND = 40e-3  # [m] between the tank and what the saddle is bolted to (ours)
_THICK = 3e-3  # [m] (ours)
_BOLT = 9e-3  # [m] hole for an M8 (ISO 273, medium series: from memory)


def saddle_parts(build: Build) -> Iterator[FlatPart]:
    """Two saddles for each round tank whose diameter is said; boxes stand on angles.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> [each.name for each in saddle_parts(build)]
    ['oil tank, upper saddle', 'oil tank, lower saddle']
    """
    tanks = [each for each in build.circuit.components if isinstance(each, Tank)]
    for number, tank in enumerate(tanks, start=1):
        if tank.diameter_mm is None or (tank.length_mm is not None and tank.width_mm is not None):
            continue
        radius = 0.5e-3 * tank.diameter_mm + _RUBBER
        half = radius + _BESIDE
        plate = shapely.box(-half, -radius - _BEHIND, half, 0.0)
        outline = plate.difference(shapely.Point(0.0, 0.0).buffer(radius, quad_segs=48))
        low = -radius - 0.5 * _BEHIND
        holes = tuple((side * (half - 0.5 * _BESIDE), low, _BOLT) for side in (-1.0, 1.0))
        for at, which in enumerate(("upper", "lower"), start=1):
            yield FlatPart(
                f"saddle-{number}-{at}",
                "saddle",
                f"{tank.name}, {which} saddle",
                outline,
                holes,
                (),
                (),
                (Note(which, (0.0, low)),),
                np.zeros(2),
                _THICK,
                True,
                f"Its hollow leaves {_RUBBER * 1e3:g} mm for rubber round a tank of "
                f"{tank.diameter_mm:g} mm; a strap goes round the front. How it is held in a crash "
                "is for class rules and whoever licenses the car.",
            )
