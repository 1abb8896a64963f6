"""Flat patterns as everybody reads them, in millimetres."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.document.making import Making
from bilge_core.errors import InvalidInput
from bilge_core.making.cautions import bolts_not_reached, cautions_of
from bilge_core.making.flat import FlatPart, Kind
from bilge_core.making.nested import nested
from bilge_core.making.panels import panels_of, pieces_of_scan
from bilge_core.making.parts import flat_parts, sheet_of
from bilge_core.making.scrapers import scrapers_not_cut
from bilge_core.making.seams import bent_of, seams_of
from bilge_core.making.torch import welds_not_reached
from bilge_core.making.unfolded import Pair
from bilge_core.making.weight import DENSITY, Metal, pan_weight, with_oil
from bilge_core.pan import Pan
from bilge_core.physics.arrays import Array
from bilge_core.tell.numbers import SpacePoint, mm
from bilge_core.tell.printed import PrintAsked

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
    """Lines that are no cuts: hinges, and what is marked."""
    notes: list[PatternNoteOut]
    nose: Flat
    """Where ahead is; nil where it is square to the part."""
    width_mm: float
    height_mm: float
    area_cm2: float
    cut_mm: float
    pierces: int
    thickness_mm: float
    is_guessed: bool
    """Nobody said how thick."""
    about: str


class SeamOut(BaseModel):
    """An edge that two panels have in common."""

    pair: tuple[int, int]
    at_mm: SpacePoint
    """Its middle, by which it is known from edit to edit."""
    length_mm: float
    bend_deg: float
    bent: bool
    """Bent of one piece; otherwise welded."""


class NestOut(BaseModel):
    """Parts of one thickness on sheets as they are bought."""

    thickness_mm: float
    sheets: int
    used_pct: float
    too_large: list[str]
    """Names of parts that no sheet takes."""


class WeightOut(BaseModel):
    """What the pan weighs in a metal, and where: ahead, left and up [mm]."""

    metal: Metal
    empty_kg: float
    empty_at_mm: SpacePoint
    with_oil_kg: float
    with_oil_at_mm: SpacePoint


class MakingOut(BaseModel):
    """Everything of a pan that is cut flat."""

    parts: list[FlatPartOut]
    seams: list[SeamOut]
    fault: str | None
    """Why what is to be bent cannot be laid flat: all is shown welded."""
    welded_mm: float
    """Length of all welds between panels, the flange's apart."""
    thickness_mm: float
    radius_mm: float
    k_factor: float
    gap_mm: float
    relief: bool
    metal: Metal | None
    sheet_long_mm: float
    sheet_wide_mm: float
    nests: list[NestOut]
    weights: list[WeightOut]
    cautions: list[str]
    usual_print: PrintAsked
    """What is printed, where nothing of it is typed."""


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
        folds_mm=[(_flat(a), _flat(b)) for a, b in (*part.folds, *part.marked)],
        notes=[PatternNoteOut(words=each.words, at_mm=_flat(each.at)) for each in part.notes],
        nose=(float(part.nose[0]), float(part.nose[1])), width_mm=mm(width), height_mm=mm(height),
        area_cm2=round(part.area * 1e4, 1), cut_mm=mm(part.cut, 0), pierces=part.pierces,
        thickness_mm=mm(part.thickness),
        is_guessed=part.is_guessed, about=part.about,
    )  # fmt: skip


def _in_space(place: Array, places: int = 2) -> SpacePoint:
    x, y, z = (mm(float(each), places) for each in place)
    return x, y, z


def _nests(parts: Sequence[FlatPart], making: Making) -> list[NestOut]:
    found = nested(parts, making.sheet_long_mm * 1e-3, making.sheet_wide_mm * 1e-3)
    return [
        NestOut(
            thickness_mm=mm(each.thickness), sheets=each.sheets, used_pct=round(each.used * 100),
            too_large=[parts[at].name for at in each.too_large],
        )
        for each in found
    ]  # fmt: skip


def _weights(build: Build, pan: Pan, thickness: float, metal: Metal | None) -> list[WeightOut]:
    found = []
    for each in DENSITY if metal is None else (metal,):
        empty = pan_weight(build, pan, each, thickness)
        full = with_oil(build, pan, empty)
        found.append(
            WeightOut(
                metal=each, empty_kg=round(empty.mass, 2), empty_at_mm=_in_space(empty.centre, 0),
                with_oil_kg=round(full.mass, 2), with_oil_at_mm=_in_space(full.centre, 0),
            )
        )  # fmt: skip
    return found


def _laid_flat(
    build: Build, pan: Pan, bent: tuple[Pair, ...]
) -> tuple[tuple[FlatPart, ...], tuple[Pair, ...], str | None]:
    """Parts, what of them is bent, and why what was to be bent cannot be."""
    try:
        return flat_parts(build, pan, bent), bent, None
    except InvalidInput as error:
        return flat_parts(build, pan, ()), (), error.problems[0].message


def making_out(build: Build, pan: Pan) -> MakingOut:
    """Everything of a pan that is cut flat, as the build says that it is made.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.registry import read_act
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> told = making_out(build, assemble_pan(build))
    >>> bend = read_act({"kind": "make_of_sheet", "edge_mm": told.seams[0].at_mm}).done(build).build
    >>> told = making_out(bend, assemble_pan(bend))
    >>> [part.name for part in told.parts if part.kind == "panel"], len(told.seams)
    (['panels 1, 2', 'wall 3', 'wall 4', 'wall 5'], 8)
    """
    panels, sheet = panels_of(pan), sheet_of(build)
    parts, bent, fault = _laid_flat(build, pan, bent_of(build, panels))
    if not panels:
        fault = (
            f"The floor is a scan's, of {pieces_of_scan(pan)} pieces: no sheet is cut to it. Print "
            "the pan, or draw it in zones; flange, plates and leaves are here"
        )
    seams = [
        SeamOut(
            pair=each.pair, at_mm=_in_space(each.middle), length_mm=mm(each.length),
            bend_deg=round(math.degrees(each.turn), 1), bent=each.pair in bent,
        )
        for each in seams_of(panels)
    ]  # fmt: skip
    making = build.pan.making or Making()
    return MakingOut(
        parts=[part_out(each) for each in parts], seams=seams, fault=fault,
        welded_mm=round(sum(each.length_mm for each in seams if not each.bent), 1),
        thickness_mm=mm(sheet.thickness), radius_mm=mm(sheet.radius), k_factor=sheet.k_factor,
        gap_mm=making.gap_mm, relief=making.relief, metal=making.metal,
        sheet_long_mm=making.sheet_long_mm, sheet_wide_mm=making.sheet_wide_mm,
        nests=_nests(parts, making), weights=_weights(build, pan, sheet.thickness, making.metal),
        cautions=[
            *cautions_of(parts), *bolts_not_reached(build, pan),
            *welds_not_reached(panels, bent), *scrapers_not_cut(build, pan),
        ],
        usual_print=PrintAsked(),
    )  # fmt: skip
