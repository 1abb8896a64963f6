"""What the class that a car runs in allows, kind of act by kind of act."""

from __future__ import annotations

from typing import Literal

RuledKind = Literal[
    "spacer", "deepen", "sump_preset", "fit_accumulator", "fit_cooler",
    "fit_sandwich_plate", "move_filter", "second_filter", "fit_regulator", "direct_feed",
    "feed_turbo", "drain_turbo", "outside_return", "fit_catch_can", "fit_breather",
    "fit_gates", "fit_level_plate", "fit_side_plates", "fit_tray", "fit_scraper",
    "brace_pickup", "go_dry", "move_pickup", "kick_out", "fit_jets", "fit_cover",
]  # fmt: skip
"""Kinds of act that a rule book speaks of: remedies built into the car, no single fitting."""

Ruling = Literal["allowed", "not_allowed"]
