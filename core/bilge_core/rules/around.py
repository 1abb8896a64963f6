"""What is round the pan, and the gap that the builder wants to it."""

from __future__ import annotations

from bilge_core.rules.rule import Check, Rule

KEEP_OUT = Rule("keep_out", "The gap that you want to it", "the builder's own")
COMES_BY_ITSELF = Rule(
    "comes_by_itself",
    "A line's or a tank's place comes up at a test fit within so much of the gap that is wanted",
    "ours: what is further off is not met by a hand's width of error",
    high=40e-3,
    unit="m",
)
WORTH_MOVING = Rule(
    "worth_moving",
    "Something beside the pan is offered to be moved where it was found elsewhere by so much",
    "ours: what a rule or a lump of clay is read to",
    low=1e-3,
    unit="m",
)
RULES = (KEEP_OUT, COMES_BY_ITSELF, WORTH_MOVING)


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


def check_measured(name: str, field: str) -> Check:
    """Something round the pan that stands at a usual place still.

    Examples
    --------
    >>> check_measured("rack", "car.keep_outs.0").words
    'Nobody measured where the rack is: no gap to it is told'
    """
    words = f"Nobody measured where the {name} is: no gap to it is told"
    return Check("caution", words, field, KEEP_OUT)


def clear_of_all(count: int) -> Check:
    """All gaps are kept.

    Examples
    --------
    >>> clear_of_all(1).words, clear_of_all(3).words
    ('Clear of the one keep-out', 'Clear of all 3 keep-outs')
    """
    words = "Clear of the one keep-out" if count == 1 else f"Clear of all {count} keep-outs"
    return Check("good", words, "car.keep_outs", KEEP_OUT)
