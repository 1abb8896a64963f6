"""Flat parts as DXF, in millimetres, a layer for each thing that is done."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence

import numpy as np
from ezdxf import units
from ezdxf.document import Drawing
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new
from ezdxf.layouts.layout import Modelspace

from bilge_core.making.flat import FlatPart
from bilge_core.physics.arrays import Array

LAYERS = {"CUT": 7, "DRILL": 1, "BEND": 3, "FOLD": 4, "MARK": 5}
"""Layer and colour number: what is cut, drilled, bent, folded, marked."""
_BETWEEN = 20.0  # [mm] between parts on a sheet
_LETTERS = 6.0  # [mm]


def _new() -> Drawing:
    document = new("R2010", setup=True)
    document.units = units.MM
    for name, colour in LAYERS.items():
        document.layers.add(name, color=colour)
    return document


def _mm(places: Array, by: Array) -> list[tuple[float, float]]:
    return [(float(x), float(y)) for x, y in np.asarray(places)[:, :2] * 1e3 + by]


def _text(space: Modelspace, words: str, at: Array, height: float = _LETTERS) -> None:
    entity = space.add_text(words, height=height, dxfattribs={"layer": "MARK"})
    entity.set_placement((float(at[0]), float(at[1])), align=TextEntityAlignment.MIDDLE_CENTER)


def _draw(space: Modelspace, part: FlatPart, by: Array) -> None:
    for ring in (part.outline.exterior, *part.outline.interiors):
        space.add_lwpolyline(
            _mm(np.asarray(ring.coords)[:-1], by), close=True, dxfattribs={"layer": "CUT"}
        )
    for x, y, diameter in part.circles:
        centre = (x * 1e3 + float(by[0]), y * 1e3 + float(by[1]))
        space.add_circle(centre, diameter * 500.0, dxfattribs={"layer": "DRILL"})
    for x, y, diameter in part.scribed:
        centre = (x * 1e3 + float(by[0]), y * 1e3 + float(by[1]))
        space.add_circle(centre, diameter * 500.0, dxfattribs={"layer": "MARK"})
    for start, end, turn, up in part.bends:
        (a, b) = _mm(np.array([start, end]), by)
        space.add_line(a, b, dxfattribs={"layer": "BEND"})
        way = "up" if up else "down"
        middle = 0.5 * (np.array(a) + np.array(b))
        _text(space, f"{math.degrees(turn):.1f} {way}", middle, 4.0)
    for start, end in part.folds:
        (a, b) = _mm(np.array([start, end]), by)
        space.add_line(a, b, dxfattribs={"layer": "FOLD"})
    for start, end in part.marked:
        (a, b) = _mm(np.array([start, end]), by)
        space.add_line(a, b, dxfattribs={"layer": "MARK"})
    for note in part.notes:
        _text(space, note.words, np.array(note.at) * 1e3 + by)
    if float(np.linalg.norm(part.nose)) > 0.5:
        _nose(space, part, by)


def _nose(space: Modelspace, part: FlatPart, by: Array) -> None:
    """An arrow toward the nose, beside the part's own middle."""
    middle = np.asarray(part.outline.representative_point().coords[0]) * 1e3 + by
    way = part.nose / np.linalg.norm(part.nose)
    aside = np.array([-way[1], way[0]])
    tail, tip = middle - 12.0 * aside - 10.0 * way, middle - 12.0 * aside + 10.0 * way
    for start, end in (
        (tail, tip), (tip, tip - 5.0 * way + 3.0 * aside), (tip, tip - 5.0 * way - 3.0 * aside)
    ):  # fmt: skip
        space.add_line(tuple(start), tuple(end), dxfattribs={"layer": "MARK"})


def as_dxf(parts: Sequence[FlatPart]) -> str:
    """Parts side by side as one DXF (AC1024), in millimetres.

    Parameters
    ----------
    parts : sequence of FlatPart

    Returns
    -------
    str

    Notes
    -----
    Seen from inside the pan, the flange from the engine. Layers: CUT, DRILL, BEND (its middle, with
    angle and way), FOLD, MARK.
    """
    document = _new()
    space = document.modelspace()
    at = 0.0
    for part in parts:
        left, low, right, _ = (each * 1e3 for each in part.outline.bounds)
        by = np.array([at - left, -low])
        _draw(space, part, by)
        name = f"{part.name}, {part.thickness * 1e3:g} mm"
        _text(space, name, np.array([at + 0.5 * (right - left), -12.0]))
        at += right - left + _BETWEEN
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
