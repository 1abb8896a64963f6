"""Takes the pictures of docs/screenshots from a running, fresh demo.

After ``./bilge start``, with ``PYTHONPATH=.:core:server``, a ``BILGE_SECRET_KEY`` and
``DJANGO_SETTINGS_MODULE=config.settings``: ``python -c "import django; django.setup();
from docs.take_screenshots import main; main()"``.
"""

from __future__ import annotations

import base64
import json
import tempfile
import time
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import FLAGS, Page

ROOT = Path(__file__).resolve().parent.parent
HERE = ROOT / "docs" / "screenshots"


def _open() -> Page:
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in (*FLAGS, "--ignore-certificate-errors", f"--user-data-dir={tempfile.mkdtemp()}"):
        options.add_argument(flag)
    service = webdriver.ChromeService("/usr/bin/chromedriver")
    address = json.loads((ROOT / ".bilge" / "run.json").read_text())["address"]
    return Page(webdriver.Chrome(options=options, service=service), address)


def _keep(page: Page, name: str) -> None:
    time.sleep(1.5)  # the scene is drawn after the page
    shot = page.driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})
    (HERE / f"{name}.png").write_bytes(base64.b64decode(shot["data"]))
    print(name)


def main() -> None:
    """Sign in as the demo user and take them all."""
    page = _open()
    page.size(1280, 800)
    secrets = json.loads((ROOT / ".bilge" / "secrets.json").read_text())
    page.sign_in("dunlin", secrets["demo_password"])
    page.until(lambda: page.text().count("Moving oil") >= 4, 600)  # settled oil speaks until then
    _keep(page, "shelf")
    page.driver.find_element(By.LINK_TEXT, "Dunlin").click()
    page.find("canvas")
    page.until(lambda: "s settled" in page.text(), 300)  # the first run, and the compiler before it
    _painted_moving(page)
    _keep(page, "slosh")
    page.click("button", "Numbers")
    page.driver.find_element(By.CSS_SELECTOR, "details summary").click()
    page.click("button", "Sections")
    _keep(page, "numbers")
    page.click("button", "Rose and dips")
    page.click("button", "Night theme")
    page.type_into("side", "-1.05")
    page.type_into("fore", "-0.55")
    _keep(page, "slosh-night")
    page.press(Keys.ESCAPE)
    page.click("button", "Paper theme")
    page.click("a", "Car")
    page.find("[data-car-plan]")
    _keep(page, "car")
    _lines(page)
    _measuring(page)
    _pressure(page)
    _drains(page)
    _options(page)
    _dry_sump(page)
    _bench(page)
    _runs_and_phone(page)
    page.driver.quit()


def _bench(page: Page) -> None:
    """The test fit of the Dunlin, the Sandpiper's job at its bolts, wide and on a phone."""
    for name, stage, words in (
        ("Dunlin", "Fit", "Round 3"), ("Dunlin", "Track book", "What is due"),
        ("Sandpiper", "Job card", "6 of 14 tight"),
    ):  # fmt: skip
        page.driver.get(f"{page.address}/")
        page.says("Not safe.")
        page.driver.find_element(By.LINK_TEXT, name).click()
        page.find("[data-level-mm]")
        page.click("a", stage)
        page.says(words)
        _keep(page, stage.lower().replace(" ", "-"))
    page.size(390, 844)
    page.driver.refresh()
    page.says("6 of 14 tight")
    _keep(page, "job-card-phone")
    page.size(1280, 800)


def _lines(page: Page) -> None:
    """The car with its lines laid: one picked, as it screws together."""
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Dunlin, bottle and lines").click()
    page.find("[data-level-mm]")
    page.click("a", "Lines")
    page.says("as it screws together")
    _keep(page, "lines")


def _painted_moving(page: Page, inside: str = "") -> None:
    page.find(f"{inside} canvas[data-painted$='moving']")


def _dry_sump(page: Page) -> None:
    """The dry-sumped car, which stage draws what, by its own run."""
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Curlew").click()
    page.find("[data-level-mm]")
    page.click("a", "Dry sump")
    page.until(lambda: "own run in moving oil" in page.text(), 300)
    _keep(page, "dry-sump")


def _measuring(page: Page) -> None:
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Dunlin, plates and gates").click()
    page.find("[data-level-mm]")
    page.click("a", "Pan")
    page.says("Checks on this pan")
    _keep(page, "pan")
    page.click("button", "Make")
    page.says("Before it is cut")
    _keep(page, "make")
    page.click("button", "Fill, checks")
    page.click("a", "Loads")
    page.find("[data-held]")
    _keep(page, "loads")


def _pressure(page: Page) -> None:
    """Dunlin as raced with a bottle tried."""
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Dunlin").click()
    page.find("[data-level-mm]")
    page.click("a", "Pressure")
    page.find("[data-basis=own]")
    page.find("[data-holds]")
    _keep(page, "pressure")


def _drains(page: Page) -> None:
    """The turbocharged car where its drain is worst, its first remedy tried."""
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Sandpiper").click()
    page.find("[data-level-mm]")
    page.click("a", "Drains")
    page.says("Drains, worst first")
    page.until(lambda: "On its own run" in page.text(), 300)
    _keep(page, "drains")


def _options(page: Page) -> None:
    """Dunlin as raced, its remedies tried and the smallest that holds proved."""
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Dunlin").click()
    page.find("[data-level-mm]")
    page.click("a", "Options")
    page.click("button", "Try the remedies")
    page.until(lambda: "0.5 L less oil" in page.text(), 600)
    page.until(lambda: "Proving" not in page.text(), 120)
    _keep(page, "options")


def _runs_and_phone(page: Page) -> None:
    page.driver.get(f"{page.address}/runs")
    page.says("finished: dry")
    _keep(page, "runs")
    page.size(390, 844)
    page.driver.get(f"{page.address}/")
    page.says("Not safe.")
    page.driver.find_element(By.LINK_TEXT, "Dunlin").click()
    page.find("[data-oil][data-moving]")
    _keep(page, "slosh-phone")


if __name__ == "__main__":
    main()
