"""The limits of the trade, each once: with its source, its words, its place and what mends it."""

from bilge_core.rules import (
    air,
    around,
    bolts,
    bosses,
    circuit,
    crank,
    drains,
    dry,
    gallery,
    gates,
    gauge,
    inspection,
    lines,
    logger,
    making,
    mouth,
    pickup,
    plates,
    preview,
    track_book,
)
from bilge_core.rules.rule import Check, Fix, Rule, State

RULES: tuple[Rule, ...] = (
    *air.RULES, *mouth.RULES, *gates.RULES, *plates.RULES, *bosses.RULES, *pickup.RULES,
    *crank.RULES, *gauge.RULES, *around.RULES, *bolts.RULES, *inspection.RULES,
    *circuit.RULES, *gallery.RULES, *preview.RULES, *drains.RULES, *dry.RULES, *lines.RULES,
    *logger.RULES, *track_book.RULES, *making.RULES,
)  # fmt: skip

__all__ = ["RULES", "Check", "Fix", "Rule", "State"]
