"""No word of a drawing lies over another or leaves its sheet: every demo build, both widths."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from accounts.models import User
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build as BuildDocument
from builds.models import Build
from builds.services import add_build, checked_document
from loads.services import store_lap
from selenium.webdriver.common.by import By

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO

DOCUMENTS = sorted(path.name for path in DEMO.glob("*.json") if path.name != "readings.json")


@pytest.fixture
def builds(transactional_db: None, tmp_path: Path) -> list[Build]:
    """The first over a whole lap; the others, whose drawings are read, over its first corner."""
    from accounts.models import Workshop

    workshop = Workshop.objects.create(name="Reed Lane")
    user = User.objects.create_user("ada", password="bearing-shell-9", workshop=workshop)
    whole = store_lap(user, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:680]))
    short = store_lap(user, "to corner 1", path, path.name)
    documents = [checked_document((DEMO / name).read_bytes()) for name in DOCUMENTS]
    return [
        add_build(user, each, "from a file", short if at else whole)
        for at, each in enumerate((*documents, full(documents[0])))
    ]


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


SIZES = ((1280, 800), (390, 844))


def _at_both_widths(page: Page, css: str, where: str) -> list[str]:
    found = []
    for width, height in SIZES:
        page.size(width, height)
        assert page.fits(width), f"{width} {where}: the page is wider"
        _wait_for_drawing(page, css)
        found += [f"{width} {where}: {fault}" for fault in faults(page)]
    page.size(*SIZES[0])
    return found


def _read(page: Page, build: Build, drawn: set[str]) -> list[str]:
    """What is wrong on a build's drawings; what another build has the same is read there."""

    def is_new(stage: str, *parts: str) -> bool:
        assert build.current is not None
        document = build.current.document
        key = stage + json.dumps([document[part] for part in parts], sort_keys=True)
        known = key in drawn
        drawn.add(key)
        return not known

    found: list[str] = []
    page.goto(f"/builds/{build.pk}/slosh")
    page.find("main svg")
    if is_new("slosh", "pan", "pickup", "car"):
        for kind in ("Sections", "Plan", "Cut away"):
            page.click("button", kind)
            found += _at_both_widths(page, "main svg g[data-words]", f"Slosh, {kind}")
    if is_new("pressure", "circuit", "oil"):
        page.go(f"/builds/{build.pk}/pressure")
        for kind in ("Circuit", "Traces"):
            page.click("button", kind)
            found += _at_both_widths(page, "main svg[role=img] text", f"Pressure, {kind}")
    for stage, css in (
        *((("pan", "main svg g[data-words]"),) if is_new("pan", "pan", "pickup", "car") else ()),
        *((("car", "[data-car-plan]"), ("loads", "[data-held]")) if is_new("car", "car") else ()),
        *((("drains", "[data-wall] g[data-words]"),) if build.name == "Sandpiper" else ()),
        *((("dry-sump", "[data-tank]"),) if build.name == "Curlew" else ()),
    ):  # fmt: skip
        page.go(f"/builds/{build.pk}/{stage}")
        found += _at_both_widths(page, css, stage)
    return found


def test_no_word_lies_over_another_or_is_cut(page: Page, builds: list[Build]) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.until(lambda: "lap 7" in page.text())
    drawn: set[str] = set()
    found = [f"{build.name}: {fault}" for build in builds for fault in _read(page, build, drawn)]
    assert found == []


def test_the_reading_sees_what_is_wrong(slosh: Page, build: Build) -> None:
    page = slosh
    page.goto(f"/builds/{build.pk}/pan")
    _wait_for_drawing(page, "main svg g[data-words]")
    assert faults(page) == []
    page.driver.execute_script(
        "for (const each of document.querySelectorAll('main g[data-words]'))"
        " each.setAttribute('transform', 'translate(-400 0)')"
    )
    assert any("leaves its sheet" in fault for fault in faults(page))
    assert page.driver.find_elements(By.CSS_SELECTOR, "main g[data-words]")


def test_on_a_phone_the_head_folds_to_one_line(slosh: Page, build: Build) -> None:
    page = slosh
    page.size(390, 844)
    page.goto(f"/builds/{build.pk}/pan")
    page.says("Checks on this pan")
    assert not page.driver.find_elements(By.CSS_SELECTOR, "[data-folded]")
    page.driver.execute_script("window.scrollTo(0, 600)")
    folded = page.find("[data-folded]")
    assert folded.size["height"] <= 48
    folded.click()
    page.until(lambda: not page.driver.find_elements(By.CSS_SELECTOR, "[data-folded]"))
