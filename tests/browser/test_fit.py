"""Test fits as they are written down: by thumb under the car, away from any answer, at the desk."""

from __future__ import annotations

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from records.models import FitEntry
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from tests.browser.away import nothing_answers
from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)

PHONE = (390, 844)


@pytest.fixture
def car(ada: User) -> Build:
    """The demo car with what is round its pan; no lap: nothing is run."""
    return add_build(ada, checked_document((DEMO / "dunlin.json").read_bytes()), "a file", None)


def open_fit(page: Page, car: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.size(*PHONE)
    page.goto(f"/builds/{car.pk}/fit")


def press(page: Page, words: str) -> None:
    """The button that is seen and has these words in it."""

    def attempt() -> bool:
        page.seen(f"//button[contains(., '{words}')]")[0].click()
        return True

    page.until(attempt)


def kept(kind: str) -> int:
    return FitEntry.objects.filter(data__kind=kind).count()


def test_a_round_is_gone_through_by_thumb(page: Page, car: Build) -> None:
    open_fit(page, car)
    page.says("Two independent stands under the car")
    menu = page.find("section[aria-label=Rounds] select")
    Select(menu).select_by_visible_text("a printed part")
    page.says("It shrinks as it cools")
    page.click("button", "Begin round 1")
    page.says("round 1, place 1 of 4")
    assert page.fits(390) and page.serious_faults() == []
    assert faults(page) == []
    page.click("button", "A wider gap")
    page.click("button", "trimmed")
    press(page, "next: 2")
    page.until(lambda: kept("found") == 1)
    first = FitEntry.objects.get(data__kind="found").data
    assert first["done"] == "trimmed" and first["gap_mm"] == 20
    page.click("button", "It touches")
    press(page, "Keep the touch")
    page.until(lambda: kept("found") == 2)
    page.click("button", "All")
    page.says("touches")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Round")
    page.says("4 places keep round 1 open" if kept("found") == 0 else "keep round 1 open")


def test_a_round_goes_on_when_nothing_answers_and_comes_through_once(
    page: Page, car: Build
) -> None:
    open_fit(page, car)
    page.click("button", "Begin round 1")
    page.until(lambda: kept("round_begun") == 1)
    page.until(lambda: "Opens without" in page.find("[data-away]").text)
    page.driver.refresh()
    page.says("round 1, place 1 of 4")
    with nothing_answers(page):
        for number in (2, 3):
            press(page, f"next: {number}")
        page.says("2 entered, not sent yet")
        page.driver.refresh()
        page.says("2 entered, not sent yet")
        page.says("round 1, place")
    page.send_what_waits()
    page.until(lambda: kept("found") == 2)
    page.until(lambda: "not sent" not in page.text())
    assert FitEntry.objects.count() == 3


def test_at_the_desk_a_keep_out_is_moved_by_what_was_found(page: Page, car: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{car.pk}/fit")
    page.click("button", "Begin round 1")
    page.until(lambda: kept("round_begun") == 1)
    page.find("[data-row='k2:pan'] button").click()
    page.says("pan to steering rack")
    page.click("button", "A smaller gap")
    press(page, "Keep 41 mm")
    page.until(lambda: kept("found") == 1)
    page.find("[data-row='k2:pan'] button").click()
    assert faults(page) == [] and page.serious_faults() == []
    page.find("[data-row='k2:pan'] button")
    page.click("button", "square to the engine")
    assert faults(page) == []
    offers = page.driver.find_elements(By.CSS_SELECTOR, "[data-correction='k2:pan']")
    assert offers == []  # half a millimetre is not worth a move
    page.find("[data-row='k3:pan'] button").click()
    for _ in range(6):
        page.click("button", "A smaller gap")
    press(page, "Keep 13 mm")
    page.until(lambda: kept("found") == 2)
    page.find("[data-row='k3:pan'] button").click()
    page.click("button", "Move the exhaust")
    page.until(lambda: page.find("[data-row='k3:pan'] td:nth-of-type(2)").text == "13")
