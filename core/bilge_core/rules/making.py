"""What is cut from sheet."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

HOLE = Rule(
    "hole_in_sheet",
    "A hole that is cut or punched is as wide as its sheet is thick at least",
    "from memory: narrower, a punch breaks and a torch leaves it ragged",
    low=1.0,
    unit="1",
)
WEB = Rule(
    "web_of_sheet",
    "Metal left beside a hole is one and a half thicknesses wide at least",
    "from memory: narrower, it burns away or tears",
    low=1.5,
    unit="1",
)
RULES = (HOLE, WEB)
