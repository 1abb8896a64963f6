"""What the pan and the engine above it give each other, step by step."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Drawn:
    """What went up each of the mouths in a step, shape (mouths,).

    flow : mean volume flow at the mouth, oil and gas [m3/s]; negative where oil ran back
    oil : of it [m3]
    """

    flow: Array
    oil: Array


class Engine(Protocol):
    """What stands between the mouths and the drain-backs.

    The moving oil knows nothing of an engine: it is asked for flows and says how much of each is
    oil, and is told how much comes back by each way.
    """

    def draw(self, start: float, step: float, load: Array, oil_shares: Array) -> Drawn:
        """What is drawn over a step that begins at a time [s].

        `load` is the gravity felt in the engine's frame [m/s2], `oil_shares` how much of what each
        mouth finds is oil, shape (mouths,).
        """
        ...

    def give(self) -> Array:
        """Oil that has come back by each way since it was last asked, shape (ways,) [m3]."""
        ...

    @property
    def held(self) -> float:
        """Oil between mouths and drain-backs [m3]."""
        ...
