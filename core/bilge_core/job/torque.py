"""How tight, in every unit that a wrench has, and in which order round a flange."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.spatial.distance import cdist
from shapely import LinearRing, Point

from bilge_core.document.fitted import Flange
from bilge_core.errors import InvalidQuantity
from bilge_core.rules.rule import COMMON

LBF_FT = 1.3558179483314004
"""[N m] of a pound-force foot (NIST SP 811, exact to the digits kept)."""
LBF_IN = LBF_FT / 12.0
WINDOW = 6
"""Bolts nearest the middle, of those left, that the next one is chosen from (ours)."""
_OUTWARD = 3.0
"""How much farther across a bolt must be for each millimetre that it is farther out (ours)."""


@dataclass(frozen=True)
class Torque:
    """How tight.

    newton_metres : [N m]
    source : who says so
    left_handed : its thread
    passes : how often one goes round
    """

    newton_metres: float
    source: str
    left_handed: bool = False
    passes: int = 1

    def __post_init__(self) -> None:
        if not 0.0 < self.newton_metres <= 2000.0:
            raise InvalidQuantity("torque", self.newton_metres, "above nil, at most 2000 N m")

    @property
    def words(self) -> str:
        """In each unit that a wrench may have.

        Examples
        --------
        >>> PAN_BOLTS.words
        '12.0 N·m, 106 lbf·in, 8.8 lbf·ft'
        """
        at = self.newton_metres
        return f"{at:.1f} N·m, {at / LBF_IN:.0f} lbf·in, {at / LBF_FT:.1f} lbf·ft"


PAN_BOLTS = Torque(106 * LBF_IN, f"{COMMON}: small sump bolts; the maker's figure decides")
PUMP_NUT = Torque(
    17 * LBF_FT, f"{COMMON}: oil pump sprocket nut of one straight-six", left_handed=True
)


def round_the_outline(places: np.ndarray, outline: Sequence[tuple[float, float]]) -> list[int]:
    """Numbers of bolts in the order in which they stand along a flange's outline.

    Parameters
    ----------
    places : ndarray, shape (n, 2)
    outline : sequence of (x, y)
        Corners of the flange, in order, in the places' unit.

    Examples
    --------
    >>> square = [(0, 0), (4, 0), (4, 4), (0, 4)]
    >>> round_the_outline(np.array([[0, 2], [2, 0], [4, 2], [2, 4]]), square)
    [1, 2, 3, 0]
    """
    ring = LinearRing(outline)
    along = [ring.project(Point(place)) for place in places]
    return [int(at) for at in np.argsort(along, kind="stable")]


def neighbours_of(ring: Sequence[int]) -> dict[int, frozenset[int]]:
    """The two bolts beside each along the outline.

    Examples
    --------
    >>> sorted(neighbours_of([0, 1, 2, 3])[0])
    [1, 3]
    """
    count = len(ring)
    return {
        bolt: frozenset({ring[at - 1], ring[(at + 1) % count]} - {bolt})
        for at, bolt in enumerate(ring)
    }


def cross_pattern(
    places: Sequence[tuple[float, float]], outline: Sequence[tuple[float, float]]
) -> tuple[int, ...]:
    """The order in which a flange's bolts are tightened: from the middle out, crosswise.

    Parameters
    ----------
    places : sequence of (x, y)
        Of the bolts.
    outline : sequence of (x, y)
        The flange's corners, in order.

    Returns
    -------
    tuple of int
        Places in the list; each once.

    Notes
    -----
    Of the few left that are nearest the middle, always the one farthest across from the last, less
    what it is farther out. No two neighbours along the outline follow each other where there are
    six bolts or more: one that could only follow a neighbour goes in at the last place earlier
    where it has none beside it. At most four places are beside its two neighbours; six bolts always
    have another.

    References
    ----------
    Common practice, no published source: crosswise, from the middle out.

    Examples
    --------
    >>> rail = [(0, 0), (40, 0), (80, 0), (80, 30), (40, 30), (0, 30)]
    >>> cross_pattern(rail, rail)
    (1, 4, 0, 3, 5, 2)
    """
    at = np.asarray(places, dtype=np.float64)
    if not len(at):
        return ()
    beside = neighbours_of(round_the_outline(at, outline))
    middle = 0.5 * (at.min(axis=0) + at.max(axis=0))
    from_middle = np.linalg.norm(at - middle, axis=1)
    left = [int(each) for each in np.lexsort((at[:, 1], at[:, 0], from_middle.round(6)))]
    apart = cdist(at, at)
    order = [left.pop(0)]
    while left:
        near = [bolt for bolt in left[:WINDOW] if bolt not in beside[order[-1]]]
        if near:
            across = apart[order[-1]] - _OUTWARD * from_middle
            chosen = max(near, key=lambda bolt: float(across[bolt]))
            order.append(chosen)
        else:
            chosen = left[0]
            _put_between(order, chosen, beside)
        left.remove(chosen)
    return tuple(order)


def _put_between(order: list[int], bolt: int, beside: dict[int, frozenset[int]]) -> None:
    """Into the last place where no neighbour is beside it; at the end where there is none."""
    for place in range(len(order), 0, -1):
        around = set(order[max(0, place - 1) : place + 1])
        if not around & beside[bolt]:
            order.insert(place, bolt)
            return
    order.append(bolt)


def pattern_of(flange: Flange) -> tuple[int, ...]:
    """The cross pattern of a flange's bolts.

    Examples
    --------
    >>> pattern_of(Flange(outline_mm=[(0, 0), (90, 0), (90, 40)], thickness_mm=6))
    ()
    """
    return cross_pattern([(bolt.x_mm, bolt.y_mm) for bolt in flange.bolts], flange.outline_mm)
