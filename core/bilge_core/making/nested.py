"""Flat parts laid on sheets as they are bought: rows of upright boxes, the tallest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bilge_core.making.flat import FlatPart

_BETWEEN = 8e-3  # [m] between parts, and to the sheet's edge (ours: a torch or a saw takes some)


@dataclass(frozen=True)
class Laid:
    """A part on a sheet.

    part : its place among the parts
    sheet : from nil
    x, y : of its box's lower left corner on the sheet [m]
    turned : by a quarter, against the clock
    """

    part: int
    sheet: int
    x: float
    y: float
    turned: bool


@dataclass(frozen=True)
class Nest:
    """Parts of one thickness on sheets.

    thickness : [m]
    laid : tuple of Laid
    sheets : how many
    used : share of all sheets that is parts
    too_large : places of parts that are larger than a sheet
    """

    thickness: float
    laid: tuple[Laid, ...]
    sheets: int
    used: float
    too_large: tuple[int, ...]


def nested(parts: Sequence[FlatPart], long: float, wide: float) -> tuple[Nest, ...]:
    """Parts laid on sheets of a size, thickness by thickness.

    Parameters
    ----------
    parts : sequence of FlatPart
    long, wide : float
        Of a sheet [m].

    Returns
    -------
    tuple of Nest
        The thinnest first. Each part lies in a box of its own: a first figure for what is bought.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.parts import flat_parts
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> nest = nested(flat_parts(build, assemble_pan(build)), 2.0, 1.0)[-1]
    >>> nest.sheets, len(nest.laid), nest.thickness
    (1, 5, 0.004)
    """
    found = []
    for thickness in sorted({each.thickness for each in parts}):
        mine = [at for at, each in enumerate(parts) if each.thickness == thickness]
        found.append(_one(parts, mine, thickness, long, wide))
    return tuple(found)


def _one(
    parts: Sequence[FlatPart], mine: list[int], thickness: float, long: float, wide: float
) -> Nest:
    room, high = long - 2.0 * _BETWEEN, wide - 2.0 * _BETWEEN
    boxes, too_large = [], []
    for at in mine:
        width, height = parts[at].size
        turned = height > width  # lengthways along the sheet
        width, height = (height, width) if turned else (width, height)
        if width > room or height > high:
            too_large.append(at)
        else:
            boxes.append((height, width, at, turned))
    laid, sheet, x, y, row = [], 0, 0.0, 0.0, 0.0
    for height, width, at, turned in sorted(boxes, key=lambda box: (-box[0], -box[1], box[2])):
        if x + width > room:
            x, y, row = 0.0, y + row + _BETWEEN, 0.0
        if y + height > high:
            sheet, x, y, row = sheet + 1, 0.0, 0.0, 0.0
        laid.append(Laid(at, sheet, x + _BETWEEN, y + _BETWEEN, turned))
        x, row = x + width + _BETWEEN, max(row, height)
    sheets = sheet + 1 if laid else 0
    area = sum(parts[each.part].area for each in laid)
    used = area / (sheets * long * wide) if sheets else 0.0
    return Nest(thickness, tuple(laid), sheets, used, tuple(too_large))
