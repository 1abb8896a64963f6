"""Options as a builder meets them: from a car that loses pressure to an applied remedy."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from loads.services import store_lap
from selenium.webdriver.common.by import By

from tests.browser.conftest import A_RUN, Page
from tests.browser.labels import faults
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)

_A_STUDY = 240.0  # [s] for one worker in a thread, beside the browser


@pytest.fixture
def raced(ada: User, tmp_path: Path) -> Build:
    """The demo car as raced over the first 13 seconds of its lap: it loses pressure twice."""
    path = tmp_path / "to-corner-1.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:680]))
    lap = store_lap(ada, "to corner 1", path, path.name)
    return add_build(ada, checked_document((DEMO / "dunlin.json").read_bytes()), "from a file", lap)


def _opened(page: Page, build: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{build.pk}/options")


_FEW = ("1 L over the mark", "Plates, two gates and a lid", "Accumulator of 2 L, check valve, val")
"""Titles of remedies of three groups, alone and together; all of them are tried by `--long`."""


def _try_few(page: Page) -> None:
    page.click("button", "Try the remedies")
    page.until(lambda: page.driver.find_elements(By.CSS_SELECTOR, "[data-option]"), A_RUN)
    page.click("button", "Cancel")
    page.says("What was tried stands below")
    page.click("button", "What is tried")
    page.driver.execute_script(
        "for (const box of document.querySelectorAll('dialog fieldset input[type=checkbox]'))"
        " if (box.checked && !arguments[0].some((each) =>"
        " box.closest('label').innerText.replace(/\\s/g, ' ').startsWith(each))) box.click();",
        _FEW,
    )  # fmt: skip
    page.click("button", "Try these")


@pytest.mark.parametrize("all_of_them", [False, pytest.param(True, marks=pytest.mark.long)])
def test_from_a_car_that_loses_pressure_to_a_remedy_that_holds(
    page: Page, raced: Build, worker: Any, all_of_them: bool
) -> None:
    _opened(page, raced)
    page.says("The smallest remedy that holds")
    assert page.serious_faults() == []
    if all_of_them:
        page.click("button", "Try the remedies")
    else:
        _try_few(page)
    # rows come as they are had: settled oil first, and a first figure of moving oil
    page.until(lambda: page.driver.find_elements(By.CSS_SELECTOR, "[data-option]"), A_RUN)
    page.until(lambda: "worst windows" in page.text(), A_RUN)
    page.until(lambda: "is the smallest" in page.text(), _A_STUDY)
    chosen = page.find("[data-option]")  # first in the table
    assert chosen.get_attribute("data-state") == "holds"
    page.until(lambda: "5 of 5 starts" in page.text(), _A_STUDY)
    going = ("remedies decided", "Proving")
    page.until(lambda: not any(each in page.text() for each in going), A_RUN)
    assert page.serious_faults() == []
    assert faults(page) == []

    # a look at another, and at what it would change
    page.driver.find_elements(By.CSS_SELECTOR, "[data-option]")[1].click()
    page.says("does not hold")
    page.find("[data-option]").click()
    page.click("summary", "What changes in the build")
    page.click("button", "Make it a revision")
    page.says("Applied and named")
    page.says("State 2")
    page.click("button", "See it slosh")
    page.until(lambda: "Not safe" not in page.verdict() and "settled" not in page.verdict(), A_RUN)
    assert "holds" not in page.verdict() or "Not" not in page.verdict()

    # undone, and it is as it was; what was tried is of it again
    page.click("button", "Undo")
    page.until(lambda: "Not safe" in page.verdict(), A_RUN)
    page.goto(f"/builds/{raced.pk}/options")
    page.says("is the smallest")


def test_what_is_tried_is_the_builders_choice(page: Page, raced: Build, worker: Any) -> None:
    _opened(page, raced)
    page.click("button", "Try the remedies")
    page.until(lambda: page.driver.find_elements(By.CSS_SELECTOR, "[data-option]"), A_RUN)
    page.click("button", "Cancel")
    page.says("What was tried stands below")
    page.click("button", "What is tried")
    page.says("Switched off")
    assert page.serious_faults() == []
    page.driver.execute_script(
        "[...document.querySelectorAll('dialog input[type=checkbox]')].forEach((box, at) => {"
        " if (at > 0 && box.closest('fieldset') && box.checked) box.click(); })"
    )
    page.type_into("Its name", "Eight litres")
    page.type_into("In the engine, all told", "8 L")
    page.click("button", "Add this change")
    page.click("button", "Put it on the list")
    page.says("Eight litres")
    page.click("button", "Try these")
    page.until(lambda: len(page.driver.find_elements(By.CSS_SELECTOR, "[data-option]")) == 2, A_RUN)
    page.find("[data-option=own_1]").click()
    page.says("filled to 8 L")


def test_on_a_phone_it_fits_and_leads_to_the_remedy(page: Page, raced: Build, worker: Any) -> None:
    _opened(page, raced)
    page.click("button", "Try the remedies")
    page.until(lambda: page.driver.find_elements(By.CSS_SELECTOR, "[data-option]"), A_RUN)
    page.size(390, 844)
    assert page.fits(390)
    page.driver.find_elements(By.CSS_SELECTOR, "[data-option]")[1].click()
    assert page.serious_faults() == []
    page.size(1280, 800)


def test_without_a_lap_it_says_what_to_do_first(page: Page, ada: User) -> None:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    bare = add_build(ada, document, "from a file", None)
    _opened(page, bare)
    page.says("No lap to try remedies on")
    page.click("button", "Import a lap")
    page.until(lambda: page.driver.current_url.endswith("/loads"))
