"""Gates: one-way doors, and which way they must swing."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

SWING = Rule("gate_swing", "Gates swing toward the mouth", COMMON, fix="turn_gate")
RULES = (SWING,)


def gate_swings_away(opening: str, plate: str, field: str) -> Check:
    """A gate that lets oil out."""
    return Check(
        "bad",
        f"Gate {opening} in {plate} swings away from the mouth: worse than none, it lets oil out",
        field,
        SWING,
    )


def gates_swing_in(count: int) -> Check:
    """All of them let oil in."""
    words = "The gate swings" if count == 1 else f"All {count} gates swing"
    return Check("good", f"{words} toward the mouth", "pan.plates", SWING)
