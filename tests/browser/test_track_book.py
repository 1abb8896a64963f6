"""The track book: written by thumb at the pit wall; laps held against the forecast; the file."""

from __future__ import annotations

from pathlib import Path

import pytest
from accounts.models import User
from builds.models import Build
from builds.services import add_build, checked_document
from learning import tasks as learnt
from learning.models import Learning
from live.following import Following
from live.models import LiveFeed
from records.models import BookEntry
from runs.models import Run
from runs.selectors import figures_kept
from runs.services import ask_for_run
from stages.track_book.exchange import saved

from tests.browser.away import nothing_answers
from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO
from tests.server.book_made import bars_of_another, driven_car, forecast_bars, log_file, logged
from tests.server.runs_made import wanted, work

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def car(ada: User) -> Build:
    return add_build(ada, checked_document((DEMO / "dunlin.json").read_bytes()), "a file", None)


def fill(page: Page, label: str, text: str) -> None:
    page.driver.execute_script(
        "const [words, text] = arguments;"
        "const box = [...document.querySelectorAll('label')].find((each) =>"
        "  each.innerText.split('\\n')[0].trim() === words && each.offsetParent);"
        "box.querySelector('input, textarea').focus()",
        label, text,
    )  # fmt: skip
    page.driver.switch_to.active_element.send_keys(text)


