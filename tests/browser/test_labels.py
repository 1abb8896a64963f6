"""No word of a drawing lies over another or leaves its sheet: every demo build, both widths."""

from __future__ import annotations

import pytest
from accounts.models import User
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build as BuildDocument
from builds.models import Build
from builds.services import add_build, checked_document
from loads.models import Lap
from loads.services import store_lap
from selenium.webdriver.common.by import By

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO

DOCUMENTS = sorted(path.name for path in DEMO.glob("*.json") if path.name != "readings.json")


@pytest.fixture
def builds(transactional_db: None) -> list[Build]:
    from accounts.models import Workshop

    workshop = Workshop.objects.create(name="Reed Lane")
    user = User.objects.create_user("ada", password="bearing-shell-9", workshop=workshop)
    lap = store_lap(user, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")
    documents = [checked_document((DEMO / name).read_bytes()) for name in DOCUMENTS]
    return [add_build(user, each, "from a file", lap) for each in (*documents, full(documents[0]))]


def full(build: BuildDocument) -> BuildDocument:
    """A build with all that Pressure draws: two filters, cooler, regulator, bottle, turbo."""
    for act in (
        {"kind": "move_filter", "filters": 2}, {"kind": "fit_cooler"},
        {"kind": "fit_regulator", "opens_bar": 5},
        {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4}, {"kind": "feed_turbo"},
    ):  # fmt: skip
        build = read_act(act).done(build).build
    return build


def _wait_for_drawing(page: Page, css: str) -> None:
    page.find(css)
    page.driver.execute_async_script("document.fonts.ready.then(arguments[0])")


def _read(page: Page, build: Build) -> list[str]:
    found = []
    for kind in ("Sections", "Plan", "Cut away"):
        page.goto(f"/builds/{build.pk}/slosh")
        page.click("button", kind)
        _wait_for_drawing(page, "main svg g[data-words]")
        found += [f"Slosh, {kind}: {fault}" for fault in faults(page)]
    for kind in ("Circuit", "Traces"):
        page.goto(f"/builds/{build.pk}/pressure")
        page.click("button", kind)
        _wait_for_drawing(page, "main svg[role=img] text")
        found += [f"Pressure, {kind}: {fault}" for fault in faults(page)]
    if build.name == "Sandpiper":
        page.goto(f"/builds/{build.pk}/drains")
        _wait_for_drawing(page, "[data-wall] g[data-words]")
        found += [f"Drains: {fault}" for fault in faults(page)]
    for stage, css in (
        ("pan", "main svg g[data-words]"), ("car", "[data-car-plan]"), ("loads", "[data-held]"),
    ):  # fmt: skip
        page.goto(f"/builds/{build.pk}/{stage}")
        _wait_for_drawing(page, css)
        found += [f"{stage}: {fault}" for fault in faults(page)]
    return found


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844)])
def test_no_word_lies_over_another_or_is_cut(
    page: Page, builds: list[Build], width: int, height: int
) -> None:
    assert Lap.objects.count() == 1
    page.size(width, height)
    page.sign_in("ada", "bearing-shell-9")
    page.says("lap 7")
    found = [f"{width} {build.name}: {fault}" for build in builds for fault in _read(page, build)]
    assert found == []


def test_the_reading_sees_what_is_wrong(page: Page, builds: list[Build]) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("lap 7")
    page.goto(f"/builds/{builds[0].pk}/pan")
    _wait_for_drawing(page, "main svg g[data-words]")
    assert faults(page) == []
    page.driver.execute_script(
        "for (const each of document.querySelectorAll('main g[data-words]'))"
        " each.setAttribute('transform', 'translate(-400 0)')"
    )
    assert any("leaves its sheet" in fault for fault in faults(page))
    assert page.driver.find_elements(By.CSS_SELECTOR, "main g[data-words]")


def test_on_a_phone_the_head_folds_to_one_line(page: Page, builds: list[Build]) -> None:
    page.size(390, 844)
    page.sign_in("ada", "bearing-shell-9")
    page.says("lap 7")
    page.goto(f"/builds/{builds[0].pk}/pan")
    page.says("Checks on this pan")
    assert not page.driver.find_elements(By.CSS_SELECTOR, "[data-folded]")
    page.driver.execute_script("window.scrollTo(0, 600)")
    folded = page.find("[data-folded]")
    assert folded.size["height"] <= 48
    folded.click()
    page.until(lambda: not page.driver.find_elements(By.CSS_SELECTOR, "[data-folded]"))
