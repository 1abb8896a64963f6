"""How soon the screen answers, in headless Chromium on loopback: run by ./bilge test --long."""

from __future__ import annotations

import gzip
import re
from typing import Any

import pytest
from accounts.services import open_account
from builds.models import Build
from builds.services import add_build, checked_document
from loads.services import store_lap

from tests.browser.conftest import Page
from tests.conftest import DEMO, ROOT

pytestmark = pytest.mark.django_db(transaction=True)

DIST = ROOT / "web" / "dist"

TO_STAGE = """
const [stage, drawn, done] = arguments;
const link = document.querySelector(`a[href$="/${stage}"]`);
const started = performance.now();
link.click();
const look = () => document.querySelector(drawn) === null ? requestAnimationFrame(look)
  : requestAnimationFrame(() => done(performance.now() - started));
requestAnimationFrame(look);
"""
"""Goes to a stage by the rail and answers once its picture has been painted."""

MOVE = """
const [x, y, done] = arguments;
const pad = document.querySelector('[data-load-pad]').getBoundingClientRect();
const shape = () => document.querySelector('[data-oil=front]').getAttribute('d');
const before = shape();
const at = {clientX: pad.left + x, clientY: pad.top + y, pointerId: 1, bubbles: true};
const started = performance.now();
document.querySelector('[data-load-pad]').dispatchEvent(new PointerEvent('pointermove', at));
const look = () => shape() === before ? requestAnimationFrame(look)
  : requestAnimationFrame(() => done(performance.now() - started));
requestAnimationFrame(look);
"""
"""Moves the pad's handle and answers once the picture with the oil elsewhere has been painted."""


@pytest.fixture
def build(db: None) -> Build:
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    lap = store_lap(ada, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(ada, document, "from a file", lap)


def first_scripts() -> int:
    """Gzipped bytes of the scripts that the page loads before the 3D part."""
    names = re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', (DIST / "index.html").read_text())
    return sum(len(gzip.compress((DIST / name).read_bytes())) for name in names)


def test_scripts_before_the_3d_part_are_small() -> None:
    assert 0 < first_scripts() <= 400_000


@pytest.mark.parametrize("picture", ["Sections", "Cut away"])
def test_pad_to_picture(page: Page, build: Build, benchmark: Any, picture: str) -> None:
    """60 moves of the handle: p95 is in the benchmark's extra figures; wanted at most 100 ms."""
    page.sign_in("ada", "bearing-shell-9")
    page.says("Not safe.")
    page.driver.get(f"{page.address}/builds/{build.pk}/slosh")
    page.find("[data-level-mm]")
    page.click("button", picture)
    page.driver.set_script_timeout(10)
    page.driver.execute_script(
        "const pad = document.querySelector('[data-load-pad]');"
        "pad.setPointerCapture = () => {};"
        "const box = pad.getBoundingClientRect();"
        "pad.dispatchEvent(new PointerEvent('pointerdown', {clientX: box.left + 125,"
        " clientY: box.top + 125, pointerId: 1, bubbles: true}))"
    )
    times: list[float] = []

    def move() -> None:
        k = len(times)
        x, y = 125 + 70 * ((k * 7) % 11 - 5) / 5, 125 + 70 * ((k * 3) % 13 - 6) / 6
        times.append(page.driver.execute_async_script(MOVE, x, y))

    benchmark.pedantic(move, rounds=60)
    benchmark.extra_info["p95 ms"] = round(sorted(times)[56], 1)
    benchmark.extra_info["median ms"] = round(sorted(times)[29], 1)


def test_first_view_cold(page: Page, build: Build, benchmark: Any) -> None:
    """From a cold browser cache to the oil drawn in section; wanted under 1500 ms."""
    page.sign_in("ada", "bearing-shell-9")
    page.says("Not safe.")
    times: list[float] = []

    def look() -> None:
        page.driver.get("about:blank")
        page.driver.execute_cdp_cmd("Network.clearBrowserCache", {})
        page.driver.get(f"{page.address}/builds/{build.pk}/slosh")
        page.find("[data-level-mm] svg")
        times.append(
            page.driver.execute_script(
                "return performance.getEntriesByName('first-contentful-paint')[0].startTime"
            )
        )
        page.find("[data-oil]")

    benchmark.pedantic(look, rounds=5)
    benchmark.extra_info["first contentful paint ms"] = round(sorted(times)[2])


def test_from_slosh_to_pressure_seen_before(page: Page, db: None, benchmark: Any) -> None:
    """From the rail to the circuit drawn, with an accumulator; wanted within 300 ms."""
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    lap = store_lap(ada, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")
    document = checked_document((DEMO / "plumbed.json").read_bytes())
    build = add_build(ada, document, "from a file", lap)
    page.sign_in("ada", "bearing-shell-9")
    page.driver.get(f"{page.address}/builds/{build.pk}/pressure")
    page.find('[aria-label^="The circuit at"]')
    page.driver.set_script_timeout(20)
    times: list[float] = []

    def there_and_back() -> None:
        page.driver.execute_async_script(TO_STAGE, "slosh", "[data-level-mm] svg")
        circuit = '[aria-label^="The circuit at"]'
        times.append(page.driver.execute_async_script(TO_STAGE, "pressure", circuit))

    benchmark.pedantic(there_and_back, rounds=11)
    benchmark.extra_info["median ms"] = round(sorted(times)[5])
    benchmark.extra_info["longest ms"] = round(max(times))
