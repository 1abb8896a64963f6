"""A dry sump on a small single-seater's engine: bracket, direct feed, old passage blocked."""

from __future__ import annotations

import pytest

from tests.browser.conftest import A_RUN
from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_it_goes_dry_in_one_act_and_the_card_says_what_else_must_be_done(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Sanderling", "In-line engine along the car, sump at the rear")
    builder.figure("In the engine, as poured", "4.2 L")
    builder.figure("Temperature in the pan", "92 °C")
    as_it_is = builder.state()
    builder.say_a_load({"Load": "1.7", "Held for": "1.5"})
    builder.verdict_says("dry")
    builder.open("dry-sump")
    page.says("The pump draws from the pan")
    builder.answer(
        {
            "Pan's depth below the rail": "55 mm",
            "Scavenge pickups": "two: front and rear",
            "Tank": "6 L",
        }
    )
    builder.press("Fit it")
    page.says("What each stage draws, corner by corner")
    page.says("Sizing, wanted and found")
    page.until(lambda: "tank's outlet" in page.verdict(), A_RUN)
    builder.looks_sound()

    builder.open("lines")
    builder.tab("Order")
    page.says("tank")
    builder.car_is_in(as_it_is)
    builder.has_steps("fit_drive", "old_pump", "mount_tank", "find_level", "fit_scavenge_pickup")
    builder.in_order(
        "look_at_new",
        "offer_up",
        "fit_scavenge_pickup",
        "dry_fit",
        "torque_pan",
        "prime",
        "first_start",
    )
    builder.press("Wet pump out")
    page.says("its passage blocked, the gallery fed from outside")
    builder.on_the_phone()

    # room for it is made in rounds of offering up
    builder.open("fit")
    builder.answer({"Offered up": "a printed part"})
    page.click("button", "Begin round 1")
    page.says("round 1")
    builder.answer(
        {"A place that is not listed": "tank to the roll hoop's stay", "wanted, mm": "25"}
    )
    builder.press("Look there too")
    page.says("tank to the roll hoop's stay")
    builder.looks_sound()
