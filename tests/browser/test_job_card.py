"""The job card on a phone under the car: step by step, bolt by bolt, with and without an answer."""

from __future__ import annotations

import os
import signal
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from bilge_core.job.settings import CardSettings
from builds.models import Build
from builds.schemas import ActIn, AsIsIn
from builds.services import act, add_build, checked_document, say_as_is
from django.utils import timezone
from records.models import CardEntry, JobCard
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from stages.job_card.answer import begun, entered, job
from stages.job_card.schemas import EntryIn

from tests.browser.away import nothing_answers
from tests.browser.conftest import FLAGS, Page
from tests.browser.labels import faults
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)

PHONE = (390, 844)


@pytest.fixture
def planned(ada: User) -> Build:
    """A cast pan with fourteen bolts, gates planned into it; no lap: nothing is run."""
    document = checked_document((DEMO / "sandpiper.json").read_bytes())
    build = add_build(ada, document, "from a file", None)
    say_as_is(ada, build.pk, AsIsIn(base_state=1, state=1))
    wanted = {"base_state": 1, "system": "metric", "act": {"kind": "fit_gates"}}
    return act(ada, build.pk, ActIn.model_validate(wanted))


def at_the_bolts(ada: User, build: Build, is_set: bool = True) -> None:
    """The job begun and done as far as the bolts; whether the bead has set by now."""
    told = begun(ada, build.pk, CardSettings(sealing="gasket" if is_set else "liquid"))
    assert told.card
    rows: list[dict[str, Any]] = []
    for step in told.card.steps:
        if step.id == "torque_pan":
            break
        rows.append({"kind": "ticked", "step": step.id})
        if step.id == "drain":
            rows.append({"kind": "wait_over", "step": step.id, "why": "overnight"})
    made = [
        EntryIn.model_validate({
            "client_id": f"00000000-0000-4000-8000-{number:012d}",
            "at": timezone.now(), "entry": row,
        })
        for number, row in enumerate(rows)
    ]  # fmt: skip
    assert entered(ada, build.pk, made).refused == []


def tight(build: Build) -> list[int]:
    """Bolts that the server has as tight, in the order in which they were kept."""
    rows = CardEntry.objects.filter(card__build=build, data__kind="bolt_tight")
    return [row.data["bolt"] for row in rows]


def open_card(page: Page, build: Build, step: str = "") -> None:
    page.sign_in("ada", "bearing-shell-9")
    page.says("Sandpiper")
    page.size(*PHONE)
    page.goto(f"/builds/{build.pk}/job-card{f'?step={step}' if step else ''}")


def drawn_tight(page: Page) -> int:
    found = page.find("[data-bolts]").get_attribute("data-bolts")
    return int(found or 0)


def test_a_job_is_begun_and_ticked_by_thumb(page: Page, ada: User, planned: Build) -> None:
    planned.as_is = None
    planned.save()
    open_card(page, planned)
    page.says("Which state is the car in?")
    page.click("button", "The car is so")
    page.says("step 1 of")
    assert page.fits(390)
    page.click("button", "Begin this job")
    page.click("button", "Done")
    page.says("Pull the plug")
    page.until(lambda: CardEntry.objects.count() == 1)
    page.click("button", "Done, the wait begins")
    page.until(lambda: page.find("[data-wait=drain]").text.count(":") >= 2)
    page.driver.refresh()  # the wait goes on from when it was begun
    assert "left" in page.find("[data-wait=drain]").text
    assert page.serious_faults() == []
    page.click("button", "All")
    rows = page.driver.find_elements(By.CSS_SELECTOR, "[data-step]")
    states = [row.get_attribute("data-state") for row in rows]
    assert (states[:2] == ["done", "done"] and "shut" in states) or "later" in states
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Job")
    page.click("button", "Is in the way")
    page.until(lambda: JobCard.objects.get().said["access"][0]["name"] == "bumper")
    assert page.fits(390) and page.serious_faults() == []
    page.click("button", "Parts")
    page.says("rubber gate with its hinge")
    assert page.fits(390) and page.serious_faults() == []


def test_a_gate_is_passed_only_with_a_reason(page: Page, ada: User, planned: Build) -> None:
    begun(ada, planned.pk, CardSettings())
    open_card(page, planned, "drain")
    page.says("Not to be passed first")
    assert page.by_words("button", "A gate comes first").get_attribute("disabled")
    page.goto(f"/builds/{planned.pk}/job-card?step=stands")
    page.click("button", "Pass without, and say why")
    page.find("dialog textarea").send_keys("on the rated four-post lift")
    page.click("button", "Pass without it")
    page.says("Passed without: on the rated four-post lift")
    page.until(lambda: CardEntry.objects.get().data["kind"] == "overridden")


