"""How a pan is made of sheet: which edges are bent, how the sheet bends, what it is cut from."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from bilge_core.document.parts import Coordinate, Part

SAME_EDGE = 15.0
"""[mm] within which an edge's middle is taken for the one that was bent before an edit (ours)."""

Spot = tuple[Coordinate, Coordinate, Coordinate]


class Making(Part):
    """How the pan's panels are made; null: not said, and guessed."""

    bent: list[Spot] = Field(
        default=[], max_length=120,
        description="middles of the edges that are bent: ahead of the rail's rear face, left of "
        "the crank, above the rail; all others are welded",
    )  # fmt: skip
    radius_mm: float | None = Field(default=None, ge=0, le=100, description="inside, of a bend")
    k_factor: float | None = Field(default=None, ge=0, le=1)
    gap_mm: float = Field(default=0.0, ge=0, le=5, description="left open between welded edges")
    relief: bool = Field(default=True, description="corners where bends meet are cut out")
    metal: Literal["steel", "aluminium"] | None = None
    sheet_long_mm: float = Field(default=2000.0, ge=100, le=6000, description="as it is bought")
    sheet_wide_mm: float = Field(default=1000.0, ge=100, le=6000)


def is_same_edge(one: Sequence[float], other: Sequence[float]) -> bool:
    """Whether two middles of edges [mm] are of the same edge.

    Examples
    --------
    >>> is_same_edge((0, 0, -58), (3, 0, -60)), is_same_edge((0, 0, -58), (30, 0, -58))
    (True, False)
    """
    return math.dist(one, other) <= SAME_EDGE
