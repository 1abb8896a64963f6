"""Two turbos, their drains pulled by a stage each, hard lines, a plate cooler sized and tested."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_drains_that_cannot_fall_are_pulled_and_the_cooler_holds_the_heat(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Pratincole", "Vee engine along the car")
    builder.figure("Its power", "480 kW")
    builder.figure("at an engine speed of", "6800")
    as_it_is = builder.state()
    builder.say_a_load({"What": "braking", "Load": "1.1", "Held for": "1.5"})
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("A turbo, fed and drained", {"Its bearings": "plain", "Drain's size": "8"})
    builder.fit("A turbo, fed and drained", {"Its bearings": "plain", "Drain's size": "8"})
    builder.fit("Drain a turbo otherwise", {"Which": "turbo", "Drained": "by a scavenge stage"})
    builder.fit("Drain a turbo otherwise", {"Which": "turbo 2", "Drained": "by a scavenge stage"})
    builder.fit(
        "An oil cooler", {"Cooled by": "the engine's water (plates)", "Its rating": "60000 BTU/h"}
    )
    builder.tab("Cooling")
    page.says("Heat into the oil")
    builder.open("drains")
    page.says("Every drain has a stage of its own")
    builder.looks_sound()

    # one feed is bent from tube
    builder.open("lines")
    builder.press("feed of the turbo")
    builder.answer({"Made of": "hard line"})
    builder.press("Lay it")
    page.says("Ahead of the rail's rear face")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.has_steps("fit_stage", "bend_line", "sand_out", "leak_test_both", "prime_turbo")
    builder.in_order("leak_test_both", "mount_plate_cooler", "prime", "prime_turbo", "first_start")
    builder.press("every grain of sand washed out")
    page.says("gate")
    builder.on_the_phone()