def test_bolts_are_ticked_by_the_nearest_touch_and_by_the_button(
    page: Page, ada: User, planned: Build
) -> None:
    at_the_bolts(ada, planned)
    told = job(ada.workshop, planned.pk).card
    assert told and told.flange
    open_card(page, planned, "torque_pan")
    page.says("106 lbf·in")
    assert page.until(lambda: drawn_tight(page) == 0)
    assert faults(page) == []
    page.click("button", "Bolt 1 is tight")
    page.says("1 of 14 tight")
    second = page.find(f"[data-bolt='{told.flange.pattern[1]}']")
    page.touch(second, (12, 14))
    page.says("2 of 14 tight")
    page.until(lambda: tight(planned) == told.flange.pattern[:2])
    page.click("button", "Undo 2")
    page.says("1 of 14 tight")
    assert page.serious_faults() == []
    for number in range(2, 15):
        page.click("button", f"Bolt {number} is tight")
    page.click("button", "All 14 tight: done")
    page.says("Back on:")


def test_nothing_is_lost_or_doubled_when_nothing_answers_in_the_middle(
    page: Page, ada: User, planned: Build
) -> None:
    at_the_bolts(ada, planned)
    open_card(page, planned, "torque_pan")
    page.says("0 of 14 tight")
    page.until(lambda: "Opens without" in page.find("[data-away]").text)
    page.driver.refresh()  # through the worker, which keeps what it hears
    page.says("0 of 14 tight")
    page.click("button", "Bolt 1 is tight")
    page.until(lambda: len(tight(planned)) == 1)
    with nothing_answers(page):
        for number in (2, 3, 4):
            page.click("button", f"Bolt {number} is tight")
        page.says("3 entered, not sent yet")
        assert drawn_tight(page) == 4
        page.driver.refresh()  # the page itself opens without an answer
        page.says("3 entered, not sent yet")
        page.until(lambda: drawn_tight(page) == 4)
        page.click("button", "Undo 4")
        page.says("4 entered, not sent yet")
    page.send_what_waits()
    page.until(lambda: len(tight(planned)) == 4)
    page.until(lambda: "entered, not sent" not in page.text())
    page.says("3 of 14 tight")
    assert CardEntry.objects.filter(data__kind="bolt_loose").count() == 1


def test_a_wait_goes_on_through_a_killed_browser(
    page: Page, ada: User, planned: Build, tmp_path: Path
) -> None:
    at_the_bolts(ada, planned, is_set=False)
    first = browser_in(tmp_path / "profile")
    try:
        other = Page(first, page.address)
        open_card(other, planned, "torque_pan")
        other.says("Shut until")
        before = other.find("[data-wait=finger_tight]").text
        os.kill(_browser_of(tmp_path / "profile"), signal.SIGKILL)
    finally:
        first.quit()
    open_card(page, planned, "torque_pan")  # another device: the wait is the same
    after = page.find("[data-wait=finger_tight]").text
    assert before.split("over ")[1] == after.split("over ")[1]


def browser_in(profile: Path) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in (*FLAGS, f"--user-data-dir={profile}"):
        options.add_argument(flag)
    service = webdriver.ChromeService("/usr/bin/chromedriver")
    return webdriver.Chrome(options=options, service=service)


def test_a_browser_that_is_killed_brings_back_what_was_entered(
    page: Page, ada: User, planned: Build, tmp_path: Path
) -> None:
    at_the_bolts(ada, planned)
    first = browser_in(tmp_path / "profile")
    try:
        other = Page(first, page.address)
        open_card(other, planned, "torque_pan")
        other.says("0 of 14 tight")
        with nothing_answers(page):
            other.click("button", "Bolt 1 is tight")
            other.touch(other.by_words("button", "Bolt 2 is tight"))
            other.says("2 entered, not sent yet")
            kept = "return indexedDB.databases().then((all) => all.length)"
            other.until(lambda: first.execute_script(kept) >= 1)
            os.kill(_browser_of(tmp_path / "profile"), signal.SIGKILL)
    finally:
        first.quit()
    second = browser_in(tmp_path / "profile")
    try:
        back = Page(second, page.address)
        back.goto(f"/builds/{planned.pk}/job-card?step=torque_pan")
        either = "input[name=username], [data-bolts]"
        back.until(lambda: second.find_elements(By.CSS_SELECTOR, either))
        if second.find_elements(By.CSS_SELECTOR, "input[name=username]"):
            back.find("input[name=username]").send_keys("ada")
            back.find("input[name=password]").send_keys("bearing-shell-9", Keys.ENTER)
            back.says("Sandpiper")
            back.goto(f"/builds/{planned.pk}/job-card?step=torque_pan")
        page.until(lambda: len(tight(planned)) == 2)
        back.says("2 of 14 tight")
    finally:
        second.quit()


def _browser_of(profile: Path) -> int:
    """The process of the browser that works in a profile: its lock names it."""
    return int(str((profile / "SingletonLock").readlink()).rsplit("-", 1)[1])
