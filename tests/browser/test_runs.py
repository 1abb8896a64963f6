"""Runs as a user meets them: one starts by itself, is watched, another is cancelled."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import numpy as np
import pytest
from accounts.services import open_account
from builds.models import Build
from builds.services import add_build, checked_document
from loads.services import store_lap
from PIL import Image
from runs.models import Run
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import A_RUN, Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


def _moving(page: Page) -> str:
    return page.find("section[aria-label='Moving oil']").text


def _from_menu(page: Page, words: str) -> None:
    page.choose(
        "section[aria-label='Moving oil'] button[aria-haspopup=menu]",
        f"//*[@role='menuitem'][contains(., '{words}')]",
    )


def _painted(page: Page, inside: str = "") -> str:
    """What the canvas says it shows: the moment, and which oil."""
    return str(page.find(f"{inside} canvas[data-painted]").get_attribute("data-painted"))


def _short_build(tmp_path: Path, rows: int = 320) -> Build:
    """The gated demo car over six seconds of its lap, or as many rows of fifty a second."""
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:rows]))
    lap = store_lap(ada, "short", path, "short.csv")
    document = checked_document((DEMO / "dunlin-gated.json").read_bytes())
    return add_build(ada, document, "from a file", lap)


def test_a_run_starts_by_itself_and_its_figures_arrive(
    page: Page, worker: None, tmp_path: Path
) -> None:
    build = _short_build(tmp_path)
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin, plates and gates")
    page.goto(f"/builds/{build.pk}/slosh")
    page.says("Settled oil: it lies at once")
    page.until(lambda: "Cancel" in _moving(page))
    page.until(lambda: "s settled" in _moving(page), A_RUN)
    page.says("Moving oil, coarse cells")
    moving = page.verdict()
    page.click("button", "Settled oil")
    page.says("Settled oil: it lies at once")
    page.until(lambda: page.verdict() != moving)
    # a finer one waits, since no worker takes it, and is cancelled
    _from_menu(page, "In 10 mm cells")
    page.until(lambda: "waits for its turn" in _moving(page))
    assert page.serious_faults() == []
    page.click("button", "Cancel")
    page.until(lambda: "Run finer" in _moving(page))
    page.goto("/runs")
    page.says("finished: dry")
    page.says("cancelled: Cancelled.")
    assert page.serious_faults() == []


def _play_and_cut(page: Page) -> None:
    # it is played in the cut-away
    page.until(lambda: "moving" in _painted(page))
    page.find("[aria-label='Moment of the lap']").send_keys(Keys.HOME)
    page.until(lambda: _painted(page) == "0.000 moving")
    page.press(Keys.SPACE)
    page.until(lambda: float(_painted(page).split()[0]) > 1.0, A_RUN)
    page.click("button", "Stop")
    # the sections show it too, cut where one likes
    page.click("button", "Sections")
    page.find("[data-oil=side][data-moving]")
    page.says("Section on the mouth")
    place = page.find("input[aria-label='Cut along the engine']")
    place.send_keys(*[Keys.ARROW_RIGHT] * 30)
    page.says("Section 30 mm left of the mouth")
    page.find("[data-gate][data-swing]")
    page.click("button", "Plan")
    page.find("[data-oil=plan][data-moving]")


def test_change_the_pan_play_compare_and_save(page: Page, worker: None, tmp_path: Path) -> None:
    build = _short_build(tmp_path)
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin, plates and gates")
    page.goto(f"/builds/{build.pk}/slosh")
    page.until(lambda: "s settled" in _moving(page), A_RUN)
    # an edit of the pan: what was known goes, a run of what stands now begins by itself
    page.press("/")
    page.find("dialog input").send_keys("skirt 60", Keys.ENTER)
    page.says("State 2")
    # on a busy machine it may be over before the page is looked at
    page.until(lambda: "Dry, settled" in page.text() or "s settled" in _moving(page), A_RUN)
    page.until(lambda: "s settled" in _moving(page), A_RUN)
    page.says("Dry, moving")
    assert Run.objects.filter(status=Run.FINISHED).count() == 2
    _play_and_cut(page)
    # the state before the edit stands beside it, in step
    page.click("button", "Cut away")
    choice = page.until(
        lambda: next(
            option
            for select in page.driver.find_elements(By.TAG_NAME, "select")
            for option in select.find_elements(By.TAG_NAME, "option")
            if "state 1 · short" in option.text
        )
    )
    choice.click()
    page.until(lambda: "moving" in _painted(page, "[data-beside]"), A_RUN)
    page.until(lambda: _painted(page) == _painted(page, "[data-beside]"))
    page.says("thin: Dunlin, plates and gates, state 1")
    assert page.find("[data-beside] [data-label]").text.startswith("dry")
    assert page.serious_faults() == []
    # both go into a clip
    page.driver.execute_cdp_cmd(
        "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)}
    )
    for kind, wanted in (("a WebM film", "*.webm"), ("PNG pictures in a ZIP", "*.zip")):
        page.press(Keys.SPACE)  # a lap that plays is stopped for the clip
        page.click("button", "Save a clip")
        page.type_into("from", "1")
        page.type_into("to", "0.5")
        page.says("after the start")
        page.type_into("to", "1.2")
        page.says("6 pictures of what the sheet shows now")
        page.click("label", kind)
        assert page.serious_faults() == []
        page.click("button", "Save the clip")
        page.until(lambda: "is saved" in page.text(), A_RUN)
        page.click("button", "Close Save a clip")
        saved = page.until(lambda wanted=wanted: next(tmp_path.glob(wanted)))
        _check_clip(saved)


def _check_clip(saved: Path) -> None:
    if saved.suffix == ".webm":
        # the magic number of EBML, which WebM is written in (RFC 8794), and its document type
        assert saved.read_bytes()[:4] == bytes.fromhex("1a45dfa3")
        assert b"webm" in saved.read_bytes()[:64]
        return
    with zipfile.ZipFile(saved) as archive:
        assert len(archive.read("times.csv").splitlines()) == 7
        pictures = [
            np.asarray(Image.open(io.BytesIO(archive.read(name))).convert("RGB")).astype(int)
            for name in archive.namelist()
            if name.endswith(".png")
        ]
    assert len(pictures) == 6
    for picture in pictures:
        red, green, blue = np.moveaxis(picture, 2, 0)
        oil = (red > 150) & (green > 90) & (green < 180) & (blue < 70)
        assert oil.sum() > 2000  # there is oil in every one of them
    assert len({picture.tobytes() for picture in pictures}) == 6  # and it moves


def test_how_much_is_chance(page: Page, worker: None, tmp_path: Path) -> None:
    build = _short_build(tmp_path, 160)
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin, plates and gates")
    page.says("Settled oil")
    page.goto(f"/builds/{build.pk}/slosh")
    page.until(lambda: "s settled" in _moving(page), A_RUN)
    _from_menu(page, "From 5 starts")
    page.until(lambda: "more behind it" in _moving(page))
    page.until(lambda: "5 starts: holds" in _moving(page), A_RUN)
    page.goto("/")
    page.says("Moving oil, coarse cells")
