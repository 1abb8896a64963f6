"""Gates into a cast pan: webs trimmed as little as possible, direction, cross pattern."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_webs_are_trimmed_gates_turned_and_bolts_taken_crosswise(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Stint", "In-line engine along the car, sump in front")
    builder.figure("Leaned to its right", "10")
    builder.open("pan")
    builder.tab("Numbers")
    builder.answer({"Made of": "a casting"})
    page.until(lambda: builder.state() == 3)
    builder.press("Lay it out")
    page.until(lambda: builder.state() == 4)
    as_it_is = builder.state()
    builder.tab("Fill, checks")
    builder.fit("Plates with gates round the pickup", {"Gates": "three"}, "Fit plates, gates")
    # one is hung the wrong way round: the check says so, and turns it
    builder.tab("Numbers")
    builder.unfold("right wall")
    builder.pick(
        "//details[summary[contains(., 'right wall')]]//label[starts-with(., 'Gate')]/..",
        "swings to the plate's left",
    )
    page.until(lambda: builder.state() == as_it_is + 2)
    builder.tab("Fill, checks")
    page.says("away from the mouth")
    builder.press("Turn it")
    page.until(lambda: "away from the mouth" not in page.text())
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.in_order(
        "trim_webs", "fit_plate", "hang_gate", "try_gate", "wash_pan", "dry_fit", "torque_pan"
    )
    builder.press("Trim webs")
    page.says("none by its drawing alone")
    page.click("button", "Begin this job")
    page.says("A part is bad")
    builder.press("Torque the pan bolts, crosswise")
    page.says("lbf·in")
    builder.looks_sound()
    builder.on_the_phone()
