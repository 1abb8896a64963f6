"""The pan's bolts in the block."""

from __future__ import annotations

from bilge_core.rules.rule import Check, Rule, State

CLEARANCE_HOLE = 1.1
"""A clearance hole's diameter over its bolt's (ISO 273, medium, M5 to M10; from memory)."""

ENGAGEMENT = Rule(
    "bolt_engagement",
    "Thread in the block for 1.5 times the bolt's diameter, in light metal",
    "handbook rule of thumb, from memory",
    low=1.5,
    unit="1",
)
RULES = (ENGAGEMENT,)


def check_bolts(length: float, flange: float, hole: float, spacer: float) -> Check:
    """Bolts of a length [m] without a spacer through a flange, by the diameter of its holes [m].

    Examples
    --------
    >>> check_bolts(20e-3, 6e-3, 6.6e-3, 6.4e-3).words
    'Pan bolts of 26.4 mm with the spacer hold 14.0 mm of thread in the block; 9.0 mm wanted \
in light metal'
    """
    thread = hole / CLEARANCE_HOLE
    held = length - flange
    with_spacer = " with the spacer" if spacer else ""
    words = (
        f"Pan bolts of {(length + spacer) * 1e3:.1f} mm{with_spacer} hold {held * 1e3:.1f} mm of "
        f"thread in the block; {ENGAGEMENT.least * thread * 1e3:.1f} mm wanted in light metal"
    )
    state: State = "good" if ENGAGEMENT.holds(held / thread) else "caution"
    return Check(state, words, "pan.bolt_length_mm", ENGAGEMENT)
