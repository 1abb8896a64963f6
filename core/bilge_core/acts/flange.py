"""A flange and its bolt holes laid out round the rail."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
import shapely
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, build_with, figures_named
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.pan import Pan, assemble_pan


def with_flange(
    build: Build, pan: Pan, width: float, spacing: float, hole: float, thickness: float
) -> Build:
    """The build with a flange of even width round its rail and holes evenly along its middle.

    Parameters
    ----------
    build : Build
    pan : Pan
        Assembled from it.
    width : float
        From the rail outward [m].
    spacing : float
        Most between two holes, along their line [m].
    hole : float
        Diameter [m].
    thickness : float
        [m]

    Returns
    -------
    Build

    Raises
    ------
    InvalidQuantity
        If a figure is not positive, or a hole does not fit the width.

    Notes
    -----
    A first layout to be moved by hand to where the block has its threads.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> laid = with_flange(build, assemble_pan(build), 18e-3, 80e-3, 7e-3, 6e-3)
    >>> len(laid.pan.flange.bolts)
    18
    """
    for name, value in (
        ("width", width), ("spacing", spacing), ("hole", hole), ("thickness", thickness),
    ):  # fmt: skip
        if not (math.isfinite(value) and value > 0.0):
            raise InvalidQuantity(name, value, "positive")
    if hole > 0.8 * width:
        raise InvalidQuantity("hole", f"{hole * 1e3:.1f} mm", f"under {0.8 * width * 1e3:.1f} mm")
    outer = pan.rail.buffer(width, join_style="mitre")
    line = pan.rail.buffer(width / 2.0, join_style="mitre").exterior
    count = max(4, math.ceil(line.length / spacing))
    places = [line.interpolate(i / count, normalized=True) for i in range(count)]
    corners = np.asarray(shapely.simplify(outer, 1e-5).exterior.coords)[:-1] * 1e3
    raw = build.model_dump(mode="json")
    raw["pan"]["flange"] = {
        "outline_mm": corners.round(1).tolist(),
        "thickness_mm": round(thickness * 1e3, 3),
        "bolts": [
            {
                "x_mm": round(place.x * 1e3, 1),
                "y_mm": round(place.y * 1e3, 1),
                "diameter_mm": round(hole * 1e3, 3),
            }
            for place in places
        ],
    }
    return build_with(build, raw)


class LayOutFlange(Act):
    """A flange and holes round the rail."""

    kind: Literal["flange"]
    width_mm: Length
    spacing_mm: Length
    hole_mm: Length
    thickness_mm: Length

    @override
    def done(self, build: Build) -> Done:
        names = ("width", "spacing", "hole", "thickness")
        figures = [getattr(self, f"{name}_mm") * 1e-3 for name in names]
        with figures_named(**{name: f"{name}_mm" for name in names}):
            made = with_flange(build, assemble_pan(build), *figures)
        holes = len(made.pan.flange.bolts) if made.pan.flange else 0
        return Done(made, f"flange with {holes} holes")
