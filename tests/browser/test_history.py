"""Two editors, and the state that the car is in, as they are seen."""

from __future__ import annotations

import pytest
from accounts.models import User
from builds.models import Build
from builds.schemas import ActIn
from builds.services import act
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.server.conftest import figures

pytestmark = pytest.mark.django_db(transaction=True)


def edit_elsewhere(build: Build, user: User, field: str, typed: str) -> None:
    state = Build.objects.get(pk=build.pk).current
    act(user, build.pk, ActIn.model_validate(figures(field, typed, state.number)))


NOT_LOOKED_AT = """
Object.defineProperty(document, "visibilityState", { get: () => "hidden" });
document.dispatchEvent(new Event("visibilitychange"));
"""


def test_two_editors_keep_both(slosh: Page, build: Build, ada: User) -> None:
    bob = User.objects.create_user("bob", workshop=ada.workshop)
    slosh.driver.execute_script(NOT_LOOKED_AT)  # such a page does not ask what others changed
    slosh.click("button", "Numbers")
    # of different things: one on top of the other
    edit_elsewhere(build, bob, "oil.volume_l", "7.5")
    slosh.type_into("Gap to the floor", "9 mm")
    slosh.says("Saved on top of another's change")
    slosh.says("Meanwhile, by others: oil in the engine to 7.5 (bob). Yours is on top.")
    assert slosh.serious_faults() == []
    slosh.click("button", "Close")
    newest = build.states.get(number=3).document
    assert (newest["oil"]["volume_l"], newest["pickup"]["gap_mm"]) == (7.5, 9)
    # of one figure: both are kept, and she says which
    edit_elsewhere(build, bob, "pickup.gap_mm", "10")
    slosh.type_into("Gap to the floor", "11 mm")
    slosh.says("Changed in two places; both are kept")
    slosh.says("bob changed this build while you worked: mouth's gap to 10")
    states = {state.number: state.document for state in build.states.all()}
    assert [states[number]["pickup"]["gap_mm"] for number in (3, 4, 5)] == [9, 10, 11]
    assert slosh.serious_faults() == []
    slosh.click("button", "Put mine on top of theirs")
    slosh.says("State 6")
    assert build.states.get(number=6).document["pickup"]["gap_mm"] == 11
    # once more, and mine instead
    edit_elsewhere(build, bob, "pickup.gap_mm", "12")
    slosh.type_into("Gap to the floor", "7 mm")
    slosh.click("button", "Show mine instead")
    slosh.until(lambda: Build.objects.get(pk=build.pk).current.number == 8)
    assert Build.objects.get(pk=build.pk).current.document["pickup"]["gap_mm"] == 7


def test_the_state_that_the_car_is_in(slosh: Page, build: Build) -> None:
    slosh.press("h")
    slosh.says("Nobody has said which state the car is in.")
    slosh.click("button", "car is so: state 1")
    slosh.says("The car is as shown.")
    assert slosh.serious_faults() == []
    slosh.driver.switch_to.active_element.send_keys(Keys.ESCAPE)
    slosh.click("button", "Numbers")
    slosh.type_into("Gap to the floor", "9 mm")
    slosh.says("State 2")
    slosh.press("h")
    slosh.says("The car is like state 1. To what is shown it takes:")
    slosh.says("mouth's gap: 8 mm to 9 mm")
    assert slosh.serious_faults() == []
