"""A spacer under the pan: all that follows by its thickness."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_pickup_bolts_baffle_and_litres_follow(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Plover", "Flat six, wide shallow sump")
    builder.figure("Temperature in the pan", "100 °C")
    page.click("button", "in, inch and US units")
    builder.open("pan")
    as_told = builder.state()
    builder.figure("Pan bolts without a spacer", "7/8 in")
    page.until(lambda: builder.state() > as_told)
    builder.fit("A level plate over the sump", {}, "Fit plates, gates")
    as_it_is = builder.state()
    before = builder.holds_to_the_rail()
    builder.answer(
        {"by": "1/4 in"}, "//section[.//*[normalize-space(text())='Spacer or deeper sump']]"
    )
    builder.press("Lower it")
    page.until(lambda: builder.state() == as_it_is + 1)
    # 6.35 mm over the sump's whole outline
    page.until(lambda: builder.holds_to_the_rail() > before)
    page.says("1/4 in")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.has_steps(
        "fit_spacer", "space_pickup", "long_bolts", "raise_baffle", "measure_gap", "renew_seal"
    )
    builder.in_order("pan_off", "fit_spacer", "dry_fit", "seal_pan", "torque_pan", "retorque")
    builder.press("Measure")
    page.says("1/4 to 3/8 in")
    builder.on_the_phone()
    builder.open("lines")
    page.click("button", "mm, metric units")
