"""A dry sump placed for a crash and a low bonnet: tank, belt, separator, vent and drain cock."""

from __future__ import annotations

import pytest

from tests.browser.conftest import A_RUN
from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_the_tank_is_upright_vented_and_out_of_reach_of_a_wall(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Curlew Sandpiper", "Vee engine along the car")
    builder.figure("Nose higher than tail", "3")
    builder.press("Bonnet")
    page.until(lambda: builder.state() == 3)
    as_it_is = builder.state()
    builder.say_a_load({"Load": "1.4", "Held for": "1.5"})
    builder.open("dry-sump")
    builder.answer({
        "Pan's depth below the rail": "75 mm",
        "Scavenge pickups": "three: front, rear left and right",
        "Tank": "11 L",
        "Separator": "ahead of the cooler: dense oil cools better",
    })  # fmt: skip
    page.says("The tank sits where neither a wheel nor a wall reaches it in a crash.")
    builder.press("Fit it")
    page.says("What each stage draws, corner by corner")
    page.until(lambda: "tank's outlet" in page.verdict(), A_RUN)
    builder.looks_sound()

    # tank and its vent among the numbers; what is ordered for them
    builder.open("lines")
    builder.tab("Order")
    for part in ("dry sump tank", "air-oil separator", "drain cock", "scavenge stage"):
        page.says(part)
    builder.looks_sound()
    builder.car_is_in(as_it_is)
    builder.has_steps("mount_tank", "fit_drive", "fit_stage", "find_level", "lay_line")
    builder.press("Mount oil tank")
    page.says("neither a wheel nor a wall reaches it in a crash")
    builder.press("Find the level of oil tank")
    page.says("with the engine turning")
    builder.on_the_phone()
