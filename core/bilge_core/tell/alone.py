"""The circuit alone and its guesses, as everybody reads them."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from bilge_core.forecast.alone import Swing
from bilge_core.tell.numbers import litres


class SwingOut(BaseModel):
    """What a guess moves from the low end of its likely range to the high one."""

    words: str
    likely: float
    low: float
    high: float
    unit: str
    source: str
    dry_s: tuple[float, float]
    lowest_share: tuple[float, float]
    held_l: tuple[float, float]
    moves: bool
    """Whether it moves dry time by 0.1 s, or the lowest pressure by a twentieth of the usual."""


class GuessesOut(BaseModel):
    """What nobody measured, what moves the forecast most first, and the model that says so."""

    model: str
    guesses: list[SwingOut]


_MODEL = "Settled oil and the circuit alone, one guess at a time from end to end of its range."
_DRY, _SHARE = 0.1, 0.05


def swing_out(swing: Swing) -> SwingOut:
    """A guess and what it moves."""
    guess = swing.guess
    dry = abs(swing.dry[1] - swing.dry[0])
    share = abs(swing.lowest[1] - swing.lowest[0])
    scale = guess.scale

    def shown(value: float) -> float:
        return float(f"{value * scale:.3g}")

    return SwingOut(
        words=guess.words,
        likely=shown(guess.likely),
        low=shown(guess.low),
        high=shown(guess.high),
        unit=guess.unit,
        source=guess.source,
        dry_s=(round(swing.dry[0], 2), round(swing.dry[1], 2)),
        lowest_share=(round(swing.lowest[0], 3), round(swing.lowest[1], 3)),
        held_l=(litres(swing.held[0], 2), litres(swing.held[1], 2)),
        moves=dry >= _DRY or share >= _SHARE,
    )


def swing_words(swing: SwingOut) -> str:
    """A guess as one says it.

    Examples
    --------
    >>> swing_words(SwingOut(
    ...     words="six drains of a head, bore of each", likely=12, low=9, high=16, unit="mm",
    ...     source="ours", dry_s=(6.1, 4.2), lowest_share=(0.5, 0.62), held_l=(2.6, 2.1),
    ...     moves=True))
    'six drains of a head, bore of each: 9 to 16 mm: dry 6.1 to 4.2 s, lowest 50 to 62 % of usual'
    """
    low, high = (round(100.0 * share) for share in swing.lowest_share)
    dry = [f"{each:.1f}" for each in swing.dry_s]
    moved = []
    if dry[0] != dry[1]:
        moved.append(f"dry {dry[0]} to {dry[1]} s")
    if low != high:
        moved.append(f"lowest {low} to {high} % of usual")
    return (
        f"{swing.words}: {swing.low:g} to {swing.high:g} {swing.unit}: "
        f"{', '.join(moved) or 'moves nothing'}"
    )


def guesses_out(found: Sequence[Swing]) -> GuessesOut:
    """All guesses of a build."""
    return GuessesOut(model=_MODEL, guesses=[swing_out(swing) for swing in found])
