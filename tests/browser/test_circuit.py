"""The circuit as a new user meets it: a plain wet sump gets a remote filter, a cooler, a bottle."""

from __future__ import annotations

import io
import zipfile

import pytest
from builds.models import Build
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.browser.test_main_job import sign_in

pytestmark = pytest.mark.django_db(transaction=True)


def opened(page: Page, words: str) -> None:
    """Unfold what a summary begins with."""
    page.until(
        lambda: page.driver.execute_script(
            "const found = [...document.querySelectorAll('summary')]"
            ".find((each) => each.textContent.startsWith(arguments[0]));"
            "found.scrollIntoView({block: 'center'});"
            "if (!found.parentElement.open) found.click(); return true;",
            words,
        )
    )


def test_filter_cooler_and_bottle_from_an_empty_account(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Wader")
    page.click("button", "Make the build")
    page.click("a", "Slosh")
    page.says("At rest")
    page.click("button", "Numbers")
    page.says("The circuit checks out: 9 components, 11 runs")
    opened(page, "Fit or change something")
    for act, done in (
        ("Move the filter", "filter on a remote base"),
        ("An oil cooler", "oil cooler, with a thermostat"),
        ("An accumulator", "accumulator 2 L at the gallery feed, check valve ahead of its tee"),
    ):
        page.click("button", act)
        page.click("button", "Fit it")
        page.says(f"Done: {done}")
    page.says("The circuit checks out: 16 components, 20 runs")
    # what is refused says why, in the form, and changes nothing
    page.click("button", "Move the filter")
    page.click("button", "Fit it")
    page.says("it was moved already")
    page.click("button", "Move the filter")
    opened(page, "remote filter")
    page.click("button", "Unplug inlet, right")
    page.says("remote filter: the port 'inlet, right' is open; join it or plug it")
    opened(page, "remote filter")
    page.click("button", "Plug inlet, right")
    page.says("The circuit checks out")
    opened(page, "accumulator")
    page.click("button", "take accumulator out")
    page.says("The circuit checks out: 12 components")
    assert page.serious_faults() == []
    build = Build.objects.get(name="Wader")
    assert build.current is not None and build.current.number == 7


def test_a_turbo_by_the_command_box_and_a_line_s_figures(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Heron")
    page.click("button", "Make the build")
    page.click("a", "Slosh")
    page.says("At rest")
    page.press("/")
    page.driver.switch_to.active_element.send_keys("turbo fed", Keys.ENTER)
    page.says("through a restrictor of about 2 mm")
    page.click("button", "Fit it")
    page.click("button", "Numbers")
    opened(page, "Lines:")
    opened(page, "drain of the turbo")
    run = page.find("details[data-run][open]")
    field = run.find_element(By.XPATH, ".//input[@placeholder='not known']")
    assert field.get_attribute("value") == ""
    page.says("Bore 14.1 mm")
    length = run.find_elements(By.XPATH, ".//input[@placeholder='not known']")[1]
    length.send_keys("24 in", Keys.ENTER)
    page.says("Full it holds 0.10 L")
    assert page.serious_faults() == []


def test_a_build_as_one_file(page: Page) -> None:
    sign_in(page)
    page.field("Name of the car or build").send_keys("Ibis")
    page.click("button", "Make the build")
    page.click("a", "Car")
    page.field("Engine speed").send_keys("3000")
    page.field("Gallery pressure").send_keys("3")
    page.click("button", "Add the reading")
    page.says("3000 rpm: 3.0 bar")
    opened(page, "3000 rpm")
    page.says("on state 1")
    build = Build.objects.get(name="Ibis")
    data = page.driver.execute_async_script(
        "const done = arguments[arguments.length - 1];"
        "fetch(arguments[0]).then((answer) => answer.arrayBuffer())"
        ".then((data) => done([...new Uint8Array(data)]));",
        f"/api/builds/{build.pk}/export",
    )
    with zipfile.ZipFile(io.BytesIO(bytes(data))) as archive:
        assert sorted(archive.namelist()) == ["document.json", "manifest.json", "records.json"]
    page.size(390, 844)
    assert page.fits(390)
