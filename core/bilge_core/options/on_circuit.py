"""Remedies in the oil circuit: a bottle, more oil in it, another regulator."""

from __future__ import annotations

from collections.abc import Iterator

from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Accumulator
from bilge_core.document.circuit.pumps import Relief
from bilge_core.options.candidate import Act, Candidate, candidate

BOTTLE = 2.0
"""[L] of a bottle that is tried (common practice: about 2 L)."""
CHARGES = (0.8, 1.2, 1.6, 2.0, 2.4, 2.8)
"""Pre-charges [bar] that are looked at on the record for the best (ours)."""
_USUAL_CHARGE = 1.6  # [bar] where there is no record to look for a better on (ours)
_MORE = 0.4  # [L] that a second filter holds (ours)
_COOLER = 0.9  # [L] that a larger cooler with its lines holds (ours)


def bottle_acts(base: Build, charge: float | None, check: bool, valve: str) -> list[Act]:
    """The acts that fit a bottle: where the feed is a passage, the filter is moved first."""
    fit: Act = {
        "kind": "fit_accumulator", "volume_l": BOTTLE, "precharge_bar": charge or _USUAL_CHARGE,
        "at": "gallery_feed", "check_valve": check, "valve": valve,
    }  # fmt: skip
    first = candidate(base, "", "", "bottle", [fit])
    if first.applies:
        return [fit]
    moved: Act = {"kind": "move_filter"}
    return [moved, fit]


def circuit_remedies(base: Build, charge: float | None) -> Iterator[Candidate]:
    """Those of the circuit for a build; `charge` [bar] is the best for a bottle on its record."""
    if not base.circuit.of_kind(Accumulator):
        yield from _bottles(base, charge)
    for key, title, acts in (
        (
            "filters", "Second filter on a remote base",
            [{"kind": "move_filter", "filters": 2, "holds_l": _MORE * 2}],
        ),
        (
            "cooler", "Larger cooler, its oil filled up",
            [{"kind": "fit_cooler", "holds_l": _COOLER}],
        ),
    ):  # fmt: skip
        yield candidate(
            base, key, title, "circuit", acts,
            "More oil in all; the pan has no more of it.",
        )  # fmt: skip
    reliefs = base.circuit.of_kind(Relief)
    opens = reliefs[0].opens_bar if reliefs else None
    if opens:
        acts = [{"kind": "move_filter"}, {"kind": "fit_regulator", "opens_bar": opens}]
        yield candidate(
            base, "regulator", "External regulator, bypass to the pan", "circuit", acts,
            "Set as the engine's own relief: what is gained is the setting in reach.",
        )  # fmt: skip


def _bottles(base: Build, charge: float | None) -> Iterator[Candidate]:
    how = "Its pre-charge is the best on the record." if charge else "Its pre-charge is a guess."
    shut = "One more thing to shut while the pressure is high."
    rows = (
        ("bottle", "Accumulator of 2 L, check valve, valve by hand", True, "by_hand", shut),
        ("bottle_open", "Accumulator of 2 L, no check valve", False, "by_hand", shut),
        (
            "bottle_electric", "Accumulator of 2 L, check valve, electric valve", True, "electric",
            "Nothing to forget, and one more thing to fail.",
        ),
    )  # fmt: skip
    for key, title, check, valve, note in rows:
        acts = bottle_acts(base, charge, check, valve)
        yield candidate(base, key, title, "bottle", acts, f"{how} {note}")
