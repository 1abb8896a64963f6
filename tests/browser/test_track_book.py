"""The track book at the pit wall: a session written by thumb, one item renewed."""

from __future__ import annotations

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from records.models import BookEntry

from tests.browser.away import nothing_answers
from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def car(ada: User) -> Build:
    return add_build(ada, checked_document((DEMO / "dunlin.json").read_bytes()), "a file", None)


def fill(page: Page, label: str, text: str) -> None:
    page.driver.execute_script(
        "const [words, text] = arguments;"
        "const box = [...document.querySelectorAll('label')].find((each) =>"
        "  each.innerText.split('\\n')[0].trim() === words && each.offsetParent);"
        "box.querySelector('input, textarea').focus()",
        label, text,
    )  # fmt: skip
    page.driver.switch_to.active_element.send_keys(text)


def test_a_session_is_written_down_by_thumb_and_a_seal_renewed(page: Page, car: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.size(390, 844)
    page.goto(f"/builds/{car.pk}/track-book")
    page.says("No session is written down yet")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Write")
    assert page.fits(390) and page.serious_faults() == []
    fill(page, "Circuit", "Saltmarsh Ring")
    for label, text in (("Laps", "18"), ("Level before", "103"), ("Level after", "99")):
        fill(page, f"{label}, mm" if label != "Laps" else label, text)
    fill(page, "Engine ran, h", "13")
    with nothing_answers(page):
        page.click("button", "Write it down")
        page.says("1 entered, not sent yet")
    page.click("button", "Try now")
    page.until(lambda: BookEntry.objects.count() == 1)
    page.says("18 laps")
    page.says("of oil used")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Due")
    page.says("overdue 1.0 h")
    page.driver.find_element("css selector", "[data-due=jointseal] button").click()
    page.click("button", "Renewed")
    page.until(lambda: BookEntry.objects.filter(data__kind="item_done").count() == 1)
    page.until(lambda: "in 12.0 h" in page.text())
    assert page.fits(390) and page.serious_faults() == []
