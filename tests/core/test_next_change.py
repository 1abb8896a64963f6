"""The one thing to change next: its order, and both sides of what decides it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from bilge_core.agreement.next_change import Shows, next_change
from bilge_core.rules.track_book import SHORT_OF_MARK

SOUND = Shows("nothing", True, True, 0, 0, 0, 0, 0.0, False, ())


@pytest.mark.parametrize(
    ("changed", "what"),
    [
        ({}, "nothing"),
        ({"has_laps": False, "short_of_mark": 1e-3}, "log"),
        ({"short_of_mark": SHORT_OF_MARK.most + 1e-6, "looks": "speed"}, "level"),
        ({"short_of_mark": SHORT_OF_MARK.most - 1e-6, "looks": "speed"}, "seal"),
        ({"short_of_mark": None, "looks": "both", "met": 3}, "seal"),
        ({"looks": "slosh", "overdue": ("belt",), "met": 3}, "due"),
        ({"looks": "slosh", "met": 3, "has_forecast": False}, "forecast"),
        ({"not_shown": 2}, "faster"),
        ({"not_shown": 2, "met": 1, "foreseen": 1, "looks": "slosh"}, "options"),
        ({"looks": "slosh", "met": 3, "foreseen": 2}, "hold_up"),
        ({"false_alarms": 1}, "hold_up"),
        ({"false_alarms": 1, "learned_since": True}, "again"),
        ({"looks": "slosh", "met": 3, "foreseen": 3, "learned_since": True}, "options"),
        ({"looks": "slosh", "met": 3, "foreseen": 3}, "options"),
    ],
)
def test_what_comes_first(changed: dict[str, object], what: str) -> None:
    assert next_change(replace(SOUND, **changed)).what == what  # type: ignore[arg-type]


def test_a_new_seal_is_not_asked_for_twice() -> None:
    leaks = replace(SOUND, looks="speed")
    assert next_change(leaks).title == "Pickup joint seal first"
    renewed = next_change(replace(leaks, seal_renewed=True))
    assert renewed.what == "seal" and "bearings" in renewed.title


def test_each_says_why_and_what_would_tell() -> None:
    for looks in ("slosh", "speed", "both", "nothing", "cannot_tell", None):
        for laps in (True, False):
            told = next_change(replace(SOUND, looks=looks, has_laps=laps))  # type: ignore[arg-type]
            assert told.title and told.why and told.measure


@pytest.mark.parametrize(
    ("met", "foreseen", "false_alarms", "says"),
    [
        (3, 2, 0, "1 came unforeseen, all that were forecast came: what"),
        (3, 3, 1, "None came unforeseen, 1 that was forecast did not come: what"),
        (3, 1, 2, "2 came unforeseen, 2 that were forecast did not come: what"),
    ],
)
def test_what_was_missed_is_said_in_a_sentence(
    met: int, foreseen: int, false_alarms: int, says: str
) -> None:
    told = next_change(
        replace(SOUND, looks="slosh", met=met, foreseen=foreseen, false_alarms=false_alarms)
    )
    assert told.what == "hold_up" and told.why.startswith(says) and "  " not in told.why
