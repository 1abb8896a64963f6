"""What a bend in sheet takes: allowance, setback, and what is left off the flat pattern."""

from __future__ import annotations

import math
from dataclasses import dataclass

from bilge_core.errors import InvalidQuantity

K_FACTOR = 0.44
"""Of soft sheet (from memory): a trial strip tells."""


@dataclass(frozen=True)
class Sheet:
    """Sheet metal as it is bent.

    thickness : [m]
    radius : inside, of a bend [m]
    k_factor : where between the inside (0) and the outside (1) its length stays as it was
    gap : left open between two welded edges [m]
    relief : corners where bends meet are cut out
    """

    thickness: float
    radius: float
    k_factor: float = K_FACTOR
    gap: float = 0.0
    relief: bool = False

    def __post_init__(self) -> None:
        if self.thickness <= 0.0 or self.radius < 0.0 or self.gap < 0.0:
            raise InvalidQuantity(
                "sheet", (self.thickness, self.radius, self.gap),
                "a thickness above nil, radius and gap of nil or more",
            )  # fmt: skip
        if not 0.0 <= self.k_factor <= 1.0:
            raise InvalidQuantity("K-factor", self.k_factor, "from 0 to 1")

    @property
    def relief_radius(self) -> float:
        """Of what is cut out of a corner where bends meet [m] (ours: radius and thickness)."""
        return self.radius + self.thickness

    def allowance(self, turn: float) -> float:
        """Length of sheet that a bend takes [m]: of its neutral line.

        Parameters
        ----------
        turn : float
            By which it is bent [rad].

        References
        ----------
        ``A (r + K t)``, machinery handbooks; K of 0.44 for soft sheet is from memory: bend a trial
        strip.

        Examples
        --------
        >>> round(Sheet(2e-3, 3e-3).allowance(math.pi / 2) * 1e3, 2)
        6.09
        """
        return turn * (self.radius + self.k_factor * self.thickness)

    def setback(self, turn: float, inside: bool) -> float:
        """From where two faces would meet to where the bend begins [m].

        Parameters
        ----------
        turn : float
            [rad]
        inside : bool
            The faces are the inner ones of the bend; otherwise the outer.

        Examples
        --------
        >>> sheet = Sheet(2e-3, 3e-3)
        >>> [round(sheet.setback(math.pi / 2, way) * 1e3, 2) for way in (True, False)]
        [3.0, 5.0]
        """
        radius = self.radius if inside else self.radius + self.thickness
        return radius * math.tan(turn / 2.0)

    def growth(self, turn: float, inside: bool) -> float:
        """By how much a flat pattern is longer than its two faces [m]; below nil: shorter.

        Examples
        --------
        >>> round(Sheet(2e-3, 3e-3).growth(math.pi / 2, True) * 1e3, 2)
        0.09
        """
        return self.allowance(turn) - 2.0 * self.setback(turn, inside)
