"""The Car screen: the engine picked on a drawing of the car, the ground below."""

from __future__ import annotations

import pytest
from accounts.services import open_account
from builds.models import Build
from builds.services import add_build, checked_document
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def build(db: None) -> Build:
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(ada, document, "from a file", None)


@pytest.fixture
def car(page: Page, build: Build) -> Page:
    page.sign_in("ada", "bearing-shell-9")
    page.says("No lap yet")
    page.driver.get(f"{page.address}/builds/{build.pk}/car")
    page.says("The car, and the engine in it")
    return page


def test_the_engine_is_picked_on_the_drawing(car: Page, build: Build) -> None:
    car.says("its nose is the car's front")
    car.find('[aria-label="Crank\'s nose to the right"]').click()
    car.says("its left at the car's front")
    car.find("[aria-label='Engine in the rear']").send_keys(Keys.ENTER)
    car.says("State 3")
    document = Build.objects.get(pk=build.pk).current.document
    assert document["car"]["nose_points"] == "right"
    assert document["car"]["place"] == "rear"
    assert car.serious_faults() == []


def test_the_ground_is_a_figure_of_the_head(car: Page) -> None:
    head = "//header//a[contains(., 'To the ground')]"
    car.until(lambda: "58" in car.driver.find_element(By.XPATH, head).text)
    car.type_into("Pan rail above the ground", "195 mm")
    car.says("9 mm less than wanted")
    car.until(lambda: "36" in car.driver.find_element(By.XPATH, head).text)
    car.says("too low")
    car.size(390, 844)
    assert car.fits(390)
    assert car.serious_faults() == []
