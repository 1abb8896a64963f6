"""A part that is cut flat: its outline, what is drilled, bent and marked on it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from shapely import Polygon

from bilge_core.physics.arrays import Array

Kind = Literal["flange", "spacer", "panel", "plate", "tray", "gate", "scraper", "saddle"]
THICK = {"steel": 1.5e-3, "rubber": 4e-3}
"""[m] of sheet where nobody says (ours)."""


@dataclass(frozen=True)
class Note:
    """Words on a pattern, and where [m]."""

    words: str
    at: tuple[float, float]


@dataclass(frozen=True)
class FlatPart:
    """A part that is cut flat, its own coordinates [m], seen from inside the pan.

    key : by which it is asked for
    name : as it is marked
    outline : with its holes
    circles : x, y and diameter of drilled holes [m]
    bends : start, end, turn [rad] and whether it is bent toward whoever looks at it
    folds : lines that are no cut: a hinge
    notes : words on it
    nose : where ahead is; nil where it is square to it
    thickness : [m]
    is_guessed : nobody said how thick
    about : what a maker must know
    scribed : x, y and diameter of circles that are marked, no holes [m]
    marked : lines that are marked, no cuts
    """

    key: str
    kind: Kind
    name: str
    outline: Polygon
    circles: tuple[tuple[float, float, float], ...]
    bends: tuple[tuple[Array, Array, float, bool], ...]
    folds: tuple[tuple[Array, Array], ...]
    notes: tuple[Note, ...]
    nose: Array
    thickness: float
    is_guessed: bool
    about: str
    scribed: tuple[tuple[float, float, float], ...] = ()
    marked: tuple[tuple[Array, Array], ...] = ()

    @property
    def size(self) -> tuple[float, float]:
        """Of the least upright box round it [m]."""
        left, low, right, high = self.outline.bounds
        return right - left, high - low

    @property
    def cut(self) -> float:
        """Length of all cuts, drilled holes apart [m]."""
        return float(self.outline.length)

    @property
    def pierces(self) -> int:
        """How often a torch goes through: the outline, its openings, each hole."""
        return 1 + len(self.outline.interiors) + len(self.circles)

    @property
    def area(self) -> float:
        """Of metal, holes off [m2]."""
        drilled = sum(math.pi / 4.0 * d**2 for _, _, d in self.circles)
        return float(self.outline.area) - drilled
