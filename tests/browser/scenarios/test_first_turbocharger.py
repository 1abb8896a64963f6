"""A first turbocharger: where its drain enters, what fouls, its feed, the catch can."""

from __future__ import annotations

import pytest

from tests.browser.conftest import A_RUN
from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_drain_is_placed_where_it_falls_and_bolts_stay_reachable(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Knot", "Transverse four")
    builder.figure("Leaned to its right", "6")
    builder.say_a_load({"First to the": "right", "Load": "1.3", "Held for": "1.5"})
    as_it_is = builder.state()

    builder.open("drains")
    page.says("Nothing drains by a line of its own")
    builder.looks_sound()
    builder.press("A turbo, fed and drained")
    builder.answer({"Its bearings": "plain", "Restrictor": "2 mm"})
    builder.press("Fit it")
    page.says("Where is the drain of the turbo?")
    builder.answer_in_turn(
        "Places of the drain of the turbo", "180", "160", "240", "180", "110", "10"
    )
    for view in ("plan", "side"):
        for end in ("oil leaves", "comes in"):
            page.find(f'[data-view={view}] [data-typed="{end}"]')  # drawn as it is typed
    builder.looks_sound()
    builder.press("Place it")
    page.says("Elevation along the engine")
    page.says("The wall, unrolled")
    page.says("10 mm under the rail")
    builder.looks_sound()

    # too small for the right-hander: a size more is tried, and kept
    page.until(lambda: "backs up" in page.verdict())
    builder.press("Try size 12")
    page.says("Set it so")
    builder.press("Set it so")
    page.until(lambda: "backs up" not in page.verdict(), A_RUN)
    builder.tab("Numbers")
    builder.fit("A catch can", {"Volume": "2 L"})

    # two ways of making its hole: off the car, or on it with more risk
    builder.car_is_in(as_it_is)
    builder.has_steps("drill_wall", "deburr", "through_fitting", "match_flange", "prime_turbo")
    builder.in_order("drain", "pan_off", "drill_wall", "through_fitting", "wash_pan", "reach_bolts")
    builder.answer({"A hole in the sump": "in place: nut passed in"})
    builder.has_steps("sensor_out", "pass_nut_in", "swarf_out")
    builder.in_order("drain", "sensor_out", "pass_nut_in", "swarf_out", "refill", "prime_turbo")
    assert "pan_off" not in builder.steps()
    builder.on_the_phone()

    # what fouls when it is offered up
    builder.open("fit")
