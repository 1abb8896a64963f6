"""Flat parts as SVG at full size: a millimetre is a millimetre."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from html import escape

import numpy as np
import shapely

from bilge_core.making.flat import FlatPart
from bilge_core.physics.arrays import Array

_MARGIN = 10.0  # [mm]
_BETWEEN = 20.0
_STYLE = (
    ".cut{fill:none;stroke:#000;stroke-width:.3}.bend{stroke:#000;stroke-width:.2;"
    "stroke-dasharray:6 2 1 2}.fold{stroke:#000;stroke-width:.2;stroke-dasharray:2 2}"
    "text{font:5px sans-serif;text-anchor:middle}"
)


def as_svg(parts: Sequence[FlatPart]) -> str:
    """Parts side by side as one SVG in millimetres, seen from inside the pan.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.parts import flat_parts
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> text = as_svg(flat_parts(build, assemble_pan(build))[:1])
    >>> text.count('class="cut"'), 'width="216.00mm"' in text
    (1, True)
    """
    high = max(part.size[1] for part in parts) * 1e3
    at, drawn = _MARGIN, []
    for part in parts:
        left, low, right, _ = (each * 1e3 for each in part.outline.bounds)
        drawn += list(_drawn(part, np.array([at - left, _MARGIN + high + low])))
        words = escape(f"{part.name}, {part.thickness * 1e3:g} mm")
        middle = at + 0.5 * (right - left)
        drawn.append(f'<text x="{middle:.2f}" y="{_MARGIN + high + 8:.2f}">{words}</text>')
        at += right - left + _BETWEEN
    width, height = at - _BETWEEN + _MARGIN, high + 2 * _MARGIN + 8
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}mm" height="{height:.2f}mm" '
        f'viewBox="0 0 {width:.2f} {height:.2f}"><style>{_STYLE}</style>{"".join(drawn)}</svg>'
    )


def _drawn(part: FlatPart, by: Array) -> Iterable[str]:
    def spot(place: Sequence[float] | Array) -> str:
        return f"{place[0] * 1e3 + by[0]:.3f} {by[1] - place[1] * 1e3:.3f}"

    def at(place: Sequence[float], first: str, second: str) -> str:
        x, y = spot(place).split()
        return f'{first}="{x}" {second}="{y}"'

    outline = shapely.orient_polygons(part.outline)
    rings = [outline.exterior, *outline.interiors]
    path = "".join("M" + "L".join(spot(each) for each in ring.coords[:-1]) + "Z" for ring in rings)
    yield f'<path class="cut" d="{path}"/>'
    for x, y, diameter in part.circles:
        yield f'<circle class="cut" {at((x, y), "cx", "cy")} r="{diameter * 500:.3f}"/>'
    lines = [("bend", a, b) for a, b, _, _ in part.bends]
    lines += [("fold", a, b) for a, b in (*part.folds, *part.marked)]
    for name, start, end in lines:
        yield f'<path class="{name}" d="M{spot(start)}L{spot(end)}"/>'
    for note in part.notes:
        yield f"<text {at(note.at, 'x', 'y')}>{escape(note.words)}</text>"
