"""Which tubes come out of which bars."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bilge_core.errors import InvalidQuantity

KERF = 2e-3  # [m] that a cut takes (ours)
BAR = 3.0  # [m] of a bar of tube (ours: ask the shop)


@dataclass(frozen=True)
class Bar:
    """A bar and the pieces cut from it, by their places in what was asked.

    pieces : tuple of int
    left : what is over [m]
    """

    pieces: tuple[int, ...]
    left: float


def cut_from(lengths: Sequence[float], bar: float = BAR, kerf: float = KERF) -> tuple[Bar, ...]:
    """Bars for pieces: the longest first, each into the fullest bar that still takes it.

    Parameters
    ----------
    lengths : sequence of float
        [m]
    bar, kerf : float
        Length of a bar, and what a cut takes [m].

    Returns
    -------
    tuple of Bar

    Raises
    ------
    InvalidQuantity
        If a piece is longer than a bar, or has no length.

    References
    ----------
    Best fit decreasing: at most 11/9 of the fewest bars and one more (Johnson 1973, from memory).

    Examples
    --------
    >>> [each.pieces for each in cut_from([1.2, 1.9, 0.9, 1.0])]
    [(1, 3), (0, 2)]
    """
    for length in lengths:
        if not 0.0 < length <= bar:
            raise InvalidQuantity("piece", f"{length:.2f} m", f"more than nil, at most {bar:g} m")
    bars: list[tuple[list[int], float]] = []
    for at in sorted(range(len(lengths)), key=lambda n: -lengths[n]):
        takes = [n for n, (_, left) in enumerate(bars) if left + 1e-12 >= lengths[at]]
        if takes:
            best = min(takes, key=lambda n: bars[n][1])
            pieces, left = bars[best]
            bars[best] = ([*pieces, at], left - lengths[at] - kerf)
        else:
            bars.append(([at], bar - lengths[at] - kerf))
    return tuple(Bar(tuple(pieces), max(left, 0.0)) for pieces, left in bars)
