"""Pan off behind a chassis member: through-fitting, bead in two stages, feed from a tee."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_member_is_lowered_and_a_bead_sets_before_it_is_torqued(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Dotterel", "In-line engine along the car, sump in front")
    builder.figure("Leaned to its right", "15")
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("Move the filter", {"Filters on the base": "one"})
    as_it_is = builder.state()
    # fed from a tee in the line into the gallery, through a restrictor
    builder.fit("A turbo, fed and drained", {"Fed from": "the line into the gallery"})
    page.says("turbo fed from a tee in")
    builder.open("drains")
    builder.answer_in_turn(
        "Places of the drain of the turbo", "300", "-170", "230", "300", "-100", "12"
    )
    builder.press("Place it")
    page.says("Elevation along the engine")

    builder.car_is_in(as_it_is)
    builder.in_the_way("a crossmember", "front crossmember", "70", "90")
    builder.in_the_way("an engine mount", "right engine mount", "30", "30")
    builder.answer({"Pan joint": "liquid bead, sets an hour"})
    page.says("1 h")
    builder.has_steps("hold_engine", "drill_wall", "deburr", "through_fitting", "reach_bolts")
    builder.in_order(
        "hold_engine",
        "take_off",
        "pan_off",
        "wash_pan",
        "seal_pan",
        "finger_tight",
        "torque_pan",
        "put_back",
    )
    builder.in_order("prime", "prime_turbo", "prove_pressure", "first_start")
    builder.press("All pan bolts finger tight")
    page.says("then 1 h")
    builder.press("Prime: pump turned without firing")
    builder.press("Hold the engine from above")
    page.says("only a qualified fabricator")
    builder.looks_sound()
    builder.on_the_phone()
