"""The main job in a real browser, from an empty account to an answer, and back after a reload."""

from __future__ import annotations

from pathlib import Path

import pytest
from accounts.services import open_account
from bilge_core.document.export import Packed, packed
from bilge_core.document.work_file import WorkInFile
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


def sign_in(page: Page) -> None:
    open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    page.sign_in("ada", "bearing-shell-9")
    page.says("No builds yet")


def import_lap(page: Page) -> None:
    page.give(DEMO / "saltmarsh.csv", "Logger file")
    page.says("This lap turns mostly left")
    page.click("button", "Keep it and judge by this lap")
    page.click("button", "See where the oil goes")


def test_from_an_empty_account_to_an_answer(page: Page) -> None:
    sign_in(page)
    assert page.serious_faults() == []
    page.field("Name of the car or build").send_keys("Wader")
    page.click("button", "Make the build")
    page.says("No lap yet")
    assert "No lap yet" in page.verdict()
    page.says("a template's, invented")
    page.click("button", "On to the pan")
    page.click("button", "On to the loads")
    import_lap(page)
    # a template's numbers are not shouted as the builder's own
    page.until(lambda: "as they are the pickup runs dry" in page.verdict())
    assert page.verdict().startswith("Not yours yet.")
    before = page.verdict()
    page.says("Dips at the mouth")
    page.find("[data-dip]")
    assert page.serious_faults() == []

    # a dip is picked: the oil lies as it does there
    page.click("button", "Sections")
    dips = page.driver.find_elements(By.CSS_SELECTOR, "ol button")
    drawn = page.find("[data-oil=front]").get_attribute("d")
    dips[-1].click()
    page.until(lambda: page.find("[data-oil=front]").get_attribute("d") != drawn)

    page.click("button", "Numbers")
    assert page.serious_faults() == []
    page.type_into("In the engine, as poured", "lots")
    page.says("cannot be read")
    assert page.field("In the engine, as poured").get_attribute("value") == "lots"
    page.type_into("In the engine, as poured", "9 qt")
    page.until(lambda: page.verdict() != before)
    more_oil = page.verdict()
    page.says("State 2")
    page.click("button", "Undo")
    page.until(lambda: page.verdict() == before)
    page.click("button", "Redo")
    page.until(lambda: page.verdict() == more_oil)
    page.driver.refresh()
    page.until(lambda: page.verdict() == more_oil)
    page.click("button", "Numbers")
    assert page.field("In the engine, as poured").get_attribute("value") == "8.517"  # litres

    page.click("button", "in, inch and US units")
    page.until(
        lambda: page.field("In the engine, as poured").get_attribute("value") in {"9", "9.0"}
    )


def test_moving_an_edge_takes_its_neighbour_along(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Wader")
    page.click("button", "Make the build")
    page.click("a", "Slosh")
    page.says("At rest")
    page.click("button", "Numbers")
    page.find("details summary").click()
    page.type_into("Rear edge, ahead of the rear face", "240")
    page.says("State 2")
    assert page.field("Rear edge, ahead of the rear face").get_attribute("value") == "240"
    page.field("Rear edge, ahead of the rear face").send_keys(Keys.CONTROL, "z")
    page.says("State 1")
    page.click("button", "Add a zone in front")
    page.says("zone 4")


def test_night_and_phone(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Wader")
    page.click("button", "Make the build")
    page.click("a", "Slosh")
    page.says("At rest")
    page.click("button", "Night theme")
    assert page.serious_faults() == []
    page.size(390, 844)
    page.says("Slosh")
    assert page.fits(390)
    assert page.serious_faults() == []
    page.find("div.fixed > button").click()
    page.click("a", "Loads")
    import_lap(page)
    page.until(lambda: "Not yours yet" in page.verdict())
    page.find("div.fixed > button").click()
    page.click("a", "Drains")
    page.says("Nothing drains by a line of its own")
    page.find("div.fixed > button").click()
    page.click("a", "Options")
    page.says("The smallest remedy that holds")
    page.size(1280, 800)
    page.click("button", "Paper theme")


def test_wrong_password_says_so(page: Page) -> None:
    open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    page.sign_in("ada", "guess")
    page.says("do not belong together")


def test_a_bad_file_says_what_is_wrong(page: Page, tmp_path: Path) -> None:
    sign_in(page)
    page.give(DEMO / "saltmarsh.csv", "Saved build or document")
    page.says("is not a readable JSON file")


def test_a_saved_build_is_picked_and_opens(page: Page, tmp_path: Path) -> None:
    """Both kinds of file can be picked where builds are begun, and the build is there."""
    sign_in(page)
    saved = tmp_path / "curlew.zip"
    document = (DEMO / "curlew.json").read_bytes()
    saved.write_bytes(packed(Packed(document, work=WorkInFile(car_in=1))))
    picked = page.find("input[type=file][aria-label='Saved build or document']")
    assert {".zip", ".json"} <= set(str(picked.get_attribute("accept")).split(","))
    page.give(saved, "Saved build or document")
    page.says("At rest")
    page.click("a", "Job card")
    page.says("Nothing to do: the car is as it is planned")


def test_without_a_logger_the_load_is_said(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Wader")
    page.click("button", "Make the build")
    page.click("a", "Slosh")
    page.says("At rest")
    page.click("button", "Import a lap")
    page.click("button", "No logger? Say the load")
    page.says("Braking is often the highest g")
    assert page.serious_faults() == []
    page.type_into("Load", "0")
    page.click("button", "Judge by this load")
    page.says("Load: input should be greater than or equal to 0.01")
    page.type_into("Load", "1.3")  # and Enter: the figure, not yet all of it
    page.says("Judge by this load")
    page.click("button", "Judge by this load")
    page.says("Corner left, 1.3 g for 4 s")
    page.until(lambda: "No lap yet" not in page.verdict())
    page.says("shown")
    page.click("button", "better tyres")
    page.click("button", "Keep")
    page.says("Corner left, 1.3 g for 4 s, grip x 1.1")
