"""What is round the pan, and the gap that the builder wants to it."""

from __future__ import annotations

from bilge_core.rules.rule import Check, Rule

KEEP_OUT = Rule("keep_out", "The gap that you want to it", "the builder's own")
RULES = (KEEP_OUT,)


def check_keep_out(name: str, gap: float, wanted: float, field: str) -> Check | None:
    """A gap [m] to something round the pan against the one wanted; None where it is kept.

    Examples
    --------
    >>> check_keep_out("rack", 0.008, 0.010, "car.keep_outs.0").words
    '8 mm to the rack, 10 mm wanted'
    """
    if gap < 0.0:
        words = f"The pan reaches {-gap * 1e3:.0f} mm into the {name}"
        return Check("bad", words, field, KEEP_OUT)
    if gap < wanted:
        words = f"{gap * 1e3:.0f} mm to the {name}, {wanted * 1e3:.0f} mm wanted"
        return Check("caution", words, field, KEEP_OUT)
    return None


def clear_of_all(count: int) -> Check:
    """All gaps are kept."""
    return Check("good", f"Clear of all {count} keep-outs", "car.keep_outs", KEEP_OUT)
