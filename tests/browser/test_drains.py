"""Drains as a builder meets them: a turbo's backs up in long right-handers, and is mended."""

from __future__ import annotations

from pathlib import Path

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from loads.services import store_lap
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def turbo(ada: User, tmp_path: Path) -> Build:
    """The demo's turbocharged car, over its lap to beyond corner 3."""
    path = tmp_path / "to-corner-3.csv"
    path.write_text("\n".join((DEMO / "saltmarsh-turbo.csv").read_text().splitlines()[:1800]))
    lap = store_lap(ada, "to corner 3", path, path.name)
    return add_build(
        ada, checked_document((DEMO / "sandpiper.json").read_bytes()), "from a file", lap
    )


def _opened(page: Page, build: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Sandpiper")
    page.goto(f"/builds/{build.pk}/drains")
    page.says("Drains, worst first")


def test_a_drain_that_backs_up_is_found_and_mended(page: Page, turbo: Build) -> None:
    _opened(page, turbo)
    page.until(lambda: "backs up" in page.verdict())
    title = page.find("main h1").text
    assert "right" in title and "of head short" in title
    page.find("[data-head='short']")
    assert page.serious_faults() == []

    # what was found: one back-up, its moment, and what pushes
    page.says("Back-ups")
    page.says("in corner 3, right")
    page.click("button", "Try a 14 mm breather")
    page.until(lambda: "to spare at the least" in page.find("[data-trial]").text)
    page.click("button", "Try size 12")
    page.until(lambda: "breather 14 mm" in page.text() and "size 12" in page.text())
    page.until(lambda: page.find("[data-trial]").get_attribute("aria-busy") == "false")
    page.click("button", "Set it so")
    page.says("State 2")
    page.until(lambda: "backs up" not in page.verdict())
    page.says("none over the lap")
    page.find("[data-head='enough']")

    # a step back and it is short again
    page.click("button", "Undo")
    page.until(lambda: "backs up" in page.verdict())


def test_loads_and_entries_are_tried_by_keys(page: Page, turbo: Build) -> None:
    _opened(page, turbo)
    rose = page.find("[data-drain-rose]")
    rose.send_keys(Keys.HOME)
    page.until(lambda: page.find("main h1").text.startswith("At no load"))
    page.find("[data-head='enough']")
    page.click("button", "Back to the lap")
    page.until(lambda: page.find("main h1").text.startswith("Corner 3"))

    wall = page.find("[data-wall]")
    wall.send_keys(Keys.ARROW_UP)
    page.find("[data-tried]")
    page.until(lambda: page.find("[data-trial]").get_attribute("aria-busy") == "false")
    assert "entry" in page.find("[data-trial]").find_element(By.XPATH, "..").text
    page.click("button", "As it stands")
    page.until(lambda: not page.driver.find_elements(By.CSS_SELECTOR, "[data-tried]"))


def test_guesses_are_moved_and_put_back(page: Page, turbo: Build) -> None:
    _opened(page, turbo)
    before = page.find("main h1").text
    page.click("button", "Gas")
    page.says("Blow-by at")
    foam = page.field("Gas in what turbos drain")
    foam.send_keys(Keys.ARROW_RIGHT * 10)
    page.says("Tried; likely 30 to 50")
    page.until(lambda: page.find("main h1").text != before)
    page.click("button", "Back to the build")
    page.until(lambda: page.find("main h1").text == before)


def test_an_engine_without_a_drain_is_told_what_to_do(page: Page, build: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{build.pk}/drains")
    page.says("Nothing drains by a line of its own")
    page.says("Breathing")
    assert page.serious_faults() == []
