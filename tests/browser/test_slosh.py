"""The Slosh screen: pad, strip, pictures, history; the oil drawn against the core."""

from __future__ import annotations

import csv
import io
import itertools
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
import pytest
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.settled import settle
from builds.models import Build
from builds.selectors import document_of
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = pytest.mark.django_db(transaction=True)


def drawn(page: Page) -> tuple[np.ndarray, float]:
    """Normal and level [mm] of the oil on the screen."""
    element = page.find("[data-level-mm]")
    normal = np.array([float(x) for x in element.get_attribute("data-normal").split()])
    return normal, float(element.get_attribute("data-level-mm"))


def pad_load(page: Page) -> tuple[float, float]:
    """Side and fore load [g] as typed below the pad."""
    side, fore = (float(page.field(label).get_attribute("value")) for label in ("side", "fore"))
    return side, fore


def check_against_core(page: Page, pan: Pan, build: Build, side: float, fore: float) -> None:
    """The oil drawn is where the core says: normal, level, the corners of the section, litres."""
    gravity = apparent_gravity(
        document_of(build).car, STANDARD_GRAVITY * fore, STANDARD_GRAVITY * side
    )
    surface = settle(pan, gravity)
    normal, level = drawn(page)
    assert normal == pytest.approx(surface.normal, abs=1e-4)
    assert level == pytest.approx(surface.level * 1e3, abs=0.3)


def shape(page: Page, view: str) -> str:
    return str(page.find(f"[data-oil={view}]").get_attribute("d"))


def test_the_pad_tips_the_oil_as_the_core_would(slosh: Page, build: Build) -> None:
    page, pan = slosh, assemble_pan(document_of(build))
    pad = page.find("[data-load-pad]")
    before = shape(page, "front")
    for x, y in ((60, -40), (-70, 20), (15, 80), (-30, -60)):
        ActionChains(page.driver).move_to_element(pad).click_and_hold().move_by_offset(
            x, y
        ).release().perform()
        page.until(lambda was=before: shape(page, "front") != was)
        before = shape(page, "front")
        side, fore = pad_load(page)
        assert np.sign(side) == np.sign(x)  # left turns throw the oil right
        assert np.sign(fore) == np.sign(y)  # braking throws it forward, up on the page
        check_against_core(page, pan, build, side, fore)
    page.says("Steady")
    # the handle answers to the arrow keys, and figures can be typed
    pad.send_keys(Keys.HOME)
    page.until(lambda: pad_load(page) == (0.0, 0.0))
    pad.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.SHIFT, Keys.ARROW_UP)
    page.until(lambda: pad_load(page) == (0.1, -0.2))
    page.type_into("side", "-1.1 g")
    page.until(lambda: pad_load(page) == (-1.1, -0.2))
    check_against_core(page, pan, build, -1.1, -0.2)
    # whatever has the focus but a field, arrows tip the load; escape goes back to the lap
    page.press(Keys.ARROW_LEFT)
    page.until(lambda: pad_load(page) == (-1.15, -0.2))
    page.press(Keys.ESCAPE)
    page.says("Corner 2, left, at")


def test_the_cut_away_holds_the_litres_of_the_core(slosh: Page, build: Build) -> None:
    pan = assemble_pan(document_of(build))
    for side, fore in (("1.2", "0.3"), ("-0.7", "-1"), ("0", "0")):
        slosh.type_into("side", side)
        slosh.type_into("fore", fore)
        slosh.until(lambda s=side, f=fore: pad_load(slosh) == (float(s), float(f)))
        litres = float(slosh.find("[data-oil-litres]").get_attribute("data-oil-litres"))
        assert litres == pytest.approx(pan.oil_volume * 1e3, abs=0.03)


def test_corners_of_the_oil_in_section_lie_on_its_surface(slosh: Page) -> None:
    """The drawn polygon itself: scaled back from the page, its top edge is the core's surface."""
    slosh.click("button", "Sections")
    normal, level = drawn(slosh)
    path = shape(slosh, "side")
    corners = np.array(re.findall(r"(-?[\d.]+) (-?[\d.]+)", path), float)
    outline = slosh.driver.execute_script(
        "return fetch(arguments[0]).then((r) => r.json())"
        ".then(({drawing: d}) => [d.side, d.nose_up_deg])",
        f"/api/stages/slosh/{slosh.driver.current_url.split('/')[-2]}",
    )
    section, rake = outline
    ring = np.array(section["inside_mm"][0])
    turn = np.radians(rake)
    page_of = np.array([[-np.cos(turn), np.sin(turn)], [-np.sin(turn), -np.cos(turn)]])
    on_page = ring @ page_of.T
    # corners of the pan that are under oil stand in both: fit scale and shift from them
    a, b, c = normal[0], normal[2], level - normal[1] * section["at_mm"]
    wet = [point for point, place in zip(on_page, ring, strict=True) if place @ [a, b] < c - 1]
    wet_sides = [np.linalg.norm(p - q) for p, q in itertools.pairwise(wet)]
    drawn_sides = [
        np.linalg.norm(p - q) for p in corners for q in corners if np.linalg.norm(p - q) > 0
    ]
    scale = min(
        (d / s for d in drawn_sides for s in wet_sides),
        key=lambda k: sum(min(abs(d - k * s) for d in drawn_sides) for s in wet_sides),
    )
    shift = min(
        (corner - scale * wet[0] for corner in corners),
        key=lambda t: sum(min(np.linalg.norm(scale * w + t - q) for q in corners) for w in wet),
    )
    back = (corners - shift) / scale @ page_of
    heights = back @ [a, b] - c
    assert heights.max() < 0.3  # nothing drawn above the surface [mm]
    assert np.sum(np.abs(heights) < 0.3) >= 2  # and its upper edge on it