def test_a_session_is_written_down_by_thumb_and_a_seal_renewed(page: Page, car: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.size(390, 844)
    page.goto(f"/builds/{car.pk}/track-book")
    page.says("No session is written down yet")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Write")
    assert page.fits(390) and page.serious_faults() == []
    fill(page, "Circuit", "Saltmarsh Ring")
    for label, text in (("Laps", "18"), ("Level before", "103"), ("Level after", "99")):
        fill(page, f"{label}, mm" if label != "Laps" else label, text)
    fill(page, "Engine ran, h", "13")
    with nothing_answers(page):
        page.click("button", "Write it down")
        page.says("1 entered, not sent yet")
    page.send_what_waits()
    page.until(lambda: BookEntry.objects.count() == 1)
    page.says("18 laps")
    page.says("of oil used")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Due")
    page.says("overdue 1.0 h")
    page.driver.find_element("css selector", "[data-due=jointseal] button").click()
    page.click("button", "Renewed")
    page.until(lambda: BookEntry.objects.filter(data__kind="item_done").count() == 1)
    page.until(lambda: "in 12.0 h" in page.text())
    assert page.fits(390) and page.serious_faults() == []


@pytest.fixture
def driven(ada: User, tmp_path: Path) -> Build:
    """The demo car over the first fourteen seconds of its lap, run, and logged with what it had."""
    build = driven_car(ada, tmp_path)
    bars = forecast_bars(work(ask_for_run(ada, wanted(build))))
    logged(ada, tmp_path, bars, "Lap 1")
    bars[250:290] = 1.2  # in the run up to corner 1, where nothing was forecast
    logged(ada, tmp_path, bars, "Lap 2")
    return build


def test_laps_are_held_against_the_forecast(page: Page, driven: Build) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{driven.pk}/track-book")
    page.click("button", "New session")
    fill(page, "Circuit", "Saltmarsh Ring")
    fill(page, "Engine ran, h", "1,5")
    page.click("button", "Write it down")
    page.says("Log the gallery's pressure.")
    page.click("button", "Hold its laps against the forecast")
    for name in ("Lap 1", "Lap 2"):
        page.click("label", name)
    assert page.serious_faults() == []
    page.click("button", "Hold them against the forecast")
    page.says("Moving oil, coarse cells, over forecast on, kept as it was")
    page.find("[data-dip=hit]")
    page.find("[data-dip=miss]")
    assert faults(page) == []
    assert page.serious_faults() == []
    page.size(390, 844)
    assert page.fits(390) and page.serious_faults() == []


def test_a_trial_that_is_typed_leaves_the_page_as_long_as_its_window(
    page: Page, build: Build
) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{build.pk}/track-book")
    page.click("button", "Measure it")
    page.size(1280, 500)  # so that the trial is further down than the window
    page.field("Engine at, rpm").send_keys("200")
    page.field("Engine at, rpm, 2")  # a row more, whose heads are for screen readers alone
    assert page.driver.execute_script("return document.documentElement.scrollHeight") == 500
    page.says("Level with all of it back is still to be filled in")


def test_what_laps_say_is_taken_over_and_the_forecast_moves(
    page: Page, ada: User, tmp_path: Path
) -> None:
    """A car with a quarter of a litre more up top than thought: its lap is logged from a file."""
    build = driven_car(ada, tmp_path)
    before = work(ask_for_run(ada, wanted(build)))
    log = log_file(tmp_path, bars_of_another(), "test day")
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{build.pk}/track-book")
    page.click("button", "New session")
    fill(page, "Circuit", "Saltmarsh Ring")
    fill(page, "Engine ran, h", "1,5")
    page.click("button", "Write it down")
    page.click("button", "Hold its laps against the forecast")
    page.give(log, "Logger files of this session")
    page.says("test day.csv: 1 lap kept")
    page.says("test day, lap 1")
    assert page.serious_faults() == []
    page.click("button", "Hold them against the forecast")
    page.find("[data-dip=hit]")
    page.click("button", "Ask the laps")
    page.says("Run 1 of 6")
    page.until(lambda: Learning.objects.count() == 1)
    assert page.serious_faults() == []
    learnt.work_on.call(Learning.objects.get().pk)
    page.says("oil up top, more than thought")
    assert faults(page) == []
    assert page.serious_faults() == []
    page.size(390, 844)
    assert page.fits(390) and page.serious_faults() == []
    page.size(1280, 800)
    page.click("button", "Take them all")
    page.says("Taken over in state 2")
    page.until(lambda: Run.objects.filter(status=Run.WAITING, state__number=2).exists())
    after = work(Run.objects.get(status=Run.WAITING, state__number=2))
    assert figures_kept(after).dry_s > figures_kept(before).dry_s
    page.says(f"{figures_kept(after).dry_s:.1f} s/lap")


def test_a_whole_book_goes_out_and_comes_back(page: Page, driven: Build, tmp_path: Path) -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{driven.pk}/track-book")
    page.says("Save the whole book")
    _, data = saved(driven.workshop, driven.pk)
    path = tmp_path / "book.zip"
    path.write_bytes(data)
    page.give(path, "A track book saved by Bilge")
    page.until(lambda: Build.objects.count() == 2)
    made = Build.objects.exclude(pk=driven.pk).get()
    page.until(lambda: f"/builds/{made.pk}/track-book" in page.driver.current_url)
    page.says("No session is written down yet")


def test_the_pit_wall_follows_a_car(page: Page, ada: User, tmp_path: Path) -> None:
    """Its logger is heard by this test itself; the socket has tests of its own."""
    build = driven_car(ada, tmp_path)
    bars = forecast_bars(work(ask_for_run(ada, wanted(build))))
    logged(ada, tmp_path, bars)
    page.sign_in("ada", "bearing-shell-9")
    page.says("Dunlin")
    page.goto(f"/builds/{build.pk}/track-book")
    page.click("a", "Pit wall")
    page.click("button", "Follow this car")
    page.says("No logger is heard yet")
    assert page.serious_faults() == []
    page.until(lambda: LiveFeed.objects.count() == 1)
    following = Following(LiveFeed.objects.get().key)
    rows = (tmp_path / "Lap 1.csv").read_text().splitlines()
    for row in rows[:400]:
        following.hear(row)
    following.write()
    page.says("as expected")
    page.says("Next corner")
    page.says("dips: 0 on this lap".capitalize())
    assert faults(page) == []
    assert page.serious_faults() == []
    page.size(390, 844)
    assert page.fits(390) and page.serious_faults() == []
    for row in rows[400:]:
        following.hear(row)
    following.write()
    page.until(lambda: "Dips: 0 on this lap" not in page.text())
    page.click("button", "Back to the book")
    page.says("No session is written down yet")
