"""A cross-wise engine that survived until its tyres improved: more oil as a trial, then gates."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_quart_over_helps_until_grip_rises_and_gates_are_fitted(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Redshank", "Transverse four")
    builder.figure("Leaned to its right", "4")
    builder.say_a_load({"First to the": "left", "Load": "0.9", "Held for": "1.5"})
    builder.verdict_says("keeps")
    # better tyres: the same corner, a third more of everything
    builder.open("loads")
    page.click("button", "better tyres")
    builder.answer({"Grip of": "1.5"})
    page.click("button", "Keep")
    page.says("grip x 1.5")
    builder.press("grip x 1.5")
    builder.press("Judge by it")
    page.until(lambda: "1.35 g" in page.verdict())
    tried_from = builder.state()

    # a quart over the mark, as a trial: the crank's clearance is said
    builder.open("car")
    builder.press("Put the crank in")
    page.until(lambda: builder.state() == tried_from + 1)
    builder.figure("In the engine, as poured", "6 qt")
    builder.open("pan")
    page.says("crank")
    builder.fit("Plates with gates round the pickup", {"Gates": "two"}, "Fit plates, gates")
    page.says("gate")
    builder.looks_sound()

    builder.car_is_in(tried_from)
    builder.has_steps("cut_plate", "fit_plate", "hang_gate", "try_gate", "refill")
    page.click("button", "Begin this job")
    page.says("A part is bad")
    # the pan goes to a specialist who welds them in: two weeks
    builder.press("Clean pan, block face")
    builder.press("A part is bad")
    builder.answer({"What was found": "sent away to have them welded in", "Days until": "14"})
    builder.press("It is bad: stop its steps")
    builder.has_steps("send_back", "look_again")
    builder.on_the_phone()
