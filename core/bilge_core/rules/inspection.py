"""What is looked at before anything is assembled."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

LOOKED_AT = Rule("looked_at", "Pan and pickup are looked over as they come, new parts too", COMMON)
RULES = (LOOKED_AT,)

ITEMS = (
    "Cracks along the rail",
    "Cracks at the bolt holes",
    "Flatness of the rail",
    "Dents and welds of the floor",
    "Pickup tube, along its edges and at its brace",
    "Pickup screen",
    "Seal of the pickup joint",
    "Gates: hinges and leaves",
    "Rubber and plastic parts",
    "Threads of plug and sensors",
)
"""Common practice, no published source."""


def check_item(item: str, found: str, field: str) -> Check | None:
    """One thing that was looked at."""
    if found == "replace":
        return Check("bad", f"{item}: to be mended or replaced", field, LOOKED_AT)
    if found == "watch":
        return Check("caution", f"{item}: to be watched", field, LOOKED_AT)
    return None


def check_unseen(unseen: int, count: int) -> Check | None:
    """How many things are not yet looked at."""
    if not unseen:
        return None
    words = f"{unseen} of {count} things not yet looked at"
    return Check("caution", words, "records.inspection", LOOKED_AT)
