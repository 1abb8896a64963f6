"""The sump at the other end: old openings blanked, a remote filter, two test fits."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_it_is_offered_up_twice_and_the_old_holes_are_blanked(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Oystercatcher", "In-line engine along the car, sump at the rear")
    builder.figure("Nose higher than tail", "2")
    builder.press("Steering rack")
    page.until(lambda: builder.state() == 3)
    page.says("not measured: no gap is told")
    builder.figure("One end, above the rail (minus: below)", "-58")
    page.until(lambda: "not measured" not in page.text())
    builder.open("pan")
    builder.tab("Numbers")
    builder.press("Dipstick tube")
    page.until(lambda: builder.state() == 5)
    as_it_is = builder.state()
    builder.unfold("Begin anew on this rail")
    builder.answer({"Sump's depth": "150 mm", "Shelf's": "55 mm"})
    builder.press("Sump in front")
    page.until(lambda: builder.state() == as_it_is + 1)
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("Move the filter", {"Filters on the base": "one", "Line's size": "10"})

    builder.car_is_in(as_it_is)
    builder.has_steps("blank", "make_tube", "mount_filter", "mark_stick")
    builder.in_order(
        "look_at_new",
        "pan_off",
        "offer_up",
        "measure_gap",
        "torque_pan",
        "refill",
        "mark_stick",
        "first_start",
    )

    builder.open("fit")
    builder.answer({"Offered up": "cardboard"})
    page.click("button", "Begin round 1")
    page.says("Round 1: ")
    builder.tab("Place")
    page.click("button", "It touches")
    builder.press("Keep the touch")
    page.says("touches")
    builder.tab("Round 1")
    page.click("button", "Begin round 2")
    builder.tab("Place")
    for _ in range(9):
        page.click("button", "A wider gap")
    builder.press("Keep ")
    builder.tab("Round 2")
    builder.press("Close round 2: all sound or accepted")
    page.says("closed")
    builder.looks_sound()
