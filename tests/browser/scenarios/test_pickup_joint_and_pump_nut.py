"""Pickup seal and brace renewed, a pump drive nut with left-hand thread, what hides the pan."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_suction_joint_is_renewed_and_the_nut_locked(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Turnstone", "In-line engine along the car, sump in front")
    builder.figure("Temperature in the pan", "95 °C")
    builder.car_is_in(builder.state(), "Nothing to do: the car is as it is planned")
    builder.pick_part("pickup tube", "Renew")  # that alone is a job
    builder.has_steps("renew_seal", "pan_off")
    builder.open("pan")
    builder.fit("A brace at the pickup's tube", title="Fit plates, gates")
    page.says("brace")

    builder.open("job-card")
    builder.pick_part("pickup tube", "Renew")
    builder.pick_part("oil pump", "Renew")
    builder.has_steps("renew_seal", "brace_tube", "pump_nut", "lock_wire")
    for kind, name, off, back in (
        ("the steering", "steering rack", "40", "50"),
        ("a belt", "alternator belt", "15", "20"),
        ("the dipstick tube", "dipstick tube", "10", "10"),
    ):
        builder.in_the_way(kind, name, off, back)
    page.says("Out of the way: steering rack")
    builder.in_order(
        "drain", "take_off", "pan_off", "look_at_tube", "renew_seal", "dry_fit", "put_back"
    )
    builder.in_order("pump_nut", "lock_wire", "dry_fit", "prime", "prove_pressure")

    # left-hand, dry and in both units; bolts that hold the case are left
    builder.press("Nut of the drive of oil pump")
    page.says("left-hand thread")
    page.says("17")
    page.says("lbf·ft")
    builder.press("New seal in pickup tube")
    page.says("the one for this pump and tube")
    page.says("case")
    builder.looks_sound()
    builder.on_the_phone()
