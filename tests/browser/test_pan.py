"""The Pan screen: fill, dips, checks with their fix, a spacer as one act."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from accounts.services import open_account
from bilge_core.agreement.poured import LEVEL_CAR
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.physics.axes import apparent_gravity, up_from
from builds.models import Build
from builds.selectors import document_of
from builds.services import add_build, checked_document
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO
from tests.server.conftest import picture

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def build(db: None) -> Build:
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    return add_build(
        ada, checked_document((DEMO / "dunlin-gated.json").read_bytes()), "from a file", None
    )


@pytest.fixture
def pan(page: Page, build: Build) -> Page:
    page.sign_in("ada", "bearing-shell-9")
    page.says("No lap yet")
    page.driver.get(f"{page.address}/builds/{build.pk}/pan")
    page.says("Checks on this pan")
    return page


def now(build: Build) -> dict[str, object]:
    document: dict[str, object] = Build.objects.get(pk=build.pk).current.document
    return document


def test_the_fill_stands_where_the_core_says(pan: Page, build: Build) -> None:
    document = document_of(build)
    solid = assemble_pan(document).solid
    slider = pan.find("[aria-label='Fill of the pan']")
    for words, car in (("rail level", LEVEL_CAR), ("as in the car", document.car)):
        pan.click("button", words)
        slider.send_keys(Keys.HOME, *([Keys.ARROW_UP] * 27))
        pan.until(lambda: slider.get_attribute("aria-valuenow") == "2.7")
        normal = up_from(apparent_gravity(car, 0.0, 0.0))
        level = level_of_volume(solid, normal, 2.7e-3) - float((solid.vertices @ normal).min())
        drawn = float(pan.find("[data-height-mm]").get_attribute("data-height-mm"))
        assert drawn == pytest.approx(level * 1e3, abs=0.5)
    assert pan.serious_faults() == []


def test_dips_that_part_from_the_drawing_name_a_dimension(pan: Page, build: Build) -> None:
    slider = pan.find("[aria-label='Fill of the pan']")
    labels = "//input[@id=//label[.='Dipped']/@for]"

    def typed() -> list[float]:
        fields = pan.driver.find_elements(By.XPATH, labels)
        return [float(field.get_attribute("value")) for field in fields]

    pan.click("button", "rail level")
    for count, dips in ((10, 1), (20, 2), (20, 3)):
        slider.send_keys(*([Keys.HOME] if dips == 1 else []), *([Keys.ARROW_UP] * count))
        pan.click("button", "Add a dip at this fill")
        pan.until(lambda want=dips: len(typed()) == want)
    pan.says("they agree")
    pan.until(lambda: len(pan.driver.find_elements(By.CSS_SELECTOR, "[data-dip-point]")) == 3)
    for at in range(3):
        field = pan.driver.find_elements(By.XPATH, labels)[at]
        higher = typed()[at] + 9
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(str(higher), Keys.ENTER)
        pan.until(lambda of=field: of.get_attribute("data-untouched") == "true")
        assert typed()[at] == pytest.approx(higher, abs=0.6)
    pan.says("would explain it")
    pan.says("on state 1, written anew")
    assert pan.serious_faults() == []


def test_a_gate_is_turned_by_its_check(pan: Page, build: Build) -> None:
    pan.click("button", "Numbers")
    pan.driver.execute_script(
        "[...document.querySelectorAll('summary')]"
        ".find((each) => each.textContent.startsWith('P1')).click()"
    )
    pan.driver.find_element(
        By.XPATH, "//label[starts-with(normalize-space(.), 'Gate')]/select"
    ).send_keys("swings to the plate's left")
    pan.click("button", "Fill, checks")
    pan.says("swings away from the mouth: worse than none")
    pan.click("button", "Turn it round")
    pan.says("All 3 gates swing toward the mouth")


def test_a_spacer_takes_the_pickup_along(pan: Page, build: Build) -> None:
    field = pan.driver.find_element(By.XPATH, "//label[contains(., 'by')]//input[not(@type)]")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("1/4 in", Keys.ENTER)
    pan.says("spacer under the pan, 1/4 in: +0.61 L to the rail")
    pan.says("Spacer of 6.35 mm fitted")
    document = document_of(Build.objects.get(pk=build.pk))
    assert document.pan.spacer_mm == pytest.approx(6.35)
    assert document.pickup.gap_mm == 8
    pan.press(Keys.CONTROL, "z")
    pan.says("State 1")


def test_on_a_phone(pan: Page) -> None:
    pan.size(390, 844)
    assert pan.fits(390)
    assert pan.serious_faults() == []


def test_a_floor_is_dragged_and_an_edge_is_nudged(pan: Page, build: Build) -> None:
    floor = pan.find("[data-grip='floor-z4-side']")
    drag = ActionChains(pan.driver).move_to_element(floor).click_and_hold()
    drag.move_by_offset(0, 20).release().perform()
    pan.says("State 2")

    def sump() -> Any:
        return now(build)["pan"]["zones"][0]  # type: ignore[index]

    pan.until(lambda: sump()["floor"]["depth_mm"] > 140)
    assert sump()["floor"]["depth_mm"] % 1 == 0  # on the grid of a millimetre
    pan.find("[data-grip='zone-z4-front']").send_keys(Keys.ARROW_LEFT)
    pan.until(lambda: max(x for x, _ in sump()["outline_mm"]) == 453.0)


def test_the_same_litres_in_another_shape(pan: Page, build: Build) -> None:
    pan.says("Another shape, the same litres")
    pan.type_into("Volume to hold to the rail", "11")
    pan.says("deeper holds it.")
    pan.click("button", "Do that")
    pan.says("11.0 L to the rail")


def test_the_inspection_with_a_photo(pan: Page, build: Build, tmp_path: Path) -> None:
    photo = tmp_path / "crack.png"
    photo.write_bytes(picture(300, 200))
    pan.click("button", "As it came")
    pan.click("button", "Begin the inspection")
    pan.says("10 of 10 still to look at.")
    Select(pan.find("select[aria-label='Found: Cracks along the rail']")).select_by_value("replace")
    pan.says("9 of 10 still to look at.")
    pan.give(photo, "Photo of Cracks along the rail")
    pan.find("img[alt='Photo 1: Cracks along the rail']")
    assert pan.serious_faults() == []
    pan.click("button", "Fill, checks")
    pan.says("Cracks along the rail: to be mended or replaced")


def test_bosses_and_keep_outs_by_number(pan: Page, build: Build) -> None:
    pan.click("button", "Numbers")
    pan.click("button", "Turbo drain")
    pan.find("[data-boss='turbo drain']")
    pan.click("button", "Fill, checks")
    pan.says("Turbo drain enters")
    pan.goto(f"/builds/{build.pk}/car")
    pan.says("What is round the pan")
    pan.click("button", "Bonnet")
    pan.says("bonnet")
    assert pan.serious_faults() == []


def test_the_pan_is_cut_flat_and_an_edge_is_bent(pan: Page) -> None:
    pan.click("button", "Make")
    pan.says("Edges: bent or welded")
    assert pan.serious_faults() == []
    assert faults(pan) == []
    before = len(pan.driver.find_elements(By.CSS_SELECTOR, "[data-part]"))
    box = pan.find("input[aria-label^='Bend between 1 and']")
    box.click()
    pan.until(lambda: len(pan.driver.find_elements(By.CSS_SELECTOR, "[data-part]")) == before - 1)
    pan.says("bend toward you")
    pan.driver.refresh()
    pan.click("button", "Make")
    pan.says("bend toward you")
    pan.size(390, 844)
    pan.says("Edges: bent or welded")
    assert pan.serious_faults() == []
    assert faults(pan) == []
