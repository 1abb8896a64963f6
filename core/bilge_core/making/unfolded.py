"""Panels bent out of one piece: laid flat with what each bend takes."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.errors import InvalidInput, Problem
from bilge_core.making.bends import Sheet
from bilge_core.making.panels import Meeting, Panel
from bilge_core.physics.arrays import Array

Pair = tuple[int, int]
_OVER = 1e-6  # [m2] of two panels laid over each other


@dataclass(frozen=True)
class BendLine:
    """A bend on a flat piece: its middle, and how far it is bent.

    between : the two panels' numbers
    start, end : shape (2,) [m]
    turn : [rad]
    up : toward whoever looks at it, from inside the pan
    """

    between: Pair
    start: Array
    end: Array
    turn: float
    up: bool


@dataclass(frozen=True)
class Blank:
    """A flat piece that one or several panels are bent from.

    numbers : of its panels, rising
    laid : the same as they were laid out, the first one lies still
    outline : [m]
    bends : tuple of BendLine
    middles : of each of its panels as laid, to write its number there, shape (n, 2) [m]
    nose : where ahead is on the page, shape (2,); nil where it is square to it
    """

    numbers: tuple[int, ...]
    laid: tuple[int, ...]
    outline: Polygon
    bends: tuple[BendLine, ...]
    middles: Array
    nose: Array


@dataclass(frozen=True)
class _Placed:
    panel: Panel
    turn: Array  # 2 x 2, own coordinates to the page
    shift: Array

    def on_page(self, flat: Array) -> Array:
        return np.asarray(flat @ self.turn.T + self.shift)


def _laid_beside(here: _Placed, meeting: Meeting, other: Panel, sheet: Sheet) -> _Placed:
    """The other panel turned into this one's plane about their edge, and moved by its bend."""
    back = next(each for each in other.meetings if each.other == here.panel.number
                and _same_edge(other, each, here.panel, meeting))  # fmt: skip
    start, end = here.on_page(np.array([meeting.start, meeting.end]))
    theirs = np.array([back.start, back.end])
    if np.linalg.norm(other.in_space(theirs[:1])[0]
                      - here.panel.in_space(np.array([meeting.start]))[0]) > 1e-3:  # fmt: skip
        theirs = theirs[::-1]
    way, own = end - start, theirs[1] - theirs[0]
    angle = math.atan2(way[1], way[0]) - math.atan2(own[1], own[0])
    turn = np.array([[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]])
    along = way / np.linalg.norm(way)
    outward = np.array([along[1], -along[0]])  # outlines run against the clock
    shift = start - theirs[0] @ turn.T + outward * sheet.growth(meeting.turn, meeting.inside)
    return _Placed(other, turn, shift)


def _same_edge(other: Panel, theirs: Meeting, panel: Panel, mine: Meeting) -> bool:
    a = other.in_space(np.array([theirs.start, theirs.end]))
    b = panel.in_space(np.array([mine.start, mine.end]))
    return bool(min(np.abs(a - b).max(), np.abs(a - b[::-1]).max()) < 1e-3)


def _bend_line(here: _Placed, meeting: Meeting, sheet: Sheet) -> BendLine:
    start, end = here.on_page(np.array([meeting.start, meeting.end]))
    along = (end - start) / np.linalg.norm(end - start)
    outward = np.array([along[1], -along[0]])
    off = 0.5 * sheet.growth(meeting.turn, meeting.inside)
    pair = sorted((here.panel.number, meeting.other))
    return BendLine(
        (pair[0], pair[1]), start + off * outward, end + off * outward, meeting.turn, meeting.inside
    )


def unfolded(panels: Sequence[Panel], bent: Collection[Pair], sheet: Sheet) -> tuple[Blank, ...]:
    """Flat pieces of a pan: panels that are bent of one piece together, every other by itself.

    Parameters
    ----------
    panels : sequence of Panel
    bent : collection of pairs of numbers
        Panels whose common edge is bent; all other edges are welded.
    sheet : Sheet

    Returns
    -------
    tuple of Blank
        By their first panel's number.

    Raises
    ------
    InvalidInput
        If two have no edge in common, panels would be bent round in a ring, or would lie over each
        other when flat.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.panels import panels_of
    >>> from bilge_core.pan import assemble_pan
    >>> panels = panels_of(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    >>> box = unfolded(panels, [(1, n) for n in (2, 3, 4, 5)], Sheet(2e-3, 3e-3))
    >>> len(box), box[0].numbers, len(box[0].bends)
    (1, (1, 2, 3, 4, 5), 4)
    """
    by_number = {each.number: each for each in panels}
    wanted = {(min(pair), max(pair)) for pair in bent}
    for one, other in sorted(wanted):
        if (
            one not in by_number
            or other not in by_number
            or _between(by_number[one], other) is None
        ):
            raise InvalidInput(
                [Problem("bent", f"panels {one} and {other} have no edge in common")]
            )
    blanks, done = [], set[int]()
    for panel in panels:
        if panel.number not in done:
            placed, bends, used = _spread(panel, by_number, wanted, sheet)
            if len(used) != len(placed) - 1:
                numbers = ", ".join(str(each.panel.number) for each in placed)
                words = f"panels {numbers} are bent round in a ring: weld one of their edges"
                raise InvalidInput([Problem("bent", words)])
            done |= {each.panel.number for each in placed}
            blanks.append(_blank(placed, bends, wanted, sheet))
    return tuple(blanks)


