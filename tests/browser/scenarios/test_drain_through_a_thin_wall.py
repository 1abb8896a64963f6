"""A drain through a thin pressed wall with the pan in place: nut passed in, swarf wiped out."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_the_hole_is_made_on_the_car_and_the_swarf_is_a_gate(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Ruff", "In-line engine along the car, sump at the rear")
    builder.figure("Leaned to its right", "-4")
    # pressed steel, said among the numbers; the turbo is there and drains into the block
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("A turbo, fed and drained", {"Its bearings": "ball", "Restrictor": "1.5 mm"})
    builder.fit("Drain a turbo otherwise", {"Drained": "by gravity into the block"})
    as_it_is = builder.state()
    builder.fit(
        "Drain a turbo otherwise", {"Drained": "by gravity into the pan", "Line's size": "12"}
    )
    builder.open("drains")
    builder.answer_in_turn(
        "Places of the drain of the turbo", "90", "170", "210", "90", "105", "14"
    )
    builder.press("Place it")
    page.says("Elevation along the engine")
    page.says("14 mm under the rail")
    builder.tab("Rules")
    page.says("through-fitting")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.answer({"A hole in the sump": "in place: nut passed in"})
    builder.has_steps("sensor_out", "sensor_back", "match_flange", "lay_line")
    builder.in_order(
        "drain", "sensor_out", "drill_in_place", "pass_nut_in", "swarf_out", "refill", "prime",
        "prime_turbo", "first_start",
    )  # fmt: skip
    assert "pan_off" not in builder.steps()
    page.says("swarf is wiped out by hand, and that is a gate")
    page.click("button", "Begin this job")
    page.says("A part is bad")
    # what comes after the gate does not open before it
    builder.press("Fill: ")
    page.says("Not to be passed first: ")
    builder.on_the_phone()
