"""A new pan looked over before assembly: cracked, the job stops, it goes back, the plan moves."""

from __future__ import annotations

import re
from datetime import datetime, timedelta

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def done_on(builder: Builder) -> datetime:
    """When the card says that all is done; a day without its year is one of this year."""
    said = r"Done\n\w+,? (\d+) (\w{3})\w*(?: (\d{4}))?"
    builder.page.until(lambda: re.search(said, builder.page.text()))
    found = re.search(said, builder.page.text())
    assert found
    day, month, year = found.groups()
    return datetime.strptime(f"{day} {month} {year or datetime.now().year}", "%d %b %Y")


def test_a_cracked_pan_stops_the_job_and_moves_the_plan(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Godwit", "Vee engine along the car")
    # the engine as it is: a pump in two stages, jets under its pistons
    page.click("button", "It has two stages")
    builder.answer({"Low mode, per turn": "8 cm3", "Low mode below": "1900 rpm"})
    builder.press("Take this low mode")
    page.until(lambda: builder.state() == 2)
    builder.say_a_load({"Load": "1.2", "Held for": "1.5"})
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit("Piston jets", {"How many": "8", "Bore of each": "1.5 mm", "Open at": "28 psi"})
    page.says("8 piston jets of 1.5 mm, open at 28 psi")
    builder.fit("A cover that carries a tapping")
    as_it_is = builder.state() - 1  # the cover is part of the plan

    # the new pan, and what it is looked over for
    builder.open("pan")
    builder.tab("Numbers")
    builder.unfold("Begin anew on this rail")
    builder.answer({"Sump's depth": "165 mm", "Shelf's": "60 mm"})
    builder.press("Sump at the rear")
    page.until(lambda: builder.state() > as_it_is + 1)
    builder.tab("As it came")
    builder.press("Begin the inspection")
    page.says("10 of 10 still to look at")
    builder.looks_sound()

    builder.car_is_in(as_it_is)
    builder.has_steps("make_tube", "renew_seal", "measure_gap", "drill_cover")
    builder.in_order("look_at_new", "offer_up", "dry_fit", "torque_pan", "prove_pressure")
    page.click("button", "Begin this job")
    page.says("A part is bad")
    page.says("Pan by a fabricator is there on")
    awaited = done_on(builder)
    builder.tab("Parts")
    builder.pick("//*[@data-part='pan_made']", "have it")
    builder.tab("Job")
    page.until(lambda: done_on(builder) < awaited)  # not what the card said before
    planned = done_on(builder)
    builder.press("Look the new pan over as it came")
    builder.press("A part is bad")
    builder.answer({"What was found": "cracked at the corner bolt"})
    builder.press("It is bad: stop its steps")
    builder.has_steps("send_back", "look_again")
    page.says("Send pan back")
    # by days, and by how many the weekend decides: five from a Monday, two from a Tuesday
    page.until(lambda: done_on(builder) - planned >= timedelta(days=1))
    builder.press("Offer the new pan up")
    page.says("a part was found bad")
    builder.on_the_phone()
