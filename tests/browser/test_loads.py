"""Loads in a real browser: a session with a torn row, its laps, corners and what is remembered."""

from __future__ import annotations

from pathlib import Path

import pytest
from accounts.services import open_account
from builds.services import add_build, checked_document
from loads.models import Lap
from loads.services import store_lap

from tests.browser.conftest import Page
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def build_id(page: Page) -> int:
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    lap = store_lap(ada, "lap 7", DEMO / "saltmarsh.csv", "saltmarsh.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    build = add_build(ada, document, "from a file", lap)
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    return build.pk


def test_a_session_is_read_agreed_to_and_its_laps_kept(
    page: Page, build_id: int, tmp_path: Path
) -> None:
    torn = tmp_path / "test day.csv"
    lines = (DEMO / "saltmarsh-session.csv").read_bytes().split(b"\n")
    lines[900] = b"44,60;oops" + lines[900][5:]
    torn.write_bytes(b"\n".join(lines))
    page.goto(f"/builds/{build_id}/loads")
    page.says("9 corners")
    assert page.serious_faults() == []
    page.click("button", "Import a log")
    page.give(torn, "Logger file")
    page.says("This recording turns mostly left")
    page.says("One row cannot be read")
    page.says("line 901, column")
    assert page.serious_faults() == []
    page.click("label", "leave it out and draw straight across")
    page.click("button", "Keep 2 laps, judge by the last")
    kept = ["lap 7", "test day, lap 2", "test day, lap 3"]
    page.until(lambda: [lap.name for lap in Lap.objects.order_by("id")] == kept)
    page.says("test day, lap 3")
    page.says("1:21.40")
    page.says("Line driven, from GPS")

    # a reload later the file is still there, and read as before
    page.goto(f"/builds/{build_id}/loads")
    page.click("button", "Import a log")
    page.click("button", "test day.csv")
    page.says("Read as you read such a file the last time.")


def test_corners_are_named_and_the_verdict_says_the_name(page: Page, build_id: int) -> None:
    page.goto(f"/builds/{build_id}/loads")
    page.type_into("Name of corner 2", "Gravel bend")
    page.until(lambda: "in Gravel bend" in page.verdict())
    page.type_into("End of corner 2", "soon")
    page.says("no number of seconds")
    page.type_into("End of corner 2", "99")
    page.says("after the one before")
    page.click("button", "find them again")
    page.until(lambda: "in corner 2" in page.verdict())


def test_a_lap_is_renamed_and_removed(page: Page, build_id: int) -> None:
    page.goto(f"/builds/{build_id}/loads")
    page.type_into("Name of the lap", "evening")
    page.until(lambda: Lap.objects.get().name == "evening")
    page.click("button", "remove")
    page.click("button", "Remove the lap")
    page.says("is judged by this lap")
    assert Lap.objects.exists()
    page.click("button", "Remove it all the same")
    page.until(lambda: "No lap yet" in page.verdict())
    page.says("None yet: import a log")
