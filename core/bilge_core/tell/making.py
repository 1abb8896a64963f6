"""Flat patterns as everybody reads them, in millimetres."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence

import numpy as np
import shapely
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.making.bends import Sheet
from bilge_core.making.panels import panels_of
from bilge_core.making.parts import FlatPart, Kind, flat_parts
from bilge_core.making.unfolded import Pair
from bilge_core.pan import Pan
from bilge_core.tell.numbers import mm

Flat = tuple[float, float]


class BendOut(BaseModel):
    """A bend's middle on a flat piece."""

    from_mm: Flat
    to_mm: Flat
    bend_deg: float
    up: bool
    """Toward whoever looks at it, from inside the pan."""


class PatternNoteOut(BaseModel):
    """Words on a pattern."""

    words: str
    at_mm: Flat


class FlatPartOut(BaseModel):
    """A part that is cut flat, seen from inside the pan; the flange from the engine."""

    key: str
    kind: Kind
    name: str
    outline_mm: list[Flat]
    holes_mm: list[list[Flat]]
    circles: list[tuple[float, float, float]]
    """Drilled: place and diameter [mm]."""
    bends: list[BendOut]
    folds_mm: list[tuple[Flat, Flat]]
    notes: list[PatternNoteOut]
    nose: Flat
    """Where ahead is; nil where it is square to the part."""
    width_mm: float
    height_mm: float
    area_cm2: float
    thickness_mm: float
    is_guessed: bool
    """Nobody said how thick."""
    about: str


class SeamOut(BaseModel):
    """An edge that two panels have in common."""

    pair: tuple[int, int]
    length_mm: float
    bend_deg: float
    bent: bool
    """Bent of one piece; otherwise welded."""


class MakingOut(BaseModel):
    """Everything of a pan that is cut flat."""

    parts: list[FlatPartOut]
    seams: list[SeamOut]
    welded_mm: float
    """Length of all welds between panels, the flange's apart."""
    thickness_mm: float
    radius_mm: float
    k_factor: float


def pairs_of(bent: Sequence[str]) -> tuple[Pair, ...]:
    """Pairs of panels from words such as "1-2".

    Raises
    ------
    InvalidInput
        Naming the first that is none.

    Examples
    --------
    >>> pairs_of(["2-1", "1-3"])
    ((1, 2), (1, 3))
    """
    found = []
    for at, words in enumerate(bent):
        one, dash, other = words.partition("-")
        if not (dash and one.isdecimal() and other.isdecimal() and len(words) <= 9):
            problem = Problem(f"bent.{at}", f"must be two panels, as '1-2' (it is {words[:20]!r})")
            raise InvalidInput([problem])
        pair = sorted((int(one), int(other)))
        found.append((pair[0], pair[1]))
    return tuple(found)


def _flat(place: Sequence[float] | np.ndarray) -> Flat:
    return mm(float(place[0])), mm(float(place[1]))


def part_out(part: FlatPart) -> FlatPartOut:
    """One part."""
    outline = shapely.orient_polygons(part.outline)
    width, height = part.size
    return FlatPartOut(
        key=part.key, kind=part.kind, name=part.name,
        outline_mm=[_flat(each) for each in outline.exterior.coords[:-1]],
        holes_mm=[[_flat(each) for each in ring.coords[:-1]] for ring in outline.interiors],
        circles=[(mm(x), mm(y), mm(d)) for x, y, d in part.circles],
        bends=[
            BendOut(from_mm=_flat(a), to_mm=_flat(b), bend_deg=round(math.degrees(turn), 1), up=up)
            for a, b, turn, up in part.bends
        ],
        folds_mm=[(_flat(a), _flat(b)) for a, b in part.folds],
        notes=[PatternNoteOut(words=each.words, at_mm=_flat(each.at)) for each in part.notes],
        nose=(float(part.nose[0]), float(part.nose[1])), width_mm=mm(width), height_mm=mm(height),
        area_cm2=round(part.area * 1e4, 1), thickness_mm=mm(part.thickness),
        is_guessed=part.is_guessed, about=part.about,
    )  # fmt: skip


def _seams(pan: Pan, bent: Collection[Pair]) -> list[SeamOut]:
    found: dict[Pair, SeamOut] = {}
    for panel in panels_of(pan):
        for each in panel.meetings:
            if each.other <= panel.number:
                continue
            pair = (panel.number, each.other)
            before = found[pair].length_mm if pair in found else 0.0
            found[pair] = SeamOut(
                pair=pair, length_mm=mm(each.length) + before,
                bend_deg=round(math.degrees(each.turn), 1), bent=pair in bent,
            )  # fmt: skip
    return [found[pair] for pair in sorted(found)]


def making_out(build: Build, pan: Pan, bent: Sequence[Pair], sheet: Sheet) -> MakingOut:
    """Everything of a pan that is cut flat.

    Raises
    ------
    InvalidInput
        If what is to be bent cannot be laid flat.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.parts import sheet_of
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> told = making_out(build, assemble_pan(build), [(1, 2)], sheet_of(build))
    >>> [part.name for part in told.parts], len(told.seams)
    (['panels 1, 2', 'wall 3', 'wall 4', 'wall 5'], 8)
    """
    seams = _seams(pan, bent)
    return MakingOut(
        parts=[part_out(each) for each in flat_parts(build, pan, bent, sheet)], seams=seams,
        welded_mm=round(sum(each.length_mm for each in seams if not each.bent), 1),
        thickness_mm=mm(sheet.thickness), radius_mm=mm(sheet.radius), k_factor=sheet.k_factor,
    )  # fmt: skip
