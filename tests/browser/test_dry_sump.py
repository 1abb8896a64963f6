"""Dry sump as a builder meets it: made in one act, its stages read, a stage mended."""

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


@pytest.fixture
def raced(ada: User, tmp_path: Path) -> Build:
    """The demo car as raced over the first twenty seconds of its lap."""
    path = tmp_path / "to-corner-1.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:1000]))
    lap = store_lap(ada, "to corner 1", path, path.name)
    return add_build(ada, checked_document((DEMO / "dunlin.json").read_bytes()), "from a file", lap)


def _share(page: Page, stage: int) -> str:
    """What a stage draws in the lap's first corner, as the map says it."""
    row = page.driver.find_elements(By.CSS_SELECTOR, "table tbody tr")[stage]
    return row.find_elements(By.CSS_SELECTOR, "td")[0].text


def test_a_wet_sump_is_made_dry_its_stages_read_and_one_mended(
    page: Page, raced: Build, worker: Any
) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{raced.pk}/dry-sump")
    page.says("The pump draws from the pan")
    assert page.serious_faults() == []
    page.click("button", "Fit it")
    page.says("What each stage draws, corner by corner")
    page.says("State 2")
    page.says("Sizing, wanted and found")
    page.until(lambda: "The tank's outlet stays covered" in page.verdict(), A_RUN)
    assert page.serious_faults() == []
    assert faults(page) == []
    # corner 1 is a left: the leaned engine's oil is at the right, and the front mouth bare
    assert _share(page, 0) == "air only"
    assert _share(page, 1).endswith("%")

    # its own run in moving oil takes the place of settled oil
    page.until(lambda: "own run in moving oil" in page.text(), A_RUN)

    # the front mouth goes where the oil lies: to the right
    page.click("summary", "1 front stage")
    page.type_into("front pickup, left", "-75")
    page.says("State 3")
    page.until(lambda: _share(page, 0).endswith("%"), A_RUN)
    page.click("button", "Undo")
    page.says("State 2")

    page.size(390, 844)
    page.says("What each stage draws, corner by corner")
    assert page.serious_faults() == []
    page.size(1280, 800)
