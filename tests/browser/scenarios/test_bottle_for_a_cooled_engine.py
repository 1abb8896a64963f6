"""An accumulator for a car that has a cooler, out of the engine bay's reach."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_bottle_is_sized_plumbed_and_shut_down(builder: Builder) -> None:
    builder.new_car("Whimbrel", "In-line engine along the car, sump in front")
    builder.figure("In the engine, as poured", "4.6 L")
    builder.figure("Leaned to its right", "8")
    builder.say_a_load({"Load": "1.55", "Held for": "3.5"})
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("An oil cooler", {"Holds with its lines": "0.8 L"})
    has_cooler = builder.state()
    builder.verdict_says("oil pressure dips")

    # where nothing is said it goes to the cooler's return, behind a check valve
    builder.fit(
        "An accumulator", {"Volume": "2 L", "Pre-charge": "1.5 bar", "Its valve": "electric"}
    )
    builder.page.says("at the cooler return, check valve ahead of its tee")
    builder.tab("Bottle")
    builder.page.says("Check valve ahead of the tee, over this lap with the engine running")
    builder.page.says("left out")
    builder.page.says("Shut its valve before the engine stops.")
    builder.page.says("A pressure vessel: let the pressure off before anything is opened")
    builder.looks_sound()
    # a larger one as it is dragged to, kept: its own run decides
    builder.answer({"Bottle, gas and oil": "3.8", "Pre-charge, at 20 °C": "2.4"})
    builder.page.says("no dip")
    builder.press("Set it so")
    builder.verdict_says("keeps")

    builder.open("lines")
    for line in ("from the check valve", "from the bottle's tee", "to the bottle's valve"):
        builder.press(line)
        builder.press("Lay it")
        builder.page.says("Ahead of the rail's rear face, to the left, over the rail")
    builder.tab("Order")
    builder.page.says("accumulator with its gauge")
    builder.page.says("electric valve")
    builder.looks_sound()

    builder.car_is_in(has_cooler)
    builder.answer({"is in the cabin": True})
    builder.page.says("through the bulkhead")
    builder.has_steps("through_bulkhead", "fit_check", "charge_bottle")
    builder.in_order("stands", "fit_electric", "wire_valve")
    builder.in_order(
        "mount_bottle", "shorten_line", "lay_line", "top_up", "prove_pressure", "first_start",
        "leak_check", "shut_valve",
    )  # fmt: skip
    builder.on_the_phone()
