"""A flat engine: deeper by a spacer, gates, freer returns, a bead inside the bolt holes."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_deeper_gated_and_freer(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Avocet", "Flat six, wide shallow sump")
    builder.figure("Temperature in the pan", "108 °C")
    as_it_is = builder.state()
    builder.say_a_load({"Load": "1.35", "Held for": "1.5"})
    builder.open("pan")
    builder.answer(
        {"by": "1/4 in"}, "//section[.//*[normalize-space(text())='Spacer or deeper sump']]"
    )
    builder.press("Lower it")
    page.until(lambda: builder.state() == as_it_is + 1)
    builder.fit("Plates with gates round the pickup", {"Gates": "two"}, title="Fit plates, gates")
    builder.open("drains")
    builder.press("An outside return line")
    builder.answer({"From": "left head"})
    builder.press("Fit it")
    page.says("Where is the outside return of the left head")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.answer({"Pan joint": "liquid bead, sets an hour"})
    builder.has_steps("cut_plate", "hang_gate", "long_bolts", "space_pickup", "cut_line")
    builder.in_order(
        "fit_plate",
        "hang_gate",
        "try_gate",
        "wash_pan",
        "measure_gap",
        "seal_pan",
        "finger_tight",
        "torque_pan",
    )
    builder.press("Seal the pan: a thin bead inside the bolt holes")
    page.says("inside the bolt holes")
    builder.looks_sound()
    builder.on_the_phone()
