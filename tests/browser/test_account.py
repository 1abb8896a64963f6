"""The account sheet and an invitation, by the real interface."""

from __future__ import annotations

import pytest
from accounts.services import open_account
from selenium.webdriver.common.by import By

from tests.browser.conftest import Page


@pytest.fixture
def owner(page: Page, transactional_db: None) -> Page:
    open_account("ada", "bearing-shell-9", "Reed Lane")
    page.sign_in("ada", "bearing-shell-9")
    page.says("No builds yet")
    return page


def _open_sheet(page: Page) -> None:
    page.choose(
        "button[aria-label='AD, account']", "//*[@role='menuitem'][.='Account and workshop']"
    )
    page.says("Where you are signed in")


def test_somebody_is_invited_joins_and_is_removed(owner: Page) -> None:
    _open_sheet(owner)
    owner.click("button", "Invite somebody")
    link = owner.field("Link of the invitation").get_attribute("value")
    assert "/join#" in link
    assert owner.serious_faults() == []
    owner.driver.delete_all_cookies()
    owner.driver.get("about:blank")
    owner.driver.get(link)
    owner.says("ada invites you to")
    owner.type_into("Name", "grace")
    owner.field("Password").send_keys("oil-gallery-7")
    assert owner.serious_faults() == []
    owner.click("button", "Join")
    owner.says("No builds yet")
    owner.driver.delete_all_cookies()
    owner.driver.get("about:blank")
    owner.driver.get(link)
    owner.says("This invitation was used")
    refused = [row for row in owner.driver.get_log("browser") if row["level"] == "SEVERE"]
    assert all("/api/session/invitation" in row["message"] for row in refused)
    owner.sign_in("ada", "bearing-shell-9")
    owner.says("No builds yet")
    _open_sheet(owner)
    owner.says("grace")
    owner.click("button", "remove")
    owner.click("button", "Remove")
    owner.until(lambda: "grace" not in owner.text())


def test_the_sheet_on_a_phone(owner: Page) -> None:
    owner.size(390, 844)
    _open_sheet(owner)
    owner.says("Where you are signed in")
    dialog = owner.driver.find_element(By.TAG_NAME, "dialog")
    assert dialog.size["width"] <= 390
    assert owner.serious_faults() == []


def test_nothing_in_the_console_before_anyone_signs_in(page: Page) -> None:
    page.driver.get(page.address)
    page.find("input[name=username]")
    assert [row["message"] for row in page.driver.get_log("browser")] == []
