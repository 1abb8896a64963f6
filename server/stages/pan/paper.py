"""Patterns at full size on paper: A4 sheets that are glued together along their marks."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence

import numpy as np
from bilge_core.making.flat import FlatPart
from config.pages import HAIR, INK, PLAIN
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

_EDGE = 12.0
"""[mm] of paper that no printer reaches, with words in it (ours)."""
_LAP = 8.0
"""[mm] by which sheets lie over each other (ours)."""
_WIDE, _HIGH = A4[0] / mm - 2 * _EDGE, A4[1] / mm - 2 * _EDGE
BAR = 100.0
"""[mm] of the bar that is measured before anything is cut."""
MOST_SHEETS = 60


def tiles_of(part: FlatPart) -> tuple[int, int]:
    """How many sheets a part takes, across and up.

    A sheet adds its width less what lies over the one before.
    """
    width, height = (each * 1e3 for each in part.size)

    def count(length: float, room: float) -> int:
        return 1 if length <= room else 1 + math.ceil((length - room) / (room - _LAP))

    return count(width, _WIDE), count(height, _HIGH)


def _path(canvas: Canvas, ring: np.ndarray) -> None:
    path = canvas.beginPath()
    path.moveTo(*(float(each) * mm for each in ring[0]))
    for place in ring[1:]:
        path.lineTo(*(float(each) * mm for each in place))
    path.close()
    canvas.drawPath(path)


def _shape(canvas: Canvas, part: FlatPart, by: np.ndarray) -> None:
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.5)
    for ring in (part.outline.exterior, *part.outline.interiors):
        _path(canvas, np.asarray(ring.coords)[:-1, :2] * 1e3 - by)
    for x, y, diameter in part.circles:
        at = np.array([x, y]) * 1e3 - by
        canvas.circle(float(at[0]) * mm, float(at[1]) * mm, diameter * 500.0 * mm)
        canvas.line(float(at[0] - 3) * mm, float(at[1]) * mm, float(at[0] + 3) * mm,
                    float(at[1]) * mm)  # fmt: skip
        canvas.line(float(at[0]) * mm, float(at[1] - 3) * mm, float(at[0]) * mm,
                    float(at[1] + 3) * mm)  # fmt: skip
    canvas.setDash(6, 2)
    lines = [(a, b) for a, b, _, _ in part.bends] + [*part.folds, *part.marked]
    for start, end in lines:
        (a, b) = (np.asarray(each)[:2] * 1e3 - by for each in (start, end))
        canvas.line(*(float(each) * mm for each in (*a, *b)))
    canvas.setDash()
    canvas.setFont(PLAIN, 9)
    canvas.setFillColor(INK)
    for note in part.notes:
        at = np.array(note.at) * 1e3 - by
        canvas.drawCentredString(float(at[0]) * mm, float(at[1]) * mm, note.words)


def _sheet(canvas: Canvas, part: FlatPart, place: tuple[int, int], of: tuple[int, int]) -> None:
    left, low, _, _ = (each * 1e3 for each in part.outline.bounds)
    step = np.array([_WIDE - _LAP, _HIGH - _LAP])
    corner = np.array([left, low]) + step * place
    canvas.setFillColor(INK)
    canvas.setFont(PLAIN, 9)
    across, up = place
    words = f"{part.name}, {part.thickness * 1e3:g} mm"
    if of != (1, 1):
        words += f" - sheet {across + 1} of {of[0]} across, {up + 1} of {of[1]} up"
    canvas.drawString(_EDGE * mm, A4[1] - 0.6 * _EDGE * mm, words)
    canvas.drawString(
        (_EDGE + BAR + 4) * mm, 0.35 * _EDGE * mm,
        "measure this bar first: 100 mm, print at full size",
    )  # fmt: skip
    canvas.setStrokeColor(INK)
    canvas.line(_EDGE * mm, 0.5 * _EDGE * mm, (_EDGE + BAR) * mm, 0.5 * _EDGE * mm)
    for end in (0.0, BAR):
        x = (_EDGE + end) * mm
        canvas.line(x, 0.3 * _EDGE * mm, x, 0.7 * _EDGE * mm)
    canvas.saveState()
    canvas.translate(_EDGE * mm, _EDGE * mm)
    clip = canvas.beginPath()
    clip.rect(0, 0, _WIDE * mm, _HIGH * mm)
    canvas.clipPath(clip, stroke=0)
    _shape(canvas, part, corner)
    canvas.setStrokeColor(HAIR)
    canvas.setDash(2, 3)
    if across + 1 < of[0]:  # the next sheet's edge is laid here
        canvas.line((_WIDE - _LAP) * mm, 0, (_WIDE - _LAP) * mm, _HIGH * mm)
    if up + 1 < of[1]:
        canvas.line(0, (_HIGH - _LAP) * mm, _WIDE * mm, (_HIGH - _LAP) * mm)
    canvas.restoreState()
    canvas.showPage()


def as_paper(name: str, parts: Sequence[FlatPart], compressed: bool = True) -> bytes:
    """Parts at full size as a PDF, each on as many A4 sheets as it takes."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, pageCompression=int(compressed))
    canvas.setTitle(f"{name}: patterns at full size")
    canvas.setAuthor("Bilge")
    for part in parts:
        across, up = tiles_of(part)
        for row in range(up):
            for column in range(across):
                _sheet(canvas, part, (column, row), (across, up))
    canvas.save()
    return out.getvalue()
