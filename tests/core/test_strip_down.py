"""Strip-downs compared: worse, better, the same, the first time."""

from __future__ import annotations

from datetime import date

import pytest
from bilge_core.agreement.strip_down import READ_TO, LookedAt
from bilge_core.document.inspection import Found, Inspected
from bilge_core.tell.strip_down import strip_down_out


def looked(item: str, found: Found, day: int, flat: float | None = None) -> LookedAt:
    told = Inspected(item=item, found=found, off_flat_mm=flat)
    return LookedAt(told, date(2026, 6, day), "MK")


@pytest.mark.parametrize(
    ("then", "now", "turned"),
    [
        (("sound", None), ("watch", None), "worse"),
        (("replace", None), ("sound", None), "better"),
        (("watch", None), ("watch", None), "same"),
        (("sound", 0.10), ("sound", 0.10 + READ_TO - 0.001), "same"),
        (("sound", 0.10), ("sound", 0.10 + READ_TO + 0.001), "worse"),
        (("sound", 0.30), ("sound", 0.10), "better"),
        (("sound", 0.30), ("watch", 0.10), "worse"),  # how it was found comes first
    ],
)
def test_which_way_it_went(
    then: tuple[Found, float | None], now: tuple[Found, float | None], turned: str
) -> None:
    (told,) = strip_down_out(
        [looked("Rail", then[0], 1, then[1]), looked("Rail", now[0], 9, now[1])]
    )
    assert told.turned == turned
    assert told.before is not None and told.before.on == date(2026, 6, 1)


def test_a_slip_of_the_pen_is_not_a_strip_down() -> None:
    """Written twice on one day counts as it was written last, against the day before."""
    rows = [looked("Rail", "sound", 1), looked("Rail", "watch", 1), looked("Rail", "watch", 9)]
    (told,) = strip_down_out(rows)
    assert told.turned == "same"
    (once,) = strip_down_out(rows[:2])
    assert once.turned == "first" and once.now.found == "watch" and once.before is None


def test_what_turned_worse_comes_first_and_what_was_not_looked_at_is_left_out() -> None:
    rows = [
        looked("Bolts", "sound", 1), looked("Screen", "sound", 1), looked("Screen", "replace", 9),
        looked("Threads", "not_looked", 9),
    ]  # fmt: skip
    assert [each.item for each in strip_down_out(rows)] == ["Screen", "Bolts"]


def test_but_for_what_turned_worse_things_stand_by_their_names() -> None:
    rows = [
        looked("D", "sound", 1), looked("D", "watch", 9),
        looked("C", "replace", 1), looked("C", "sound", 9),
        looked("B", "watch", 1), looked("B", "watch", 9),
        looked("A", "watch", 9),
    ]  # fmt: skip
    told = [(each.item, each.turned) for each in strip_down_out(rows)]
    assert told == [("D", "worse"), ("A", "first"), ("B", "same"), ("C", "better")]
