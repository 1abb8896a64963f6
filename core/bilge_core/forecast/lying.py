"""Where the oil lies while the mouth is bare: how far from it, and how much of it is beside it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import astuple, dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.observe import NEAR
from bilge_core.moving.seen import MovingLap
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Lying:
    """Where a pan's oil lies, on average over some moments.

    seconds : how long those are together [s]
    volume : in the pan [m3]
    near : of it near the mouth, on its side of all plates [m3]
    ahead, left : of the oil's middle from the mouth's, engine's frame [m]
    """

    seconds: float
    volume: float
    near: float
    ahead: float
    left: float

    @property
    def words(self) -> str:
        """That in words, without a verb.

        Examples
        --------
        >>> Lying(1.0, 4.04e-3, 0.3e-3, 0.01, -0.064).words
        '4.0 L in the pan, 0.3 L of them within 60 mm of the mouth, their middle 65 mm to the \
right of it'
        >>> Lying(1.0, 4e-3, 1e-3, 0.0, 0.001).words
        '4.0 L in the pan, 1.0 L of them within 60 mm of the mouth, their middle about it'
        """
        away = float(np.hypot(self.ahead, self.left))
        where = f"{away * 1e3:.0f} mm {self._way} it" if away > _ABOUT else "about it"
        return (
            f"{self.volume * 1e3:.1f} L in the pan, {self.near * 1e3:.1f} L of them within "
            f"{NEAR * 1e3:.0f} mm of the mouth, their middle {where}"
        )

    @property
    def _way(self) -> str:
        if abs(self.ahead) > abs(self.left):
            return "ahead of" if self.ahead > 0.0 else "behind"
        return "to the left of" if self.left > 0.0 else "to the right of"


_ABOUT = 0.015  # [m] in plan between the oil's middle and the mouth's (ours: a mouth's radius)


def lying_in(lap: MovingLap, mouth: Array, when: NDArray[np.bool_], step: float) -> Lying | None:
    """Where the oil lay at some of a lap's looks; None: at none of them.

    Parameters
    ----------
    lap : MovingLap
    mouth : ndarray, shape (3,) [m]
    when : ndarray of bool, shape (n,)
    step : float
        Between looks [s].
    """
    if not when.any():
        return None
    centre = lap.centre[when].mean(axis=0) - mouth
    return Lying(
        float(when.sum()) * step,
        float(lap.volume[when].mean()),
        float(lap.near[when].mean()),
        float(centre[0]),
        float(centre[1]),
    )


def together(rows: Sequence[Lying | None]) -> Lying | None:
    """Several stretches as one, each by its length.

    Examples
    --------
    >>> one, other = Lying(1.0, 4e-3, 1e-3, 0.0, 0.02), Lying(3.0, 4e-3, 1e-3, 0.0, 0.06)
    >>> both = together([one, None, other])
    >>> both.seconds, round(both.left, 3)
    (4.0, 0.05)
    """
    found = np.array([astuple(each) for each in rows if each is not None])
    if not found.size or found[:, 0].sum() <= 0.0:
        return None
    means = np.average(found[:, 1:], axis=0, weights=found[:, 0])
    return Lying(float(found[:, 0].sum()), *(float(each) for each in means))
