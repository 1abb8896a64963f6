"""An engine in a chassis that it was not made for: pickup moved, pan cut from sheet."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_the_pan_keeps_its_litres_where_the_chassis_leaves_room(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Greenshank", "In-line engine along the car, sump in front")
    builder.figure("Leaned to its right", "-3")
    builder.press("Subframe")
    page.until(lambda: builder.state() == 3)
    as_it_is = builder.state()
    builder.say_a_load({"What": "braking", "Load": "1.1", "Held for": "1.5"})

    # the sump goes to the rear, and holds what it held
    builder.open("pan")
    before = builder.holds_to_the_rail()
    builder.tab("Numbers")
    builder.unfold("Begin anew on this rail")
    builder.answer({"Sump's depth": "140 mm", "Shelf's": "55 mm"})
    builder.press("Sump at the rear")
    page.until(lambda: builder.state() == as_it_is + 1)
    builder.tab("Fill, checks")
    builder.answer({"hold": f"{before:.1f}"})
    builder.press("Offer a depth")
    builder.press("Do that")
    page.until(lambda: abs(builder.holds_to_the_rail() - before) < 0.15)
    # cut from sheet: patterns in true shape
    builder.tab("Make")
    page.says("sheet")
    builder.looks_sound()

    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("Move the filter", {"Filters on the base": "one"})
    builder.fit("An oil cooler", {"Holds with its lines": "0.7 L"})
    builder.fit("An external regulator", {"Opens at": "75 psi", "Bypass led to": "the pan"})
    page.says("own relief blocked")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.has_steps(
        "make_tube", "brace_tube", "mount_filter", "plug_ports", "leak_test", "fit_regulator"
    )
    builder.in_order(
        "look_at_new",
        "offer_up",
        "make_tube",
        "measure_gap",
        "dry_fit",
        "prove_pressure",
        "set_regulator",
    )
    builder.on_the_phone()

    # a prototype first, then metal
    builder.open("fit")
    builder.answer({"Offered up": "cardboard"})
    page.click("button", "Begin round 1")
    page.says("subframe")
    builder.looks_sound()
