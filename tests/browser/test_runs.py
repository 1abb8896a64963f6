"""Runs as a user meets them: one starts by itself, is watched, another is cancelled."""

from __future__ import annotations

import threading
from pathlib import Path
from typing import Any

import pytest
from accounts.services import open_account
from builds.models import Build
from builds.services import add_build, checked_document
from django.db import connections
from loads.services import store_lap
from runs.models import Run
from runs.tasks import carry_out
from selenium.webdriver.common.by import By

from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


def _work(until: threading.Event, wanted: str) -> None:
    """A worker in a thread: carries out what waits in cells of a size."""
    try:
        while not until.wait(0.2):
            run = Run.objects.filter(status=Run.WAITING, cells=wanted).first()
            if run is not None:
                carry_out.call(run.pk)
    finally:
        connections.close_all()


@pytest.fixture
def worker(live_server: Any) -> Any:
    ended = threading.Event()
    thread = threading.Thread(target=_work, args=(ended, "quick"))
    thread.start()
    yield
    ended.set()
    thread.join()


def _moving(page: Page) -> str:
    return page.find("section[aria-label='Moving oil']").text


def _short_build(tmp_path: Path) -> Build:
    """The gated demo car over six seconds of its lap."""
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:320]))
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
    page.until(lambda: "s settled" in _moving(page), 240)
    page.says("Moving oil, coarse cells")
    moving = page.verdict()
    page.click("button", "Settled oil")
    page.says("Settled oil: it lies at once")
    page.until(lambda: page.verdict() != moving)
    # a finer one waits, since no worker takes it, and is cancelled
    finer = page.driver.find_element(By.XPATH, "//button[contains(., '10 mm, ')]")
    finer.click()
    page.until(lambda: "waits for its turn" in _moving(page))
    assert page.serious_faults() == []
    page.click("button", "Cancel")
    page.until(lambda: "Run finer" in _moving(page))
    page.goto("/runs")
    page.says("finished: dry")
    page.says("cancelled: Cancelled.")
    assert page.serious_faults() == []
