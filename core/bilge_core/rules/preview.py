"""When a circuit may be shown on the record of another's run in moving oil."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

OIL_APART = Rule(
    "oil_apart",
    "A preview's pan begins the lap with the same oil, to 0.05 L",
    "ours: a tenth of a litre moves dry time by less than two starts do",
    high=0.05e-3,
    unit="m3",
)
DRAW_APART = Rule(
    "draw_apart",
    "A preview draws as much at the mouth, to 1 L/min on average over the lap",
    "ours: a thirtieth of what a pump draws; the gallery follows within 0.03 bar",
    high=1.0 / 60e3,
    unit="m3/s",
)
RULES = (OIL_APART, DRAW_APART)