def _between(panel: Panel, other: int) -> Meeting | None:
    """The longest edge that a panel has with another."""
    shared = [each for each in panel.meetings if each.other == other]
    return max(shared, key=lambda each: each.length, default=None)


def _spread(
    root: Panel, by_number: dict[int, Panel], wanted: set[Pair], sheet: Sheet
) -> tuple[list[_Placed], list[BendLine], set[Pair]]:
    placed = [_Placed(root, np.eye(2), np.zeros(2))]
    bends: list[BendLine] = []
    used: set[Pair] = set()
    seen = {root.number}
    at = 0
    while at < len(placed):
        here = placed[at]
        at += 1
        for pair in sorted(wanted):
            if here.panel.number not in pair:
                continue
            other = pair[0] if pair[1] == here.panel.number else pair[1]
            used.add(pair)
            meeting = _between(here.panel, other)
            if other in seen or meeting is None:
                continue
            seen.add(other)
            placed.append(_laid_beside(here, meeting, by_number[other], sheet))
            bends.append(_bend_line(here, meeting, sheet))
    return placed, bends, used


def _with_gaps(here: _Placed, bent: Collection[Pair], gap: float) -> Polygon:
    """A panel on the page, half the gap off each edge that is welded to another panel."""
    shape = Polygon(here.on_page(here.panel.ring))
    if gap <= 0.0:
        return shape
    number = here.panel.number
    strips = [
        shapely.LineString(here.on_page(np.array([each.start, each.end]))).buffer(
            0.5 * gap, cap_style="flat"
        )
        for each in here.panel.meetings
        if each.other and (min(number, each.other), max(number, each.other)) not in bent
    ]
    left = shape.difference(shapely.union_all(strips))
    return max(shapely.get_parts(left), key=lambda each: each.area)


def _reliefs(bends: Sequence[BendLine], radius: float) -> list[Polygon]:
    """A disc at each corner where two bends meet."""
    ends = [(at, end) for at, bend in enumerate(bends) for end in (bend.start, bend.end)]
    found = []
    for n, (one, here) in enumerate(ends):
        near = [there for other, there in ends[n + 1 :]
                if other != one and np.linalg.norm(there - here) < 4.0 * radius]  # fmt: skip
        found += [shapely.Point(0.5 * (here + there)).buffer(radius) for there in near]
    return found


def _blank(
    placed: list[_Placed], bends: list[BendLine], bent: Collection[Pair], sheet: Sheet
) -> Blank:
    shapes = [_with_gaps(each, bent, sheet.gap) for each in placed]
    neighbours = {bend.between for bend in bends}
    for i, one in enumerate(placed):
        for j in range(i):
            pair = sorted((one.panel.number, placed[j].panel.number))
            over = shapes[i].intersection(shapes[j]).area
            if (pair[0], pair[1]) not in neighbours and over > _OVER:
                words = (
                    f"panels {pair[0]} and {pair[1]} would lie over each other when flat: weld one "
                    "of the edges between them"
                )
                raise InvalidInput([Problem("bent", words)])
    strips = [_strip(bend) for bend in bends]
    whole = shapely.union_all(
        [*(each.buffer(1e-7, join_style="mitre") for each in shapes), *strips]
    )
    if sheet.relief and bends:
        whole = whole.difference(shapely.union_all(_reliefs(bends, sheet.relief_radius)))
    outline = max(shapely.get_parts(whole), key=lambda each: each.area).simplify(1e-6)
    root = placed[0].panel
    nose = np.array([root.first[0], root.second[0]])
    return Blank(
        tuple(sorted(each.panel.number for each in placed)),
        tuple(each.panel.number for each in placed), outline, tuple(bends),
        np.array([each.on_page(np.array([each.panel.outline.representative_point().coords[0]]))[0]
                  for each in placed]),
        nose,
    )  # fmt: skip


def _strip(bend: BendLine) -> Polygon:
    """A hair of sheet along a bend, so that panels that it parts are one piece."""
    along = (bend.end - bend.start) / np.linalg.norm(bend.end - bend.start)
    off = np.array([along[1], -along[0]]) * 2e-3
    return Polygon([bend.start + off, bend.end + off, bend.end - off, bend.start - off])
