"""Plates: what their openings must pass, and how close they come to the walls."""

from __future__ import annotations

from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.rules.rule import Check, Rule

DISCHARGE = 0.6
"""Discharge coefficient of a sharp-edged opening (handbook value, from memory)."""

HEAD = Rule(
    "openings_head",
    "The openings pass the pump's flow with at most 10 mm of oil above them",
    "ours: more, and the box draws down by what the mouth is covered by",
    high=10e-3,
    unit="m",
)
END_GAP = Rule(
    "plate_end",
    "A plate ends within 2 mm of a wall or another plate",
    "ours: what is fitted by hand",
    high=2e-3,
    unit="m",
    fix="carry_to_wall",
)
RULES = (HEAD, END_GAP)


def check_openings(area: float, flow: float, rpm: float) -> Check:
    """Openings of an area [m2] in all, against the pump's flow [m3/s] at a speed of the crank.

    ``h = (Q / (C A))² / 2g``, a sharp-edged opening's (handbook, from memory).

    Examples
    --------
    >>> check_openings(20e-4, 1e-3, 6000.0).words
    "Openings of 20 cm² in all pass the pump's 60 L/min at 6000 rpm with 35.4 mm of oil: \
too small, the pump empties the box"
    """
    head = (flow / (DISCHARGE * area)) ** 2 / (2.0 * STANDARD_GRAVITY)
    words = (
        f"Openings of {area * 1e4:.0f} cm² in all pass the pump's {flow * 6e4:.0f} L/min "
        f"at {rpm:.0f} rpm with {head * 1e3:.1f} mm of oil"
    )
    if HEAD.holds(head):
        return Check("good", words, "pan.plates", HEAD)
    return Check("bad", f"{words}: too small, the pump empties the box", "pan.plates", HEAD)


def check_end(name: str, gap: float, field: str) -> Check | None:
    """A plate's end that misses the next wall or plate by a gap [m]; None where it does not."""
    if END_GAP.holds(gap):
        return None
    return Check(
        "caution",
        f"{name} ends {gap * 1e3:.0f} mm short of the next wall or plate: oil goes round it",
        field,
        END_GAP,
    )
