"""A drain that a stage pulls for itself alone: whether the stage takes what comes, foam and all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.drains.line import FallingOil, Piece
from bilge_core.drains.round_line import friction_slope
from bilge_core.physics.gravity import STANDARD_GRAVITY


@dataclass(frozen=True)
class Pulled:
    """A drain with a stage of its own. Where it lies is not asked: it need not fall.

    run : id of its first run
    component : id of what it drains
    kind : turbo or head
    name : as the builder has it
    stage : ScavengeStage
    pieces : of its line, tuple of Piece
    foam : share of gas in what it drains
    runs : ids of all its runs
    guessed : keys of the guesses used
    """

    run: str
    component: str
    kind: Literal["turbo", "head"]
    name: str
    stage: ScavengeStage
    pieces: tuple[Piece, ...]
    foam: float
    runs: tuple[str, ...]
    guessed: tuple[str, ...]


def suction(pieces: tuple[Piece, ...], flow: float, oil: FallingOil) -> float:
    """Pressure [Pa] that friction takes of a line running full of oil and foam.

    Parameters
    ----------
    pieces : tuple of Piece
        Holes without a length take none.
    flow : float
        Oil without its foam [m3/s].
    oil : FallingOil

    Examples
    --------
    >>> from bilge_core.drains.line import foamed
    >>> thin, wide = (suction((Piece("hose", bore, 1.0),), 4 / 60e3, foamed(820.0, 12e-6, 0.4))
    ...               for bore in (0.010, 0.016))
    >>> bool(thin > 5 * wide > 0)
    True
    """
    head = sum(
        piece.length
        * friction_slope(flow * oil.swells, piece.bore, piece.bore, oil.viscosity, STANDARD_GRAVITY)
        for piece in pieces
        if piece.length > 0.0 and flow > 0.0
    )
    return float(head * oil.density * STANDARD_GRAVITY)
