"""Lines as a builder meets them: an end turned, a corner moved, the order ticked, taken along."""

from __future__ import annotations

import csv
import io

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def plumbed(ada: User) -> Build:
    """The demo car with a bottle and its lines laid; no lap: nothing is run."""
    return add_build(ada, checked_document((DEMO / "plumbed.json").read_bytes()), "a file", None)


def _choose(page: Page, css: str, words: str) -> None:
    Select(page.driver.find_element(By.CSS_SELECTOR, css)).select_by_visible_text(words)


def _tab(page: Page, name: str) -> None:
    tabs = page.driver.find_elements(By.CSS_SELECTOR, "[role=tab]")
    next(each for each in tabs if each.text == name).click()


def _order_of(page: Page, part: str) -> str:
    return page.driver.find_element(By.CSS_SELECTOR, f"[data-order='{part}']").text


def _begins(page: Page) -> str:
    """When work can begin, and how many parts are to come."""
    return page.driver.find_element(By.CSS_SELECTOR, "[data-begin]").text


def test_lines_are_looked_over_laid_and_ordered(page: Page, plumbed: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("bottle and lines")
    page.goto(f"/builds/{plumbed.pk}/lines")
    page.says("points 53° past its hose: another angle of end")
    page.says("as it screws together")
    assert page.serious_faults() == []
    assert faults(page) == []

    # the hose end that points elsewhere is turned
    page.driver.find_element(By.CSS_SELECTOR, "[data-end='end'] summary").click()
    labels = page.driver.find_elements(By.CSS_SELECTOR, "[data-end='end'] label")
    hose_end = next(each for each in labels if each.text.startswith("Hose end"))
    Select(hose_end.find_element(By.TAG_NAME, "select")).select_by_visible_text("45°")
    page.says("State 2")
    page.until(lambda: "clear of the steering rack" in page.text())

    # a corner is led lower with the keyboard, too near the rack; and back by undo
    corner = page.driver.find_element(By.CSS_SELECTOR, "[data-point='2'][data-view='side']")
    corner.send_keys(Keys.ARROW_DOWN)
    page.says("State 3")
    page.click("button", "Undo")
    page.says("State 2")

    # the order: what is there is ticked, and stays so
    page.click("button", "The order")
    page.says("parts to come; ordered today, the last is there on")
    assert "line 1, 2, 4, 5, 6" in _order_of(page, "hose_10")
    assert "1 in" in page.text()
    before = _begins(page)
    _choose(page, "[data-order='accumulator'] select", "have it")
    page.until(lambda: _begins(page) != before)
    page.driver.refresh()
    page.says("as it screws together")
    _tab(page, "Order")
    picked = Select(page.driver.find_element(By.CSS_SELECTOR, "[data-order='accumulator'] select"))
    assert picked.first_selected_option.text == "have it"
    assert page.serious_faults() == []
    text = page.driver.execute_async_script(
        "const done = arguments[0];"
        f"fetch('/api/stages/lines/{plumbed.pk}/csv').then(a => a.text()).then(done)"
    )
    rows = list(csv.DictReader(io.StringIO(text)))
    states = {row["part"]: row["state"] for row in rows}
    assert states["accumulator with its gauge"] == "have" and states["tee"] == "to order"

    page.size(390, 844)
    page.says("as it screws together")
    assert page.serious_faults() == []
    assert faults(page) == []
    page.size(1280, 800)