def test_scrub_play_and_step(slosh: Page) -> None:
    strip = slosh.find("[aria-label='Moment of the lap']")

    def moment() -> float:
        return float(strip.get_attribute("aria-valuenow"))

    strip.send_keys(Keys.HOME)
    slosh.until(lambda: moment() == 0)
    before = drawn(slosh)[1]
    ActionChains(slosh.driver).move_to_element(strip).click_and_hold().move_by_offset(
        60, 0
    ).release().perform()
    slosh.until(lambda: moment() > 30)
    assert drawn(slosh)[1] != before
    slosh.press(".")
    after = slosh.until(lambda: slosh.driver.find_element(By.CSS_SELECTOR, "[aria-current=true]"))
    assert "s" in after.text
    strip.send_keys(Keys.HOME)
    slosh.until(lambda: moment() == 0)
    slosh.press(Keys.SPACE)
    slosh.until(lambda: moment() > 0.5)
    slosh.click("button", "Stop")
    stood = moment()
    slosh.click("button", "1:1 playing speed, real")
    slosh.find("[aria-label='1:4 playing speed, slow']")
    assert moment() == pytest.approx(stood, abs=0.5)


def test_another_lap_is_laid_over_and_judged_by_too(slosh: Page) -> None:
    assert slosh.driver.find_elements(By.CSS_SELECTOR, "[data-over]") == []
    slosh.driver.find_element(By.XPATH, "//label[contains(., 'over it')]/select").send_keys("rain")
    slosh.find("[data-over]")
    slosh.says("thin: rain")
    slosh.click("a", "Loads")
    slosh.find("input[aria-label='Judge by rain']").click()
    slosh.says("2 laps")
    slosh.click("a", "Slosh")
    slosh.find("select[aria-label='Lap shown']").send_keys("rain")
    # the other lap judges it still, and is the worse
    slosh.until(lambda: re.match(r"Not safe\. Over .*: the pickup runs dry 8", slosh.verdict()))
    slosh.click("a", "Loads")
    slosh.find("input[aria-label='Judge by rain']").click()
    slosh.until(lambda: slosh.verdict().startswith("Not safe. The pickup runs dry 8 times"))
    slosh.says("1 lap")
    assert slosh.serious_faults() == []


def test_revisions_history_and_commands(slosh: Page, build: Build) -> None:
    slosh.press("/")
    slosh.until(lambda: slosh.driver.switch_to.active_element.get_attribute("role") == "combobox")
    slosh.driver.switch_to.active_element.send_keys("oil 7 qt", Keys.ENTER)
    slosh.says("State 2")
    slosh.press("h")
    slosh.says("oil in the engine to 7 qt")
    assert slosh.serious_faults() == []
    slosh.driver.switch_to.active_element.send_keys("more oil", Keys.ENTER)
    slosh.says("R1 · more oil")
    slosh.click("button", "Show state 1")
    slosh.until(lambda: Build.objects.get(pk=build.pk).current.number == 1)
    slosh.press(Keys.ESCAPE)
    slosh.says("State 1")
    slosh.press(Keys.CONTROL, "y")
    slosh.says("State 2")
    slosh.press(Keys.CONTROL, "z")
    slosh.says("State 1")
    slosh.press("?")
    slosh.says("Tip the load left")
    assert slosh.serious_faults() == []


def test_a_plate_with_a_gate_is_put_in_and_turned_round(slosh: Page, build: Build) -> None:
    def document() -> dict[str, Any]:
        found: dict[str, Any] = Build.objects.get(pk=build.pk).current.document
        return found

    slosh.click("button", "Sections")
    slosh.click("button", "Numbers")
    slosh.click("button", "Add a plate across")
    slosh.says("P1")
    slosh.find("[data-plate=P1]")
    slosh.says("not felt by settled oil")
    slosh.driver.execute_script(
        "[...document.querySelectorAll('summary')]"
        ".find((each) => each.textContent.startsWith('P1')).click()"
    )
    slosh.click("button", "Add an opening")
    slosh.find("[data-gate='P1-1']")
    assert "Swings away from the mouth" not in slosh.text()
    gate = document()["pan"]["plates"][0]["openings"][0]["gate"]
    wrong = {"left": "right", "right": "left"}[gate["swings"]]
    slosh.driver.find_element(
        By.XPATH, "//label[starts-with(normalize-space(.), 'Gate')]/select"
    ).send_keys(f"swings to the plate's {wrong}")
    slosh.says("Swings away from the mouth")
    assert slosh.serious_faults() == []
    slosh.click("button", "Turn it round")
    slosh.until(
        lambda: document()["pan"]["plates"][0]["openings"][0]["gate"]["swings"] == gate["swings"]
    )
    slosh.type_into("Wide", "900")
    slosh.says("reaches beyond P1")


@pytest.mark.parametrize("theme", ["Paper theme", "Night theme"])
def test_both_themes_have_no_serious_fault(slosh: Page, theme: str) -> None:
    if slosh.driver.find_elements(By.CSS_SELECTOR, f"[aria-label='{theme}']"):
        slosh.click("button", theme)
    slosh.find("canvas")
    for picture in ("Cut away", "Sections", "Plan"):
        slosh.click("button", picture)
        assert slosh.serious_faults() == []


def test_every_stop_is_reached_with_the_keyboard_alone(slosh: Page) -> None:
    """Tab goes through undo, pictures, scene, pad, figures, dips and strip, and shows where."""
    slosh.driver.execute_script("document.activeElement.blur()")
    seen: list[str] = []
    for _ in range(75):
        ActionChains(slosh.driver).send_keys(Keys.TAB).perform()
        here = slosh.driver.switch_to.active_element
        if here.tag_name == "body":  # round the end
            continue
        label = here.get_attribute("aria-label") or here.text
        seen.append(str(label))
        outline = here.value_of_css_property("outline-style")
        assert outline != "none", label
    words = " | ".join(seen)
    for stop in (
        "Night theme" if "Night theme" in words else "Paper theme",
        "Sections",
        "The pan in three dimensions",
        "Load pad",
        "Dip" if "Dip" in words else "in corner",
        "Moment of the lap",
        "Play the lap",
        "Read or save",
    ):
        assert stop in words, stop


@pytest.fixture
def downloads(page: Page, tmp_path: Path) -> Callable[[str], bytes]:
    where = {"behavior": "allow", "downloadPath": str(tmp_path)}
    page.driver.execute_cdp_cmd("Browser.setDownloadBehavior", where)

    def read(name: str) -> bytes:
        file = tmp_path / name
        page.until(lambda: file.exists() and file.stat().st_size > 0)
        return file.read_bytes()

    return read


def choose(page: Page, menu: str, item: str) -> None:
    page.choose(f"button[aria-label='Read or save: {menu}']", f"//*[@role='menuitem'][.='{item}']")


def _is_shut(page: Page) -> bool:
    """Whether the dialog is gone; a first Escape may still go to the menu that opened it."""
    if not page.driver.find_elements(By.CSS_SELECTOR, "dialog[open]"):
        return True
    page.driver.switch_to.active_element.send_keys(Keys.ESCAPE)
    return False


def test_plots_are_read_out(slosh: Page, downloads: Callable[[str], bytes]) -> None:
    choose(slosh, "lap 7", "Read as a table")
    slosh.says("sample by sample")
    rows = slosh.driver.find_elements(By.CSS_SELECTOR, "dialog tbody tr")
    assert 100 < len(rows) <= 400
    slosh.until(lambda: _is_shut(slosh))
    choose(slosh, "lap 7", "Save as CSV")
    table = list(csv.reader(io.StringIO(downloads("lap-7.csv").decode())))
    assert table[0][0] == "time [s]"
    assert len(table) == 4051 + 1
    choose(slosh, "Cover rose", "Save as CSV")
    assert len(downloads("cover-rose.csv").splitlines()) == 73
    choose(slosh, "lap 7", "Save as PNG")
    assert downloads("lap-7.png").startswith(b"\x89PNG")


def test_drawings_are_saved_whole(slosh: Page, downloads: Callable[[str], bytes]) -> None:
    slosh.find("canvas")
    name = "pan-with-the-oil-as-it-lies"
    choose(slosh, "Pan with the oil as it lies", "Save as PNG")
    assert downloads(f"{name}.png").startswith(b"\x89PNG")
    slosh.click("button", "Sections")
    choose(slosh, "Pan with the oil as it lies", "Save as SVG")
    text = downloads(f"{name}.svg").decode()
    assert "var(--" not in text  # colours are in it
    assert "font/woff2" in text or "application/" in text  # and so are the fonts
    assert ElementTree.fromstring(text).tag == "{http://www.w3.org/2000/svg}svg"


def test_without_3d_the_sections_stand_in(page: Page, build: Build) -> None:
    no_webgl = "HTMLCanvasElement.prototype.getContext = () => null"
    added = page.driver.execute_cdp_cmd(
        "Page.addScriptToEvaluateOnNewDocument", {"source": no_webgl}
    )
    try:
        page.sign_in("ada", "bearing-shell-9")
        page.says("Not safe.")
        page.driver.get(f"{page.address}/builds/{build.pk}/slosh")
        page.find("[data-oil=plan]")
        assert not page.by_words("button", "Cut away").is_enabled()
    finally:
        page.driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", added)
